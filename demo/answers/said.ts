import { FileProblem } from '../../core/formats/file-problem.ts';
import { PictureProblem } from '../../core/formats/picture.ts';

/** What the program says of something, or why it says nothing. */
export function said<Answer>(ask: () => Answer): Answer | string {
  try {
    return ask();
  } catch (error) {
    if ([RangeError, FileProblem, PictureProblem].some((kind) => error instanceof kind))
      return (error as Error).message;
    throw error;
  }
}

/** Every combination of two lists. */
export const each = <A, B>(
  first: readonly A[],
  second: readonly B[],
  ask: (a: A, b: B) => unknown,
): unknown[] => first.flatMap((a) => second.map((b) => said(() => ask(a, b))));
