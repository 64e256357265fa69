import { ArrowRight } from 'lucide-react';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import { Button } from '../ui/button.tsx';
import { NARROW } from '../ui/tokens.ts';
import { useStudy } from './study-frame.tsx';

const Wide = styled.div`
  display: grid;
  ${NARROW} {
    justify-items: end;
  }
  p {
    margin-top: 6px;
    color: var(--quiet);
    font-size: var(--size-15);
  }
`;

const STAGES = {
  bench: 'To the bench',
  screen: 'To the screening',
  rank: 'To the ranking',
  report: 'To the report',
} as const;

/** The way on to the next stage, always at the same place. */
export function NextStage({
  to,
  missing,
  pressing = true,
}: {
  to: keyof typeof STAGES;
  /** What must be there first. */
  missing?: string | undefined;
  /** Whether it is the thing to do now. */
  pressing?: boolean;
}) {
  const { study } = useStudy();
  const navigate = useNavigate();
  return (
    <Wide>
      <Button
        tone={pressing && missing === undefined ? 'go' : 'plain'}
        isDisabled={missing !== undefined}
        onPress={() => void navigate(`/study/${study.id}/${to}`)}
      >
        {STAGES[to]} <ArrowRight size={18} aria-hidden />
      </Button>
      {missing !== undefined && <p>{missing}</p>}
    </Wide>
  );
}
