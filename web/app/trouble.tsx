import type { FallbackProps } from 'react-error-boundary';
import styled from 'styled-components';
import { Button } from '../ui/button.tsx';
import { isNotFetched } from '../ui/later.tsx';
import { EmptyState } from '../ui/page.tsx';
import { Refusal, ServerAway, problemText } from './api/client.ts';

const Sheet = styled.main`
  flex: 1;
  padding: 24px 28px;
  background: var(--sheet);
`;

interface NoPageProps {
  title: string;
  action: { label: string; run: () => void };
  children: string;
}

const NoPage = ({ title, action, children }: NoPageProps) => (
  <Sheet id="content" tabIndex={-1}>
    <EmptyState
      title={title}
      action={
        <Button tone="go" onPress={action.run}>
          {action.label}
        </Button>
      }
    >
      {children}
    </EmptyState>
  </Sheet>
);

/** What is shown at an address that nothing has. */
export const Missing = () => (
  <NoPage
    title="There is nothing here."
    action={{
      label: 'To the studies',
      run: () => {
        location.assign('/');
      },
    }}
  >
    The address may be mistyped, or the study was deleted.
  </NoPage>
);

/** What is shown where a page cannot be: what went wrong, and what to do. */
export function Trouble({ error }: FallbackProps) {
  if (error instanceof Refusal && error.status === 404) return <Missing />;
  const away = error instanceof ServerAway || isNotFetched(error);
  return (
    <NoPage
      title={away ? 'The server is away.' : 'Something went wrong.'}
      action={{
        label: 'Try again',
        run: () => {
          location.reload();
        },
      }}
    >
      {away
        ? 'Start it again, then try once more. Readings that were not sent yet are kept in this browser.'
        : problemText(error)}
    </NoPage>
  );
}
