import { Shuffle } from 'lucide-react';
import styled from 'styled-components';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { roundOrder } from '../../../core/plan/run-order.ts';
import { problemText } from '../../app/api/client.ts';
import { patchStudy } from '../../app/api/studies.ts';
import { SavedNumber } from '../../app/draft-field.tsx';
import { MarkSign } from '../../strip/mark-sign.tsx';
import { Button } from '../../ui/button.tsx';
import { Row } from '../../ui/page.tsx';
import { Scroll } from '../../ui/table.tsx';
import { toast } from '../../ui/toast.tsx';

const Fields = styled(Row)`
  align-items: flex-start;
  > * {
    width: 148px;
  }
  > button {
    width: auto;
    margin-top: 22px;
  }
`;

const Orders = styled.ol`
  display: inline-grid;
  grid-template-columns: auto 1fr;
  gap: 6px 16px;
  margin-top: 18px;
  li {
    display: contents;
  }
  span {
    font-size: var(--size-13);
    color: var(--quiet);
    white-space: nowrap;
  }
`;

const Marks = styled.div`
  display: flex;
  gap: 14px;
  b {
    display: inline-flex;
    align-items: center;
    gap: 6px;
    min-width: 44px;
    font-size: var(--size-15);
    font-weight: 560;
  }
`;

const wholeNumber = (low: number, high: number) => (value: number) =>
  Number.isInteger(value) && value >= low && value <= high
    ? undefined
    : `A whole number from ${String(low)} to ${String(high)}.`;

/** How many rounds, and the shuffled order of each, made from a seed that is shown. */
export function RunOrder({ document }: { document: StudyDocument }) {
  const { study, items, readings } = document;
  const codes = new Map(items.map((item) => [item.id, item]));
  const reshuffle = () => {
    const [seed] = crypto.getRandomValues(new Uint32Array(1));
    patchStudy(study, { seed: (seed as number) % 100000 }).catch((error: unknown) => {
      toast({ text: problemText(error), tone: 'attention' });
    });
  };
  const shown = Math.min(study.rounds, 8);
  return (
    <>
      <Fields>
        <SavedNumber
          label="Rounds"
          saved={study.rounds}
          required
          check={wholeNumber(1, 500)}
          help="Readings per item"
          save={(rounds) => patchStudy(study, { rounds: rounds ?? 1 })}
        />
        <SavedNumber
          label="Seed of the order"
          saved={study.seed}
          required
          check={wholeNumber(0, 4294967295)}
          help={readings.length > 0 ? 'Fixed by the first reading' : 'Makes it again'}
          isDisabled={readings.length > 0}
          save={(seed) => patchStudy(study, { seed: seed ?? 0 })}
        />
        <Button onPress={reshuffle} isDisabled={readings.length > 0}>
          <Shuffle size={18} aria-hidden /> Shuffle again
        </Button>
      </Fields>
      {items.length > 1 && (
        <Scroll aria-label="Order of the items in each round">
          <Orders>
            {Array.from({ length: shown }, (_, i) => (
              <li key={i}>
                <span>Round {i + 1}</span>
                <Marks>
                  {roundOrder([...codes.keys()], study.seed, i + 1).map((id) => {
                    const item = codes.get(id);
                    return (
                      item && (
                        <b key={id}>
                          <MarkSign mark={item.mark} size={14} />
                          {item.code}
                        </b>
                      )
                    );
                  })}
                </Marks>
              </li>
            ))}
            {study.rounds > shown && (
              <li>
                <span>…</span>
                <span>{study.rounds - shown} more, each shuffled anew</span>
              </li>
            )}
          </Orders>
        </Scroll>
      )}
    </>
  );
}
