import { type ReactNode, Suspense } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { Button } from './button.tsx';
import { Note } from './note.tsx';

/** Whether something went wrong because a file of the program could not be fetched. */
export const isNotFetched = (error: unknown): boolean =>
  error instanceof TypeError && /import|fetch/i.test(error.message);

function Missing({ error }: { error: unknown }) {
  // Anything else is for the page to say.
  if (!isNotFetched(error)) throw error;
  return (
    <Note tone="attention" title="This part could not be fetched: the server is away.">
      <div style={{ marginTop: 6 }}>
        <Button
          size="small"
          onPress={() => {
            location.reload();
          }}
        >
          Load the page again
        </Button>
      </div>
    </Note>
  );
}

/**
 * What comes once its file has been fetched; where that fails, the rest of the page stays.
 * @param waiting what stands there meanwhile
 */
export const Later = ({ children, waiting }: { children: ReactNode; waiting?: ReactNode }) => (
  <ErrorBoundary FallbackComponent={Missing}>
    <Suspense fallback={waiting}>{children}</Suspense>
  </ErrorBoundary>
);
