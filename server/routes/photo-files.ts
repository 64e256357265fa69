import path from 'node:path';

/** The folder in which photos are kept, within a server's folder. */
export const photosIn = (data: string): string => path.join(data, 'photos');
