// AssemblyScript, not TypeScript: compiled to WebAssembly by scripts/kernel.ts, which writes bytes.ts. Whatever is done with
// each of the millions of samples of a recording is done here, two or four numbers at a time; what it means is in the files
// of core/sound that call it. All rooms have their places in the memory from the start, which never grows.

/** Frames that are worked on at a time. */
export const MOST: i32 = 32768;
export const CHANNELS: i32 = 8;
const WIDEST: i32 = 8;
/** Bytes of a number. */
const F64: i32 = 8;

const TAPS: i32 = 24;
const HALF: i32 = 12;
const GROUP: i32 = 8;
/** The taps that lie on samples of a group touch as many groups. */
const TOUCHED: i32 = 4;
/** Samples of silence behind a block, when it is looked at between its samples. */
const BEHIND: i32 = (TOUCHED + 2) * GROUP;
const GROUPS: i32 = (MOST + TAPS + BEHIND) / GROUP;

/** A block of a file, as it came. */
export const BYTES: usize = memory.data(MOST * CHANNELS * WIDEST, 16);
/** Bytes of a room for samples, with place in front and behind for what is looked at beside them. */
export const ROOM: i32 = (TAPS + MOST + BEHIND) * F64;
const FRONT: i32 = TAPS * F64;
/** The samples of each channel of it, behind the place in front. */
export const ROOMS: usize = memory.data(CHANNELS * ROOM, 16) + FRONT;
/** Samples of two channels that came from elsewhere. */
export const SIDES: usize = memory.data(2 * ROOM, 16) + FRONT;
/** Samples of two channels that are being filtered, beside each other. */
export const WORK: usize = memory.data(2 * MOST * F64, 16);
/** A step that came in two blocks. */
export const ONE_STEP: usize = memory.data(2 * 16 * F64, 16);
/** Running levels of a channel; see follow. */
export const LEVELS: usize = memory.data(2 * 8 * F64, 16);
/** b1, b2, a1 and a2 of each section. */
export const COEFFICIENTS: usize = memory.data(12 * F64, 16);
export const STATE: usize = memory.data(2 * 9 * F64, 16);

/** The end of a block: before it is looked at between its samples, that of the block before. */
export const KEPT: usize = memory.data(FRONT, 16);
/** What lay in front of a block and behind it. */
const ASIDE: usize = memory.data(FRONT + BEHIND * F64, 16);
/** The taps of the filters for three places between two samples. */
export const FILTERS: usize = memory.data(3 * TAPS * F64, 16);
/** What taps weigh: the middle two, those beside them, those beside the middle four, those in the two middle groups, and others. */
export const WEIGHTS: usize = memory.data(5 * F64, 16);
const LEAST: usize = memory.data(GROUPS * F64, 16);
const GREATEST: usize = memory.data(GROUPS * F64, 16);

/** How samples are written. */
const UNSIGNED_8: i32 = 1;
const SIGNED_16: i32 = 2;
const SIGNED_24: i32 = 3;
const SIGNED_32: i32 = 4;
const FLOAT_32: i32 = 5;

/** Samples of a kind of number, less their zero, times their unit. Returns how many were no numbers. */
function decodeAs<T>(frames: i32, channels: i32, channel: i32, zero: f64, unit: f64): i32 {
  const step = channels * sizeof<T>();
  let from = BYTES + channel * sizeof<T>();
  let to = ROOMS + channel * ROOM;
  let lost = 0;
  for (let k = 0; k < frames; k++) {
    let x = (<f64>load<T>(from) - zero) * unit;
    if (isFloat<T>() && !(abs(x) < Infinity)) {
      // What is no number is taken for silence.
      x = 0;
      lost++;
    }
    store<f64>(to, x);
    from += step;
    to += F64;
  }
  return lost;
}

function decode24(frames: i32, channels: i32, channel: i32): void {
  let from = BYTES + channel * 3;
  let to = ROOMS + channel * ROOM;
  for (let k = 0; k < frames; k++) {
    const x = ((<i32>load<u16>(from)) << 8) | ((<i32>load<u8>(from, 2)) << 24);
    store<f64>(to, <f64>x * (1.0 / 2147483648.0));
    from += channels * 3;
    to += F64;
  }
}

