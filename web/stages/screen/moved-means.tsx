import styled from 'styled-components';
import type { Item } from '../../../core/model/parts.ts';
import { NARROW } from '../../ui/tokens.ts';
import { markColour, markOutline } from '../../../core/model/marks.ts';

const WIDTH = 260;
const HEIGHT = 26;
const PAD = 9;
const MARK = 5.5;

const Picture = styled.svg`
  display: block;
  overflow: visible;
  /* So that what uses a rule is beside it on a tablet. */
  ${NARROW} {
    width: 180px;
    height: auto;
  }
`;

/** The stretch that all schools' means of a class lie in. */
export interface Stretch {
  low: number;
  high: number;
}

export interface MovedMeansProps {
  items: readonly Item[];
  means: readonly (number | null)[];
  /** The means where no rule leaves anything out. */
  from: readonly (number | null)[];
  stretch: Stretch;
}

/** The means of the items on a line, each with a trail from where no rule leaves it. */
export function MovedMeans({ items, means, from, stretch: { low, high } }: MovedMeansProps) {
  const x = (value: number) =>
    high > low ? PAD + ((value - low) / (high - low)) * (WIDTH - 2 * PAD) : WIDTH / 2;
  const y = HEIGHT / 2;
  return (
    <Picture
      width={WIDTH}
      height={HEIGHT}
      viewBox={`0 0 ${String(WIDTH)} ${String(HEIGHT)}`}
      aria-hidden
      focusable="false"
    >
      <line x1={0} x2={WIDTH} y1={y} y2={y} stroke="var(--rule)" />
      {items.map(({ id, mark }, i) => {
        const [mean, origin] = [means[i], from[i]];
        if (mean === null || mean === undefined) return null;
        const moved = origin !== null && origin !== undefined && Math.abs(x(mean) - x(origin)) > 1;
        return (
          <g key={id}>
            {moved && (
              <>
                <line x1={x(origin)} x2={x(mean)} y1={y} y2={y} stroke={markColour(mark)} strokeWidth={2} />
                <circle cx={x(origin)} cy={y} r={2.4} fill="var(--sheet)" stroke={markColour(mark)} />
              </>
            )}
            <path
              d={markOutline(mark)}
              fill={markColour(mark)}
              stroke="var(--sheet)"
              strokeWidth={0.22}
              transform={`translate(${String(x(mean))} ${String(y)}) scale(${String(MARK)})`}
            />
          </g>
        );
      })}
    </Picture>
  );
}
