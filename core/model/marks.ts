/**
 * The twelve marks: one shape each, drawn in a box from −1 to 1, all of about the same area. A shape is one closed
 * outline, so that it can be shown hollow.
 */
export const MARKS: readonly { shape: string; outline: string }[] = [
  { shape: 'disc', outline: 'M1 0A1 1 0 1 1 -1 0A1 1 0 1 1 1 0Z' },
  { shape: 'triangle', outline: 'M0 -1.1L1.1 0.9H-1.1Z' },
  { shape: 'square', outline: 'M-0.88 -0.88H0.88V0.88H-0.88Z' },
  { shape: 'diamond', outline: 'M0 -1.15L1.15 0L0 1.15L-1.15 0Z' },
  { shape: 'plus', outline: 'M-0.36 -1H0.36V-0.36H1V0.36H0.36V1H-0.36V0.36H-1V-0.36H-0.36Z' },
  { shape: 'upright bar', outline: 'M-0.45 -1.1H0.45V1.1H-0.45Z' },
  { shape: 'downward triangle', outline: 'M0 1.1L-1.1 -0.9H1.1Z' },
  { shape: 'hexagon', outline: 'M-0.55 -0.95H0.55L1.1 0L0.55 0.95H-0.55L-1.1 0Z' },
  {
    shape: 'cross',
    outline:
      'M-0.55 -1.06L0 -0.51L0.55 -1.06L1.06 -0.55L0.51 0L1.06 0.55L0.55 1.06L0 0.51L-0.55 1.06L-1.06 0.55L-0.51 0L-1.06 -0.55Z',
  },
  { shape: 'half disc', outline: 'M-1.1 0.55A1.1 1.1 0 0 1 1.1 0.55Z' },
  { shape: 'flat bar', outline: 'M-1.1 -0.45H1.1V0.45H-1.1Z' },
  {
    shape: 'star',
    outline:
      'M0 -1.2L0.32 -0.43L1.14 -0.37L0.51 0.16L0.71 0.97L0 0.53L-0.71 0.97L-0.51 0.16L-1.14 -0.37L-0.32 -0.43Z',
  },
];

export const markOutline = (mark: number): string => MARKS[mark % MARKS.length]?.outline ?? '';
export const markShape = (mark: number): string => MARKS[mark % MARKS.length]?.shape ?? '';
export const markColour = (mark: number): string => `var(--mark-${String(mark % MARKS.length)})`;
