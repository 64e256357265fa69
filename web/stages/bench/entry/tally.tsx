import { Minus, Plus } from 'lucide-react';
import { Button } from '../../../ui/button.tsx';
import { Key } from '../../../ui/key.tsx';
import { Row } from '../../../ui/page.tsx';
import type { EntryProps } from './entry.ts';
import { Figure } from './frame.tsx';

/** What a key counts. */
const BY_KEY: Readonly<Record<string, number>> = { ' ': 1, '+': 1, '-': -1 };

/** Counts along: a tap or the space bar for each one, or the number typed at the end. */
export function Tally({ run, texts, onText, odd, onEnter, onKey, first }: EntryProps) {
  const text = texts.count ?? '';
  const counted = /^\d+$/.test(text.trim()) ? Number(text) : 0;
  const count = (step: number) => {
    onText('count', String(Math.max(0, counted + step)));
  };
  const { unit } = run.measurand;
  return (
    <>
      <Figure $odd={odd}>
        <input
          ref={first}
          value={text}
          placeholder="0"
          inputMode="numeric"
          autoComplete="off"
          maxLength={16}
          aria-label={`Count of ${run.item.name}${unit ? ` in ${unit}` : ''}`}
          aria-invalid={odd}
          aria-describedby="bench-under"
          onChange={(event) => {
            onText('count', event.target.value);
          }}
          onKeyDown={(event) => {
            const by = BY_KEY[event.key];
            // Held down, a key counts once.
            if (by !== undefined && !event.repeat) count(by);
            else if (by === undefined && !onKey(event, text)) return;
            event.preventDefault();
          }}
        />
        <span>{unit}</span>
        <Button tone="go" size="large" onPress={onEnter}>
          Record <Key>Enter</Key>
        </Button>
      </Figure>
      <Row style={{ marginTop: 12 }}>
        <Button
          size="large"
          onPress={() => {
            count(1);
          }}
        >
          <Plus size={26} aria-hidden /> One more <Key>Space</Key>
        </Button>
        <Button
          size="large"
          tone="quiet"
          isDisabled={counted === 0}
          onPress={() => {
            count(-1);
          }}
        >
          <Minus size={22} aria-hidden /> One less <Key>-</Key>
        </Button>
      </Row>
    </>
  );
}
