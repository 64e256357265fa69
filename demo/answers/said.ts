import { FileProblem } from '../../core/formats/file-problem.ts';

/** What the program says of something, or why it says nothing. */
export function said<Answer>(ask: () => Answer): Answer | string {
  try {
    return ask();
  } catch (error) {
    if (error instanceof RangeError || error instanceof FileProblem) return error.message;
    throw error;
  }
}
