import type { ClassAnalysis } from '../../../core/analysis/analyse-study.ts';
import { type DifferenceFrom, differencesFrom } from '../../../core/analysis/differences.ts';
import type { Item } from '../../../core/model/parts.ts';
import { formatNumber } from '../../../core/quantity/format.ts';
import { figuresOf } from '../../../core/report/figures.ts';
import { TakeTable } from '../../app/take.tsx';
import { ItemHead } from '../../ui/name.tsx';
import { FigureHead, Scroll, Table } from '../../ui/table.tsx';

const signed = (text: string, value: number): string => (value > 0 ? `+${text}` : text);
const range = (interval: readonly [number, number] | null, figure: (value: number) => string): string =>
  interval ? `${figure(interval[0])} to ${figure(interval[1])}` : '';

/** What each item differs by from the best and from the baseline, absolute and in per cent, with intervals. */
export function DifferenceTable({
  group,
  unit,
  order,
  trueZero,
}: {
  group: ClassAnalysis;
  unit: string;
  /** Items from first to last place. */
  order: readonly Item[];
  trueZero: boolean;
}) {
  const { result } = figuresOf(group.analysis);
  const indexOf = (item: Item) => group.items.findIndex(({ id }) => id === item.id);
  const [best] = group.analysis.ranking;
  const baseline = group.items.findIndex(({ role }) => role === 'baseline');
  const references = [
    ...(best ? [{ index: best.index, called: 'the best' }] : []),
    ...(baseline !== -1 && baseline !== best?.index
      ? [{ index: baseline, called: `the baseline, ${group.items[baseline]?.name ?? ''}` }]
      : []),
  ].map((reference) => ({
    ...reference,
    // Per cent of per cent would be read as points.
    differences: differencesFrom(group, reference.index, trueZero && unit !== '%'),
  }));
  if (references.every(({ differences }) => !differences.some(Boolean))) return null;
  const percents = references.some(({ differences }) => differences.some((found) => found?.percent != null));
  return (
    <TakeTable what="Differences">
      <Scroll aria-label="Differences">
        <Table>
          <caption>
            By how much each differs{unit && `, ${unit}`}
            {percents && ', and in per cent'}
          </caption>
          <thead>
            <tr>
              <th scope="col">Item</th>
              <FigureHead>Mean</FigureHead>
              {references.map(({ called }) => [
                <FigureHead key={called}>from {called}</FigureHead>,
                ...(percents ? [<FigureHead key={`${called} %`}>%</FigureHead>] : []),
              ])}
            </tr>
          </thead>
          <tbody>
            {order.map((item) => (
              <tr key={item.id}>
                <ItemHead name={item.name} mark={item.mark} />
                <td className="figure">{result(group.analysis.items[indexOf(item)]?.placedBy)}</td>
                {references.map(({ called, differences }) => {
                  const found = differences[indexOf(item)];
                  return [
                    <Difference key={called} found={found} figure={result} />,
                    ...(percents ? [<Percent key={`${called} %`} found={found} />] : []),
                  ];
                })}
              </tr>
            ))}
          </tbody>
        </Table>
      </Scroll>
      <p style={{ marginTop: 8, fontSize: 'var(--size-13)', color: 'var(--quiet)' }}>
        Small: the intervals, which hold for all pairs at once.
      </p>
    </TakeTable>
  );
}

const small = { display: 'block', color: 'var(--quiet)', fontSize: 'var(--size-13)' } as const;

function Difference({
  found,
  figure,
}: {
  found: DifferenceFrom | undefined;
  figure: (value: number) => string;
}) {
  if (!found) return <td className="figure">–</td>;
  const { difference, interval } = found;
  return (
    <td className="figure">
      {signed(figure(difference), difference)}
      <small style={small}>{range(interval, figure)}</small>
    </td>
  );
}

function Percent({ found }: { found: DifferenceFrom | undefined }) {
  if (found?.percent == null) return <td className="figure">–</td>;
  const figure = (value: number) => formatNumber(value, 1);
  return (
    <td className="figure">
      {signed(figure(found.percent), found.percent)}
      <small style={small}>{range(found.percentInterval, figure)}</small>
    </td>
  );
}
