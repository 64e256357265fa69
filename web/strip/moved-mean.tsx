import { markColour, markOutline } from '../../core/model/marks.ts';

/** Half the size of a mark, px. */
const MARK = 5.5;

/** The mean of an item on a line of means, with a trail from where it was; nothing where it has none. */
export function MovedMean({
  mark,
  mean,
  origin,
  toX,
}: {
  mark: number;
  mean: number | null | undefined;
  origin: number | null | undefined;
  /** Where a mean stands along the line, px. */
  toX: (value: number) => number;
}) {
  if (mean == null) return null;
  const moved = origin != null && Math.abs(toX(mean) - toX(origin)) > 1;
  return (
    <g>
      {moved && (
        <>
          <line x1={toX(origin)} x2={toX(mean)} stroke={markColour(mark)} strokeWidth={2} />
          <circle cx={toX(origin)} r={2.4} fill="var(--sheet)" stroke={markColour(mark)} />
        </>
      )}
      <path
        d={markOutline(mark)}
        fill={markColour(mark)}
        stroke="var(--sheet)"
        strokeWidth={0.22}
        transform={`translate(${toX(mean).toFixed(1)} 0) scale(${String(MARK)})`}
      />
    </g>
  );
}
