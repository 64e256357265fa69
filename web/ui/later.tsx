import { type ReactNode, Suspense } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { LoadAgain } from './load-again.tsx';
import { Note } from './note.tsx';

/** Whether something went wrong because a file of the program could not be fetched. */
export const isNotFetched = (error: unknown): boolean =>
  error instanceof TypeError && /import|fetch/i.test(error.message);

/** @param quiet whether nothing is said of it */
function Missing({ error, quiet }: { error: unknown; quiet: boolean }) {
  // Anything else is for the page to say.
  if (!isNotFetched(error)) throw error;
  if (quiet) return null;
  return (
    <Note
      tone="attention"
      title="This part could not be fetched: the server is away, or newer than this page."
    >
      <div style={{ marginTop: 6 }}>
        <LoadAgain />
      </div>
    </Note>
  );
}

export interface LaterProps {
  children: ReactNode;
  /** What stands there meanwhile. */
  waiting?: ReactNode;
  /** For what is a word or two in a sentence: where it is missing, the sentence goes without. */
  quiet?: boolean;
}

/** What comes once its file has been fetched; where that fails, the rest of the page stays. */
export const Later = ({ children, waiting, quiet = false }: LaterProps) => (
  <ErrorBoundary fallbackRender={({ error }) => <Missing error={error} quiet={quiet} />}>
    <Suspense fallback={waiting}>{children}</Suspense>
  </ErrorBoundary>
);
