import { scoreMarks } from '../../../../core/forms/score.ts';
import { Button } from '../../../ui/button.tsx';
import { Key } from '../../../ui/key.tsx';
import { Row } from '../../../ui/page.tsx';
import type { EntryProps } from './entry.ts';
import { Figure } from './frame.tsx';

/** Ordered marks: a figure or a tap chooses one, Enter records it. */
export function Marks({ run, texts, onText, odd, onEnter, onKey, first }: EntryProps) {
  const marks = scoreMarks(run.measurand.settings);
  const text = texts.mark ?? '';
  return (
    <>
      <Figure $odd={odd}>
        <input
          ref={first}
          value={text}
          placeholder="–"
          autoComplete="off"
          maxLength={60}
          aria-label={`Mark of ${run.item.name}: ${marks.join(', ')}`}
          aria-invalid={odd}
          aria-describedby="bench-under"
          onChange={(event) => {
            onText('mark', event.target.value);
          }}
          onKeyDown={(event) => {
            const mark = /^[1-9]$/.test(event.key) ? marks[Number(event.key) - 1] : undefined;
            if (mark !== undefined) onText('mark', mark);
            else if (!onKey(event, text)) return;
            event.preventDefault();
          }}
        />
        <Button tone="go" size="large" onPress={onEnter}>
          Record <Key>Enter</Key>
        </Button>
      </Figure>
      <Row style={{ marginTop: 12 }}>
        {marks.map((mark, i) => (
          <Button
            key={mark}
            size="large"
            {...(mark === text ? { tone: 'go' as const } : {})}
            onPress={() => {
              onText('mark', mark);
              first.current?.focus();
            }}
          >
            {i < 9 && <Key>{String(i + 1)}</Key>} {mark}
          </Button>
        ))}
      </Row>
    </>
  );
}
