import type { ClassAnalysis } from '../../../core/analysis/analyse-study.ts';
import type { Item } from '../../../core/model/parts.ts';
import { figuresOf } from '../../../core/report/figures.ts';
import { ItemName } from '../../ui/name.tsx';
import { Section } from '../../ui/page.tsx';
import { FigureHead, Scroll, Table } from '../../ui/table.tsx';

export interface BiasProps {
  group: ClassAnalysis;
  unit: string;
  /** Items from first to last place. */
  order: readonly Item[];
}

/** How far off each item is on average, whatever the side, and to which side: errors that cancel are errors still. */
export function Bias({ group, unit, order }: BiasProps) {
  const { result } = figuresOf(group.analysis);
  const head = `bias-${group.name}`;
  return (
    <Section aria-labelledby={head}>
      <h2 id={head}>Off by how much, and to which side</h2>
      <Scroll aria-label="Size and bias of the error">
        <Table style={{ maxWidth: 620 }}>
          <thead>
            <tr>
              <th scope="col">Item</th>
              <FigureHead>mean size{unit && `, ${unit}`}</FigureHead>
              <FigureHead>bias{unit && `, ${unit}`}</FigureHead>
              <FigureHead>95 % interval of the bias</FigureHead>
            </tr>
          </thead>
          <tbody>
            {order.map((item) => {
              const index = group.items.findIndex(({ id }) => id === item.id);
              const bias = group.signed?.[index];
              return (
                <tr key={item.id}>
                  <th scope="row">
                    <ItemName name={item.name} mark={item.mark} size={14} />
                  </th>
                  <td className="figure">{result(group.analysis.items[index]?.summary.mean)}</td>
                  <td className="figure">{result(bias?.mean)}</td>
                  <td className="figure">
                    {bias?.interval ? `${result(bias.interval[0])} to ${result(bias.interval[1])}` : '–'}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </Table>
      </Scroll>
    </Section>
  );
}
