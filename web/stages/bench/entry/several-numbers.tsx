import { useRef, useState } from 'react';
import { readingForm } from '../../../../core/forms/index.ts';
import { Button } from '../../../ui/button.tsx';
import { Key } from '../../../ui/key.tsx';
import type { EntryProps } from './entry.ts';
import { Figures, LabelledFigure } from './frame.tsx';

/** A few numbers side by side: before and after, a reference and what is indicated, releases. Enter goes on to the next. */
export function SeveralNumbers({ run, texts, onText, wrongPart, onEnter, onKey, first }: EntryProps) {
  const row = useRef<HTMLDivElement>(null);
  const parts = readingForm(run.measurand.form)?.parts(run.measurand) ?? [];
  // A part that is filled in already, such as what the last one recovered, is not the one to type.
  const isEmpty = ({ name }: { name: string }) => (texts[name] ?? '').trim() === '';
  const [begin] = useState(() => Math.max(0, parts.findIndex(isEmpty)));
  const next = (place: number) => {
    const inputs = row.current?.querySelectorAll('input') ?? [];
    const empty = parts.findIndex((part, i) => i > place && isEmpty(part));
    if (empty !== -1) inputs[empty]?.focus();
    else onEnter();
  };
  return (
    <Figures ref={row}>
      {parts.map(({ name, label, unit, optional }, place) => {
        const text = texts[name] ?? '';
        return (
          <LabelledFigure key={name} $odd={wrongPart === name}>
            <small>
              {label}
              {optional && ', if there is one'}
            </small>
            <span>
              <input
                ref={place === begin ? first : undefined}
                value={text}
                inputMode="decimal"
                autoComplete="off"
                autoCorrect="off"
                spellCheck={false}
                enterKeyHint={place === parts.length - 1 ? 'done' : 'next'}
                maxLength={60}
                aria-label={`${label} of ${run.item.name}${unit ? ` in ${unit}` : ''}`}
                aria-invalid={wrongPart === name}
                aria-describedby="bench-under"
                onFocus={(event) => {
                  // Typing over what is there replaces it, and never joins it.
                  event.target.select();
                }}
                onChange={(event) => {
                  onText(name, event.target.value);
                }}
                onKeyDown={(event) => {
                  if (event.key === 'Enter' && text.trim() !== '' && !event.ctrlKey) {
                    event.preventDefault();
                    next(place);
                  } else if (onKey(event, text)) event.preventDefault();
                }}
              />
              {unit}
            </span>
          </LabelledFigure>
        );
      })}
      <Button tone="go" size="large" onPress={onEnter}>
        Record <Key>Enter</Key>
      </Button>
    </Figures>
  );
}
