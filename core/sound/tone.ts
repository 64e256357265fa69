/** Tones of a calibrator, Hz. */
const CALIBRATORS = [1000, 250];
/** How far from these a tone may be, as a share: wider than any class allows, so that only another tone is odd. */
const NEAR = 0.03;

/**
 * The frequency of a tone that sounds nearly alone, from where it crosses the middle of its samples upwards.
 * @param samples of one channel
 * @returns Hz; null where there are fewer than ten crossings
 */
export function toneFrequency(samples: ArrayLike<number>, sampleRate: number): number | null {
  const n = samples.length;
  let mean = 0;
  for (let k = 0; k < n; k += 1) mean += (samples[k] as number) / n;
  let [first, last, crossings] = [0, 0, 0];
  for (let k = 1; k < n; k += 1) {
    const [before, here] = [(samples[k - 1] as number) - mean, (samples[k] as number) - mean];
    if (before >= 0 || here < 0) continue;
    last = k - 1 + before / (before - here);
    if (crossings === 0) first = last;
    crossings += 1;
  }
  return crossings < 10 ? null : ((crossings - 1) * sampleRate) / (last - first);
}

/**
 * Whether a calibrator sounds at this frequency.
 * @source IEC 60942:2017 (from memory): 1000 Hz or 250 Hz
 */
export const isCalibratorTone = (hz: number): boolean =>
  CALIBRATORS.some((tone) => Math.abs(hz - tone) <= NEAR * tone);
