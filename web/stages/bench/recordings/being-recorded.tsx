import { useState } from 'react';
import styled from 'styled-components';
import { problemText } from '../../../app/api/client.ts';
import { stopRecording, useRunningRecordings } from '../../../app/api/recordings.ts';
import { Button } from '../../../ui/button.tsx';
import { Row } from '../../../ui/page.tsx';
import { Problem } from '../../../ui/problem.tsx';
import { clippedWords, recordedWords } from './running-words.ts';

const Running = styled(Row)`
  margin-top: 12px;
`;

/** What is being recorded at the bench just now, and how it is ended from here. */
export function BeingRecorded({ studyId }: { studyId: string }) {
  const { data: recordings = [] } = useRunningRecordings(studyId);
  const [problem, setProblem] = useState<string>();
  return (
    <>
      {recordings.map((running) => (
        <Running key={running.id}>
          <Button
            tone="go"
            onPress={() => {
              setProblem(undefined);
              stopRecording(running).catch((error: unknown) => {
                setProblem(problemText(error));
              });
            }}
          >
            Stop what is being recorded
          </Button>
          <span role="timer">{recordedWords(running)}</span>
          {running.clipped > 0 && <strong>{clippedWords(running)}</strong>}
          <Problem>{running.problem ?? undefined}</Problem>
        </Running>
      ))}
      <Problem>{problem}</Problem>
    </>
  );
}
