import { Shuffle } from 'lucide-react';
import styled from 'styled-components';
import { itemsInOrder } from '../../../core/model/in-order.ts';
import { NEW_STUDY } from '../../../core/model/new-study.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { UNEVEN } from '../../../core/plan/findings.ts';
import { firstPlaceToCome } from '../../../core/bench/queue.ts';
import { type OrderedRun, balanceOf } from '../../../core/plan/run-order.ts';
import { williamsRows } from '../../../core/plan/williams.ts';
import { formatShare } from '../../../core/quantity/format.ts';
import { newSeed, patchStudy } from '../../app/api/studies.ts';
import { SavedNumber } from '../../app/draft-field.tsx';
import { MarkSign } from '../../strip/mark-sign.tsx';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/choice.tsx';
import { Row } from '../../ui/page.tsx';
import { Scroll } from '../../ui/table.tsx';
import { BalancePicture } from './balance-picture.tsx';
import { tell } from '../../app/tell.ts';

/** More rounds than this are counted and not drawn. */
const SHOWN_ROUNDS = 8;
/** More runs than this of one round are counted and not drawn. */
const SHOWN_RUNS = 24;

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

const Wide = styled.div`
  && {
    width: 232px;
  }
`;

const Orders = styled.ol`
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
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
  flex-wrap: wrap;
  gap: 2px 14px;
  b {
    display: inline-flex;
    align-items: center;
    gap: 6px;
    min-width: 44px;
    font-size: var(--size-15);
    font-weight: 560;
    white-space: nowrap;
  }
  small {
    font-size: var(--size-13);
    font-weight: 400;
    color: var(--quiet);
  }
`;

const wholeNumber = (low: number, high: number) => (value: number) =>
  Number.isInteger(value) && value >= low && value <= high
    ? undefined
    : `A whole number from ${String(low)} to ${String(high)}.`;

const ORDER_OPTIONS = [
  {
    value: 'shuffled-rounds',
    label: 'Rounds, each shuffled',
    help: 'drift falls on all items alike; the usual choice',
  },
  {
    value: 'balanced-square',
    label: 'Balanced square',
    help: 'each item follows each other equally often; where one leaves something behind for the next',
  },
  { value: 'full-shuffle', label: 'All shuffled', help: 'no rounds; where changing the item costs nothing' },
  { value: 'fixed', label: 'Fixed', help: 'always in the order of the list; only where nothing drifts' },
] as const;

const Balance = styled.p`
  margin-top: 14px;
  max-width: 72ch;
`;

/** Shuffles the order again; where there are readings, that of the runs to come alone. */
function reshuffle(document: StudyDocument): void {
  const { study, readings } = document;
  if (readings.length === 0) {
    tell(patchStudy(study, { seed: newSeed(), draws: NEW_STUDY.draws }));
    return;
  }
  // What is done stays as it was done; only the runs behind it are put in order again.
  const again = {
    place: firstPlaceToCome(document),
    kind: study.runOrder === 'fixed' ? ('shuffled-rounds' as const) : study.runOrder,
    seed: newSeed(),
    madeAt: new Date().toISOString(),
  };
  tell(patchStudy(study, { reorders: [...study.reorders, again] }));
}

/** Rounds, kind of order and seed. */
function OrderFields({ document }: { document: StudyDocument }) {
  const { study, levels } = document;
  const fixed = document.readings.length > 0;
  return (
    <Fields>
      <SavedNumber
        label="Rounds"
        saved={study.rounds}
        required
        check={wholeNumber(1, 500)}
        help={levels.length > 0 ? 'Readings per item and level' : 'Readings per item'}
        save={(rounds) => patchStudy(study, { rounds: rounds ?? 1 })}
      />
      <Wide>
        <Choice
          label="Order of the runs"
          value={study.runOrder}
          options={fixed ? ORDER_OPTIONS.filter(({ value }) => value === study.runOrder) : ORDER_OPTIONS}
          onChange={(kind) => {
            tell(patchStudy(study, { runOrder: kind }));
          }}
        />
      </Wide>
      <SavedNumber
        label="Seed of the order"
        saved={study.seed}
        required
        check={wholeNumber(0, 4294967295)}
        help={fixed ? 'Fixed by the first reading' : 'Makes it again'}
        isDisabled={fixed}
        save={(seed) => patchStudy(study, { seed: seed ?? 0 })}
      />
      <Button
        onPress={() => {
          reshuffle(document);
        }}
        isDisabled={study.runOrder === 'fixed' && !fixed}
      >
        <Shuffle size={18} aria-hidden /> {fixed ? 'Shuffle the runs to come' : 'Shuffle again'}
      </Button>
    </Fields>
  );
}

