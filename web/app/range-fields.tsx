import { SavedNumber } from './draft-field.tsx';

interface Range {
  low: number | null;
  high: number | null;
}

export interface RangeFieldsProps {
  range: Range;
  /** Of the lower end, and of the upper one. */
  labels: readonly [low: string, high: string];
  /** How many columns of a grid each takes, where they stand in one. */
  columns?: readonly [low: number, high: number];
  unit: string;
  save: (range: Range) => Promise<unknown>;
}

/** The two ends of a range, the lower one below the upper; each may be open, and saves itself when it is left. */
export function RangeFields({ range, labels, columns, unit, save }: RangeFieldsProps) {
  const { low, high } = range;
  return (
    <>
      <SavedNumber
        {...(columns ? { columns: columns[0] } : {})}
        label={labels[0]}
        saved={low}
        unit={unit}
        placeholder="–"
        check={(value) => (high !== null && value >= high ? 'Must be below the upper limit.' : undefined)}
        save={(value) => save({ low: value, high })}
      />
      <SavedNumber
        {...(columns ? { columns: columns[1] } : {})}
        label={labels[1]}
        saved={high}
        unit={unit}
        placeholder="–"
        check={(value) => (low !== null && value <= low ? 'Must be above the lower limit.' : undefined)}
        save={(value) => save({ low, high: value })}
      />
    </>
  );
}
