import { useMemo, useState } from 'react';
import styled from 'styled-components';
import type { Association } from '../../../core/analysis/against.ts';
import { type ItemFigure, attributeFigures, perUnit } from '../../../core/analysis/item-figures.ts';
import { ALPHA } from '../../../core/model/alpha.ts';
import type { Item } from '../../../core/model/parts.ts';
import { counted, formatNumber, listed } from '../../../core/quantity/format.ts';
import { bestValue } from '../../../core/rank/value.ts';
import { useAssociations } from '../../app/api/analysis.ts';
import { TakePicture, TakeTable } from '../../app/take.tsx';
import { AgainstPicture } from '../../strip/against-picture.tsx';
import { Choice } from '../../ui/choice.tsx';
import { Fold } from '../../ui/fold.tsx';
import { Row } from '../../ui/page.tsx';
import { Segments } from '../../ui/segments.tsx';
import { Scroll, Table } from '../../ui/table.tsx';

const Frame = styled.div`
  margin-top: 26px;
`;

const NOTHING_ELSE = 'nothing else';

export interface AgainstProps {
  items: readonly Item[];
  /** What is held against the attributes, with its unit. */
  name: string;
  unit: string;
  /** One per item; null where it has none. */
  values: readonly (number | null)[];
  /** The same turned so that more is better. */
  merits: readonly (number | null)[];
  intervals?: readonly (readonly [number, number] | null)[];
}

const axisName = ({ name, unit }: Pick<ItemFigure, 'name' | 'unit'>): string =>
  unit ? `${name}, ${unit}` : name;

/** Results held against what the items have besides: what they cost, what they weigh, what may explain them. */
export function Against(props: AgainstProps) {
  const { items, name } = props;
  const figures = useMemo(() => attributeFigures(items), [items]);
  const [chosen, setChosen] = useState<string>();
  const [divisor, setDivisor] = useState(NOTHING_ELSE);
  const [less, setLess] = useState<'less' | 'more'>('less');
  const found = figures.find(({ key }) => key === chosen) ?? figures[0];
  if (!found) return null;
  const of = figures.find(({ key }) => key === divisor && key !== found.key);
  const figure = of ? perUnit(found, of) : found;
  return (
    <Frame>
      <Fold
        title={`${name} against ${figures.length === 1 ? found.name.toLowerCase() : 'the attributes'}`}
        state={valueState(props, figure, less)}
      >
        <Row style={{ marginBottom: 12, alignItems: 'flex-end' }}>
          {figures.length > 1 && (
            <>
              <Choice
                label="Attribute"
                value={found.key}
                options={figures.map(({ key, name: words }) => ({ value: key, label: words }))}
                onChange={setChosen}
              />
              <Choice
                label="Divided by"
                value={of?.key ?? NOTHING_ELSE}
                options={[
                  { value: NOTHING_ELSE, label: 'nothing else' },
                  ...figures
                    .filter(({ key }) => key !== found.key)
                    .map(({ key, name: words }) => ({ value: key, label: words })),
                ]}
                onChange={setDivisor}
              />
            </>
          )}
          <Segments
            label={`Of ${figure.name.toLowerCase()}`}
            value={less}
            options={[
              { value: 'less', label: 'less is better' },
              { value: 'more', label: 'more is better' },
            ]}
            onChange={setLess}
          />
        </Row>
        <AgainstFigure {...props} figure={figure} less={less} />
        <WhatGoesWith {...props} />
      </Fold>
    </Frame>
  );
}

/** Indices of the items that no other beats on both. */
function unbeatenOf({ merits }: AgainstProps, { values }: ItemFigure, less: 'less' | 'more'): number[] {
  return bestValue(
    merits.flatMap((merit, index) => {
      const value = values[index];
      return merit === null || value == null
        ? []
        : [{ index, merit, cost: less === 'less' ? value : -value }];
    }),
  );
}

function valueState(props: AgainstProps, figure: ItemFigure, less: 'less' | 'more'): string {
  const names = unbeatenOf(props, figure, less).map((index) => props.items[index]?.name ?? '');
  return names.length === 0 ? '' : `No other beats ${listed(names)} on both.`;
}

