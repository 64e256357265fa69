import type { ReactNode } from 'react';

/** Puts notes, and what is shown, into what every view of the ranking has around it. */
export type RankFrame = (notes: ReactNode, children: ReactNode) => ReactNode;
