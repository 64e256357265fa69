/** One-sided levels at which the limits are tabled. */
const LEVELS = [0.1, 0.05, 0.025, 0.01, 0.005];

/**
 * One-sided limits of Dixon's ratios for a normal sample, by number of readings: r10 for 3 to 7, r11 for 8 to 10, r21
 * for 11 to 13, r22 for 14 to 30. By simulation of 2·10⁷ ratios each, good to about 0.001; they agree with Rorabacher
 * (1991), Analytical Chemistry 63.
 */
const LIMITS: Readonly<Record<number, readonly number[]>> = {
  3: [0.8856, 0.9413, 0.9702, 0.988, 0.9939],
  4: [0.6788, 0.7656, 0.8298, 0.8894, 0.9209],
  5: [0.5581, 0.6423, 0.7103, 0.781, 0.8233],
  6: [0.4839, 0.5623, 0.6274, 0.6982, 0.7426],
  7: [0.4341, 0.5072, 0.5689, 0.6373, 0.6812],
  8: [0.4795, 0.554, 0.615, 0.6807, 0.7217],
  9: [0.4403, 0.5112, 0.57, 0.6342, 0.6751],
  10: [0.4099, 0.4778, 0.5345, 0.5971, 0.6374],
  11: [0.5175, 0.5749, 0.6223, 0.6743, 0.7077],
  12: [0.4897, 0.5456, 0.5921, 0.6432, 0.6763],
  13: [0.4668, 0.5213, 0.5667, 0.617, 0.6495],
  14: [0.4907, 0.5456, 0.5909, 0.6406, 0.6726],
  15: [0.4703, 0.5239, 0.5685, 0.6175, 0.6493],
  16: [0.4527, 0.5054, 0.5492, 0.5976, 0.6289],
  17: [0.4373, 0.4891, 0.5322, 0.5801, 0.6109],
  18: [0.4238, 0.4746, 0.5172, 0.5644, 0.595],
  19: [0.4116, 0.4617, 0.5037, 0.5504, 0.5807],
  20: [0.4008, 0.4502, 0.4915, 0.5379, 0.568],
  21: [0.3909, 0.4397, 0.4806, 0.5263, 0.5561],
  22: [0.382, 0.43, 0.4705, 0.5159, 0.5455],
  23: [0.3738, 0.4213, 0.4613, 0.506, 0.5352],
  24: [0.3664, 0.4133, 0.4529, 0.4975, 0.5265],
  25: [0.3594, 0.4058, 0.4449, 0.489, 0.5178],
  26: [0.353, 0.3989, 0.4378, 0.4813, 0.5101],
  27: [0.3472, 0.3927, 0.4312, 0.4747, 0.5029],
  28: [0.3415, 0.3866, 0.4248, 0.4677, 0.496],
  29: [0.3364, 0.3811, 0.419, 0.4618, 0.49],
  30: [0.3315, 0.3758, 0.4135, 0.456, 0.4838],
};

/**
 * Two-sided limit of Dixon's ratio: between the tabled levels along the logarithms of level and of what is left of the
 * ratio, which lie nearly on a line; below the last one along the same line.
 * @param n readings, 3 to 30
 * @param alpha two-sided level, 0 < alpha < 1
 * @returns undefined outside 3 to 30
 * @source Dixon (1953), Biometrics 9; Rorabacher (1991), Analytical Chemistry 63
 */
export function dixonLimit(n: number, alpha: number): number | undefined {
  const row = LIMITS[n];
  if (!row) return undefined;
  const level = Math.log(alpha / 2);
  // The stretch that holds the level, or the nearest one.
  let place = 0;
  while (place < LEVELS.length - 2 && level < Math.log(LEVELS[place + 1] as number)) place += 1;
  const [from, to] = [Math.log(LEVELS[place] as number), Math.log(LEVELS[place + 1] as number)];
  const [left, right] = [Math.log(1 - (row[place] as number)), Math.log(1 - (row[place + 1] as number))];
  return 1 - Math.exp(left + ((level - from) / (to - from)) * (right - left));
}
