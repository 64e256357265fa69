import { screeningRule } from '../screening/index.ts';
import type { RuleName } from '../screening/rule.ts';
import { screenSamples } from '../screening/screen.ts';
import type { Typed } from '../summary/typed.ts';
import { finestStep } from '../summary/step.ts';
import {
  type Analysis,
  type CompareOptions,
  type ScreenedReadings,
  compareScreened,
} from './compare-screened.ts';

export type { Analysis } from './compare-screened.ts';

/** Readings of one item: values in one unit, in the order taken, and the round of each where there are rounds. */
export interface ItemReadings {
  item: string;
  values: ArrayLike<number>;
  /** NaN for a reading that belongs to no round. */
  rounds?: ArrayLike<number>;
  /** Indices of readings that the tester keeps whatever the rule says; a rule that always cuts cuts them too. */
  insisted?: ReadonlySet<number>;
  /** What is known of it from elsewhere, where it was not read here. */
  typed?: Typed;
}

export interface AnalysisOptions extends Omit<CompareOptions, 'rule' | 'step' | 'exact'> {
  rule: {
    name: RuleName;
    parameter?: number | null;
    /** Whether all samples share the level of a test; “study” when left out. */
    level?: 'study' | 'sample';
    /** Whether readings in rounds are judged by their distance from the round's median; “distance” when left out. */
    judges?: 'distance' | 'reading';
    /** Whether the study is looked at more than once, which asks the rule again each time. */
    strict?: boolean;
  };
  /** The instrument's step, in the readings' unit; undefined: the finest decimal step among the readings. */
  resolution?: number | undefined;
}

/**
 * The way from readings to a ranking: screening, summary, comparison, ranking. A pure function of plain data, with the
 * same defaults as the pages.
 * @param readings of each item; items are ranked against each other, so give one class at a time
 * @throws RangeError when a method is asked for that the readings do not allow
 */
export function analyse(readings: readonly ItemReadings[], options: AnalysisOptions): Analysis {
  const rule = screeningRule(options.ranksOnly ? 'none' : options.rule.name);
  const step = options.resolution ?? finestStep(readings.map(({ values }) => values));
  const screened = screenSamples(
    readings.map(({ values, rounds, insisted }) => ({
      values,
      rounds,
      insisted,
      setting: '',
      compared: true,
    })),
    {
      rule,
      parameter: options.rule.parameter ?? null,
      alpha: options.alpha,
      level: options.rule.level ?? 'study',
      judges: options.rule.judges ?? 'distance',
      strict: options.rule.strict,
      step,
    },
  );
  return compareScreened(
    readings.map(({ item, values, rounds, typed }, i): ScreenedReadings => ({
      item,
      values,
      rounds,
      screening: screened[i] as (typeof screened)[number],
      typed,
    })),
    { ...options, rule, step },
  );
}
