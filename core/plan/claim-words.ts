import type { Claim } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { formatPlain, withUnit } from '../quantity/format.ts';

type Named = Pick<StudyDocument, 'items' | 'measurands' | 'factors'>;

/** What a claim says, in one line: “Air speed: Calvessa 2 is 3.5 m/s”. */
export function claimWords(claim: Claim, { items, measurands, factors }: Named): string {
  const item = (id: string | null) =>
    items.find((candidate) => candidate.id === id)?.name ?? 'an item that is gone';
  const measurand = measurands.find(({ id }) => id === claim.measurandId);
  const about = measurand?.name ?? 'A measurand that is gone';
  if (claim.kind === 'order') return `${about}: ${claim.order.map(item).join(' > ')}`;
  const value = claim.value as number;
  const figure = withUnit(formatPlain(value), claim.unit || (measurand?.unit ?? ''));
  if (claim.kind === 'figure') return `${about}: ${item(claim.itemId)} has ${figure}`;
  const factor = factors.find(({ id }) => id === claim.factorId);
  const along = factor?.name ?? claim.attribute;
  const unit =
    factor?.unit ?? items.flatMap(({ attributes }) => attributes).find(({ name }) => name === along)?.unit;
  const step =
    claim.stepSize === null ? 'each step' : `each ${withUnit(formatPlain(claim.stepSize), unit ?? '')}`;
  return `${about}: ${step} of ${along} ${value < 0 ? 'takes' : 'adds'} ${figure.replace(/^[-−]/, '')}`;
}
