import type { Study } from './parts.ts';

type Base = 'id' | 'version' | 'createdAt' | 'updatedAt';

/** What a study holds of its plan before anybody has said anything. */
export const NEW_STUDY: Omit<Study, Base | 'title' | 'question' | 'rounds' | 'seed'> = {
  status: 'open',
  runOrder: 'shuffled-rounds',
  timing: { readingS: 20, setupS: 10, roundWaitS: 0, sessionS: 7200, sessionsPerDay: 1 },
  procedure: { beforeSession: [], beforeReading: [], waits: [] },
  materials: [],
  confounds: [],
  hazards: [],
};
