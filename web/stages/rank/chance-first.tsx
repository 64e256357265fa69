import styled from 'styled-components';
import type { ClassAnalysis } from '../../../core/analysis/analyse-study.ts';
import { formatChance } from '../../../core/quantity/format.ts';
import { markColour } from '../../strip/marks.ts';
import { ItemName } from '../../ui/name.tsx';
import { FORCED } from '../../ui/tokens.ts';

const List = styled.ul`
  display: grid;
  gap: 8px;
  margin-top: 12px;
  li {
    display: grid;
    grid-template-columns: minmax(0, 150px) minmax(0, 1fr) 64px;
    align-items: center;
    gap: 12px;
  }
  li > span:last-child {
    text-align: right;
  }
  p {
    font-size: var(--size-13);
    color: var(--quiet);
  }
`;

const Bar = styled.span`
  height: 12px;
  min-width: 2px;
  border-radius: 2px;
  ${FORCED} {
    background: CanvasText !important;
    forced-color-adjust: none;
  }
`;

/** How often each item comes first when the readings are drawn again. */
export function ChanceFirst({ group }: { group: ClassAnalysis }) {
  const entries = group.analysis.ranking.filter(({ chanceFirst }) => chanceFirst !== null && chanceFirst > 0);
  const why = group.analysis.remarks.find(({ about }) => about === 'draws');
  if (entries.length === 0) return why ? <p>{why.text}</p> : null;
  return (
    <section aria-labelledby="chance">
      <h2 id="chance">How often first, in 10 000 draws from these readings</h2>
      <List>
        {entries.map(({ index, chanceFirst }) => {
          const item = group.items[index];
          return (
            item && (
              <li key={item.id}>
                <ItemName name={item.name} mark={item.mark} size={14} />
                <Bar
                  style={{ width: `${String(100 * (chanceFirst ?? 0))}%`, background: markColour(item.mark) }}
                  aria-hidden
                />
                <span>{formatChance(chanceFirst ?? 0)}</span>
              </li>
            )
          );
        })}
      </List>
    </section>
  );
}
