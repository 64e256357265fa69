import { intervalOfReading } from '../../../core/forms/interval.ts';
import { ALPHA } from '../../../core/model/alpha.ts';
import type { Measurand, ReadingPart } from '../../../core/model/parts.ts';
import { formatPlain, withUnit } from '../../../core/quantity/format.ts';

const figure = (value: number) => formatPlain(Number(value.toPrecision(3)));

/** What the form itself says of a recorded reading: its own interval. */
export function ReadingInterval({
  parts,
  measurand,
}: {
  parts: readonly ReadingPart[];
  measurand: Measurand;
}) {
  const found = intervalOfReading(parts, measurand, ALPHA);
  if (!found) return null;
  return `; ${figure(found.low)} to ${withUnit(figure(found.high), measurand.unit)} by the ${found.method}`;
}
