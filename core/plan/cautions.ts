import type { HAZARDS } from '../model/words.ts';

export type Hazard = (typeof HAZARDS)[number];

export interface Caution {
  hazard: Hazard;
  label: string;
  /** Plain and general; makers' instructions, local codes and licensed practice come first. */
  caution: string;
  /** Words of a plan that suggest this hazard, in lower case; matched as whole words. */
  words: readonly string[];
}

/** The usual cautions. Common practice, no source; they replace no instruction and no training. */
export const CAUTIONS: readonly Caution[] = [
  {
    hazard: 'mains',
    label: 'Mains voltage',
    caution:
      'Use a residual-current device, keep hands and water away from live parts, and unplug before you open or move anything. Work on mains wiring is for licensed electricians.',
    words: ['mains', 'voltage', 'v', 'w', 'kw', 'kwh', 'plug', 'socket', 'electric', 'fan', 'heater'],
  },
  {
    hazard: 'stored-energy',
    label: 'Pressure and stored energy',
    caution:
      'Lines, vessels and springs stay dangerous after switching off. Stay within the maker’s limits, stand aside of the release, and let pressure off before you loosen anything.',
    words: ['bar', 'psi', 'kpa', 'mpa', 'pressure', 'spring', 'bow', 'compressed', 'charged', 'pump'],
  },
  {
    hazard: 'projectiles',
    label: 'Projectiles and fragments',
    caution:
      'Wear eye protection, keep everybody behind the line, and have a backstop. Follow the local rules for what you shoot, throw or break.',
    words: ['projectile', 'launch', 'shoot', 'shot', 'arrow', 'pellet', 'throw', 'burst', 'fragment'],
  },
  {
    hazard: 'cutting',
    label: 'Cutting and moving parts',
    caution:
      'Keep guards on, hair and sleeves away, and hands off until everything has stopped. Cut away from yourself.',
    words: ['blade', 'blades', 'knife', 'saw', 'cut', 'cutting', 'drill', 'grinder', 'fan', 'mower'],
  },
  {
    hazard: 'heat',
    label: 'Hot surfaces and oil',
    caution:
      'Let things cool, use gloves made for the heat, keep water away from hot oil, and a lid at hand.',
    words: ['hot', 'boil', 'boiling', 'oil', 'oven', 'burner', 'steam', 'kettle', 'heater', 'iron'],
  },
  {
    hazard: 'fire-fumes',
    label: 'Fire and fumes',
    caution:
      'Have the right extinguisher at hand, air the room well, and never leave a flame alone. Local codes say what may be burned, and where.',
    words: ['flame', 'fire', 'burn', 'fuel', 'gas', 'smoke', 'solvent', 'fumes', 'exhaust', 'stove'],
  },
  {
    hazard: 'cryogens',
    label: 'Cryogens',
    caution:
      'Goggles, dry loose gloves, and a well-aired room: boiled-off gas displaces air. Never close a vessel tightly.',
    words: ['nitrogen', 'ln2', 'cryogen', 'cryogenic', 'helium'],
  },
  {
    hazard: 'magnets',
    label: 'Strong magnets',
    caution: 'Keep them apart and away from pacemakers, cards and instruments; they pinch and splinter.',
    words: ['magnet', 'magnets', 'neodymium', 'tesla'],
  },
  {
    hazard: 'bright-light',
    label: 'Ultraviolet and bright lamps',
    caution: 'Do not look into the lamp or beam, shield it, and wear glasses made for that light.',
    words: ['uv', 'ultraviolet', 'laser', 'lamp', 'lumen', 'lm', 'lux', 'lx', 'torch'],
  },
  {
    hazard: 'loud-sound',
    label: 'Loud sound',
    caution: 'From 85 dB(A) on wear hearing protection, keep exposure short, and warn others in the room.',
    words: ['db', 'dba', 'loud', 'siren', 'horn', 'alarm', 'whistle'],
  },
  {
    hazard: 'lifting',
    label: 'Lifting',
    caution: 'Lift with a straight back, take help for what is heavy, and secure loads against falling.',
    words: ['lift', 'lifting', 'hoist', 'jack', 'crane'],
  },
  {
    hazard: 'food',
    label: 'Food temperatures',
    caution:
      'Keep cold food cold and hot food hot, do not eat samples that stood between, and follow the local food code.',
    words: ['food', 'meat', 'milk', 'chill', 'cook', 'cooking', 'fridge'],
  },
  {
    hazard: 'body',
    label: 'Body fluids and personal health readings',
    caution:
      'Use sterile, single-use parts and dispose of them properly. A comparison of instruments is never a basis for treatment; ask a clinician.',
    words: ['blood', 'glucose', 'saliva', 'pulse', 'oximeter', 'mmol/l', 'mg/dl'],
  },
  {
    hazard: 'dust',
    label: 'Dust',
    caution: 'Wear a mask made for the dust, collect it at its source, and keep fine dust away from flames.',
    words: ['dust', 'sanding', 'powder', 'flour', 'sieve'],
  },
];

/** The caution of a hazard. */
export const cautionOf = (hazard: Hazard): Caution =>
  CAUTIONS.find((caution) => caution.hazard === hazard) as Caution;

/**
 * Hazards that the words of a plan suggest and that the plan does not name yet. They are only ever suggested.
 * @param texts of the plan: question, procedure, materials, units, names of items
 */
export function suggestedHazards(
  texts: readonly string[],
  named: readonly Hazard[],
): { caution: Caution; because: string }[] {
  const written = texts.flatMap((text) => text.match(/[\p{L}\p{N}/]+/gu) ?? []);
  const words = new Map(written.map((word) => [word.toLowerCase(), word]));
  return CAUTIONS.flatMap((caution) => {
    const because = caution.words.find((word) => words.has(word));
    return because === undefined || named.includes(caution.hazard)
      ? []
      : [{ caution, because: words.get(because) ?? because }];
  });
}
