import styled from 'styled-components';
import { Span } from '../ui/span.tsx';
import { SavedNumber } from './draft-field.tsx';

/** Both ends in one place of a grid, so that they stay in one row. */
const Pair = styled(Span)`
  gap: 12px;
`;

interface Range {
  low: number | null;
  high: number | null;
}

export interface RangeFieldsProps {
  range: Range;
  /** Of the lower end, and of the upper one. */
  labels: readonly [low: string, high: string];
  /** How many columns of a grid they take together, where they stand in one. */
  columns?: number;
  unit: string;
  save: (range: Range) => Promise<unknown>;
}

/** The two ends of a range, the lower one below the upper; each may be open, and saves itself when it is left. */
export function RangeFields({
  range: { low, high },
  labels: [lower, upper],
  columns,
  unit,
  save,
}: RangeFieldsProps) {
  const ends = (
    <>
      <SavedNumber
        label={lower}
        saved={low}
        unit={unit}
        placeholder="–"
        check={(value) => (high !== null && value >= high ? 'Must be below the upper limit.' : undefined)}
        save={(value) => save({ low: value, high })}
      />
      <SavedNumber
        label={upper}
        saved={high}
        unit={unit}
        placeholder="–"
        check={(value) => (low !== null && value <= low ? 'Must be above the lower limit.' : undefined)}
        save={(value) => save({ low, high: value })}
      />
    </>
  );
  return columns === undefined ? ends : <Pair $columns={columns}>{ends}</Pair>;
}
