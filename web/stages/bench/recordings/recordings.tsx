import { FilePlus, X } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { useNavigate } from 'react-router';
import { recording, soundQuestionText } from '../../../../core/forms/recording.ts';
import type { FilePart, Measurand } from '../../../../core/model/parts.ts';
import type { StudyDocument } from '../../../../core/model/study-document.ts';
import { measurandsRead } from '../../../../core/plan/grid.ts';
import { spanText } from '../../../../core/quantity/clock.ts';
import { counted, formatPlain } from '../../../../core/quantity/format.ts';
import { addRecording, useSoundHeads } from '../../../app/api/recordings.ts';
import { deletePart } from '../../../app/api/studies.ts';
import { useStudy } from '../../../app/study-frame.tsx';
import { tell } from '../../../app/tell.ts';
import { Button } from '../../../ui/button.tsx';
import { Choice } from '../../../ui/choice.tsx';
import { FileButton } from '../../../ui/file-button.tsx';
import { IconButton } from '../../../ui/icon-button.tsx';
import { Note } from '../../../ui/note.tsx';
import { EmptyState, PageHead, Row, Sheet } from '../../../ui/page.tsx';
import { Problem } from '../../../ui/problem.tsx';
import type { SoundHead } from '../../../workers/recording.worker.ts';
import { useAdding } from '../from-files/use-adding.ts';
import { usedFiles } from '../from-files/worked-out.ts';
import { Arriving } from './arriving.tsx';
import { SoundWork } from './sound-work.tsx';
import { soundsIn } from './use-sounds.ts';

const FILES = ['.wav', 'audio/wav', 'audio/x-wav'];

/** What a recording says about itself, and what is odd about it. */
function FileNote({
  file,
  head,
  problem,
  used,
}: {
  file: FilePart;
  head: SoundHead | undefined;
  problem: string | undefined;
  used: boolean;
}) {
  const odd = problem !== undefined || (head?.remarks.length ?? 0) > 0;
  return (
    <Note
      title={file.name}
      tone={odd ? 'attention' : 'plain'}
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
      {problem !== undefined && <p>{problem}</p>}
      {head && (
        <p>
          {spanText(Math.round(head.lengthS))}, {counted(head.channels, 'channel')},{' '}
          {formatPlain(head.sampleRate / 1000)} kHz, {head.bits} bits{head.float ? ' float' : ''}.
        </p>
      )}
      {head?.remarks.map((sentence) => (
        <p key={sentence}>{sentence}</p>
      ))}
    </Note>
  );
}

/** What is asked of each window, and where that is said. */
function Question({ measurand: { settings, unit } }: { measurand: Measurand }) {
  const navigate = useNavigate();
  return (
    <Note
      title={`In ${unit}`}
      actions={
        <Button size="small" onPress={() => void navigate('../plan')}>
          Change it in the plan
        </Button>
      }
    >
      <p>{soundQuestionText(settings)}.</p>
    </Note>
  );
}

function RecordingsOf({
  document,
  measurand,
  files,
  head,
}: {
  document: StudyDocument;
  measurand: Measurand;
  files: readonly FilePart[];
  head: ReactNode;
}) {
  const [wantedFile, setWantedFile] = useState<string>();
  // The last one is likely to be wanted.
  const file = files.find(({ id }) => id === wantedFile) ?? files.at(-1);
  const heads = useSoundHeads(files);
  const used = usedFiles(document);
  const calibrated = new Set(document.calibrations.map(({ fileId }) => fileId));
  const notes = (
    <>
      <Question measurand={measurand} />
      {files.map((known, i) => (
        <FileNote
          key={known.id}
          file={known}
          head={heads[i]?.data}
          problem={heads[i]?.error?.message}
          used={used.has(known.id) || calibrated.has(known.id)}
        />
      ))}
    </>
  );
  if (!file) return null;
  return (
    <SoundWork
      key={`${measurand.id}/${file.id}`}
      document={document}
      measurand={measurand}
      files={files}
      file={file}
      onFile={setWantedFile}
      head={heads[files.indexOf(file)]?.data}
      title={head}
      notes={notes}
    />
  );
}

/** From one long recording to many readings: what sounds in it, whose it is, and how loud. */
export function Recordings() {
  const document = useStudy();
  const navigate = useNavigate();
  const files = soundsIn(document);
  const measurands = measurandsRead(document).filter(({ form }) => form === recording.name);
  const [wantedId, setWantedId] = useState<string>();
  const measurand = measurands.find(({ id }) => id === wantedId) ?? measurands[0];
  const [arriving, setArriving] = useState<{ ticket: string; name: string }>();
  const { busy, problem, add } = useAdding(async (file) => {
    try {
      return await addRecording(document.study.id, file, document.files, (ticket) => {
        setArriving({ ticket, name: file.name });
      });
    } finally {
      setArriving(undefined);
    }
  });
  const adding = (
    <Row>
      <FileButton
        accept={FILES}
        tone={files.length === 0 ? 'go' : 'plain'}
        isDisabled={busy !== undefined}
        onFile={(file) => void add(file)}
      >
        <FilePlus size={19} aria-hidden /> Add a recording
      </FileButton>
      <Button tone="quiet" onPress={() => void navigate('../bench')}>
        Back to the bench
      </Button>
      {busy !== undefined && <span role="status">{busy}</span>}
    </Row>
  );
  if (!measurand || files.length === 0) {
    return (
      <Sheet notes={null} notesLabel="Recordings">
        <EmptyState
          title={measurand ? 'No recording yet.' : 'Nothing in this plan is read from recordings.'}
          action={
            measurand ? (
              <>
                {adding}
                {arriving && <Arriving {...arriving} />}
                <Problem>{problem}</Problem>
              </>
            ) : (
              <Button tone="go" onPress={() => void navigate('../plan')}>
                To the plan
              </Button>
            )
          }
        >
          {measurand
            ? 'A WAV file that a recorder wrote beside the bench. Whatever sounds in it is found, and becomes a reading of the item whose turn it was.'
            : 'Choose “Recording” as the reading form of a measurand first.'}
        </EmptyState>
      </Sheet>
    );
  }
  return (
    <RecordingsOf
      key={measurand.id}
      document={document}
      measurand={measurand}
      files={files}
      head={
        <>
          <PageHead title={`${measurand.name}, from ${counted(files.length, 'recording')}.`}>
            What sounds in a recording is found and given to the runs to come, one after the other; the
            recording stays with the study.
          </PageHead>
          <Row>
            {measurands.length > 1 && (
              <Choice
                label="Measurand"
                labelHidden
                options={measurands.map(({ id, name }) => ({ value: id, label: name }))}
                value={measurand.id}
                onChange={setWantedId}
              />
            )}
            {adding}
          </Row>
          {arriving && <Arriving {...arriving} />}
          <Problem>{problem}</Problem>
        </>
      }
    />
  );
}
