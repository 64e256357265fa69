import { type Agreement, type Pair, agreement } from '../error/agreement.ts';
import { type MethodLine, deming, passingBablok } from '../error/lines.ts';
import { referenceRates } from '../error/reference-rate.ts';
import { hasReference } from '../forms/index.ts';
import { partNumber } from '../forms/read-parts.ts';
import { ALPHA } from '../model/alpha.ts';
import { itemsInOrder } from '../model/in-order.ts';
import type { Measurand } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import type { Observation } from '../observations/observation.ts';
import { type WithinSpec, withinSpec } from '../summary/spec.ts';
import { quantile, sorted } from '../summary/quantile.ts';
import { screenedOf } from './observed.ts';
import { settingsRead } from './settings.ts';

/** One pair that counts, with where it comes from. */
export interface AgreedPair extends Pair {
  id: string;
  itemId: string;
  /** Key of its setting. */
  setting: string;
  takenAt: string;
  /** How fast the reference changed meanwhile, in its unit for each minute; null where no other was read near to it. */
  rate: number | null;
}

/** How one group of pairs agrees with the reference. */
export interface GroupAgreement {
  /** Of an item, a band of the reference, a day, or a setting. */
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
  /** By setting, where there are several: before and after what was done to the items. */
  bySetting: GroupAgreement[];
}

/** Fewer pairs make no bands. */
const FEWEST_IN_BANDS = 9;

/** The pairs of some observations; a set-point of the reference is a stretch of its own within a session. */
function pairsOf(observations: readonly Observation[]): AgreedPair[] {
  const pairs = observations.flatMap(({ id, itemId, parts, takenAt, sessionId, setting }) => {
    const [reference, indicated] = [partNumber(parts, 'reference'), partNumber(parts, 'indicated')];
    if (reference === null || indicated === null) return [];
    const stretch = `${sessionId ?? ''} ${setting}`;
    return [
      { pair: { id, itemId, setting, takenAt, reference, indicated }, stretch, time: Date.parse(takenAt) },
    ];
  });
  const rates = referenceRates(pairs.map(({ pair: { reference }, ...when }) => ({ ...when, reference })));
  return pairs.map(({ pair }, i) => ({ ...pair, rate: rates[i] ?? null }));
}

/** How some pairs agree, under a label; nothing where too few do. */
function groupAgreement(
  { spec, direction }: Measurand,
  key: string,
  label: string,
  of: readonly AgreedPair[],
): GroupAgreement[] {
  const agreed = agreement(of, ALPHA);
  if (!agreed) return [];
  const errors = of.map(({ reference, indicated }) => ({ value: indicated - reference, reference }));
  const within = spec === null ? undefined : withinSpec(errors, spec, direction, ALPHA);
  return [{ key, label, agreement: agreed, within }];
}

/** Pairs by the third of the references that they lie in; nothing where they are too few or too alike. */
function bandsOf(pairs: readonly AgreedPair[]): { label: string; of: AgreedPair[] }[] {
  const references = sorted(pairs.map(({ reference }) => reference));
  const [first, second] = [quantile(references, 1 / 3), quantile(references, 2 / 3)];
  if (pairs.length < FEWEST_IN_BANDS || first >= second) return [];
  const bandOf = ({ reference }: Pair) => (reference <= first ? 0 : reference <= second ? 1 : 2);
  return ['low', 'middle', 'high'].map((label, band) => ({
    label,
    of: pairs.filter((pair) => bandOf(pair) === band),
  }));
}

/**
 * How the readings of a measurand agree with the reference that they were taken beside, over all settings: mostly it is
 * the reference that they set.
 * @param slowest pairs that were taken while the reference changed faster than this, in its unit for each minute, are left aside
 * @returns undefined where it has no reference, or no pair counts
 */
export function agreementOf(
  document: StudyDocument,
  measurandId: string,
  slowest = Number.POSITIVE_INFINITY,
): StudyAgreement | undefined {
  const measurand = document.measurands.find(({ id }) => id === measurandId);
  if (!measurand || !hasReference(measurand)) return undefined;
  const observations = screenedOf(document, measurand).observations.filter(({ use }) => use.is === 'kept');
  const pairs = pairsOf(observations).filter(({ rate }) => rate === null || Math.abs(rate) <= slowest);
  const whole = agreement(pairs, ALPHA);
  if (!whole) return undefined;
  const group = (key: string, label: string, of: readonly AgreedPair[]) =>
    groupAgreement(measurand, key, label, of);
  const dayOf = ({ takenAt }: AgreedPair) => takenAt.slice(0, 10);
  const days = [...new Set(pairs.map(dayOf))].sort();
  const settings = settingsRead(document);
  return {
    pairs,
    whole,
    byItem: itemsInOrder(document).flatMap(({ id, name }) => {
      const ofItem = pairs.filter(({ itemId }) => itemId === id);
      return group(id, name, ofItem).map((agreed) => ({
        ...agreed,
        deming: deming(ofItem, ALPHA),
        passingBablok: passingBablok(ofItem, ALPHA),
      }));
    }),
    byBand: bandsOf(pairs).flatMap(({ label, of }) => group(label, label, of)),
    byDay:
      days.length > 1
        ? days.flatMap((day) =>
            group(
              day,
              day,
              pairs.filter((pair) => dayOf(pair) === day),
            ),
          )
        : [],
    bySetting:
      settings.length > 1
        ? settings.flatMap(({ key, words }) =>
            group(
              key,
              words,
              pairs.filter(({ setting }) => setting === key),
            ),
          )
        : [],
  };
}
