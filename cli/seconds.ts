import { FileProblem } from '../core/formats/file-problem.ts';
import { parseQuantity } from '../core/quantity/parse.ts';

/** A time that an option says, in seconds. @throws FileProblem for anything else */
export function secondsOf(option: string, text: string): number {
  const read = parseQuantity(text, 's');
  if ('problem' in read || read.number < 0)
    throw new FileProblem(`The option --${option} takes a time such as 1:30:00, or seconds, not “${text}”.`);
  return read.number;
}
