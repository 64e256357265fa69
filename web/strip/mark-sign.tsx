import { markColour, markOutline } from '../../core/model/marks.ts';

/** An item's mark as a small picture, solid or hollow. */
export function MarkSign({
  mark,
  size = 16,
  hollow = false,
}: {
  mark: number;
  size?: number;
  hollow?: boolean;
}) {
  const colour = markColour(mark);
  return (
    <svg width={size} height={size} viewBox="-1.3 -1.3 2.6 2.6" aria-hidden focusable="false">
      <path
        d={markOutline(mark)}
        fill={hollow ? 'none' : colour}
        stroke={hollow ? colour : 'none'}
        strokeWidth={hollow ? 0.3 : 0}
      />
    </svg>
  );
}
