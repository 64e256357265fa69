import { Trash2 } from 'lucide-react';
import styled from 'styled-components';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { CONFOUND_HANDLINGS } from '../../../core/model/words.ts';
import { patchStudy } from '../../app/api/studies.ts';
import { SavedText } from '../../app/draft-field.tsx';
import { AddLine } from '../../ui/add-line.tsx';
import { Choice } from '../../ui/choice.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { QuietFields } from '../../ui/quiet-fields.tsx';
import { tell } from '../../app/tell.ts';

const Line = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1.3fr) 140px minmax(0, 1fr) 44px;
  gap: 8px;
  margin-bottom: 6px;
  align-items: start;
`;

const HANDLING_LABELS = {
  held: { label: 'Held', help: 'kept the same for all items' },
  recorded: { label: 'Recorded', help: 'written down with the readings' },
  accepted: { label: 'Accepted', help: 'part of what is compared, or too costly to change' },
} as const;

/** What else changes when the item changes, and what is done about it. */
export function Confounds({ document: { study } }: { document: StudyDocument }) {
  const { confounds } = study;
  const save = (next: typeof confounds) => patchStudy(study, { confounds: next });
  const change = (place: number, part: Partial<(typeof confounds)[number]>) =>
    save(confounds.map((confound, i) => (i === place ? { ...confound, ...part } : confound)));
  return (
    <>
      {confounds.map((confound, place) => (
        <QuietFields as={Line} key={`${String(place)}/${confound.what}`}>
          <SavedText
            label={`Confound ${String(place + 1)}`}
            labelHidden
            saved={confound.what}
            required
            save={(next) => change(place, { what: next })}
          />
          <Choice
            label={`What is done about ${confound.what}`}
            labelHidden
            value={confound.handling}
            options={CONFOUND_HANDLINGS.map((value) => ({ value, ...HANDLING_LABELS[value] }))}
            onChange={(handling) => {
              tell(change(place, { handling }));
            }}
          />
          <SavedText
            label={`Note on ${confound.what}`}
            labelHidden
            saved={confound.note}
            placeholder="How"
            save={(note) => change(place, { note })}
          />
          <IconButton
            label={`Remove ${confound.what}`}
            onPress={() => {
              tell(save(confounds.filter((_, i) => i !== place)));
            }}
          >
            <Trash2 size={18} aria-hidden />
          </IconButton>
        </QuietFields>
      ))}
      <AddLine
        label="Add a confound"
        placeholder="What else changes with the item"
        empty="Say what changes along."
        onAdd={(what) => {
          tell(save([...confounds, { what, handling: 'held', note: '' }]));
          return undefined;
        }}
      />
    </>
  );
}
