import described from './described.json' with { type: 'json' };
import type { PairMethod } from './method.ts';
import type { PairMethodName } from './method-names.ts';

/** What a way of comparing is and what it can do, without what it works out: all that is needed to speak of it. */
export type DescribedMethod = Omit<PairMethod, 'compare'>;

/** Every way in words, in the order in which they are offered. Written from the methods by scripts/schema.ts. */
export const DESCRIBED_METHODS = described as readonly DescribedMethod[];

/** @throws RangeError for a name that no method has */
export function describedMethod(name: PairMethodName): DescribedMethod {
  const method = DESCRIBED_METHODS.find((candidate) => candidate.name === name);
  if (!method) throw new RangeError(`no way of comparing is called “${name}”`);
  return method;
}
