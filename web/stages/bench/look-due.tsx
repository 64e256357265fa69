import { lazy } from 'react';
import type { LookDueProps } from './planned-look.tsx';
import { Later } from '../../ui/later.tsx';

// Few plans look before the end.
const PlannedLook = lazy(async () => ({ default: (await import('./planned-look.tsx')).PlannedLook }));

/** At a planned look, says whether first place is settled and that stopping is allowed. */
export const LookDue = ({ document, queue }: LookDueProps) =>
  document.study.looks.after.length === 0 ? null : (
    <Later>
      <PlannedLook document={document} queue={queue} />
    </Later>
  );
