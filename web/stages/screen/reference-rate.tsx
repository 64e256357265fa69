import { useState } from 'react';
import styled from 'styled-components';
import type { StudyAgreement } from '../../../core/analysis/agree.ts';
import type { Agreement } from '../../../core/error/agreement.ts';
import type { Item, Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { counted, formatReading, withUnit } from '../../../core/quantity/format.ts';
import { parseQuantity } from '../../../core/quantity/parse.ts';
import { useAgreement } from '../../app/api/analysis.ts';
import { Button } from '../../ui/button.tsx';
import { Fold } from '../../ui/fold.tsx';
import { ItemHead } from '../../ui/name.tsx';
import { FigureHead, Scroll, Table } from '../../ui/table.tsx';
import { errorFigure } from './agreement.tsx';
import { Becomes } from './before-after.tsx';
import { TextField } from '../../ui/text-field.tsx';

const Line = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: flex-end;
  gap: 12px 16px;
  margin: 8px 0 12px;
`;

export interface ReferenceRateProps {
  document: StudyDocument;
  measurand: Measurand;
  agreement: StudyAgreement;
  items: ReadonlyMap<string, Item>;
  onLeaveOut: (ids: readonly string[], what: string) => void;
}

/** Pairs that were taken while the reference changed fast: a slow item lags behind it. */
export function ReferenceRate(props: ReferenceRateProps) {
  const { document, measurand, agreement, items, onLeaveOut } = props;
  const [typed, setTyped] = useState('');
  const rates = agreement.pairs.flatMap(({ rate }) => (rate === null ? [] : [Math.abs(rate)]));
  const fastest = Math.max(0, ...rates);
  if (fastest === 0) return null;
  const unit = `${measurand.unit || '1'}/min`;
  const figure = (rate: number) => withUnit(formatReading(Number(rate.toPrecision(2))), unit);
  const read = typed.trim() === '' ? undefined : parseQuantity(typed, '');
  const limit = read && !('problem' in read) && read.number >= 0 ? read.number : undefined;
  const fast = agreement.pairs.filter(
    ({ rate }) => limit !== undefined && rate !== null && Math.abs(rate) > limit,
  );
  return (
    <Fold
      title="While the reference changed"
      state={`It moved by up to ${figure(fastest)} while readings were taken.`}
    >
      <p style={{ maxWidth: '76ch' }}>
        A slow item lags behind a reference that moves, which makes an error that is not its own. How fast the
        reference moved comes from what was read of it just before and behind, in the same session
        {document.factors.length > 0 && ' and at the same setting'}.
      </p>
      <Line>
        <TextField
          label="Without pairs taken while it moved faster than"
          value={typed}
          onChange={setTyped}
          problem={typed.trim() !== '' && limit === undefined ? 'A number, 0 or more.' : undefined}
          suffix={unit}
          inputMode="decimal"
        />
        {fast.length > 0 && limit !== undefined && (
          <Button
            size="small"
            tone="quiet"
            onPress={() => {
              onLeaveOut(
                fast.map(({ id }) => id),
                `${counted(fast.length, 'reading')} taken while the reference moved faster than ${figure(limit)}`,
              );
            }}
          >
            Leave {counted(fast.length, 'reading')} out…
          </Button>
        )}
      </Line>
      {limit !== undefined &&
        (fast.length === 0 ? (
          <p>It never moved faster than that.</p>
        ) : (
          <Without {...{ document, measurand, agreement, items, limit }} />
        ))}
    </Fold>
  );
}

/** What the agreement of each item would be without the fast pairs. */
function Without({
  document,
  measurand,
  agreement,
  items,
  limit,
}: Omit<ReferenceRateProps, 'onLeaveOut'> & { limit: number }) {
  const { data: slow } = useAgreement(document, measurand.id, limit);
  const figure = errorFigure(agreement);
  if (slow === null) return <p>No pair would be left.</p>;
  return (
    <Scroll aria-label="Agreement with and without the fast pairs">
      <Table>
        <thead>
          <tr>
            <th scope="col">Item</th>
            {['pairs', 'bias', 'mean |error|', 'limits of agreement'].map((head) => (
              <FigureHead key={head}>{head}</FigureHead>
            ))}
          </tr>
        </thead>
        <tbody>
          {agreement.byItem.map(({ key, label, agreement: all }) => {
            const rest = slow?.byItem.find((other) => other.key === key)?.agreement;
            const becomes = (words: (of: Agreement | undefined) => string) => (
              <td className="figure">
                <Becomes before={words(all)} after={words(slow ? rest : all)} />
              </td>
            );
            return (
              <tr key={key}>
                <ItemHead name={label} mark={items.get(key)?.mark ?? 0} />
                {becomes((of) => String(of?.n ?? 0))}
                {becomes((of) => figure(of?.bias))}
                {becomes((of) => figure(of?.meanAbsolute))}
                {becomes((of) => (of?.limits ? `${figure(of.limits[0])} to ${figure(of.limits[1])}` : '–'))}
              </tr>
            );
          })}
        </tbody>
      </Table>
    </Scroll>
  );
}