/** Two samples of sixteen bits, which are the upper or the lower halves of two whole numbers. */
function storeHalves(to: usize, pairs: v128, unit: v128): void {
  v128.store(to, f64x2.mul(unit, f64x2.convert_low_i32x4_s(pairs)));
  const behind = v128.shuffle<i32>(pairs, pairs, 2, 3, 0, 1);
  v128.store(to, f64x2.mul(unit, f64x2.convert_low_i32x4_s(behind)), 16);
}

/** Sixteen bits of two channels at once, four frames at a time, into the rooms of both. */
export function decodeStereo(frames: i32): void {
  let from = BYTES;
  let to = ROOMS;
  const unit = f64x2.splat(1.0 / 32768.0);
  for (let k = 0; k < frames; k += 4) {
    const four = v128.load(from);
    storeHalves(to, i32x4.shr_s(i32x4.shl(four, 16), 16), unit);
    storeHalves(to + ROOM, i32x4.shr_s(four, 16), unit);
    from += 16;
    to += 32;
  }
}

/** Numbers from −1 to 1 of a channel of a block, into its room. Returns how many samples were no numbers. */
export function decode(format: i32, frames: i32, channels: i32, channel: i32): i32 {
  if (format == SIGNED_24) {
    decode24(frames, channels, channel);
    return 0;
  }
  if (format == UNSIGNED_8) return decodeAs<u8>(frames, channels, channel, 128, 1.0 / 128.0);
  if (format == SIGNED_16) return decodeAs<i16>(frames, channels, channel, 0, 1.0 / 32768.0);
  if (format == SIGNED_32) return decodeAs<i32>(frames, channels, channel, 0, 1.0 / 2147483648.0);
  if (format == FLOAT_32) return decodeAs<f32>(frames, channels, channel, 0, 1);
  return decodeAs<f64>(frames, channels, channel, 0, 1);
}

/** A number in both lanes. */
function both(place: usize): v128 {
  return v128.load64_splat(place);
}

/** Puts the samples of two channels beside each other into WORK. */
export function weave(frames: i32, left: usize, right: usize): void {
  const end = WORK + frames * 2 * F64;
  for (let to = WORK; to < end; to += 4 * F64) {
    const a = v128.load(left);
    const b = v128.load(right);
    v128.store(to, firsts(a, b));
    v128.store(to, seconds(a, b), 16);
    left += 2 * F64;
    right += 2 * F64;
  }
}

/**
 * Three second-order sections one after the other, each with b0 = 1, over two channels, into WORK. Samples are scaled first, and
 * the next one of a channel is so many bytes behind.
 */
export function sections(frames: i32, left: usize, right: usize, bytes: i32, scale: f64): void {
  const scaled = f64x2.splat(scale);
  const b1 = both(COEFFICIENTS);
  const b2 = both(COEFFICIENTS + 8);
  const b3 = both(COEFFICIENTS + 16);
  const b4 = both(COEFFICIENTS + 24);
  const c1 = both(COEFFICIENTS + 32);
  const c2 = both(COEFFICIENTS + 40);
  const c3 = both(COEFFICIENTS + 48);
  const c4 = both(COEFFICIENTS + 56);
  const d1 = both(COEFFICIENTS + 64);
  const d2 = both(COEFFICIENTS + 72);
  const d3 = both(COEFFICIENTS + 80);
  const d4 = both(COEFFICIENTS + 88);
  // Of each section: its last output, and what its earlier samples add to the next one and to that after it.
  let first = v128.load(STATE);
  let firstNext = v128.load(STATE, 16);
  let firstLater = v128.load(STATE, 32);
  let second = v128.load(STATE, 48);
  let secondNext = v128.load(STATE, 64);
  let secondLater = v128.load(STATE, 80);
  let third = v128.load(STATE, 96);
  let thirdNext = v128.load(STATE, 112);
  let thirdLater = v128.load(STATE, 128);
  const end = WORK + frames * 2 * F64;
  for (let place = WORK; place < end; place += 2 * F64) {
    const input = f64x2.mul(scaled, v128.load64_lane(right, v128.load64_splat(left), 1));
    left += bytes;
    right += bytes;
    first = f64x2.sub(f64x2.add(input, firstNext), f64x2.mul(b3, first));
    firstNext = f64x2.add(f64x2.mul(b1, input), firstLater);
    firstLater = f64x2.sub(f64x2.mul(b2, input), f64x2.mul(b4, first));
    second = f64x2.sub(f64x2.add(first, secondNext), f64x2.mul(c3, second));
    secondNext = f64x2.add(f64x2.mul(c1, first), secondLater);
    secondLater = f64x2.sub(f64x2.mul(c2, first), f64x2.mul(c4, second));
    third = f64x2.sub(f64x2.add(second, thirdNext), f64x2.mul(d3, third));
    thirdNext = f64x2.add(f64x2.mul(d1, second), thirdLater);
    thirdLater = f64x2.sub(f64x2.mul(d2, second), f64x2.mul(d4, third));
    v128.store(place, third);
  }
  v128.store(STATE, first);
  v128.store(STATE, firstNext, 16);
  v128.store(STATE, firstLater, 32);
  v128.store(STATE, second, 48);
  v128.store(STATE, secondNext, 64);
  v128.store(STATE, secondLater, 80);
  v128.store(STATE, third, 96);
  v128.store(STATE, thirdNext, 112);
  v128.store(STATE, thirdLater, 128);
}

