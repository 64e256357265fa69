import type { ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { Button } from '../ui/button.tsx';
import { EmptyState, Sheet } from '../ui/page.tsx';

/** A stage that has nothing to show before the first reading: what it is for, and the way to the bench. */
export function NoReadings({ title, children }: { title: string; children: ReactNode }) {
  const navigate = useNavigate();
  return (
    <Sheet notes={null} notesLabel="Notes">
      <EmptyState
        title={title}
        action={
          <Button tone="go" onPress={() => void navigate('../bench')}>
            To the bench
          </Button>
        }
      >
        {children}
      </EmptyState>
    </Sheet>
  );
}
