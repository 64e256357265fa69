import styled from 'styled-components';
import type { ClassAnalysis } from '../../../core/analysis/analyse-study.ts';
import type { Item } from '../../../core/model/parts.ts';
import { formatNumber, withUnit } from '../../../core/quantity/format.ts';
import { resultDecimals } from '../../../core/rank/answer.ts';
import { MarkSign } from '../../strip/mark-sign.tsx';
import { ItemName } from '../../ui/name.tsx';
import { Scroll, Table } from '../../ui/table.tsx';

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
`;

const Legend = styled.p`
  margin-top: 8px;
  font-size: var(--size-13);
  color: var(--quiet);
`;

export interface PairMatrixProps {
  group: ClassAnalysis;
  unit: string;
  resolution: number | null;
  /** Items from first to last place. */
  order: readonly Item[];
}

/** The verdict of each pair: by how much the item on the left is ahead of the one on top, or that it is not. */
export function PairMatrix({ group, unit, resolution, order }: PairMatrixProps) {
  const decimals = Math.min(resultDecimals(group.analysis, resolution), 4);
  const indexOf = (item: Item) => group.items.findIndex(({ id }) => id === item.id);
  const ranked = order.filter((item) => group.analysis.ranking.some(({ index }) => index === indexOf(item)));
  const pairOf = (x: number, y: number) =>
    group.analysis.pairs.find(({ a, b }) => (a === x && b === y) || (a === y && b === x));
  return (
    <div>
      <Scroll aria-label="Verdict of each pair">
        <Matrix>
          <caption>By how much the one on the left is ahead{unit && `, ${unit}`}</caption>
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
                  const pair = pairOf(indexOf(upper), indexOf(lower));
                  if (!pair) return <td key={lower.id} />;
                  const gap = formatNumber(Math.abs(pair.lead), decimals);
                  const title = `${upper.name} and ${lower.name} differ by ${withUnit(gap, unit)}`;
                  return (
                    <td key={lower.id} title={title}>
                      {pair.verdict === 'same' ? (
                        <span className="same">same</span>
                      ) : pair.verdict === 'not settled' ? (
                        <span className="open">open</span>
                      ) : pair.verdict === 'too few' ? (
                        <span className="open">too few</span>
                      ) : (
                        <span className={pair.matters === 'yes' ? 'ahead' : 'perhaps'}>{gap}</span>
                      )}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </Matrix>
      </Scroll>
      <Legend>
        Green: ahead{group.analysis.margin > 0 && ', by more than the margin'}.{' '}
        {group.analysis.margin > 0 && 'Outlined: ahead, perhaps by less than the margin. '}
        Same: they differ by less than the margin. Open: the readings do not settle it.
      </Legend>
    </div>
  );
}
