import styled from 'styled-components';
import type { Condition } from '../../../../core/model/parts.ts';
import { type ConditionTexts, conditionWarnings } from '../../../../core/bench/session.ts';
import { parseQuantity } from '../../../../core/quantity/parse.ts';
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
  startOf?: (conditionId: string) => number | undefined;
  /** Whether what is wrong is told already. */
  tried: boolean;
}

const understood = ({ unit }: Condition, text: string) => parseQuantity(text, unit);

/** A field for each condition; what is beyond its limits or has moved is said as it is typed. */
export function ConditionFields({ conditions, texts, onText, startOf, tried }: ConditionFieldsProps) {
  const warnings = conditions.flatMap((condition) => {
    const text = texts[condition.id] ?? '';
    const read = text.trim() === '' ? undefined : understood(condition, text);
    return read && 'number' in read ? conditionWarnings(condition, read.number, startOf?.(condition.id)) : [];
  });
  return (
    <Fields>
      {conditions.map((condition) => {
        const text = texts[condition.id] ?? '';
        const read = text.trim() === '' ? undefined : understood(condition, text);
        return (
          <TextField
            key={condition.id}
            label={`${condition.quantity}${condition.required ? '' : ', if you like'}`}
            value={text}
            suffix={condition.unit}
            inputMode="decimal"
            maxLength={60}
            problem={tried && read && 'problem' in read ? read.problem : undefined}
            onChange={(next) => {
              onText(condition.id, next);
            }}
          />
        );
      })}
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
