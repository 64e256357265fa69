import { useState } from 'react';
import styled from 'styled-components';
import { type ReportPartName, numbersIn, outdatedNumbers } from '../../../core/report/report.ts';
import type { Study } from '../../../core/model/study.ts';
import { listed, wordFor } from '../../../core/quantity/format.ts';
import { patchStudy } from '../../app/api/studies.ts';
import { SavedText } from '../../app/draft-field.tsx';
import { Button } from '../../ui/button.tsx';
import { Note } from '../../ui/note.tsx';
import { PRINT } from '../../ui/tokens.ts';

const Words = styled.div`
  margin: 12px 0;
  max-width: 72ch;
`;

const Unprinted = styled.div`
  ${PRINT} {
    display: none;
  }
`;

/** The text as it is read; while it is written, its field stands in its place on the screen and not on paper. */
const Told = styled.p<{ $beside: boolean }>`
  display: ${({ $beside }) => ($beside ? 'none' : 'block')};
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  ${PRINT} {
    display: block;
  }
`;

/** Longest text under a part. */
const LONGEST = 4000;

/** A report with other words under a part; none where they are empty. */
function withWords(
  report: Study['report'],
  under: ReportPartName,
  text: string,
  numbers: ReadonlySet<string>,
): Study['report'] {
  const others = report.words.filter((entry) => entry.under !== under);
  if (text.trim() === '') return { ...report, words: others };
  const figures = [...new Set(numbersIn(text))].filter((number) => numbers.has(number)).slice(0, 200);
  return { ...report, words: [...others, { under, text, figures }] };
}

/** Points out numbers in a text that the report shows no more. */
function Outdated({ numbers }: { numbers: readonly string[] }) {
  if (numbers.length === 0) return null;
  return (
    <Unprinted>
      <Note
        tone="attention"
        title={`${listed(numbers)} ${wordFor(numbers.length, 'is', 'are')} not in the report any more`}
      >
        The readings or what counts of them changed since you wrote this. Look at the sentence again.
      </Note>
    </Unprinted>
  );
}

/** What the tester writes under a part; a number in it that the report shows no more is pointed out. */
export function OwnWords({
  study,
  under,
  heading,
  numbers,
  editing,
}: {
  study: Study;
  under: ReportPartName;
  heading: string;
  /** All numbers that the report shows. */
  numbers: ReadonlySet<string>;
  /** Whether texts are written, and not only read. */
  editing: boolean;
}) {
  const [open, setOpen] = useState(false);
  const words = study.report.words.find((entry) => entry.under === under);
  const save = (text: string) => patchStudy(study, { report: withWords(study.report, under, text, numbers) });
  if (!words && !editing) return null;
  return (
    <Words>
      {editing && (words !== undefined || open) ? (
        <Unprinted>
          <SavedText
            label={`Your words under “${heading}”`}
            saved={words?.text ?? ''}
            rows={4}
            maxLength={LONGEST}
            autoFocus={open}
            save={save}
          />
        </Unprinted>
      ) : null}
      {editing && !words && !open && (
        <Unprinted>
          <Button
            size="small"
            tone="quiet"
            onPress={() => {
              setOpen(true);
            }}
          >
            Write under “{heading}”
          </Button>
        </Unprinted>
      )}
      {words && (
        <Told className="words" $beside={editing}>
          <bdi>{words.text}</bdi>
        </Told>
      )}
      {words && <Outdated numbers={outdatedNumbers(words, numbers)} />}
    </Words>
  );
}
