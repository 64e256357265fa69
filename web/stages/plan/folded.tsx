/** What stands folded away in the plan: one file, which is fetched when the first fold is opened. */
export { Attributes } from './attributes.tsx';
export { BlindCodes } from './blind-codes.tsx';
export { Cautions } from './cautions.tsx';
export { Claims } from './claims.tsx';
export { ConditionList } from './condition-list.tsx';
export { Confounds } from './confounds.tsx';
export { Deviations } from './deviations.tsx';
export { Factors } from './factors.tsx';
export { HowLong } from './how-long.tsx';
export { LooksPlanned } from './looks.tsx';
export { Procedure } from './procedure.tsx';
export { ReadingsNeeded } from './readings-needed.tsx';
