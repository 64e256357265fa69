import { type KernelFilter, MOST, forgetTraces, kernel } from './kernel/kernel.ts';

/** A filter of one channel or two, which goes on from block to block. */
export class RunningFilter {
  private readonly coefficients: Float64Array;
  private readonly state = new Float64Array(kernel().state.length);

  /**
   * @param how the kernel filters
   * @param coefficients as it has them for that
   * @param scale what samples are multiplied by before they are filtered
   */
  constructor(
    private readonly how: KernelFilter,
    coefficients: readonly number[],
    private readonly scale: number,
  ) {
    this.coefficients = Float64Array.from(coefficients);
  }

  /** Has the kernel filter something, going on from what was filtered before. */
  private run(filter: () => void): void {
    const { coefficients, state } = kernel();
    coefficients.set(this.coefficients);
    state.set(this.state);
    filter();
    this.state.set(state);
    forgetTraces(this.state);
  }

  /** Filters a block of one channel or two, at most `MOST` samples, into the kernel’s room for this. */
  filterIn(blocks: readonly Float64Array[]): void {
    this.run(() => {
      kernel().filterIn(this.how, blocks, this.scale);
    });
  }

  /** Filters what another filter left there, in place. */
  filterAgain(frames: number): void {
    this.run(() => {
      kernel().filterAgain(this.how, frames, this.scale);
    });
  }

  /** Filters samples of one channel in place. */
  filter(samples: Float64Array): void {
    const { work } = kernel();
    for (let from = 0; from < samples.length; from += MOST) {
      const block = samples.subarray(from, from + MOST);
      this.filterIn([block]);
      for (let k = 0; k < block.length; k += 1) block[k] = work[2 * k] as number;
    }
  }
}
