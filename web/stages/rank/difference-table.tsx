import { useState } from 'react';
import { BASELINE_FAMILIES, type BaselineFamily } from '../../../core/analysis/baseline-families.ts';
import type { ClassAnalysis } from '../../../core/analysis/analyse-study.ts';
import { type DifferenceFrom, differencesFrom } from '../../../core/analysis/differences.ts';
import type { Item } from '../../../core/model/parts.ts';
import { formatNumber } from '../../../core/quantity/format.ts';
import { figuresOf, placedWords, spanWords } from '../../../core/report/figures.ts';
import { usePairsAgainst } from '../../app/api/analysis.ts';
import { TakeTable } from '../../app/take.tsx';
import { Choice } from '../../ui/choice.tsx';
import { ItemHead } from '../../ui/name.tsx';
import { FigureHead, Table } from '../../ui/table.tsx';

const signed = (text: string, value: number): string => (value > 0 ? `+${text}` : text);
const range = (interval: readonly [number, number] | null, figure: (value: number) => string): string =>
  interval ? spanWords(interval, figure) : '';

/** What items are held against: the best, and the baseline where there is one, with the pairs that bear on it. */
function referencesOf(
  group: ClassAnalysis,
  narrowed: Parameters<typeof differencesFrom>[0],
  baseline: number,
): { within: Parameters<typeof differencesFrom>[0]; index: number; called: string }[] {
  const [best] = group.analysis.ranking;
  const name = group.items[baseline]?.name ?? '';
  return [
    ...(best && best.index !== baseline ? [{ within: group, index: best.index, called: 'the best' }] : []),
    ...(baseline === -1
      ? []
      : [
          {
            within: narrowed,
            index: baseline,
            called: `${best?.index === baseline ? 'the best and baseline' : 'the baseline'}, ${name}`,
          },
        ]),
  ];
}

/** Chooses what intervals from the baseline hold for. */
function FamilyChoice({
  family,
  onFamily,
}: {
  family: BaselineFamily;
  onFamily: (family: BaselineFamily) => void;
}) {
  return (
    <div style={{ marginTop: 10, maxWidth: 420 }}>
      <Choice
        label="Intervals from the baseline hold for"
        value={family}
        options={BASELINE_FAMILIES.map((value) => ({ value, label: FAMILIES[value].label }))}
        onChange={onFamily}
      />
    </div>
  );
}

/** An item with its mean, and what it differs by from each that items are held against. */
function DifferenceRow({
  item,
  index,
  group,
  references,
  percents,
}: {
  item: Item;
  /** Of the item in the analysis. */
  index: number;
  group: ClassAnalysis;
  references: readonly { called: string; differences: ReturnType<typeof differencesFrom> }[];
  /** Whether per cent are shown. */
  percents: boolean;
}) {
  const { result } = figuresOf(group.analysis);
  return (
    <tr>
      <ItemHead name={item.name} mark={item.mark} />
      <td className="figure">{placedWords(group.analysis.items[index], result)}</td>
      {references.map(({ called, differences }) => {
        const found = differences[index];
        return [
          <Difference key={called} found={found} figure={result} />,
          ...(percents ? [<Percent key={`${called} %`} found={found} />] : []),
        ];
      })}
    </tr>
  );
}

/** For what the intervals hold. */
const IntervalWords = ({ family }: { family: BaselineFamily }) => (
  <p style={{ marginTop: 8, fontSize: 'var(--size-13)', color: 'var(--quiet)', maxWidth: '86ch' }}>
    Small: the intervals, which hold for all pairs at once
    {family === 'all-pairs' ? '' : `, those from the baseline for these alone. ${FAMILIES[family].words}`}.
  </p>
);

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
  const [family, setFamily] = useState<BaselineFamily>('all-pairs');
  const indexOf = (item: Item) => group.items.findIndex(({ id }) => id === item.id);
  const baseline = group.items.findIndex(({ role }) => role === 'baseline');
  const { data: pairs } = usePairsAgainst(group.analysis, baseline, family);
  const narrowed = pairs && family !== 'all-pairs' ? { analysis: { ...group.analysis, pairs } } : group;
  const references = referencesOf(group, narrowed, baseline).map(({ within, index, called }) => ({
    called,
    // Per cent of per cent would be read as points.
    differences: differencesFrom(within, index, trueZero && unit !== '%'),
  }));
  if (references.every(({ differences }) => !differences.some(Boolean))) return null;
  const percents = references.some(({ differences }) => differences.some((found) => found?.percent != null));
  return (
    <div>
      <TakeTable what="Differences">
        <Table>
          <caption>{`By how much each differs${unit && `, ${unit}`}${percents ? ', and in per cent' : ''}`}</caption>
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
              <DifferenceRow
                key={item.id}
                item={item}
                index={indexOf(item)}
                {...{ group, references, percents }}
              />
            ))}
          </tbody>
        </Table>
      </TakeTable>
      <IntervalWords family={family} />
      {baseline !== -1 && group.items.length > 2 && !group.analysis.ranksOnly && !group.analysis.exact && (
        <FamilyChoice family={family} onFamily={setFamily} />
      )}
    </div>
  );
}

/** What intervals from the baseline may hold for, and what each takes for granted. */
const FAMILIES: Record<BaselineFamily, { label: string; words: string }> = {
  'all-pairs': { label: 'all pairs at once', words: '' },
  'own-spreads': {
    label: 'the baseline alone, compared as the pairs are',
    words:
      'Fewer comparisons share the level, so they are narrower; say before the readings that only the baseline counts',
  },
  dunnett: {
    label: 'the baseline alone, one spread for all (Dunnett)',
    words:
      'Dunnett’s test pools the spread of all items, which must scatter alike, and takes no notice of rounds: where one item scatters ten times as wide as the others, it finds a difference in up to 23 % of studies without any',
  },
};

const small = { display: 'block', color: 'var(--quiet)', fontSize: 'var(--size-13)' } as const;

function Difference({
  found,
  figure,
}: {
  found: DifferenceFrom | undefined;
  figure: (value: number) => string;
}) {
  if (!found) return <td className="figure">–</td>;
  const { difference, interval, ranged } = found;
  if (ranged) return <td className="figure">{range(interval, figure) || '–'}</td>;
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
