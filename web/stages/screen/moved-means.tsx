import styled from 'styled-components';
import type { Item } from '../../../core/model/parts.ts';
import { MovedMean } from '../../strip/moved-mean.tsx';
import { NARROW } from '../../ui/tokens.ts';

const WIDTH = 260;
const HEIGHT = 26;
const PAD = 9;

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
  return (
    <Picture
      width={WIDTH}
      height={HEIGHT}
      viewBox={`0 0 ${String(WIDTH)} ${String(HEIGHT)}`}
      aria-hidden
      focusable="false"
    >
      <g transform={`translate(0 ${String(HEIGHT / 2)})`}>
        <line x2={WIDTH} stroke="var(--rule)" />
        {items.map(({ id, mark }, i) => (
          <MovedMean key={id} mark={mark} mean={means[i]} origin={from[i]} toX={x} />
        ))}
      </g>
    </Picture>
  );
}
