import type { StudyPrecision } from '../../../core/analysis/precision.ts';
import { capital, formatNumber, withUnit } from '../../../core/quantity/format.ts';
import { partWords, precisionDecimals, precisionSentences } from '../../../core/report/precision.ts';
import { TakeTable } from '../../app/take.tsx';
import { Fold } from '../../ui/fold.tsx';
import { FigureHead, Scroll, Table } from '../../ui/table.tsx';

/** Who and what read a measurand, what of the spread comes from them, and what to improve. */
export function PrecisionTable({ precision, unit }: { precision: StudyPrecision; unit: string }) {
  const decimals = precisionDecimals(precision);
  const share = (part: number) => `${formatNumber(100 * part, 0)}\u202f%`;
  const rows = [
    ...precision.parts.map((part) => ({
      name: `between ${partWords(part)}`,
      groups: String(part.groups),
      ...{ sd: part.sd, share: share(part.share) },
    })),
    {
      name: 'between repeats',
      groups: String(precision.n),
      ...{ sd: precision.repeat.sd, share: share(precision.repeat.share) },
    },
    { name: 'all together', groups: '', sd: precision.reproduced, share: share(1) },
  ];
  const [first, second, ...rest] = precisionSentences(precision, unit);
  const limit = (value: number) => withUnit(formatNumber(value, decimals), unit);
  return (
    <Fold title="Who and what read it" state={second ?? ''}>
      <p style={{ marginBottom: 12, maxWidth: '72ch' }}>{[first, second, ...rest].join(' ')}</p>
      <TakeTable what="Who and what read it">
        <Scroll aria-label="Who and what read it">
          <Table>
            <caption>
              Single readings of one item{unit && `, ${unit}`}: repeatability limit{' '}
              {limit(precision.limits.repeatability)}, reproducibility limit{' '}
              {limit(precision.limits.reproducibility)}
            </caption>
            <thead>
              <tr>
                <th scope="col">Spread</th>
                <FigureHead>how many</FigureHead>
                <FigureHead>SD</FigureHead>
                <FigureHead>of the variance</FigureHead>
              </tr>
            </thead>
            <tbody>
              {rows.map(({ name, groups, sd, share: part }) => (
                <tr key={name}>
                  <th scope="row">{capital(name)}</th>
                  <td className="figure">{groups}</td>
                  <td className="figure">{sd === 0 ? 'none seen' : formatNumber(sd, decimals)}</td>
                  <td className="figure">{part}</td>
                </tr>
              ))}
            </tbody>
          </Table>
        </Scroll>
      </TakeTable>
      <p style={{ marginTop: 8, maxWidth: '72ch' }}>
        Variance components by restricted maximum likelihood, items and settings as fixed; limits are 2.8
        standard deviations (ISO 5725-2, ISO 5725-6).
      </p>
    </Fold>
  );
}
