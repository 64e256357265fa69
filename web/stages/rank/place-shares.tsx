import styled from 'styled-components';
import type { Item } from '../../../core/model/parts.ts';
import { formatChance, formatNumber } from '../../../core/quantity/format.ts';
import { TakeTable } from '../../app/take.tsx';
import { ItemHead } from '../../ui/name.tsx';
import { Table } from '../../ui/table.tsx';

const Shares = styled(Table)`
  && td {
    text-align: center;
    padding: 4px 2px;
  }
  && thead th:not(:first-child) {
    padding-inline: 2px;
  }
  td span {
    display: block;
    min-width: 42px;
    padding: 6px 2px;
    font-size: var(--size-13);
    border-radius: 6px;
    white-space: nowrap;
  }
  thead th {
    text-align: center;
  }
  thead th:first-child {
    text-align: left;
  }
  tbody td:has(span:empty) {
    color: var(--quiet);
  }
`;

const Legend = styled.p`
  margin-top: 8px;
  font-size: var(--size-13);
  color: var(--quiet);
`;

/** Places behind this are not shown: nobody asks who is thirteenth, and hundreds of items would make a wall of cells. */
const MOST_PLACES = 12;
/** Shares below this are left empty: they would be noise to read. */
const LEAST = 0.005;
/** Strongest ground of a cell, in per cent of the fern: the figures on it stay legible. */
const STRONGEST = 46;

/** How often each item takes each place in the draws; the darker the more often. */
export function PlaceShares({
  entries,
  draws,
}: {
  /** From first to last place. */
  entries: readonly { item: Item; shares: readonly number[] }[];
  draws: number;
}) {
  const shown = entries.slice(0, MOST_PLACES);
  const places =
    entries.length > MOST_PLACES ? `each of the first ${String(MOST_PLACES)} places` : 'each place';
  return (
    <div>
      <TakeTable what="How often each place">
        <Shares>
          <caption>
            How often {places}, in {formatNumber(draws, 0)} draws
          </caption>
          <thead>
            <tr>
              <th scope="col">Item</th>
              {shown.map(({ item }, place) => (
                <th key={item.id} scope="col">
                  {place === 0 ? 'first' : String(place + 1)}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {entries.map(({ item, shares }) => (
              <tr key={item.id}>
                <ItemHead name={item.name} mark={item.mark} />
                {shares.slice(0, MOST_PLACES).map((share, place) => (
                  <td key={entries[place]?.item.id}>
                    <span
                      style={{
                        background: `color-mix(in srgb, var(--fern) ${String(Math.round(STRONGEST * share))}%, transparent)`,
                        fontWeight: share >= 0.5 ? 680 : 400,
                      }}
                    >
                      {share >= LEAST ? formatChance(share) : ''}
                    </span>
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </Shares>
      </TakeTable>
      <Legend>
        A share is of one place alone. To be called ahead asks for more, since all that is said of pairs holds
        at once.
      </Legend>
    </div>
  );
}
