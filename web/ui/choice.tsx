import { ChevronDown } from 'lucide-react';
import { Button, ListBox, ListBoxItem, Popover, Select, SelectValue } from 'react-aria-components';
import styled from 'styled-components';
import { FieldLabel } from './text-field.tsx';
import { focusRing } from './tokens.ts';

const Field = styled(Select)`
  display: flex;
  flex-direction: column;
  gap: 4px;
  min-width: 0;
`;

const Trigger = styled(Button)`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
  min-height: 44px;
  padding: 8px 10px 8px 12px;
  border: 1px solid var(--rule-strong);
  border-radius: var(--corner);
  background: var(--sheet);
  cursor: pointer;
  text-align: left;
  &[data-hovered] {
    border-color: var(--ink);
  }
  &[data-focus-visible] {
    ${focusRing}
  }
  .react-aria-SelectValue {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;

export const Sheetlet = styled(Popover)`
  min-width: var(--trigger-width);
  max-width: 360px;
  padding: 4px;
  border: 1px solid var(--rule-strong);
  border-radius: var(--corner-large);
  background: var(--sheet);
  color: var(--ink);
  box-shadow: 0 8px 28px var(--shade);
  overflow: auto;
`;

const Option = styled(ListBoxItem)`
  display: flex;
  flex-direction: column;
  min-height: 40px;
  justify-content: center;
  padding: 6px 12px;
  border-radius: 6px;
  cursor: pointer;
  outline: none;
  &[data-focused] {
    background: var(--fern-soft);
  }
  &[data-selected] {
    font-weight: 660;
  }
  small {
    font-size: var(--size-13);
    font-weight: 400;
    color: var(--quiet);
  }
`;

export interface ChoiceOption<T extends string> {
  value: T;
  label: string;
  help?: string;
}

export interface ChoiceProps<T extends string> {
  label: string;
  labelHidden?: boolean;
  options: readonly ChoiceOption<T>[];
  value: T;
  onChange: (value: T) => void;
}

/** One of a list that is opened. */
export function Choice<T extends string>({
  label,
  labelHidden = false,
  options,
  value,
  onChange,
}: ChoiceProps<T>) {
  return (
    <Field
      {...(labelHidden ? { 'aria-label': label } : {})}
      value={value}
      onChange={(key) => {
        onChange(key as T);
      }}
    >
      {!labelHidden && <FieldLabel>{label}</FieldLabel>}
      <Trigger>
        <SelectValue>{({ selectedText }) => selectedText}</SelectValue>
        <ChevronDown size={18} aria-hidden />
      </Trigger>
      <Sheetlet>
        <ListBox items={options.map((option) => ({ ...option, id: option.value }))}>
          {(option) => (
            <Option id={option.value} textValue={option.label}>
              {option.label}
              {option.help && <small>{option.help}</small>}
            </Option>
          )}
        </ListBox>
      </Sheetlet>
    </Field>
  );
}