function AgainstFigure({
  figure,
  less,
  ...props
}: AgainstProps & { figure: ItemFigure; less: 'less' | 'more' }) {
  const { items, name, unit, values, intervals } = props;
  const unbeaten = unbeatenOf(props, figure, less);
  const without = items.filter((_, i) => figure.values[i] == null || values[i] == null);
  const names = unbeaten.map((index) => items[index]?.name ?? '');
  const points = items.flatMap(({ id, name: called, mark }, i) => {
    const [x, y] = [figure.values[i], values[i]];
    return x == null || y == null ? [] : [{ id, name: called, mark, x, y, interval: intervals?.[i] ?? null }];
  });
  return (
    <>
      <p style={{ marginBottom: 10 }}>
        {names.length === 0
          ? 'No item has both figures.'
          : `No other item beats ${listed(names)} on ${name.toLowerCase()} and ${figure.name.toLowerCase()} at once, by the means as they are.`}{' '}
        {without.length > 0 &&
          `Not shown, since a figure is missing or has another unit: ${listed(without.map((item) => item.name))}.`}
      </p>
      {points.length > 0 && (
        <TakePicture what={`${name} against ${figure.name}`}>
          <AgainstPicture
            label={`${name} against ${figure.name}. Unbeaten on both: ${listed(names)}.`}
            caption={`${name} against ${figure.name.toLowerCase()}. Items that no other beats on both are joined.${
              points.some(({ interval }) => interval) ? ' Bars are 95 % intervals of the means.' : ''
            }`}
            across={axisName(figure)}
            up={axisName({ name, unit })}
            points={points}
            unbeaten={unbeaten.flatMap((index) => items[index]?.id ?? [])}
          />
        </TakePicture>
      )}
    </>
  );
}

/** Fewer items than this say little about what goes with what. */
const FEW = 10;

/** Every attribute, and ratios of two, by how closely the results go with them. */
function WhatGoesWith({ items, name, values }: AgainstProps) {
  const { data: found = [] } = useAssociations(items, values);
  if (found.length === 0) return null;
  const most = Math.max(...found.map(({ n }) => n));
  return (
    <div style={{ marginTop: 22 }}>
      <TakeTable what={`What ${name} goes with`}>
        <Scroll aria-label={`What ${name} goes with`}>
          <Table>
            <caption>Does it explain the result?</caption>
            <thead>
              <tr>
                <th scope="col">Attribute</th>
                <th scope="col" className="figure">
                  Items
                </th>
                <th scope="col" className="figure">
                  Correlation r
                </th>
                <th scope="col" className="figure">
                  95 % interval
                </th>
                <th scope="col" className="figure">
                  By ranks
                </th>
                <th scope="col">What it says</th>
              </tr>
            </thead>
            <tbody>
              {found.map((association) => {
                const { figure, n, correlation, spearman } = association;
                return (
                  <tr key={figure.key}>
                    <th scope="row">{figure.name}</th>
                    <td className="figure">{n}</td>
                    <td className="figure">{formatNumber(correlation.r, 2)}</td>
                    <td className="figure">
                      {correlation.interval
                        ? `${formatNumber(correlation.interval[0], 2)} to ${formatNumber(correlation.interval[1], 2)}`
                        : '–'}
                    </td>
                    <td className="figure">{spearman === undefined ? '–' : formatNumber(spearman, 2)}</td>
                    <td>{associationWords(association, items)}</td>
                  </tr>
                );
              })}
            </tbody>
          </Table>
        </Scroll>
      </TakeTable>
      <p style={{ marginTop: 8, color: 'var(--quiet)', fontSize: 'var(--size-13)', maxWidth: '86ch' }}>
        {most < FEW &&
          `${counted(most, 'item')} are few: chance alone makes strong correlations among so few. `}
        {found.length > 1 &&
          `${counted(found.length, 'figure')} were tried, and what is said allows for that (Holm). `}
        What goes together need not be cause and effect.
      </p>
    </div>
  );
}

function associationWords({ p, correlation, carriedBy }: Association, items: readonly Item[]): string {
  const carried = carriedBy
    ? `Carried by ${items[carriedBy.index]?.name ?? ''}: without it r = ${formatNumber(carriedBy.r, 2)}.`
    : '';
  if (p === null || p >= ALPHA) return ['Chance could make it.', carried].filter(Boolean).join(' ');
  const way = correlation.r > 0 ? 'The more of it, the higher.' : 'The more of it, the lower.';
  return [way, carried].filter(Boolean).join(' ');
}
