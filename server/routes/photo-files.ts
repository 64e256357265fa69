import path from 'node:path';

/** The folder in which photos are kept: beside the database. */
export const photosBeside = (database: string): string => path.join(path.dirname(database), 'photos');
