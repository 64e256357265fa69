import { type ReactNode, useState } from 'react';
import { useNavigate } from 'react-router';
import { recording, soundQuestionText } from '../../../../core/forms/recording.ts';
import type { FilePart, Measurand } from '../../../../core/model/parts.ts';
import type { StudyDocument } from '../../../../core/model/study-document.ts';
import { spanText } from '../../../../core/quantity/clock.ts';
import { counted, formatPlain } from '../../../../core/quantity/format.ts';
import { addRecording, useSoundHeads } from '../../../app/api/recordings.ts';
import { useStudy } from '../../../app/study-frame.tsx';
import { Button } from '../../../ui/button.tsx';
import { dayAndTime } from '../../../ui/when.ts';
import { Note } from '../../../ui/note.tsx';
import type { SoundHead } from '../../../workers/recording.worker.ts';
import { FilesPage } from '../from-files/files-page.tsx';
import { TakeOut } from '../from-files/take-out.tsx';
import { usedFiles } from '../from-files/worked-out.ts';
import { Arriving } from './arriving.tsx';
import { BeingRecorded } from './being-recorded.tsx';
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
    <Note title={file.name} tone={odd ? 'attention' : 'plain'} actions={!used && <TakeOut file={file} />}>
      {problem !== undefined && <p>{problem}</p>}
      {head && (
        <p>
          {spanText(Math.round(head.lengthS))}, {counted(head.channels, 'channel')},{' '}
          {formatPlain(head.sampleRate / 1000)} kHz, {head.bits} bits{head.float ? ' float' : ''}.
          {head.recordedAt !== undefined && ` Begun ${dayAndTime(head.recordedAt)} by the recorder’s clock.`}
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

const WORDS = {
  noun: 'recording',
  notes: 'Recordings',
  about:
    'What sounds in a recording is found and given to the runs to come, one after the other; the recording stays with the study.',
  empty:
    'A WAV file that a recorder wrote beside the bench. Whatever sounds in it is found, and becomes a reading of the item whose turn it was.',
  unread: {
    title: 'Nothing in this plan is read from recordings.',
    todo: 'Choose “Recording” as the reading form of a measurand first.',
  },
};

/** From one long recording to many readings: what sounds in it, whose it is, and how loud. */
export function Recordings() {
  const document = useStudy();
  const files = soundsIn(document);
  const [arriving, setArriving] = useState<{ ticket: string; name: string }>();
  const keep = async (file: File) => {
    try {
      return await addRecording(document.study.id, file, document.files, (ticket) => {
        setArriving({ ticket, name: file.name });
      });
    } finally {
      setArriving(undefined);
    }
  };
  return (
    <FilesPage
      form={recording.name}
      files={files}
      accept={FILES}
      words={WORDS}
      keep={keep}
      arriving={
        <>
          <BeingRecorded studyId={document.study.id} />
          {arriving && <Arriving {...arriving} />}
        </>
      }
    >
      {(measurand, head) => (
        <RecordingsOf
          key={measurand.id}
          document={document}
          measurand={measurand}
          files={files}
          head={head}
        />
      )}
    </FilesPage>
  );
}
