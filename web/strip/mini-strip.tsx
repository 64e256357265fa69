import styled from 'styled-components';
import type { StudyPreview } from '../../core/analysis/preview.ts';
import { fullDomain, keptDomain, type StripLane } from './layout.ts';
import { markColour, markOutline } from '../../core/model/marks.ts';

const Picture = styled.svg`
  display: block;
  width: 100%;
  height: auto;
`;

const WIDTH = 300;
const LANE = 11;
const RADIUS = 3;

/** A small, still strip of a study's first measurand, as an SVG picture. */
export function MiniStrip({ preview }: { preview: StudyPreview }) {
  const lanes = preview.items.map(({ id, name, code, mark }, item): StripLane => ({
    id,
    name,
    code,
    mark,
    mean: preview.means[item] ?? null,
    interval: null,
    marks: preview.marks.flatMap((shown, i) =>
      shown.item === item ? [{ id: String(i), value: shown.value, out: shown.out, title: '' }] : [],
    ),
  }));
  const near = keptDomain(lanes);
  const { min, max } = preview.marks.length > 0 ? near : fullDomain(lanes);
  const toX = (value: number) =>
    Math.min(WIDTH - RADIUS, Math.max(RADIUS, ((value - min) / (max - min)) * WIDTH));
  const height = Math.max(1, lanes.length) * LANE;
  return (
    <Picture viewBox={`0 0 ${String(WIDTH)} ${String(height)}`} aria-hidden focusable="false">
      {lanes.map(({ id, mark, marks, mean }, lane) => {
        const y = (lane + 0.5) * LANE;
        return (
          <g key={id}>
            <line x1={0} x2={WIDTH} y1={y} y2={y} stroke="var(--rule)" strokeWidth={1} />
            {marks.map((placed) => (
              <path
                key={placed.id}
                d={markOutline(mark)}
                transform={`translate(${String(toX(placed.value))} ${String(y)}) scale(${String(RADIUS)})`}
                fill={placed.out ? 'var(--sheet)' : markColour(mark)}
                stroke={markColour(mark)}
                strokeWidth={placed.out ? 0.4 : 0}
                opacity={placed.out ? 1 : 0.8}
              />
            ))}
            {mean !== null && (
              <line
                x1={toX(mean)}
                x2={toX(mean)}
                y1={y - 5}
                y2={y + 5}
                stroke="var(--ink)"
                strokeWidth={1.6}
              />
            )}
          </g>
        );
      })}
    </Picture>
  );
}
