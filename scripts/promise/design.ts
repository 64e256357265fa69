import { type ItemReadings, analyse } from '../../core/analysis/analyse.ts';
import { ALPHA } from '../../core/model/alpha.ts';
import type { SeededRandom } from '../../core/random/seeded.ts';
import { DEFAULT_RULE } from '../../core/screening/rule.ts';

export const SPREADS = {
  equal: () => 1,
  'graded 1:4': (item: number, items: number) => 1 + (3 * item) / (items - 1),
  'one × 4': (item: number) => (item === 0 ? 4 : 1),
  'one × 10': (item: number) => (item === 0 ? 10 : 1),
};
export type Spread = keyof typeof SPREADS;

/** How a study is made. */
export interface Design {
  items: number;
  readings: number;
  rounds: boolean;
  spread: Spread;
  slips: boolean;
  coarse: boolean;
  looks: boolean;
}

/** SD of the drift between rounds, in SDs of a reading. */
export const DRIFT = 4;
/** One reading in fifteen is ten SDs off. */
const SLIP = { share: 1 / 15, by: 10 };

const sdOf = ({ spread, items }: Design, item: number) => SPREADS[spread](item, items);
/** A coarse instrument's step is twice the SD. */
const stepOf = ({ coarse }: Design) => (coarse ? 2 : undefined);

export function draw(design: Design, truth: readonly number[], random: SeededRandom): ItemReadings[] {
  const { items, readings, rounds, slips } = design;
  const step = stepOf(design);
  const drift = Array.from({ length: readings }, () => (rounds ? DRIFT * random.normal() : 0));
  return Array.from({ length: items }, (_, item) => {
    const sd = sdOf(design, item);
    const values = drift.map((shift) => {
      const slip = slips && random.unit() < SLIP.share ? (random.unit() < 0.5 ? -1 : 1) * SLIP.by * sd : 0;
      const value = 50 + (truth[item] as number) + shift + sd * random.normal() + slip;
      return step === undefined ? value : Math.round(value / step) * step;
    });
    return {
      item: String(item),
      values,
      ...(rounds ? { rounds: values.map((_value, round) => round) } : {}),
    };
  });
}

export const judge = (design: Design, readings: ItemReadings[], alpha: number, margin = 0) =>
  analyse(readings, {
    better: { kind: 'higher' },
    rule: { ...DEFAULT_RULE, strict: design.looks },
    alpha: ALPHA,
    pairAlpha: alpha,
    margin: { kind: 'absolute', value: margin },
    resolution: stepOf(design),
    resamples: 0,
    seed: 1,
  });

/** What was asked for on the command line. */
export interface Asked {
  /** Studies of each design. */
  studies: number;
  /** Whether every size is simulated, not a few. */
  long: boolean;
}

export const nameOf = ({ items, readings, rounds, spread, slips, coarse, looks }: Design) =>
  [
    `${String(items)}x${String(readings)}`,
    rounds ? 'rounds' : 'independent',
    spread,
    slips ? 'slips' : 'clean',
    coarse ? 'coarse' : 'fine',
    looks ? 'looks' : 'end',
  ].join(', ');
export const percent = (share: number) => (100 * share).toFixed(1).padStart(6);
