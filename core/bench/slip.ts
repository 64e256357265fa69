import { readingForm } from '../forms/index.ts';
import type { Limits, Measurand, ReadingPart } from '../model/parts.ts';
import { decimalsOf, formatPlain, formatReading, withUnit } from '../quantity/format.ts';
import { median, medianAbsoluteDeviation, sorted } from '../summary/quantile.ts';

/** A doubt about a value that was just typed. */
export interface Slip {
  kind:
    | 'outside limits'
    | 'decimal point'
    | 'digits swapped'
    | 'far from its others'
    | 'same again'
    | 'odd parts';
  /** What looks odd, in one sentence. */
  sentence: string;
  /** What may have been meant. */
  suggestion?: number;
}

export interface SlipContext {
  unit: string;
  limits: Limits;
  /** Step of the instrument, where stated. */
  resolution: number | null;
  /** Earlier kept readings of the same item, in run order. */
  ofItem: readonly number[];
  /** Earlier kept readings of all items. */
  all: readonly number[];
  itemName: string;
}

/** This many readings in a row may be equal before it is asked about. */
const SAME_LIMIT = 5;
/** Farther than this many typical deviations from the item's other readings is asked about. */
export const FAR = 8;
/** What makes the median deviation of normal readings their SD. */
export const AS_SD = 1.4826;
/** A guess fits when it comes within this many typical deviations. */
const NEAR = 4;

/** The least and the largest of however many numbers. */
const rangeOf = (values: readonly number[]): [number, number] =>
  values.reduce<[number, number]>(
    ([low, high], value) => [Math.min(low, value), Math.max(high, value)],
    [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY],
  );

/** Centre and typical deviation of the readings to hold a new one against; at least three are needed. */
function yardstick(context: SlipContext): { centre: number; scale: number; isOfItem: boolean } | undefined {
  const isOfItem = context.ofItem.length >= 2;
  const readings = isOfItem ? context.ofItem : context.all;
  if (readings.length < 2) return undefined;
  const ascending = sorted(readings);
  const centre = median(ascending);
  const floor = Math.max(2 * (context.resolution ?? 0), 0.01 * Math.abs(centre));
  return { centre, scale: Math.max(AS_SD * medianAbsoluteDeviation(ascending), floor), isOfItem };
}

/**
 * The numbers that come of swapping two neighbouring digits of a typed one.
 * @param decimals digits behind the point that the instrument shows, so that 3.9 is taken for the 3.90 it was
 * @example swappedDigits(3.9, 2) // [9.3, 3.09]
 */
export function swappedDigits(value: number, decimals = 0): number[] {
  const text = Math.abs(value).toFixed(Math.max(decimals, decimalsOf(value)));
  const results = new Set<number>();
  const digits = [...text].flatMap((sign, i) => (/\d/.test(sign) ? [i] : []));
  for (let i = 1; i < digits.length; i += 1) {
    const signs = [...text];
    const [left, right] = [digits[i - 1] as number, digits[i] as number];
    [signs[left], signs[right]] = [signs[right] as string, signs[left] as string];
    results.add(Math.sign(value) * Number(signs.join('')));
  }
  results.delete(value);
  return [...results];
}

/**
 * Questions a reading of any form: what looks odd about its parts first, then about its value. What may have been
 * meant is suggested only where the value is what was typed.
 */
export function readingQuestion(
  parts: readonly ReadingPart[],
  measurand: Pick<Measurand, 'form' | 'unit' | 'settings' | 'limits' | 'instrument'>,
  earlier: Pick<SlipContext, 'ofItem' | 'all' | 'itemName'>,
): Slip | undefined {
  const form = readingForm(measurand.form);
  const value = form?.value(parts, measurand) ?? null;
  const odd = form?.doubt?.(parts, measurand);
  if (odd !== undefined) return { kind: 'odd parts', sentence: odd };
  if (value === null || form?.ranksOnly) return undefined;
  const typed = parts.length === 1 && parts[0]?.number === value;
  const slip = slipQuestion(value, {
    ...earlier,
    unit: measurand.unit,
    limits: measurand.limits,
    // The instrument's steps are those of what is read, not of a value worked out from it.
    resolution: typed ? measurand.instrument.resolution : null,
  });
  if (!slip || typed) return slip;
  const { suggestion: _suggestion, ...rest } = slip;
  return slip.kind === 'decimal point' || slip.kind === 'digits swapped'
    ? {
        ...rest,
        sentence: `${withUnit(formatReading(value), measurand.unit)} is far from the others. Look at the parts again.`,
      }
    : rest;
}

/**
 * Questions a value that looks like a slip: outside the plausible limits, the decimal point moved, two digits
 * swapped, far from the item's others, or the same again and again. Common practice, no source.
 * @returns undefined where nothing looks odd
 */
export function slipQuestion(value: number, context: SlipContext): Slip | undefined {
  const { unit, limits, ofItem, itemName } = context;
  const shown = (x: number) => withUnit(formatPlain(x), unit);
  const reference = yardstick(context);
  const far = reference && Math.abs(value - reference.centre) > FAR * reference.scale;
  const outside =
    (limits.low !== null && value < limits.low) || (limits.high !== null && value > limits.high);
  const plausible = (guess: number) =>
    (limits.low === null || guess >= limits.low) && (limits.high === null || guess <= limits.high);
  if (reference && (far || outside)) {
    const fits = (guess: number) =>
      plausible(guess) && Math.abs(guess - reference.centre) <= NEAR * reference.scale;
    // A moved decimal point shows by tens, so it need only land among the readings of all items.
    const [lowest, highest] = rangeOf(context.all);
    const among = (guess: number) => plausible(guess) && guess >= lowest && guess <= highest;
    const shifts = [10, 100, 1000, 0.1, 0.01, 0.001].map((power) => Number((value * power).toPrecision(12)));
    const shifted = shifts.find(fits) ?? shifts.find(among);
    if (shifted !== undefined) {
      return {
        kind: 'decimal point',
        sentence: `${shown(value)} may have its decimal point moved.`,
        suggestion: shifted,
      };
    }
    if (reference.isOfItem) {
      const swapped = swappedDigits(value, decimalsOf(context.resolution ?? 0))
        .filter(fits)
        .sort((a, b) => Math.abs(a - reference.centre) - Math.abs(b - reference.centre))[0];
      if (swapped !== undefined) {
        return {
          kind: 'digits swapped',
          sentence: `${shown(value)} may have two digits swapped.`,
          suggestion: swapped,
        };
      }
    }
  }
  if (outside) {
    const side = limits.low !== null && value < limits.low ? 'below' : 'above';
    const limit = side === 'below' ? limits.low : limits.high;
    return {
      kind: 'outside limits',
      sentence: `${shown(value)} is ${side} your limit of ${shown(limit as number)}.`,
    };
  }
  if (reference?.isOfItem && far) {
    return {
      kind: 'far from its others',
      sentence: `${itemName} has read about ${shown(Number(reference.centre.toPrecision(4)))} so far.`,
    };
  }
  const last = ofItem.slice(-(SAME_LIMIT - 1));
  if (last.length === SAME_LIMIT - 1 && last.every((earlier) => earlier === value)) {
    return {
      kind: 'same again',
      sentence: `${itemName} has now read ${shown(value)} ${String(SAME_LIMIT)} times in a row. Is the instrument stuck?`,
    };
  }
  return undefined;
}
