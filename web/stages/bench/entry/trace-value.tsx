import { useNavigate } from 'react-router';
import { Button } from '../../../ui/button.tsx';
import { Row } from '../../../ui/page.tsx';
import type { EntryProps } from './entry.ts';
import { OneNumber } from './one-number.tsx';

/** A value that is worked out from a file, or typed in where there is none. */
export function TraceValue(props: EntryProps) {
  const navigate = useNavigate();
  return (
    <>
      <OneNumber {...props} />
      <Row>
        <Button onPress={() => void navigate('../bench/traces')}>Work it out from a logger’s file</Button>
      </Row>
    </>
  );
}
