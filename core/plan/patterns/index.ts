import againstAReference from './against-a-reference.json' with { type: 'json' };
import beforeAndAfter from './before-and-after.json' with { type: 'json' };
import compareSpeeds from './compare-speeds.json' with { type: 'json' };
import monthsLater from './months-later.json' with { type: 'json' };
import settingInSteps from './setting-in-steps.json' with { type: 'json' };
import soundLevels from './sound-levels.json' with { type: 'json' };
import uniformityGrid from './uniformity-grid.json' with { type: 'json' };
import yieldOfASeparator from './yield-of-a-separator.json' with { type: 'json' };
import type { PlanPattern } from '../pattern.ts';

/** A kind of test with its words and defaults, to start a study from. One data file each. */
export interface NamedPattern extends PlanPattern {
  key: string;
  label: string;
  /** What it suits, in one sentence. */
  suits: string;
}

// A data file's words are wider than the closed lists of the model; a test holds them to those.
export const PATTERNS = [
  compareSpeeds,
  soundLevels,
  uniformityGrid,
  againstAReference,
  yieldOfASeparator,
  beforeAndAfter,
  settingInSteps,
  monthsLater,
] as unknown as readonly NamedPattern[];
