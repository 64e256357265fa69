import { type ReportTable, headOfRow } from '../../core/report/report.ts';
import { ItemName } from '../ui/name.tsx';
import { Table } from '../ui/table.tsx';
import { TakeTable } from './take.tsx';

/** Longer tables are broken over printed pages, and repeat their head. */
const MOST_TOGETHER = 14;

/** A table as the report has it: a caption, figures to the right, its head on every printed page. */
export function ReportTableView({
  table: { caption, head, rows, figures },
  what = caption,
}: {
  table: ReportTable;
  /** What it is called where it is taken. */
  what?: string;
}) {
  const figure = (column: number) => (figures.includes(column) ? 'figure' : undefined);
  return (
    <TakeTable
      what={what}
      style={{ marginBottom: 14, breakInside: rows.length > MOST_TOGETHER ? 'auto' : 'avoid' }}
    >
      <Table>
        <caption>{caption}</caption>
        <thead>
          <tr>
            {head.map((title, column) => (
              <th key={title} scope="col" className={figure(column)}>
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            // Rows have no name, and are made again as a whole.
            <tr key={`${String(i)}/${row[0]?.text ?? ''}`}>
              {row.map(({ text, mark }, column) => {
                const said =
                  mark === undefined ? <bdi>{text}</bdi> : <ItemName name={text} mark={mark} size={14} />;
                return column === headOfRow(row) ? (
                  <th key={head[column]} scope="row">
                    {said}
                  </th>
                ) : (
                  <td key={head[column]} className={figure(column)}>
                    {said}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </Table>
    </TakeTable>
  );
}
