import styled from 'styled-components';
import { settledAt } from '../../../core/record/change-words.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { dayAndTime } from '../../ui/when.ts';

const Line = styled.p`
  grid-column: 1 / -1;
  font-size: var(--size-15);
  color: var(--quiet);
`;

/** When margin and rule were last settled, and whether that was before the first reading. */
export function Settled({ document, measurand }: { document: StudyDocument; measurand: Measurand }) {
  const [margin, rule] = (['margin', 'rule'] as const).map((field) =>
    settledAt(document, measurand.id, field),
  );
  if (!margin || !rule) return null;
  const words = ({ moment, late }: typeof margin) =>
    `${dayAndTime(moment)}${late ? ', after the first reading' : ''}`;
  const untouched =
    measurand.margin.value === 0 &&
    !document.changes.some(({ measurandId, field }) => measurandId === measurand.id && field === 'margin');
  return (
    <Line>
      {untouched ? 'No margin is settled yet' : `Margin settled ${words(margin)}`}; rule {words(rule)}.
      {!untouched && !margin.late && !rule.late && ' Both before the first reading.'}
    </Line>
  );
}
