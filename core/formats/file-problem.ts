/** Something wrong in a file that was given to be read, with the place where it is. */
export class FileProblem extends Error {
  constructor(
    message: string,
    readonly line?: number,
  ) {
    super(line === undefined ? message : `Line ${String(line)}: ${message}`);
    this.name = 'FileProblem';
  }
}
