import { memo, useMemo, useState } from 'react';
import { byText } from '../../../core/model/in-order.ts';
import { type Observation, isDerived } from '../../../core/observations/observation.ts';
import type { Item } from '../../../core/model/parts.ts';
import { counted, formatReading, readingWords } from '../../../core/quantity/format.ts';
import { Button } from '../../ui/button.tsx';
import { ItemName } from '../../ui/name.tsx';
import { Row } from '../../ui/page.tsx';
import { Segments } from '../../ui/segments.tsx';
import { FigureHead, Scroll, Table } from '../../ui/table.tsx';

export interface ReadingTableProps {
  readings: readonly Observation[];
  items: ReadonlyMap<string, Item>;
  unit: string;
  chosenId: string | undefined;
  onChoose: (id: string) => void;
  onLeaveOut: (id: string) => void;
  onTakeBack: (id: string) => void;
}

type Order = 'run' | 'item' | 'value';
/** Rows shown before more are asked for. */
const PAGE = 60;

const compare: Record<Order, (a: Observation, b: Observation, rank: ReadonlyMap<string, number>) => number> =
  {
    run: (a, b) => byText(a.takenAt, b.takenAt),
    item: (a, b, rank) => (rank.get(a.itemId) ?? 0) - (rank.get(b.itemId) ?? 0) || a.round - b.round,
    value: (a, b) => (a.value ?? Number.NEGATIVE_INFINITY) - (b.value ?? Number.NEGATIVE_INFINITY),
  };

const standing = ({ use, estimated }: Observation): string => {
  if (use.is === 'kept') {
    return [
      'counts',
      ...(use.insisted ? ['kept by hand'] : []),
      ...(estimated ? ['ambient estimated'] : []),
    ].join(', ');
  }
  if (use.by === 'misfire') return `misfire: ${use.reason}`;
  if (use.by === 'again') return 'taken again';
  if (use.by === 'source') return `left out ${use.reason}`;
  if (use.by === 'correction') return `cannot be set right: ${use.reason}`;
  return use.by === 'hand' ? `left out: ${use.reason}` : `left out by ${use.reason}`;
};

type RowProps = Pick<ReadingTableProps, 'onChoose' | 'onLeaveOut' | 'onTakeBack'> & {
  reading: Observation;
  item: Item | undefined;
  isCurrent: boolean;
  /** Whether values are shown as they were read, too. */
  corrected: boolean;
};

/** A reading in the table: drawn again only where something about it has changed. */
const ReadingRow = memo(function ReadingRow({
  reading,
  item,
  isCurrent,
  corrected,
  onChoose,
  onLeaveOut,
  onTakeBack,
}: RowProps) {
  const { use } = reading;
  const name = `${item?.name ?? ''}, round ${String(reading.round)}`;
  const [words, act] =
    use.is === 'kept'
      ? (['Leave out', onLeaveOut] as const)
      : use.by === 'rule' || use.by === 'correction'
        ? (['Look at', onChoose] as const)
        : (['Take back', onTakeBack] as const);
  return (
    <tr data-current={isCurrent || undefined} data-out={use.is === 'left out' || undefined}>
      <th scope="row">{item && <ItemName name={item.name} mark={item.mark} size={14} />}</th>
      <td className="figure">{reading.round}</td>
      {corrected && (
        <td className="figure">
          {reading.value === null ? '–' : formatReading(reading.read ?? reading.value)}
        </td>
      )}
      <td className="figure">{reading.value === null ? '–' : readingWords(reading, '')}</td>
      <td>{standing(reading)}</td>
      <td className="figure">
        {!isDerived(reading) && (
          <Button
            size="small"
            tone="quiet"
            aria-label={`${words} ${name}`}
            onPress={() => {
              act(reading.id);
            }}
          >
            {BUTTON_WORDS[words]}
          </Button>
        )}
      </td>
    </tr>
  );
});

const BUTTON_WORDS = { 'Leave out': 'Leave out…', 'Look at': 'Look at it', 'Take back': 'Take back' };

const OrderChoice = ({ order, onOrder }: { order: Order; onOrder: (order: Order) => void }) => (
  <Segments
    label="Order of the table"
    labelHidden
    value={order}
    onChange={onOrder}
    options={[
      { value: 'run', label: 'As taken' },
      { value: 'item', label: 'By item' },
      { value: 'value', label: 'By value' },
    ]}
  />
);

const ReadingHeads = ({ corrected, unit }: { corrected: boolean; unit: string }) => (
  <thead>
    <tr>
      <th scope="col">Item</th>
      <FigureHead>Round</FigureHead>
      {corrected && <FigureHead>as read</FigureHead>}
      <FigureHead>
        {corrected ? 'set right' : 'Reading'}
        {unit && `, ${unit}`}
      </FigureHead>
      <th scope="col">Where it stands</th>
      <th scope="col">
        <span hidden>Change</span>
      </th>
    </tr>
  </thead>
);

/** Every reading with where it stands; leave out and take back from here, too. */
export const ReadingTable = memo(function ReadingTable({
  readings,
  items,
  unit,
  chosenId,
  onChoose,
  onLeaveOut,
  onTakeBack,
}: ReadingTableProps) {
  const [order, setOrder] = useState<Order>('run');
  const [shown, setShown] = useState(PAGE);
  const corrected = readings.some(({ read }) => read !== undefined);
  const rows = useMemo(() => {
    const rank = new Map([...items.keys()].map((id, i) => [id, i]));
    return [...readings].sort((a, b) => compare[order](a, b, rank));
  }, [readings, items, order]);
  return (
    <>
      <Row style={{ marginBottom: 10 }}>
        <OrderChoice order={order} onOrder={setOrder} />
        <span>{counted(readings.length, 'reading')}</span>
      </Row>
      <Scroll aria-label="All readings">
        <Table>
          <ReadingHeads corrected={corrected} unit={unit} />
          <tbody>
            {rows.slice(0, shown).map((reading) => (
              <ReadingRow
                key={reading.id}
                reading={reading}
                item={items.get(reading.itemId)}
                isCurrent={reading.id === chosenId}
                {...{ corrected, onChoose, onLeaveOut, onTakeBack }}
              />
            ))}
          </tbody>
        </Table>
      </Scroll>
      {rows.length > shown && (
        <Button
          onPress={() => {
            setShown(shown + 5 * PAGE);
          }}
        >
          Show more of the {counted(rows.length - shown, 'reading')} left
        </Button>
      )}
    </>
  );
});
