import type { Association } from '../../../core/analysis/against.ts';
import type { ItemFigure } from '../../../core/analysis/item-figures.ts';
import { lineInterval } from '../../../core/compare/line-interval.ts';
import type { Item } from '../../../core/model/parts.ts';
import { counted, formatNumber, listed } from '../../../core/quantity/format.ts';
import { useAssociations } from '../../app/api/analysis.ts';
import { TakePicture, TakeTable } from '../../app/take.tsx';
import { AgainstPicture } from '../../strip/against-picture.tsx';
import { FigureHead, Table } from '../../ui/table.tsx';
import { type AgainstProps, unbeatenOf } from './unbeaten.ts';

const axisName = ({ name, unit }: Pick<ItemFigure, 'name' | 'unit'>): string =>
  unit ? `${name}, ${unit}` : name;

/** The picture of results against a figure of the items, and whether it explains them. */
export function AgainstFigure({
  figure,
  less,
  ...props
}: AgainstProps & { figure: ItemFigure; less: 'less' | 'more' }) {
  const { items, name, unit, values, intervals } = props;
  const { data: found = [] } = useAssociations(items, values);
  const going = found.find(({ figure: { key }, settled }) => settled && key === figure.key);
  const line = going?.line;
  const spread = line?.spread;
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
            }${spread ? ' The dotted line fits them best, by least squares; at each figure it lies within the band with 95 % confidence.' : ''}`}
            across={axisName(figure)}
            up={axisName({ name, unit })}
            points={points}
            line={line}
            band={line && spread ? (value) => lineInterval(line, spread, value) : undefined}
            unbeaten={unbeaten.flatMap((index) => items[index]?.id ?? [])}
          />
        </TakePicture>
      )}
      <WhatGoesWith {...props} found={found} />
    </>
  );
}

/** Fewer items than this say little about what goes with what. */
const FEW = 10;

/** Every attribute, and ratios and products of two, by how closely the results go with them. */
function WhatGoesWith({ items, name, found }: AgainstProps & { found: readonly Association[] }) {
  if (found.length === 0) return null;
  const most = Math.max(...found.map(({ n }) => n));
  return (
    <div style={{ marginTop: 22 }}>
      <TakeTable what={`What ${name} goes with`}>
        <Table>
          <caption>Does it explain the result?</caption>
          <thead>
            <tr>
              <th scope="col">Attribute</th>
              <FigureHead>Items</FigureHead>
              <FigureHead>Correlation r</FigureHead>
              <FigureHead>95 % interval</FigureHead>
              <FigureHead>By ranks</FigureHead>
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

function associationWords({ settled, correlation, carriedBy }: Association, items: readonly Item[]): string {
  const carried = carriedBy
    ? `Carried by ${items[carriedBy.index]?.name ?? ''}: without it r = ${formatNumber(carriedBy.r, 2)}.`
    : '';
  const way = !settled
    ? 'Chance could make it.'
    : correlation.r > 0
      ? 'The more of it, the higher.'
      : 'The more of it, the lower.';
  return [way, carried].filter(Boolean).join(' ');
}
