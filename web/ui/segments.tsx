import { RadioButton, RadioField, RadioGroup } from 'react-aria-components';
import styled from 'styled-components';
import { FieldLabel } from './text-field.tsx';
import { FORCED, focusRing } from './tokens.ts';

const Group = styled(RadioGroup)`
  display: flex;
  flex-direction: column;
  gap: 4px;
`;

const Row = styled.div`
  display: inline-flex;
  width: fit-content;
  max-width: 100%;
  flex-wrap: wrap;
  border: 1px solid var(--rule-strong);
  border-radius: var(--corner);
  background: var(--sheet);
  overflow: clip;
`;

const Segment = styled(RadioButton)`
  display: grid;
  place-items: center;
  min-height: 42px;
  padding: 6px 14px;
  cursor: pointer;
  &[data-hovered] {
    background: var(--hover);
  }
  &[data-selected] {
    background: var(--fern-soft);
    font-weight: 660;
    box-shadow: inset 0 -3px 0 var(--fern);
  }
  ${FORCED} {
    &[data-selected] {
      border-bottom: 4px solid Highlight;
    }
  }
  &[data-focus-visible] {
    ${focusRing}
    outline-offset: -3px;
    border-radius: var(--corner);
  }
`;

const Field = styled(RadioField)`
  & + & {
    border-left: 1px solid var(--rule);
  }
`;

export interface SegmentsProps<T extends string> {
  label: string;
  labelHidden?: boolean;
  options: readonly { value: T; label: string }[];
  value: T;
  onChange: (value: T) => void;
}

/** One of a few, all in view. */
export function Segments<T extends string>({
  label,
  labelHidden = false,
  options,
  value,
  onChange,
}: SegmentsProps<T>) {
  return (
    <Group
      value={value}
      onChange={(next) => {
        onChange(next as T);
      }}
      orientation="horizontal"
      {...(labelHidden ? { 'aria-label': label } : {})}
    >
      {!labelHidden && <FieldLabel>{label}</FieldLabel>}
      <Row>
        {options.map((option) => (
          <Field key={option.value} value={option.value}>
            <Segment>{option.label}</Segment>
          </Field>
        ))}
      </Row>
    </Group>
  );
}
