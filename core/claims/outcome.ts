/** What the readings say of a claim: borne out, contradicted, neither yet, one at one level and another at another, or nothing. */
export type ClaimOutcome =
  'holds' | 'contradicted' | 'not contradicted' | 'depends on the level' | 'no readings';

/** An outcome as it stands before its sentence. */
export const OUTCOME_WORDS: Readonly<Record<ClaimOutcome, string>> = {
  holds: 'Holds',
  contradicted: 'Contradicted',
  'not contradicted': 'Not contradicted',
  'depends on the level': 'Depends on the level',
  'no readings': 'Not checked',
};
