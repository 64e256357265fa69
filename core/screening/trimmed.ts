import { cutPerEnd } from '../summary/trimmed-mean.ts';
import type { LeftOut, ScreeningRule } from './rule.ts';

const DEFAULT_SHARE = 0.1;

/**
 * Leaves out a share of the readings from each end, ⌊pn⌋ of them.
 * @source Tukey and McLaughlin (1963), Sankhyā A 25
 */
export const trimmed: ScreeningRule = {
  name: 'trimmed',
  source: 'Tukey and McLaughlin 1963',
  label: 'Trimmed mean',
  does: 'Always leaves out a tenth of the readings from each end.',
  suits: 'Suits long series in which slips are frequent; under ten readings it leaves nothing out.',
  statisticName: '',
  alwaysCuts: true,
  parameter: { label: 'share at each end', minimum: 0.01, maximum: 0.45, whole: false },
  screen(values, { parameter }) {
    const n = values.length;
    const share = parameter ?? DEFAULT_SHARE;
    const perEnd = cutPerEnd(n, share);
    if (perEnd === 0) {
      return {
        leftOut: [],
        notAvailable: `needs ${String(Math.ceil(1 / share))} readings, there are ${String(n)}`,
      };
    }
    const order = Array.from(values, (_, index) => index).sort(
      (a, b) => (values[a] as number) - (values[b] as number),
    );
    const out = (index: number): LeftOut => ({ index, statistic: null, limit: null });
    return {
      leftOut: [...order.slice(0, perEnd), ...order.slice(n - perEnd)].map(out),
      trim: { perEnd, of: n },
    };
  },
};
