import { useState } from 'react';
import type { Measurand, Reading } from '../../../../core/model/parts.ts';
import { counted } from '../../../../core/quantity/format.ts';
import { Button } from '../../../ui/button.tsx';
import { Note } from '../../../ui/note.tsx';
import { Problem } from '../../../ui/problem.tsx';

/** Readings that were worked out with other settings, and what could not be worked out again. */
export function Stale({
  stale,
  workAgain,
  measurand,
}: {
  stale: readonly Reading[];
  /** @returns what could not be worked out, in sentences */
  workAgain: () => Promise<string[]>;
  measurand: Measurand;
}) {
  const [said, setSaid] = useState<string[]>([]);
  const single = stale.length === 1;
  return (
    <>
      {stale.length > 0 && (
        <Note
          tone="attention"
          title={`${counted(stale.length, 'reading')} of ${measurand.name} ${single ? 'was' : 'were'} worked out otherwise, and ${single ? 'does' : 'do'} not count until worked out again.`}
          actions={
            <Button
              tone="go"
              onPress={() => {
                void workAgain().then(setSaid);
              }}
            >
              Work {single ? 'it' : 'them'} out again
            </Button>
          }
        />
      )}
      {said.map((sentence) => (
        <Problem key={sentence}>{sentence}</Problem>
      ))}
    </>
  );
}
