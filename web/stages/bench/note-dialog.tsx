import { Camera, ImagePlus } from 'lucide-react';
import { type ClipboardEvent, useEffect, useState } from 'react';
import { FileTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { MOST_BYTES, PictureProblem, pictureHead } from '../../../core/formats/picture.ts';
import { isText, useKept } from '../../app/kept.ts';
import { Button } from '../../ui/button.tsx';
import { Dialog, DialogAnswers } from '../../ui/dialog.tsx';
import { FileButton } from '../../ui/file-button.tsx';
import { Row } from '../../ui/page.tsx';
import { Segments } from '../../ui/segments.tsx';
import { Problem } from '../../ui/problem.tsx';
import { TextField } from '../../ui/text-field.tsx';
import type { NoteAbout, NoteSubject } from './note-subjects.ts';

const Preview = styled.img`
  max-width: 100%;
  max-height: 220px;
  border-radius: var(--corner);
  object-fit: contain;
`;

const PICTURES = ['image/jpeg', 'image/png', 'image/webp'];

export interface NoteDialogProps {
  studyId: string;
  /** What the note can be about, the likeliest first. */
  subjects: readonly NoteSubject[];
  onClose: () => void;
  onNote: (text: string, about: NoteAbout, photo: File | undefined) => void;
}

/** A photo that goes with a note, and what takes a file as one. */
function usePhoto(onProblem: (words: string | undefined) => void) {
  const [photo, setPhoto] = useState<{ file: File; address: string }>();
  useEffect(
    () => () => {
      if (photo) URL.revokeObjectURL(photo.address);
    },
    [photo],
  );
  const take = async (file: File) => {
    onProblem(undefined);
    try {
      const bytes = new Uint8Array(await file.slice(0, MOST_BYTES + 1).arrayBuffer());
      const { kind } = pictureHead(bytes);
      const type = kind === 'jpg' ? 'image/jpeg' : `image/${kind}`;
      const known = new File([file], file.name, { type });
      setPhoto({ file: known, address: URL.createObjectURL(known) });
    } catch (error) {
      setPhoto(undefined);
      onProblem(error instanceof PictureProblem ? error.message : 'The file cannot be read.');
    }
  };
  return [photo, take] as const;
}

/** Asks for a photo: a file, the camera, or what is pasted. */
function PhotoButtons({ taken, onFile }: { taken: boolean; onFile: (file: File) => void }) {
  return (
    <Row>
      <FileButton accept={PICTURES} onFile={onFile} size="small">
        <ImagePlus size={18} aria-hidden /> {taken ? 'Another photo' : 'A photo'}
      </FileButton>
      <FileTrigger
        acceptedFileTypes={PICTURES}
        defaultCamera="environment"
        onSelect={(files) => {
          const file = files?.item(0);
          if (file) onFile(file);
        }}
      >
        <Button size="small">
          <Camera size={18} aria-hidden /> Camera
        </Button>
      </FileTrigger>
      <span style={{ color: 'var(--quiet)' }}>or paste one. Where it was taken is not kept.</span>
    </Row>
  );
}

/** A note, with a photo if there is one, to what is at the bench. */
export function NoteDialog({ studyId, subjects, onClose, onNote }: NoteDialogProps) {
  // A dialog that was closed by a slip of the finger has its text again.
  const [text, changeText, forgetText] = useKept(`note/${studyId}`, () => '', isText);
  const [subject, setSubject] = useState(subjects[0]?.value ?? '');
  const [problem, setProblem] = useState<string>();
  const [photo, take] = usePhoto(setProblem);
  const paste = (event: ClipboardEvent) => {
    const file = [...event.clipboardData.files].find(({ type }) => type.startsWith('image/'));
    if (!file) return;
    event.preventDefault();
    void take(file);
  };
  const finish = () => {
    const about = subjects.find(({ value }) => value === subject)?.about;
    if (text.trim() === '' && !photo) {
      setProblem('Write a word, or add a photo.');
      return;
    }
    if (!about) return;
    forgetText();
    onNote(text.trim(), about, photo?.file);
  };
  return (
    <Dialog title="A note" isOpen onClose={onClose}>
      <div onPaste={paste} style={{ display: 'grid', gap: 14 }}>
        <Segments
          label="To"
          options={subjects.map(({ value, label }) => ({ value, label }))}
          value={subject}
          onChange={setSubject}
        />
        <TextField
          label="Note"
          value={text}
          onChange={(next) => {
            changeText(() => next);
          }}
          rows={3}
          maxLength={4000}
          autoFocus
        />
        {photo && <Preview src={photo.address} alt="The photo that goes with the note" />}
        <PhotoButtons taken={photo !== undefined} onFile={(file) => void take(file)} />
        <Problem>{problem}</Problem>
      </div>
      <DialogAnswers
        no="No note"
        onNo={() => {
          forgetText();
          onClose();
        }}
        go="Note it"
        onGo={finish}
      />
    </Dialog>
  );
}
