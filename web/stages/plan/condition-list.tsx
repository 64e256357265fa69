import { Plus, Trash2 } from 'lucide-react';
import styled from 'styled-components';
import type { Condition } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { createPart, deletePart, patchPart } from '../../app/api/studies.ts';
import { SavedNumber, SavedText } from '../../app/draft-field.tsx';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/choice.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { tell } from '../../app/tell.ts';

const Line = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1.6fr) 84px 130px repeat(3, minmax(0, 1fr)) 44px;
  gap: 8px;
  margin-bottom: 10px;
  > button {
    margin-top: 22px;
  }
  @media (max-width: 720px) {
    grid-template-columns: repeat(3, minmax(0, 1fr));
    padding-bottom: 12px;
    border-bottom: 1px dashed var(--rule);
  }
`;

function ConditionFields({ condition }: { condition: Condition }) {
  const { limits, unit } = condition;
  const save = (changes: Partial<Condition>) => patchPart('conditions', condition, changes);
  return (
    <Line>
      <SavedText
        label="Condition"
        saved={condition.quantity}
        required
        save={(quantity) => save({ quantity })}
      />
      <SavedText label="Unit" saved={unit} save={(next) => save({ unit: next.trim() })} />
      <Choice
        label="Must be given"
        value={condition.required ? 'required' : 'free'}
        options={[
          { value: 'required', label: 'Required' },
          { value: 'free', label: 'If at hand' },
        ]}
        onChange={(value) => {
          tell(save({ required: value === 'required' }));
        }}
      />
      <SavedNumber
        label="Drift allowed"
        saved={condition.tolerableDrift}
        unit={unit}
        placeholder="–"
        check={(value) => (value < 0 ? 'A drift is 0 or more.' : undefined)}
        save={(tolerableDrift) => save({ tolerableDrift })}
      />
      <SavedNumber
        label="Wait below"
        saved={limits.low}
        unit={unit}
        placeholder="–"
        check={(low) =>
          limits.high !== null && low >= limits.high ? 'Must be below the other limit.' : undefined
        }
        save={(low) => save({ limits: { ...limits, low } })}
      />
      <SavedNumber
        label="Wait above"
        saved={limits.high}
        unit={unit}
        placeholder="–"
        check={(high) =>
          limits.low !== null && high <= limits.low ? 'Must be above the other limit.' : undefined
        }
        save={(high) => save({ limits: { ...limits, high } })}
      />
      <IconButton
        label={`Remove ${condition.quantity}`}
        onPress={() => {
          tell(deletePart('conditions', condition));
        }}
      >
        <Trash2 size={18} aria-hidden />
      </IconButton>
    </Line>
  );
}

/** Conditions of the room to record: whether required, how much drift is tolerable, when to wait. */
export function ConditionList({ document }: { document: StudyDocument }) {
  const conditions = [...document.conditions].sort((a, b) => a.position - b.position);
  const add = () => {
    tell(
      createPart(document.study.id, 'conditions', {
        quantity: conditions.length === 0 ? 'Air temperature' : `Condition ${String(conditions.length + 1)}`,
        unit: conditions.length === 0 ? '°C' : '',
        required: true,
        tolerableDrift: null,
        limits: { low: null, high: null },
        position: Math.max(0, ...conditions.map(({ position }) => position)) + 1,
      }),
    );
  };
  return (
    <>
      {conditions.map((condition) => (
        <ConditionFields key={condition.id} condition={condition} />
      ))}
      <Button onPress={add}>
        <Plus size={18} aria-hidden /> {conditions.length === 0 ? 'Air temperature' : 'Another condition'}
      </Button>
    </>
  );
}
