/** Frames of the finest stage, and how many of a stage are one of the next. */
const FINEST = 256;
const STAGE = 8;

/** Smallest and largest samples of stretches of equal length, channel by channel. */
interface Stage {
  /** Frames of a stretch. */
  per: number;
  low: Float32Array[];
  high: Float32Array[];
}

/** Smallest and largest samples of the columns of a picture; NaN where nothing was read yet. */
export interface Columns {
  low: Float32Array;
  high: Float32Array;
}

/**
 * A pyramid of the smallest and the largest samples, from which a picture of any stretch of a recording is drawn without
 * looking at its samples again.
 */
export class Overview {
  private readonly stages: Stage[] = [];

  /** @param frames of the whole recording */
  constructor(channels: number, frames: number) {
    for (let per = FINEST; ; per *= STAGE) {
      const count = Math.ceil(frames / per);
      const empty = () => new Float32Array(count).fill(Number.NaN);
      const all = Array.from({ length: channels }, empty);
      this.stages.push({ per, low: all, high: Array.from({ length: channels }, empty) });
      if (count <= STAGE) break;
    }
  }

  /** Frames of the shortest stretch that it knows. */
  get finest(): number {
    return FINEST;
  }

  /** Takes the samples of each channel from a frame on. */
  push(blocks: readonly Float64Array[], frame: number): void {
    blocks.forEach((samples, channel) => {
      this.pushFinest(samples, channel, frame);
      for (let stage = 1; stage < this.stages.length; stage += 1)
        this.combine(stage, channel, frame, frame + samples.length);
    });
  }

  private pushFinest(samples: Float64Array, channel: number, frame: number): void {
    const { low, high } = this.stages[0] as Stage;
    const [lows, highs] = [low[channel] as Float32Array, high[channel] as Float32Array];
    for (let from = 0; from < samples.length;) {
      const place = Math.floor((frame + from) / FINEST);
      const to = Math.min(samples.length, (place + 1) * FINEST - frame);
      let [least, most] = [samples[from] as number, samples[from] as number];
      for (let k = from + 1; k < to; k += 1) {
        const sample = samples[k] as number;
        if (sample < least) least = sample;
        if (sample > most) most = sample;
      }
      // A stretch may come in two blocks.
      if (!((lows[place] as number) <= least)) lows[place] = least;
      if (!((highs[place] as number) >= most)) highs[place] = most;
      from = to;
    }
  }

  private combine(stage: number, channel: number, first: number, last: number): void {
    const { per, low, high } = this.stages[stage] as Stage;
    const below = this.stages[stage - 1] as Stage;
    for (let place = Math.floor(first / per); place * per < last; place += 1) {
      const [least, most] = extremes(below, channel, place * STAGE, (place + 1) * STAGE);
      (low[channel] as Float32Array)[place] = least;
      (high[channel] as Float32Array)[place] = most;
    }
  }

  /** The columns of a picture of the frames from `first` to `last`, as exactly as their stretches are. */
  columns(channel: number, first: number, last: number, count: number): Columns {
    const [low, high] = [new Float32Array(count), new Float32Array(count)];
    const each = (last - first) / count;
    const stage = this.stages.findLast(({ per }) => per <= each) ?? this.stages[0];
    if (!stage) return { low, high };
    for (let i = 0; i < count; i += 1) {
      const from = Math.floor((first + i * each) / stage.per);
      const to = Math.max(from + 1, Math.floor((first + (i + 1) * each) / stage.per));
      const [least, most] = extremes(stage, channel, from, to);
      low[i] = least;
      high[i] = most;
    }
    return { low, high };
  }
}

/** The smallest and the largest of some stretches; NaN where none was read. */
function extremes({ low, high }: Stage, channel: number, from: number, to: number): [number, number] {
  const [lows, highs] = [low[channel], high[channel]];
  let [least, most] = [Number.NaN, Number.NaN];
  for (let place = from; place < Math.min(to, lows?.length as number); place += 1) {
    const [under = Number.NaN, over = Number.NaN] = [lows?.[place], highs?.[place]];
    if (!(least <= under)) least = Number.isNaN(under) ? least : under;
    if (!(most >= over)) most = Number.isNaN(over) ? most : over;
  }
  return [least, most];
}

/** The same from samples, where a picture shows more than the pyramid knows. */
export function columnsOfSamples(samples: Float32Array, count: number): Columns {
  const [low, high] = [new Float32Array(count), new Float32Array(count)];
  for (let i = 0; i < count; i += 1) {
    const from = Math.min(samples.length - 1, Math.floor((i * samples.length) / count));
    const to = Math.max(from + 1, Math.floor(((i + 1) * samples.length) / count));
    let [least, most] = [samples[from] as number, samples[from] as number];
    for (let k = from + 1; k < Math.min(to, samples.length); k += 1) {
      const sample = samples[k] as number;
      if (sample < least) least = sample;
      if (sample > most) most = sample;
    }
    low[i] = least;
    high[i] = most;
  }
  return { low, high };
}
