import { useNavigate } from 'react-router';
import styled from 'styled-components';
import { Button } from '../../../ui/button.tsx';
import { Row } from '../../../ui/page.tsx';
import type { EntryProps } from './entry.ts';
import { OneNumber } from './one-number.tsx';

const Beside = styled(Row)`
  margin-top: 12px;
`;

/** A level that is worked out from a recording, or typed in where there is none. */
export function RecordingValue(props: EntryProps) {
  const navigate = useNavigate();
  return (
    <>
      <OneNumber {...props} />
      <Beside>
        <Button tone="quiet" onPress={() => void navigate('../bench/recordings')}>
          Work it out from a recording
        </Button>
      </Beside>
    </>
  );
}