/**
 * The curve A, or C where the two poles in its middle are left out, over two channels, into WORK: sections of first order, of
 * which the high ones take the sample before off each sample. Samples are scaled first, and the next one of a channel is so
 * many bytes behind. In COEFFICIENTS: the low pole, which is there twice, the two in the middle, and what the high section,
 * which is there twice, takes of its sample before and of its output before.
 */
function weigh(frames: i32, left: usize, right: usize, bytes: i32, scale: f64, isA: bool): void {
  const scaled = f64x2.splat(scale);
  const low = both(COEFFICIENTS);
  const third = both(COEFFICIENTS + 8);
  const fourth = both(COEFFICIENTS + 16);
  const before = both(COEFFICIENTS + 24);
  const high = both(COEFFICIENTS + 32);
  // The last sample, and the last output of each section.
  let a = v128.load(STATE);
  let b = v128.load(STATE, 16);
  let c = v128.load(STATE, 32);
  let d = v128.load(STATE, 48);
  let e = v128.load(STATE, 64);
  let f = v128.load(STATE, 80);
  let g = v128.load(STATE, 96);
  const end = WORK + frames * 2 * F64;
  for (let place = WORK; place < end; place += 2 * F64) {
    const input = f64x2.mul(scaled, v128.load64_lane(right, v128.load64_splat(left), 1));
    left += bytes;
    right += bytes;
    const lower = f64x2.add(f64x2.sub(input, a), f64x2.mul(low, b));
    a = input;
    const lowest = f64x2.add(f64x2.sub(lower, b), f64x2.mul(low, c));
    b = lower;
    let weighed = lowest;
    let earlier = c;
    if (isA) {
      const middle = f64x2.add(f64x2.sub(lowest, c), f64x2.mul(third, d));
      weighed = f64x2.add(f64x2.sub(middle, d), f64x2.mul(fourth, e));
      d = middle;
      earlier = e;
      e = weighed;
    }
    c = lowest;
    const upper = f64x2.add(f64x2.add(weighed, f64x2.mul(before, earlier)), f64x2.mul(high, f));
    g = f64x2.add(f64x2.add(upper, f64x2.mul(before, f)), f64x2.mul(high, g));
    f = upper;
    v128.store(place, g);
  }
  v128.store(STATE, a);
  v128.store(STATE, b, 16);
  v128.store(STATE, c, 32);
  v128.store(STATE, d, 48);
  v128.store(STATE, e, 64);
  v128.store(STATE, f, 80);
  v128.store(STATE, g, 96);
}

export function weighA(frames: i32, left: usize, right: usize, bytes: i32, scale: f64): void {
  weigh(frames, left, right, bytes, scale, true);
}

export function weighC(frames: i32, left: usize, right: usize, bytes: i32, scale: f64): void {
  weigh(frames, left, right, bytes, scale, false);
}

/**
 * Follows whole steps of sixteen samples of two channels: their squares are summed up, and the running levels in LEVELS go on
 * by their mean. What is in LEVELS, each for both channels: the share of a step that the fast level takes, and the slow one,
 * the two levels, the highest of each, the sum of all squares and the largest square.
 */
