import { Segments } from '../ui/segments.tsx';

/** How readings are shown: by item, or in the order taken. */
export type ShownBy = 'items' | 'order';

/** Chooses how readings are shown. */
export const ShownAs = ({ by, onBy }: { by: ShownBy; onBy: (by: ShownBy) => void }) => (
  <Segments
    label="Readings shown"
    labelHidden
    options={[
      { value: 'items', label: 'By item' },
      { value: 'order', label: 'In the order taken' },
    ]}
    value={by}
    onChange={onBy}
  />
);
