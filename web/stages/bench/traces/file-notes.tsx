import { X } from 'lucide-react';
import { spanText } from '../../../../core/quantity/clock.ts';
import { counted } from '../../../../core/quantity/format.ts';
import { deletePart } from '../../../app/api/studies.ts';
import { tell } from '../../../app/tell.ts';
import { Choice } from '../../../ui/choice.tsx';
import { Button } from '../../../ui/button.tsx';
import { IconButton } from '../../../ui/icon-button.tsx';
import { Note } from '../../../ui/note.tsx';
import { Row } from '../../../ui/page.tsx';
import type { StudyDocument } from '../../../../core/model/study-document.ts';
import { TRACE_PARTS } from '../../../../core/forms/trace.ts';
import type { Tracks } from './use-traces.ts';

/** Each file in the margin: how long it is, what was odd about it, and which of its columns is taken off. */
export function FileNotes({
  document: { files, readings },
  tracks,
  fileId,
  onChoose,
}: {
  document: StudyDocument;
  tracks: Tracks;
  /** The file that is looked at; '' for all. */
  fileId: string | undefined;
  onChoose: (fileId: string) => void;
}) {
  const { read, off, lessOf, change } = tracks;
  return files.map((file, i) => {
    const { data: summary, error } = read[i] ?? {};
    if (fileId !== '' && fileId !== file.id) {
      const odd = summary?.remarks.length ?? 0;
      return (
        <Note
          key={file.id}
          title={file.name}
          tone={odd > 0 ? 'attention' : 'plain'}
          actions={
            <Button
              size="small"
              tone="quiet"
              onPress={() => {
                onChoose(file.id);
              }}
            >
              Look at it
            </Button>
          }
        />
      );
    }
    const used = readings.some(({ parts }) =>
      parts.some(({ name, text }) => name === TRACE_PARTS.file && text === file.id),
    );
    return (
      <Note
        key={file.id}
        title={file.name}
        tone={error || (summary && summary.remarks.length > 0) ? 'attention' : 'plain'}
        actions={
          !used && (
            <IconButton
              label={`Take ${file.name} out`}
              onPress={() => {
                tell(deletePart('files', file));
              }}
            >
              <X size={17} aria-hidden />
            </IconButton>
          )
        }
      >
        {error && <p>{error.message}</p>}
        {summary && (
          <>
            <p>
              {counted(summary.rows, 'row')}, one each {spanText(summary.stepS)}, {spanText(summary.lengthS)}{' '}
              in all
              {summary.startedAt !== undefined && `, from ${summary.startedAt}`}.
            </p>
            {summary.remarks.map((sentence) => (
              <p key={sentence}>{sentence}</p>
            ))}
            {off && (
              <Row>
                <Choice
                  label="Taken off the others"
                  options={summary.columns.map(({ head, name }) => ({ value: head, label: name }))}
                  value={lessOf(file) ?? ''}
                  onChange={(head) => {
                    change((before) => ({ ...before, less: { ...before.less, [file.id]: head } }));
                  }}
                />
              </Row>
            )}
          </>
        )}
      </Note>
    );
  });
}
