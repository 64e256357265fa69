import { spanText } from '../../../../core/quantity/clock.ts';
import { counted } from '../../../../core/quantity/format.ts';
import { Choice } from '../../../ui/choice.tsx';
import { Button } from '../../../ui/button.tsx';
import { Note } from '../../../ui/note.tsx';
import { Row } from '../../../ui/page.tsx';
import type { FilePart } from '../../../../core/model/parts.ts';
import { TakeOut } from '../from-files/take-out.tsx';
import type { Tracks } from './use-traces.ts';

type Summary = NonNullable<Tracks['read'][number]['data']>;

/** What was odd about a file. */
const Remarks = ({ of: { remarks } }: { of: Summary }) =>
  remarks.map((sentence) => <p key={sentence}>{sentence}</p>);

/** How long a file is, what was odd about it, and which of its columns is taken off. */
function FileSummary({
  file,
  summary,
  tracks: { off, lessOf, change },
}: {
  file: FilePart;
  summary: Summary;
  tracks: Tracks;
}) {
  return (
    <>
      <p>
        {counted(summary.rows, 'row')}, one each {spanText(summary.stepS)}, {spanText(summary.lengthS)} in all
        {summary.startedAt !== undefined && `, from ${summary.startedAt}`}.
      </p>
      <Remarks of={summary} />
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
  );
}

/** Each file in the margin with what was odd about it; the one that is looked at with its length and its columns too. */
export function FileNotes({
  files,
  tracks,
  fileId,
  onChoose,
}: {
  files: readonly FilePart[];
  tracks: Tracks;
  /** The file that is looked at; '' for all. */
  fileId: string | undefined;
  onChoose: (fileId: string) => void;
}) {
  const { read, used } = tracks;
  return files.map((file, i) => {
    const { data: summary, error } = read[i] ?? {};
    const tone = error || (summary && summary.remarks.length > 0) ? 'attention' : 'plain';
    const isSeen = fileId === '' || fileId === file.id;
    return (
      <Note
        key={file.id}
        title={file.name}
        tone={tone}
        actions={
          isSeen ? (
            !used.has(file.id) && <TakeOut file={file} />
          ) : (
            <Button
              size="small"
              tone="quiet"
              onPress={() => {
                onChoose(file.id);
              }}
            >
              Look at it
            </Button>
          )
        }
      >
        {error && <p>{error.message}</p>}
        {summary &&
          (isSeen ? <FileSummary file={file} summary={summary} tracks={tracks} /> : <Remarks of={summary} />)}
      </Note>
    );
  });
}
