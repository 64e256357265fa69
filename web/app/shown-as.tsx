import { memo } from 'react';
import { Segments } from '../ui/segments.tsx';

/** How readings are shown: by item, as distances from the median of their round, or in the order taken. */
export type ShownBy = 'items' | 'distances' | 'order';

/** Chooses how readings are shown. */
export const ShownAs = memo(function ShownAs({
  by,
  distances = false,
  onBy,
}: {
  by: ShownBy;
  /** Whether distances are offered. */
  distances?: boolean;
  onBy: (by: ShownBy) => void;
}) {
  return (
    <Segments
      label="Readings shown"
      labelHidden
      options={[
        { value: 'items', label: 'By item' },
        ...(distances ? [{ value: 'distances' as const, label: 'Less the round’s median' }] : []),
        { value: 'order', label: 'In the order taken' },
      ]}
      value={by}
      onChange={onBy}
    />
  );
});