export function follow(from: usize, steps: i32): void {
  const fastShare = v128.load(LEVELS);
  const slowShare = v128.load(LEVELS, 16);
  let fast = v128.load(LEVELS, 32);
  let slow = v128.load(LEVELS, 48);
  let highestFast = v128.load(LEVELS, 64);
  let highestSlow = v128.load(LEVELS, 80);
  let all = v128.load(LEVELS, 96);
  let largest = v128.load(LEVELS, 112);
  // Every other sample is followed beside the others, since each sum waits for the one before.
  let largestAfter = largest;
  for (let step = 0; step < steps; step++) {
    let even = f64x2.splat(0);
    let odd = f64x2.splat(0);
    for (let i = 0; i < 8; i++) {
      const two = v128.load(from);
      const after = v128.load(from, 16);
      const square = f64x2.mul(two, two);
      const squareAfter = f64x2.mul(after, after);
      even = f64x2.add(even, square);
      odd = f64x2.add(odd, squareAfter);
      largest = f64x2.pmax(largest, square);
      largestAfter = f64x2.pmax(largestAfter, squareAfter);
      from += 32;
    }
    const total = f64x2.add(even, odd);
    all = f64x2.add(all, total);
    const mean = f64x2.mul(total, f64x2.splat(1.0 / 16.0));
    fast = f64x2.add(fast, f64x2.mul(fastShare, f64x2.sub(mean, fast)));
    slow = f64x2.add(slow, f64x2.mul(slowShare, f64x2.sub(mean, slow)));
    highestFast = f64x2.pmax(highestFast, fast);
    highestSlow = f64x2.pmax(highestSlow, slow);
  }
  v128.store(LEVELS, fast, 32);
  v128.store(LEVELS, slow, 48);
  v128.store(LEVELS, highestFast, 64);
  v128.store(LEVELS, highestSlow, 80);
  v128.store(LEVELS, all, 96);
  v128.store(LEVELS, f64x2.pmax(largest, largestAfter), 112);
}

/** The first lanes of two vectors side by side, and their second ones. */
function firsts(a: v128, b: v128): v128 {
  return v128.shuffle<u64>(a, b, 0, 2);
}

function seconds(a: v128, b: v128): v128 {
  return v128.shuffle<u64>(a, b, 1, 3);
}

/** Of each group of eight samples, two at a time: its least and greatest sample. */
function findEnds(from: usize, length: i32): void {
  const end = ((length + GROUP - 1) / GROUP + TOUCHED) * F64;
  for (let to = 0; to < end; to += 2 * F64) {
    const a = v128.load(from);
    const b = v128.load(from, 16);
    const c = v128.load(from, 32);
    const d = v128.load(from, 48);
    const e = v128.load(from, 64);
    const f = v128.load(from, 80);
    const g = v128.load(from, 96);
    const h = v128.load(from, 112);
    let near = f64x2.pmin(f64x2.pmin(a, b), f64x2.pmin(c, d));
    let far = f64x2.pmin(f64x2.pmin(e, f), f64x2.pmin(g, h));
    v128.store(LEAST + to, f64x2.pmin(firsts(near, far), seconds(near, far)));
    near = f64x2.pmax(f64x2.pmax(a, b), f64x2.pmax(c, d));
    far = f64x2.pmax(f64x2.pmax(e, f), f64x2.pmax(g, h));
    v128.store(GREATEST + to, f64x2.pmax(firsts(near, far), seconds(near, far)));
    from += 2 * GROUP * F64;
  }
}

/** Looks between the samples of a group, which lie at most so far from a centre, for more than `peak`; returns the larger. */
function lookCloser(from: usize, start: i32, length: i32, peak: f64, centre: f64, reach: f64): f64 {
  const room = peak - abs(centre);
  const enough = (room - load<f64>(WEIGHTS, 8) * reach) / load<f64>(WEIGHTS);
  const others = load<f64>(WEIGHTS, 16) * reach;
  const end = min(start + GROUP, length - TAPS + 1);
  for (let k = start; k < end; k++) {
    const samples = from + k * F64;
    const left = load<f64>(samples, (HALF - 1) * F64) - centre;
    const right = load<f64>(samples, HALF * F64) - centre;
    if (abs(left) < enough && abs(right) < enough) continue;
    const before = load<f64>(samples, (HALF - 2) * F64) - centre;
    const after = load<f64>(samples, (HALF + 1) * F64) - centre;
    for (let phase = 0; phase < 3; phase++) {
      const taps = FILTERS + phase * TAPS * F64;
      const middle =
        load<f64>(taps, (HALF - 2) * F64) * before +
        load<f64>(taps, (HALF - 1) * F64) * left +
        load<f64>(taps, HALF * F64) * right +
        load<f64>(taps, (HALF + 1) * F64) * after;
      if (abs(middle) + others <= room) continue;
      let sum = f64x2.splat(0);
      for (let i = 0; i < TAPS * F64; i += 16)
        sum = f64x2.add(sum, f64x2.mul(v128.load(taps + i), v128.load(samples + i)));
      peak = max(peak, abs(f64x2.extract_lane(sum, 0) + f64x2.extract_lane(sum, 1)));
    }
  }
  return peak;
}

