import { type Agreement, type Pair, agreement } from '../error/agreement.ts';
import { type MethodLine, deming, passingBablok } from '../error/lines.ts';
import { hasReference } from '../forms/index.ts';
import { partNumber } from '../forms/read-parts.ts';
import { ALPHA } from '../model/alpha.ts';
import { itemsInOrder } from '../model/in-order.ts';
import type { StudyDocument } from '../model/study-document.ts';
import type { Observation } from '../observations/observation.ts';
import { type WithinSpec, withinSpec } from '../summary/spec.ts';
import { quantile, sorted } from '../summary/quantile.ts';
import { screenedOf } from './observed.ts';

/** One pair that counts, with where it comes from. */
export interface AgreedPair extends Pair {
  id: string;
  itemId: string;
}

/** How one group of pairs agrees with the reference. */
export interface GroupAgreement {
  /** Of an item, a band of the reference, or a day. */
  key: string;
  label: string;
  agreement: Agreement;
  within: WithinSpec | undefined;
}

export interface StudyAgreement {
  pairs: AgreedPair[];
  /** All pairs together. */
  whole: Agreement;
  byItem: (GroupAgreement & { deming: MethodLine | undefined; passingBablok: MethodLine | undefined })[];
  /** Thirds of the reference, from low to high; none where it hardly varies. */
  byBand: GroupAgreement[];
  /** By the day of the reading, where there are several. */
  byDay: GroupAgreement[];
}

/** Fewer pairs make no bands. */
const FEWEST_IN_BANDS = 9;

/**
 * How the readings of a measurand agree with the reference that they were taken beside, over all settings: mostly it is
 * the reference that they set.
 * @returns undefined where it has no reference, or no pair counts
 */
export function agreementOf(document: StudyDocument, measurandId: string): StudyAgreement | undefined {
  const measurand = document.measurands.find(({ id }) => id === measurandId);
  if (!measurand || !hasReference(measurand)) return undefined;
  const observations = screenedOf(document, measurand).observations.filter(({ use }) => use.is === 'kept');
  const pairOf = ({ id, itemId, parts }: Observation): AgreedPair[] => {
    const [reference, indicated] = [partNumber(parts, 'reference'), partNumber(parts, 'indicated')];
    return reference === null || indicated === null ? [] : [{ id, itemId, reference, indicated }];
  };
  const taken = observations.flatMap((observation) =>
    pairOf(observation).map((pair) => ({ pair, day: observation.takenAt.slice(0, 10) })),
  );
  const pairs = taken.map(({ pair }) => pair);
  const whole = agreement(pairs, ALPHA);
  if (!whole) return undefined;
  const group = (key: string, label: string, of: readonly AgreedPair[]): GroupAgreement[] => {
    const agreed = agreement(of, ALPHA);
    if (!agreed) return [];
    const within =
      measurand.spec === null
        ? undefined
        : withinSpec(
            of.map(({ reference, indicated }) => ({ value: indicated - reference, reference })),
            measurand.spec,
            measurand.direction,
            ALPHA,
          );
    return [{ key, label, agreement: agreed, within }];
  };
  const references = sorted(pairs.map(({ reference }) => reference));
  const cuts = [quantile(references, 1 / 3), quantile(references, 2 / 3)] as const;
  const bandOf = ({ reference }: Pair) => (reference <= cuts[0] ? 0 : reference <= cuts[1] ? 1 : 2);
  const banded = pairs.length >= FEWEST_IN_BANDS && cuts[0] < cuts[1];
  const days = [...new Set(taken.map(({ day }) => day))].sort();
  return {
    pairs,
    whole,
    byItem: itemsInOrder(document).flatMap(({ id, name }) => {
      const own = pairs.filter(({ itemId }) => itemId === id);
      return group(id, name, own).map((agreed) => ({
        ...agreed,
        deming: deming(own, ALPHA),
        passingBablok: passingBablok(own, ALPHA),
      }));
    }),
    byBand: banded
      ? ['low', 'middle', 'high'].flatMap((label, band) =>
          group(
            label,
            label,
            pairs.filter((pair) => bandOf(pair) === band),
          ),
        )
      : [],
    byDay:
      days.length > 1
        ? days.flatMap((day) =>
            group(
              day,
              day,
              taken.flatMap(({ pair, day: its }) => (its === day ? [pair] : [])),
            ),
          )
        : [],
  };
}
