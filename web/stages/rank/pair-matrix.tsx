import styled from 'styled-components';
import type { ClassAnalysis } from '../../../core/analysis/analyse-study.ts';
import type { Item } from '../../../core/model/parts.ts';
import type { AnalysedPair } from '../../../core/analysis/compare-screened.ts';
import { describedMethod } from '../../../core/compare/described.ts';
import { formatNumber, withUnit } from '../../../core/quantity/format.ts';
import { pairBetween } from '../../../core/rank/place.ts';
import { figuresOf } from '../../../core/report/figures.ts';
import { MarkSign } from '../../strip/mark-sign.tsx';
import { ItemName } from '../../ui/name.tsx';
import { Scroll, Table } from '../../ui/table.tsx';
import { FORCED } from '../../ui/tokens.ts';

const Matrix = styled(Table)`
  td {
    text-align: center;
    padding: 4px 3px;
  }
  td span {
    display: block;
    padding: 6px 4px;
    border-radius: 6px;
    white-space: nowrap;
    min-width: 52px;
  }
  thead th {
    text-align: center;
  }
  thead th:first-child {
    text-align: left;
  }
  .ahead {
    background: var(--fern-soft);
    font-weight: 640;
  }
  .perhaps {
    background: none;
    box-shadow: inset 0 0 0 1px var(--fern);
  }
  .same {
    background: var(--hover);
    color: var(--quiet);
  }
  .open {
    background: var(--rust-soft);
    color: var(--rust);
    font-weight: 640;
  }
  ${FORCED} {
    .ahead {
      border: 2px solid CanvasText;
    }
    .perhaps {
      border: 1px dashed CanvasText;
    }
    .open {
      border: 1px dotted GrayText;
    }
  }
`;

const Legend = styled.p`
  margin-top: 8px;
  font-size: var(--size-13);
  color: var(--quiet);
`;

/** What a cell shows of a pair, and how it looks. */
function cell(
  pair: AnalysedPair,
  ranged: boolean,
  figure: (lead: number) => string,
): { className: string; text: string } {
  if (pair.verdict === 'same') return { className: 'same', text: 'same' };
  if (pair.withinAccuracy) return { className: 'same', text: 'within' };
  if (pair.verdict === 'not settled') return { className: 'open', text: 'open' };
  if (pair.verdict === 'too few') return { className: 'open', text: 'too few' };
  const className = pair.matters === 'yes' ? 'ahead' : 'perhaps';
  if (!ranged || !pair.advantage) return { className, text: figure(pair.lead) };
  // Of a range only the least that it allows is sure.
  return { className, text: `≥ ${figure(Math.min(...pair.advantage.map(Math.abs)))}` };
}

/** What the words and colours in the cells mean, as far as they are there. */
function legend(pairs: readonly AnalysedPair[], margin: number, byRank: boolean): string {
  const any = (holds: (pair: AnalysedPair) => boolean) => pairs.some(holds);
  const isAhead = ({ verdict }: AnalysedPair) => verdict.endsWith('ahead');
  return [
    any((pair) => isAhead(pair) && pair.matters === 'yes') &&
      `Filled: ahead${margin > 0 ? ', by more than the margin' : ''}.`,
    any((pair) => isAhead(pair) && pair.matters !== 'yes') &&
      (byRank
        ? 'Outlined: ahead; marks do not say by how much.'
        : 'Outlined: ahead, perhaps by less than the margin.'),
    any(({ verdict }) => verdict === 'same') && 'Same: they differ by less than the margin.',
    any(({ verdict }) => verdict === 'not settled') && 'Open: the readings do not settle it.',
    any(({ withinAccuracy }) => withinAccuracy ?? false) &&
      'Within: single readings within the meter’s accuracy, no appreciable difference.',
    any(({ verdict, withinAccuracy }) => verdict === 'too few' && !withinAccuracy) &&
      'Too few: one reading shows no spread.',
  ]
    .filter(Boolean)
    .join(' ');
}

export interface PairMatrixProps {
  group: ClassAnalysis;
  unit: string;
  /** Items from first to last place. */
  order: readonly Item[];
}

/** The verdict of each pair: by how much the item on the left is ahead of the one on top, or that it is not. */
export function PairMatrix({ group, unit, order }: PairMatrixProps) {
  const { result } = figuresOf(group.analysis);
  const byRank = describedMethod(group.analysis.method).ranksOnly ?? false;
  const figure = (lead: number) => (byRank ? formatNumber(Math.abs(lead), 1) : result(Math.abs(lead)));
  const indexOf = (item: Item) => group.items.findIndex(({ id }) => id === item.id);
  const ranked = order.filter((item) => group.analysis.ranking.some(({ index }) => index === indexOf(item)));
  return (
    <div>
      <Scroll aria-label="Verdict of each pair">
        <Matrix>
          <caption>
            {byRank
              ? 'By how many mean ranks the one on the left is ahead'
              : `By how much the one on the left is ahead${unit && `, ${unit}`}`}
          </caption>
          <thead>
            <tr>
              <th scope="col">ahead of</th>
              {ranked.slice(1).map(({ id, mark, code, name }) => (
                <th key={id} scope="col" aria-label={name}>
                  <MarkSign mark={mark} size={13} /> {code}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {ranked.slice(0, -1).map((upper, row) => (
              <tr key={upper.id}>
                <th scope="row">
                  <ItemName name={upper.name} mark={upper.mark} size={13} />
                </th>
                {ranked.slice(1).map((lower, column) => {
                  if (column < row) return <td key={lower.id} />;
                  const pair = pairBetween(group.analysis.pairs, indexOf(upper), indexOf(lower));
                  if (!pair) return <td key={lower.id} />;
                  const ranged = [pair.a, pair.b].some(
                    (index) => group.analysis.items[index]?.typed?.kind === 'range',
                  );
                  const { className, text } = cell(pair, ranged, figure);
                  const title = ranged
                    ? `${upper.name} and ${lower.name}: a range is known of one of them`
                    : `${upper.name} and ${lower.name} differ by ${byRank ? `${figure(pair.lead)} mean ranks` : withUnit(figure(pair.lead), unit)}`;
                  return (
                    <td key={lower.id} title={title}>
                      <span className={className}>{text}</span>
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </Matrix>
      </Scroll>
      <Legend>{legend(group.analysis.pairs, group.analysis.margin, byRank)}</Legend>
    </div>
  );
}
