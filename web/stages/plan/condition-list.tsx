import { Plus, Trash2 } from 'lucide-react';
import styled from 'styled-components';
import type { Condition } from '../../../core/model/parts.ts';
import { conditionsInOrder } from '../../../core/bench/session.ts';
import { CONDITION_KINDS, conditionKind } from '../../../core/conditions/index.ts';
import { newCondition } from '../../../core/plan/new-parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { createPart, deletePart, patchPart } from '../../app/api/studies.ts';
import { SavedNumber, SavedText } from '../../app/draft-field.tsx';
import { RangeFields } from '../../app/range-fields.tsx';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/choice.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { tell } from '../../app/tell.ts';

const Line = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1.6fr) 124px 130px 74px repeat(3, minmax(0, 1fr)) 44px;
  gap: 8px;
  margin-bottom: 10px;
  > button {
    grid-column: -2;
    margin-top: 22px;
  }
  @media (max-width: 900px) {
    grid-template-columns: repeat(4, minmax(0, 1fr)) 44px;
    padding-bottom: 12px;
    border-bottom: 1px dashed var(--rule);
    > :first-child {
      grid-column: span 2;
    }
    > button {
      grid-row: 1;
    }
  }
  @media (max-width: 560px) {
    grid-template-columns: repeat(2, minmax(0, 1fr)) 44px;
  }
`;

const Wide = styled.div`
  grid-column: 4 / -2;
  @media (max-width: 900px) {
    grid-column: 1 / -2;
  }
`;

type Save = (changes: Partial<Condition>) => Promise<unknown>;

/** What a quantity is read in, and when it is cause to wait. */
function QuantityFields({
  condition: { unit, limits, tolerableDrift },
  save,
}: {
  condition: Condition;
  save: Save;
}) {
  return (
    <>
      <SavedText label="Unit" saved={unit} save={(next) => save({ unit: next.trim() })} />
      <SavedNumber
        label="Drift allowed"
        saved={tolerableDrift}
        unit={unit}
        placeholder="–"
        check={(value) => (value < 0 ? 'A drift is 0 or more.' : undefined)}
        save={(next) => save({ tolerableDrift: next })}
      />
      <RangeFields
        range={limits}
        labels={['Wait below', 'Wait above']}
        unit={unit}
        save={(range) => save({ limits: range })}
      />
    </>
  );
}

/** What only a quantity has, taken away. */
const NO_QUANTITY = { unit: '', tolerableDrift: null, limits: { low: null, high: null } };

function ConditionFields({ condition, wasRead }: { condition: Condition; wasRead: boolean }) {
  const { kind, words } = condition;
  const save: Save = (changes) => patchPart('conditions', condition, changes);
  const { isQuantity, takesWords } = conditionKind(condition);
  // What was read as one kind says nothing as another.
  const kinds = wasRead ? CONDITION_KINDS.filter(({ name }) => name === kind) : CONDITION_KINDS;
  return (
    <Line>
      <SavedText
        label="Condition"
        saved={condition.quantity}
        required
        save={(quantity) => save({ quantity })}
      />
      <Choice
        label="It is"
        value={kind}
        options={kinds.map(({ name, label }) => ({ value: name, label }))}
        onChange={(name) => {
          const changes = { kind: name, words: [] };
          tell(save(conditionKind(changes).isQuantity ? changes : { ...changes, ...NO_QUANTITY }));
        }}
      />
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
      {isQuantity && <QuantityFields condition={condition} save={save} />}
      {takesWords && (
        <Wide>
          <SavedText
            label="Words to choose from"
            saved={words.join(', ')}
            placeholder="dry, damp, wet; or none, and it is typed"
            save={(text) => save({ words: listOf(text) })}
          />
        </Wide>
      )}
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

/** The words of a text, one after each comma or semicolon. */
const listOf = (text: string): string[] =>
  text
    .split(/[,;]/)
    .map((word) => word.trim())
    .filter((word) => word !== '');

/** Conditions of the room to record: whether required, how much drift is tolerable, when to wait. */
export function ConditionList({ document }: { document: StudyDocument }) {
  const conditions = conditionsInOrder(document);
  const read = new Set(
    document.sessions.flatMap((session) => session.conditions.map(({ conditionId }) => conditionId)),
  );
  const add = () => {
    tell(
      createPart(
        document.study.id,
        'conditions',
        newCondition(
          conditions.length === 0 ? 'Air temperature' : `Condition ${String(conditions.length + 1)}`,
          conditions.length === 0 ? '°C' : '',
          Math.max(0, ...conditions.map(({ position }) => position)) + 1,
        ),
      ),
    );
  };
  return (
    <>
      {conditions.map((condition) => (
        <ConditionFields key={condition.id} condition={condition} wasRead={read.has(condition.id)} />
      ))}
      <Button onPress={add}>
        <Plus size={18} aria-hidden /> {conditions.length === 0 ? 'Air temperature' : 'Another condition'}
      </Button>
    </>
  );
}