/** The largest size of the samples of the block that was looked at between its samples. */
export function largest(frames: i32): f64 {
  let size = f64x2.splat(0);
  const end = ((TAPS + frames + GROUP - 1) / GROUP) * F64;
  // What was kept of the block before is in the first groups; behind the last it is silent.
  for (let place = (TAPS / GROUP) * F64; place < end; place += 2 * F64) {
    const low = f64x2.neg(v128.load(LEAST + place));
    size = f64x2.pmax(size, f64x2.pmax(low, v128.load(GREATEST + place)));
  }
  return max(f64x2.extract_lane(size, 0), f64x2.extract_lane(size, 1));
}

/**
 * The largest size of and between samples, or `peak` where that is larger. Two groups at a time are asked whether a
 * larger one can be there at all: the samples that the taps lie on must reach far enough from the centre of the middle ones.
 */
function lookBetween(from: usize, frames: i32, peak: f64): f64 {
  const length = TAPS + frames;
  findEnds(from, length);
  peak = max(peak, largest(frames));
  const half = f64x2.splat(0.5);
  const inner = f64x2.splat(load<f64>(WEIGHTS, 24));
  const outer = f64x2.splat(load<f64>(WEIGHTS, 32));
  for (let start = 0; start + TAPS <= length; start += 2 * GROUP) {
    const least = LEAST + (start / GROUP) * F64;
    const greatest = GREATEST + (start / GROUP) * F64;
    const low = f64x2.pmin(v128.load(least, 8), v128.load(least, 16));
    const high = f64x2.pmax(v128.load(greatest, 8), v128.load(greatest, 16));
    const lowest = f64x2.pmin(v128.load(least), v128.load(least, 24));
    const highest = f64x2.pmax(v128.load(greatest), v128.load(greatest, 24));
    const centre = f64x2.mul(half, f64x2.add(low, high));
    const reach = f64x2.sub(high, centre);
    const whole = f64x2.pmax(reach, f64x2.pmax(f64x2.sub(highest, centre), f64x2.sub(centre, lowest)));
    const most = f64x2.add(f64x2.mul(inner, reach), f64x2.mul(outer, whole));
    const more = f64x2.gt(f64x2.add(f64x2.abs(centre), most), f64x2.splat(peak));
    if (!v128.any_true(more)) continue;
    if (i64x2.extract_lane(more, 0))
      peak = lookCloser(
        from,
        start,
        length,
        peak,
        f64x2.extract_lane(centre, 0),
        f64x2.extract_lane(whole, 0),
      );
    if (i64x2.extract_lane(more, 1) && start + GROUP + TAPS <= length)
      peak = lookCloser(
        from,
        start + GROUP,
        length,
        peak,
        f64x2.extract_lane(centre, 1),
        f64x2.extract_lane(whole, 1),
      );
  }
  return peak;
}

/**
 * The largest size of and between the samples of a block, or `peak` where that is larger. While they are looked at, the end of
 * the block before stands in front of them and silence behind; then what was there is put back.
 */
export function between(samples: usize, frames: i32, peak: f64): f64 {
  const from = samples - FRONT;
  const end = samples + frames * F64;
  memory.copy(ASIDE, from, FRONT);
  memory.copy(ASIDE + FRONT, end, BEHIND * F64);
  memory.copy(from, KEPT, FRONT);
  memory.copy(KEPT, end - FRONT, FRONT);
  memory.fill(end, 0, BEHIND * F64);
  const found = lookBetween(from, frames, peak);
  memory.copy(from, ASIDE, FRONT);
  memory.copy(end, ASIDE + FRONT, BEHIND * F64);
  return found;
}
