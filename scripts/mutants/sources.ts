/** Sources of core and server, but for the bytes that are written from another source. */
export const isMutated = (file: string): boolean =>
  /^(?:core|server)\/.*\.ts$/u.test(file) &&
  !/(?:\.test|\.d|testing(?:-[a-z]+)?|kernel\/bytes)\.ts$/u.test(file);