/** The runs of a line, each by its item's mark and code, with its levels. */
function LineOfRuns({ line, document }: { line: readonly OrderedRun[]; document: StudyDocument }) {
  const items = new Map(document.items.map((item) => [item.id, item]));
  const levels = new Map(document.levels.map(({ id, name }) => [id, name]));
  return line.map(({ itemId, levelIds, round }) => {
    const item = items.get(itemId);
    return (
      item && (
        <b key={`${itemId}/${levelIds.join('/')}/${String(round)}`}>
          <MarkSign mark={item.mark} size={14} />
          {item.code}
          {levelIds.length > 0 && <small>{levelIds.map((id) => levels.get(id) ?? '').join(', ')}</small>}
        </b>
      )
    );
  });
}

/** The first runs of the order, as many on a line as one round has; under a full shuffle the lines are no rounds. */
function OrderLines({ document, order }: { document: StudyDocument; order: readonly OrderedRun[] }) {
  const { study, factors } = document;
  const perRound = Math.max(1, Math.round(order.length / study.rounds));
  const lines = Array.from({ length: Math.min(study.rounds, SHOWN_ROUNDS) }, (_, i) =>
    order.slice(i * perRound, Math.min((i + 1) * perRound, i * perRound + SHOWN_RUNS)),
  );
  const inRounds = study.runOrder !== 'full-shuffle' && !factors.some(({ irreversible }) => irreversible);
  return (
    <Scroll aria-label="Order of the items">
      <Orders>
        {lines.map((line, i) => (
          <li key={i}>
            <span>{inRounds ? `Round ${String(i + 1)}` : `Runs from ${String(i * perRound + 1)}`}</span>
            <Marks>
              <LineOfRuns line={line} document={document} />
              {perRound > SHOWN_RUNS && <span>and {perRound - SHOWN_RUNS} more</span>}
            </Marks>
          </li>
        ))}
        {study.rounds > lines.length && (
          <li>
            <span>…</span>
            <span>{study.rounds - lines.length} more</span>
          </li>
        )}
      </Orders>
    </Scroll>
  );
}

/** Whether a steady drift falls on all items alike under the order, and what else is to be said of it. */
function balanceWords(document: StudyDocument, shares: ReturnType<typeof balanceOf>): string[] {
  const { study, readings } = document;
  const names = new Map(document.items.map(({ id, name }) => [id, name]));
  const [first, last] = [shares[0], shares[shares.length - 1]];
  if (!first || !last) return [];
  const apart = last.meanPlace - first.meanPlace;
  const drift =
    apart > UNEVEN
      ? 'A steady drift would favour one of them: more rounds, or another order, would even it out.'
      : 'A steady drift falls on all about alike.';
  const needed = williamsRows(Math.max(1, document.items.length));
  const latest = study.reorders[study.reorders.length - 1];
  const drawnBefore = study.draws === 'by-stream' && study.runOrder !== 'fixed' && readings.length === 0;
  return [
    apart < 0.02
      ? 'Every item stands in the middle of the order on average: a steady drift falls on all alike.'
      : `${names.get(first.itemId) ?? ''} comes earliest on average (${formatShare(first.meanPlace)} of the way through), ${names.get(last.itemId) ?? ''} latest (${formatShare(last.meanPlace)}). ${drift}`,
    ...(study.runOrder === 'balanced-square' && study.rounds % needed !== 0
      ? [`The square is complete after ${String(needed)} rounds, or a multiple of that.`]
      : []),
    ...(drawnBefore
      ? ['An earlier version drew this order, and its rounds depend on each other: shuffle it again.']
      : []),
    ...(latest
      ? [
          `From run ${String(latest.place + 1)} on the order was made again, with seed ${String(latest.seed)}.`,
        ]
      : []),
  ];
}

/** How many rounds, and the order of the runs, made from a seed that is shown. */
export function RunOrder({ document, order }: { document: StudyDocument; order: readonly OrderedRun[] }) {
  const items = new Map(itemsInOrder(document).map((item) => [item.id, item]));
  const shares = balanceOf(order).sort((a, b) => a.meanPlace - b.meanPlace);
  return (
    <>
      <OrderFields document={document} />
      {items.size > 1 && shares.length > 0 && (
        <>
          <OrderLines document={document} order={order} />
          <BalancePicture shares={shares} items={items} />
          <Balance>{balanceWords(document, shares).join(' ')}</Balance>
        </>
      )}
    </>
  );
}
