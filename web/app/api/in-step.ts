/** What a study's state says: which start of the server counted, and how many changes. */
function counted(state: string): { start: string; changes: number } {
  const [start = '', changes = ''] = state.split(':');
  return { start, changes: changes === '' ? -1 : Number(changes) };
}

/** Whether what is in the page, in one state, holds all that led to the other. */
const holds = (held: string, heard: string): boolean => {
  const [mine, theirs] = [counted(held), counted(heard)];
  return mine.start === theirs.start && mine.changes >= theirs.changes;
};

/** After so many fetches that were behind what was heard it is left until the server says more. */
const MOST_TRIES = 5;

/**
 * Keeps studies in step with what the server says of their states: one is fetched again where it has changed between
 * the time it was read and the time this page listened, or while it is being fetched.
 * @param fetchAgain waits for a fetch of the study that is under way, or else for another one; rejects where it fails
 */
export function stepKeeper(fetchAgain: (studyId: string) => Promise<unknown>) {
  /** The state of what each study in the page holds. */
  const held = new Map<string, string>();
  const heard = new Map<string, string>();
  const catchingUp = new Set<string>();

  const inStep = (studyId: string) => holds(held.get(studyId) ?? '', heard.get(studyId) ?? '');

  const catchUp = async (studyId: string) => {
    catchingUp.add(studyId);
    try {
      for (let tries = 0; !inStep(studyId) && tries < MOST_TRIES; tries += 1) await fetchAgain(studyId);
    } catch {
      // The server is away, or the study is gone: what the server says next begins this again.
    } finally {
      catchingUp.delete(studyId);
    }
  };

  return {
    /** A study was fetched in that state. */
    has: (studyId: string, state: string) => {
      held.set(studyId, state);
    },
    /**
     * The server says in which state a study is.
     * @param told whether it also said what led there from the state before, and the page has put that in
     */
    hears: (studyId: string, state: string, told: boolean) => {
      heard.set(studyId, state);
      if (catchingUp.has(studyId)) return;
      const { start, changes } = counted(state);
      if (told && holds(held.get(studyId) ?? '', `${start}:${String(changes - 1)}`)) held.set(studyId, state);
      void catchUp(studyId);
    },
  };
}
