import type { ReactNode, Ref } from 'react';
import {
  FieldError,
  Input,
  Label,
  Text,
  TextArea,
  TextField as AriaTextField,
  type TextFieldProps as AriaTextFieldProps,
} from 'react-aria-components';
import styled, { css } from 'styled-components';
import { label as labelStyle } from './tokens.ts';

const Field = styled(AriaTextField)`
  display: flex;
  flex-direction: column;
  gap: 4px;
  min-width: 0;
`;

export const FieldLabel = styled(Label)`
  ${labelStyle}
`;

const box = css`
  width: 100%;
  min-height: 44px;
  padding: 8px 12px;
  border: 1px solid var(--rule-strong);
  border-radius: var(--corner);
  background: var(--sheet);
  &::placeholder {
    color: var(--quiet);
    opacity: 1;
  }
  &[data-hovered] {
    border-color: var(--ink);
  }
  &[data-focused] {
    outline: 2px solid var(--fern);
    outline-offset: -1px;
  }
  &[data-invalid] {
    border-color: var(--rust);
    outline-color: var(--rust);
  }
`;

const Line = styled.div`
  position: relative;
  display: flex;
  align-items: center;
`;

/** A longer suffix lies over what is typed, which needs the room. */
const LONGEST_SUFFIX = 8;

const StyledInput = styled(Input)<{ $suffix: number }>`
  ${box}
  ${({ $suffix }) =>
    $suffix > 0 && `padding-right: calc(18px + ${String(Math.min($suffix, LONGEST_SUFFIX))}ch);`}
`;

const StyledArea = styled(TextArea)`
  ${box}
  resize: vertical;
  line-height: 1.45;
`;

const Suffix = styled.span`
  position: absolute;
  right: 12px;
  color: var(--quiet);
  pointer-events: none;
`;

export const FieldHelp = styled(Text)`
  font-size: var(--size-13);
  color: var(--quiet);
`;

export const FieldProblem = styled(FieldError)`
  font-size: var(--size-15);
  color: var(--rust);
  font-weight: 560;
  /* What was typed stands in it, as long as it may be. */
  overflow-wrap: anywhere;
`;

export interface TextFieldProps extends Omit<AriaTextFieldProps, 'onKeyDown'> {
  /** Called for Enter in a single line; all other keys go on to whoever is around. */
  onEnter?: () => void;
  label: string;
  /** Shown to readers only. */
  labelHidden?: boolean;
  help?: string | undefined;
  problem?: ReactNode;
  suffix?: string | undefined;
  placeholder?: string | undefined;
  /** Lines of text; one makes it an input. */
  rows?: number;
  inputRef?: Ref<HTMLInputElement>;
  list?: string;
}

/** One line, or several, of typed text with its label, help and what is wrong with it. */
export function TextField({
  label,
  labelHidden = false,
  help,
  problem,
  suffix,
  placeholder,
  rows = 1,
  inputRef,
  list,
  onEnter,
  ...props
}: TextFieldProps) {
  return (
    <Field
      {...props}
      {...(labelHidden ? { 'aria-label': label } : {})}
      onKeyDown={(event) => {
        if (event.key === 'Enter' && onEnter) onEnter();
        else event.continuePropagation();
      }}
      isInvalid={Boolean(problem)}
      validationBehavior="aria"
    >
      {!labelHidden && <FieldLabel>{label}</FieldLabel>}
      {rows > 1 ? (
        <StyledArea rows={rows} placeholder={placeholder ?? ''} />
      ) : (
        <Line>
          <StyledInput
            ref={inputRef}
            dir="auto"
            list={list}
            placeholder={placeholder ?? ''}
            $suffix={suffix?.length ?? 0}
          />
          {suffix && <Suffix aria-hidden>{suffix}</Suffix>}
        </Line>
      )}
      {help && !problem && <FieldHelp slot="description">{help}</FieldHelp>}
      <FieldProblem>{problem}</FieldProblem>
    </Field>
  );
}
