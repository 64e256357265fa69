import styled from 'styled-components';
import type { Condition } from '../../../../core/model/parts.ts';
import type { ConditionTexts } from '../../../../core/bench/session.ts';
import { type ConditionSeen, conditionKind } from '../../../../core/conditions/index.ts';
import { Choice } from '../../../ui/choice.tsx';
import { Segments } from '../../../ui/segments.tsx';
import { CONDITION_TEXT_LIMIT } from '../../../../core/model/limits.ts';
import { TextField } from '../../../ui/text-field.tsx';

const Fields = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 12px 16px;
`;

const Warning = styled.p`
  grid-column: 1 / -1;
  color: var(--rust);
  font-weight: 600;
`;

export interface ConditionFieldsProps {
  conditions: readonly Condition[];
  texts: ConditionTexts;
  onText: (conditionId: string, text: string) => void;
  /** What each was when the session began, to tell how far it has moved. */
  startOf?: (conditionId: string) => ConditionSeen | undefined;
  /** Whether what is wrong is told already. */
  tried: boolean;
}

/** What a text means for a condition; undefined while nothing is typed. */
const understood = (condition: Condition, text: string) =>
  text.trim() === '' ? undefined : conditionKind(condition).read(text.trim(), condition);

/** So many choices are all in view, in the width of a field. */
const FEW_CHOICES = 2;
/** Stands for nothing chosen; no word of a plan can be this. */
const NOT_NOTED = '\u0000';

function ConditionField({
  condition,
  text,
  tried,
  onText,
}: {
  condition: Condition;
  text: string;
  tried: boolean;
  onText: (text: string) => void;
}) {
  const label = `${condition.quantity}${condition.required ? '' : ', if you like'}`;
  const { choices, isQuantity } = conditionKind(condition);
  const offered = choices(condition);
  if (offered.length > 0) {
    const Field = offered.length > FEW_CHOICES ? Choice : Segments;
    return (
      <Field
        label={label}
        value={text === '' ? NOT_NOTED : text}
        options={[
          { value: NOT_NOTED, label: 'not noted' },
          ...offered.map((value) => ({ value, label: value })),
        ]}
        onChange={(value) => {
          onText(value === NOT_NOTED ? '' : value);
        }}
      />
    );
  }
  const read = understood(condition, text);
  return (
    <TextField
      label={label}
      value={text}
      suffix={condition.unit}
      inputMode={isQuantity ? 'decimal' : 'text'}
      maxLength={CONDITION_TEXT_LIMIT}
      problem={tried && read && 'problem' in read ? read.problem : undefined}
      onChange={onText}
    />
  );
}

/** A field for each condition; what is beyond its limits or has moved is said as it is typed. */
export function ConditionFields({ conditions, texts, onText, startOf, tried }: ConditionFieldsProps) {
  const warnings = conditions.flatMap((condition) => {
    const read = understood(condition, texts[condition.id] ?? '');
    return read && 'number' in read
      ? conditionKind(condition).warnings(read, condition, startOf?.(condition.id))
      : [];
  });
  return (
    <Fields>
      {conditions.map((condition) => (
        <ConditionField
          key={condition.id}
          condition={condition}
          text={texts[condition.id] ?? ''}
          tried={tried}
          onText={(text) => {
            onText(condition.id, text);
          }}
        />
      ))}
      {warnings.length > 0 && (
        <div role="alert" style={{ gridColumn: '1 / -1' }}>
          {warnings.map((warning) => (
            <Warning key={warning}>{warning}</Warning>
          ))}
        </div>
      )}
    </Fields>
  );
}
