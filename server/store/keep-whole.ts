import { PART_KINDS, type PartKind } from '../../core/model/part-kinds.ts';
import type { Claim } from '../../core/model/parts.ts';
import { type Plan, mended, planProblems } from '../../core/record/mend.ts';
import { invalid } from '../problems.ts';
import type { Store, Stored } from './store.ts';

/** A part that was changed along with another. */
export interface ChangedAlong {
  kind: PartKind;
  part: Stored;
}

const wholePlan = async (store: Store, studyId: string): Promise<Plan> => ({
  ...(await store.planContext(studyId)),
  claims: await store.list<Claim>('claims', studyId),
});

/**
 * Makes a change of the plan, and with it those of other parts that follow from it; refuses one that breaks something
 * else. The caller holds a transaction.
 * @returns what the change gave, and the other parts that were changed with it
 * @throws Problem that says what would break
 */
export async function keepWhole<T>(
  store: Store,
  kind: PartKind,
  studyId: string,
  change: () => Promise<T>,
): Promise<{ made: T; along: ChangedAlong[] }> {
  if (PART_KINDS[kind].plan !== 'part') return { made: await change(), along: [] };
  const before = await wholePlan(store, studyId);
  const made = await change();
  const after = await wholePlan(store, studyId);
  const { measurands, claims } = mended(before, after);
  const along: ChangedAlong[] = [];
  for (const [other, changes] of [['measurands', measurands] as const, ['claims', claims] as const]) {
    for (const [id, fields] of changes) {
      const part = await store.update(other, await store.partThere(other, studyId, id), fields);
      along.push({ kind: other, part });
    }
  }
  const known = new Set(planProblems(before).map(({ key }) => key));
  const now = along.length > 0 ? await wholePlan(store, studyId) : after;
  const broken = planProblems(now).filter(({ key }) => !known.has(key));
  if (broken.length > 0) throw invalid(broken.map(({ message }) => ({ path: '', message })));
  return { made, along };
}
