import styled from 'styled-components';
import { parseQuantity } from '../../core/quantity/parse.ts';
import { spanText } from '../../core/quantity/clock.ts';
import { formatPlain } from '../../core/quantity/format.ts';
import { Button } from '../ui/button.tsx';
import { Span } from '../ui/span.tsx';
import { TextField, type TextFieldProps } from '../ui/text-field.tsx';
import { type Draft, useDraft } from './draft.ts';

const Clash = styled.span`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
`;

interface Plain extends Omit<TextFieldProps, 'value' | 'onChange' | 'onBlur' | 'onEnter' | 'problem'> {
  /** How many columns of a grid it takes, where it stands in one. */
  columns?: number;
}

function DraftField({ draft, columns, ...field }: Plain & { draft: Draft }) {
  const input = (
    <TextField
      {...field}
      value={draft.text}
      onChange={draft.change}
      onBlur={draft.commit}
      {...((field.rows ?? 1) === 1 ? { onEnter: draft.commit } : {})}
      problem={
        draft.theirs === undefined ? (
          draft.problem
        ) : (
          <Clash>
            Changed somewhere else to “{draft.theirs}”.
            <Button size="small" onPress={draft.keepMine}>
              Keep mine
            </Button>
            <Button size="small" tone="quiet" onPress={draft.takeTheirs}>
              Take theirs
            </Button>
          </Clash>
        )
      }
    />
  );
  return columns === undefined ? input : <Span $columns={columns}>{input}</Span>;
}

export interface SavedTextProps extends Plain {
  saved: string;
  save: (value: string) => Promise<unknown>;
  /** An empty text is refused. */
  required?: boolean;
}

/** A text that saves itself when it is left. */
export function SavedText({ saved, save, required = false, ...field }: SavedTextProps) {
  const draft = useDraft({
    saved,
    toText: (value: string) => value,
    parse: (text) =>
      required && text.trim() === ''
        ? { problem: `${field.label} must not be empty.` }
        : { value: required ? text.trim() : text },
    save,
  });
  return <DraftField {...field} draft={draft} />;
}

export interface SavedAsProps<T> extends Plain {
  saved: T;
  toText: (value: T) => string;
  /** Understands what was typed, or says what is wrong with it. */
  parse: (text: string) => { value: T } | { problem: string };
  save: (value: T) => Promise<unknown>;
}

/** Anything that is shown as a text and saves itself when it is left. */
export function SavedAs<T>({ saved, toText, parse, save, ...field }: SavedAsProps<T>) {
  const draft = useDraft<T>({ saved, toText, parse, save });
  return <DraftField {...field} draft={draft} />;
}

export interface SavedNumberProps extends Plain {
  saved: number | null;
  save: (value: number | null) => Promise<unknown>;
  unit?: string;
  required?: boolean;
  /** Says what is wrong with a number that was understood. */
  check?: (value: number) => string | undefined;
}

/** A number that saves itself when it is left; understood as people write it. */
export function SavedNumber({ saved, save, unit = '', required = false, check, ...field }: SavedNumberProps) {
  const draft = useDraft<number | null>({
    saved,
    toText: (value) =>
      value === null
        ? ''
        : formatPlain(value)
            .replace('\u2212', '-')
            .replace(/\u202f/g, ''),
    parse: (text) => {
      if (text.trim() === '')
        return required ? { problem: `${field.label} needs a number.` } : { value: null };
      const understood = parseQuantity(text, unit);
      if ('problem' in understood) return understood;
      const wrong = check?.(understood.number);
      return wrong === undefined ? { value: understood.number } : { problem: wrong };
    },
    save,
  });
  return <DraftField {...field} suffix={unit} draft={draft} />;
}

export interface SavedSpanProps extends Plain {
  /** Seconds. */
  saved: number;
  parse: (text: string) => { value: number } | { problem: string };
  save: (seconds: number) => Promise<unknown>;
}

/** A length of time as h:mm:ss that saves itself when it is left. */
export function SavedSpan({ saved, parse, save, ...field }: SavedSpanProps) {
  const draft = useDraft({ saved, toText: spanText, parse, save });
  return <DraftField {...field} draft={draft} />;
}
