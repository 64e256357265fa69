import { useRouteError } from 'react-router';
import styled from 'styled-components';
import { Button } from '../ui/button.tsx';
import { EmptyState } from '../ui/page.tsx';
import { Refusal, ServerAway, problemText } from './api/client.ts';

const Sheet = styled.main`
  flex: 1;
  padding: 24px 28px;
  background: var(--sheet);
`;

/** What is shown where a page cannot be: what went wrong, and what to do. */
export function Trouble({ missing = false }: { missing?: boolean }) {
  const error = useRouteError();
  const away =
    error instanceof ServerAway || (error instanceof TypeError && /import|fetch/i.test(error.message));
  const unknown = missing || (error instanceof Refusal && error.status === 404);
  const title = unknown ? 'There is nothing here.' : away ? 'The server is away.' : 'Something went wrong.';
  const text = unknown
    ? 'The address may be mistyped, or the study was deleted.'
    : away
      ? 'Start it again, then try once more. Readings that were not sent yet are kept in this browser.'
      : problemText(error);
  return (
    <Sheet id="content" tabIndex={-1}>
      <EmptyState
        title={title}
        action={
          <Button
            tone="go"
            onPress={() => {
              if (unknown) location.assign('/');
              else location.reload();
            }}
          >
            {unknown ? 'To the studies' : 'Try again'}
          </Button>
        }
      >
        {text}
      </EmptyState>
    </Sheet>
  );
}
