/** What intervals against one item hold for: every pair at once, or only those with that item. */
export const BASELINE_FAMILIES = ['all-pairs', 'own-spreads', 'dunnett'] as const;
export type BaselineFamily = (typeof BASELINE_FAMILIES)[number];
