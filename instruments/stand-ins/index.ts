import type { Model } from '../meter.ts';
import { anemometer } from './anemometer.ts';
import { balance } from './balance.ts';
import { flowMeter } from './flow-meter.ts';
import { lightGate } from './light-gate.ts';
import { lightSensor } from './light-sensor.ts';
import { resistanceMeter } from './resistance-meter.ts';
import { soundRecorder } from './sound-recorder.ts';
import { soundLevelMeter } from './sound-level-meter.ts';
import { thermocoupleLogger } from './thermocouple-logger.ts';

/** All stand-ins; each listens on the port behind the last one's. */
export const STAND_INS: readonly Model[] = [
  anemometer,
  soundLevelMeter,
  flowMeter,
  thermocoupleLogger,
  lightGate,
  lightSensor,
  balance,
  resistanceMeter,
  soundRecorder,
];
