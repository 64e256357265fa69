import styled from 'styled-components';
import { type PowerInput, power } from '../../../core/plan/power.ts';

const Picture = styled.svg`
  display: block;
  width: 100%;
  height: auto;
  overflow: visible;
  text {
    font-size: 13px;
    fill: var(--quiet);
  }
`;

const WIDTH = 360;
const HEIGHT = 190;
const LEFT = 44;
const BOTTOM = 26;

/** A round number of readings up to which the curve is drawn. */
function lastOf(rounds: number, needed: number | undefined): number {
  const reach = 1.5 * Math.max(rounds, needed ?? 0, 6);
  const step = 10 ** Math.floor(Math.log10(reach));
  return Math.ceil(reach / step) * step;
}

/** Chance of seeing the difference against readings per item, with what is planned and what is needed. */
export function PowerCurve({
  input,
  rounds,
  aim,
  needed,
}: {
  input: PowerInput;
  rounds: number;
  aim: number;
  needed: number | undefined;
}) {
  const last = lastOf(rounds, needed);
  const toX = (n: number) => LEFT + ((n - 2) / (last - 2)) * (WIDTH - LEFT - 8);
  const toY = (share: number) => 10 + (1 - share) * (HEIGHT - BOTTOM - 10);
  const points = Array.from({ length: 61 }, (_, i) => 2 + (i / 60) * (last - 2));
  const line = points.map((n) => `${toX(n).toFixed(1)},${toY(power(n, input)).toFixed(1)}`).join(' ');
  const mark = (n: number, colour: string, label: string) => (
    <g>
      <circle cx={toX(n)} cy={toY(power(n, input))} r={5.5} fill={colour} />
      <text x={toX(n) + 9} y={toY(power(n, input)) + 18} style={{ fill: colour, fontWeight: 640 }}>
        {label}
      </text>
    </g>
  );
  return (
    <Picture
      viewBox={`0 0 ${String(WIDTH)} ${String(HEIGHT)}`}
      role="img"
      aria-label="Chance against readings per item"
    >
      {[0, 0.5, 1].map((share) => (
        <g key={share}>
          <line x1={LEFT} x2={WIDTH - 8} y1={toY(share)} y2={toY(share)} stroke="var(--rule)" />
          <text x={LEFT - 8} y={toY(share) + 4} textAnchor="end">
            {100 * share}&#8239;%
          </text>
        </g>
      ))}
      <line x1={LEFT} x2={WIDTH - 8} y1={toY(aim)} y2={toY(aim)} stroke="var(--fern)" strokeDasharray="4 4" />
      <polyline points={line} fill="none" stroke="var(--ink)" strokeWidth={2} />
      {needed !== undefined && mark(needed, 'var(--fern)', `${String(needed)} needed`)}
      {rounds >= 2 && rounds !== needed && mark(rounds, 'var(--rust)', `${String(rounds)} planned`)}
      <text x={LEFT} y={HEIGHT - 4} textAnchor="middle">
        2
      </text>
      <text x={WIDTH - 8} y={HEIGHT - 4} textAnchor="end">
        {last} readings per item
      </text>
    </Picture>
  );
}
