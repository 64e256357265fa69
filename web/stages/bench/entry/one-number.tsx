import { Button } from '../../../ui/button.tsx';
import { Key } from '../../../ui/key.tsx';
import { readingForm } from '../../../../core/forms/index.ts';
import type { EntryProps } from './entry.ts';
import { EntryName, Figure } from './frame.tsx';

/** One number and Enter. */
export function OneNumber({ run, texts, onText, odd, onEnter, onKey, first }: EntryProps) {
  const part = readingForm(run.measurand.form)?.parts(run.measurand)[0];
  if (!part) return null;
  const text = texts[part.name] ?? '';
  return (
    <>
      <EntryName>
        {run.measurand.name}
        {part.unit && `, in ${part.unit}`}: type what is read, then Enter
      </EntryName>
      <Figure
        $odd={odd}
        onClick={() => {
          first.current?.focus();
        }}
      >
        <input
          ref={first}
          value={text}
          inputMode="decimal"
          autoComplete="off"
          autoCorrect="off"
          spellCheck={false}
          enterKeyHint="done"
          maxLength={60}
          aria-label={`Reading of ${run.item.name}${part.unit ? ` in ${part.unit}` : ''}`}
          aria-invalid={odd}
          aria-describedby="bench-under"
          onChange={(event) => {
            onText(part.name, event.target.value);
          }}
          onKeyDown={(event) => {
            if (onKey(event, text)) event.preventDefault();
          }}
        />
        <span>{part.unit}</span>
        <Button tone="go" size="large" onPress={onEnter}>
          Record <Key>Enter</Key>
        </Button>
      </Figure>
    </>
  );
}
