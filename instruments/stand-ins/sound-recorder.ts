import { FANS } from '../../demo/truths.ts';
import type { Model } from '../meter.ts';

const levelOf = (item: string) => FANS.find(({ name }) => name === item)?.levelDb;
const [FULL_SCALE, BACKGROUND] = [104, 30];

/** A sound recorder whose display shows the level, and which sends what it hears while it records. */
export const soundRecorder: Model = {
  name: 'sound-recorder',
  title: 'Sound recorder',
  identity: 'Brackenridge,Sound recorder stand-in,0009,1.0',
  unit: 'dB FS',
  periodS: 0.5,
  physics: {
    truth: ({ item }) => {
      const level = levelOf(item);
      return level === undefined ? undefined : level - FULL_SCALE;
    },
    idle: BACKGROUND - FULL_SCALE,
    noise: 0.4,
    resolution: 0.1,
    cap: 0,
  },
  sound: {
    sampleRate: 48000,
    fullScale: FULL_SCALE,
    background: BACKGROUND,
    levelOf,
    dropoutsPerHour: 4,
  },
};
