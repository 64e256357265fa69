import { Chart, LinearScale, LineController, LineElement, PointElement, ScatterController } from 'chart.js';
import { useEffect, useRef, useState } from 'react';
import styled from 'styled-components';
import type { ConditionTrack, InOrder } from '../../core/analysis/in-order.ts';
import { formatReading, withUnit } from '../../core/quantity/format.ts';
import { isSameWord } from '../../core/conditions/index.ts';
import { MARKS, markOutline } from '../../core/model/marks.ts';
import { useThemeChange } from './use-theme-change.ts';

Chart.register(LinearScale, LineController, LineElement, PointElement, ScatterController);

/** Heights in px. */
const PLOT = 230;
const TRACK = 58;
const MARK = 6;

const Frame = styled.figure`
  margin: 0;
  display: grid;
  gap: 2px;
  canvas {
    display: block;
  }
  figcaption {
    font-size: var(--size-13);
    color: var(--quiet);
  }
`;

const Box = styled.div<{ $height: number }>`
  position: relative;
  height: ${({ $height }) => $height}px;
  min-width: 0;
`;

const ink = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(name).trim();

const numbers = (count: number) => ({
  type: 'linear' as const,
  min: -0.5,
  max: Math.max(0.5, count - 0.5),
  grid: { display: false },
});

/** Where all plots begin, so that what stands under one another was at the same time, px. */
const LEFT = 58;
const alignLeft = (scale: { width: number }) => {
  scale.width = LEFT;
};

/** Words along the readings, each cut off where the next one begins. */
const WordLine = styled.div`
  position: relative;
  height: 22px;
  margin: 0 10px 0 ${LEFT}px;
  font-size: var(--size-13);
  span {
    position: absolute;
    padding: 0 6px;
    border-left: 2px solid var(--quiet);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  /* What was read at the very end stands before its place. */
  span[data-at-end] {
    right: 0;
    border-left: none;
    border-right: 2px solid var(--quiet);
  }
`;

/** Behind so much of the readings is at the very end. */
const AT_END = 0.94;

/** Another number with each change of theme, so that what is drawn is drawn again. */
function useTheme(): number {
  const [times, setTimes] = useState(0);
  useThemeChange(() => {
    setTimes((before) => before + 1);
  });
  return times;
}

export interface OrderPictureProps {
  /** What is shown, for readers. */
  label: string;
  unit: string;
  order: InOrder;
  /** Mark of each item, by its id. */
  marks: ReadonlyMap<string, number>;
}

type Drawn = Pick<OrderPictureProps, 'order' | 'marks'>;

/** Draws where another session begins, and the mark of each reading: hollow where it does not count. */
function drawOrder({ ctx, scales: { x, y }, chartArea }: Chart, { order, marks }: Drawn): void {
  if (!x || !y) return;
  ctx.save();
  ctx.strokeStyle = ink('--quiet');
  ctx.setLineDash([4, 4]);
  for (const start of order.sessions) {
    const place = x.getPixelForValue(start - 0.5);
    ctx.beginPath();
    ctx.moveTo(place, chartArea.top);
    ctx.lineTo(place, chartArea.bottom);
    ctx.stroke();
  }
  ctx.restore();
  for (const { place, value, itemId, out } of order.readings) {
    const mark = marks.get(itemId) ?? 0;
    ctx.save();
    ctx.translate(x.getPixelForValue(place), y.getPixelForValue(value));
    ctx.scale(MARK, MARK);
    const colour = ink(`--mark-${String(mark % MARKS.length)}`);
    const outline = new Path2D(markOutline(mark));
    if (out) {
      ctx.lineWidth = 0.3;
      ctx.strokeStyle = colour;
      ctx.stroke(outline);
    } else {
      ctx.fillStyle = colour;
      ctx.fill(outline);
    }
    ctx.restore();
  }
}

/** The readings of an order as a chart on a canvas. */
function orderChart(canvas: HTMLCanvasElement, drawn: Drawn): Chart {
  const { readings } = drawn.order;
  const rule = ink('--rule');
  return new Chart(canvas, {
    type: 'scatter',
    data: {
      datasets: [{ data: readings.map(({ place, value }) => ({ x: place, y: value })), pointRadius: 0 }],
    },
    options: {
      animation: false,
      responsive: true,
      maintainAspectRatio: false,
      events: [],
      layout: { padding: { top: 10, right: 10 } },
      scales: {
        x: { ...numbers(readings.length), ticks: { display: false }, border: { color: rule } },
        y: {
          grid: { color: rule },
          border: { display: false },
          ticks: { color: ink('--quiet'), maxTicksLimit: 6, font: { family: ink('--text') } },
          afterFit: alignLeft,
        },
      },
      plugins: { legend: { display: false }, tooltip: { enabled: false } },
    },
    plugins: [
      {
        id: 'marks',
        afterDatasetsDraw: (chart) => {
          drawOrder(chart, drawn);
        },
      },
    ],
  });
}

/** What a condition became meanwhile, in words. */
function trackWords(track: ConditionTrack): string {
  const { name, unit, isQuantity } = track;
  if (!isQuantity)
    return `${name}: ${wordsOf(track)
      .map(({ text }) => text)
      .join(', then ')}`;
  const values = valuesOf(track);
  const [first, last] = [values[0], values.at(-1)];
  return first && last
    ? `${name} from ${formatReading(first.value)} to ${withUnit(formatReading(last.value), unit)}`
    : '';
}

/** Readings in the order in which they were taken, with the conditions of their sessions under them. */
export function OrderPicture({ label, unit, order, marks }: OrderPictureProps) {
  const plot = useRef<HTMLCanvasElement>(null);
  const theme = useTheme();
  useEffect(() => {
    if (!plot.current) return undefined;
    const chart = orderChart(plot.current, { order, marks });
    return () => {
      chart.destroy();
    };
  }, [order, marks, theme]);
  const { readings, sessions, conditions } = order;
  const inSessions = sessions.length > 0 ? `, in ${String(sessions.length + 1)} sessions` : '';
  const words = `${label}: ${String(readings.length)} readings in the order in which they were taken${inSessions}. ${conditions.map(trackWords).join('; ')}`;
  return (
    <Frame>
      <figcaption>
        {label}
        {unit && `, ${unit}`}, in the order taken
        {sessions.length > 0 && '; a broken line where another session begins'}
      </figcaption>
      <Box $height={PLOT} role="img" aria-label={words}>
        <canvas ref={plot} aria-hidden />
      </Box>
      {conditions.map((track) =>
        track.isQuantity ? (
          <Track key={track.name} track={track} count={readings.length} />
        ) : (
          <WordTrack key={track.name} track={track} count={readings.length} />
        ),
      )}
    </Frame>
  );
}

/** What a quantity was read to be, and where. */
const valuesOf = ({ steps }: ConditionTrack): { place: number; value: number }[] =>
  steps.flatMap(({ place, value }) => (value === null ? [] : [{ place, value }]));

/** What a condition was in words, each from where it was another one than before. */
const wordsOf = ({ steps }: ConditionTrack): { place: number; text: string }[] =>
  steps.filter(({ text }, i) => i === 0 || !isSameWord(text, steps[i - 1]?.text ?? ''));

/** What a condition was in words, under the readings from which on it was so. */
function WordTrack({ track, count }: { track: ConditionTrack; count: number }) {
  const words = wordsOf(track);
  const share = (readings: number) => `${String((100 * readings) / count)}%`;
  return (
    <div>
      <figcaption style={{ paddingLeft: LEFT }}>{track.name}</figcaption>
      <WordLine>
        {words.map(({ place, text }, i) => (
          <span
            key={`${String(place)}/${text}`}
            {...(place >= AT_END * count && i === words.length - 1
              ? { 'data-at-end': true }
              : { style: { left: share(place), width: share((words[i + 1]?.place ?? count) - place) } })}
          >
            {text}
          </span>
        ))}
      </WordLine>
    </div>
  );
}

function Track({ track, count }: { track: ConditionTrack; count: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const theme = useTheme();
  useEffect(() => {
    if (!canvas.current) return undefined;
    const chart = new Chart(canvas.current, {
      type: 'line',
      data: {
        datasets: [
          {
            data: valuesOf(track).map(({ place, value }) => ({ x: place, y: value })),
            borderColor: ink('--quiet'),
            backgroundColor: ink('--quiet'),
            borderWidth: 1.5,
            pointRadius: 3,
          },
        ],
      },
      options: {
        animation: false,
        responsive: true,
        maintainAspectRatio: false,
        events: [],
        layout: { padding: { top: 4, right: 10 } },
        scales: {
          x: { ...numbers(count), ticks: { display: false }, border: { color: ink('--rule') } },
          y: {
            grid: { display: false },
            border: { display: false },
            grace: '15%',
            ticks: { color: ink('--quiet'), maxTicksLimit: 3, font: { family: ink('--text'), size: 11 } },
            afterFit: alignLeft,
          },
        },
        plugins: { legend: { display: false }, tooltip: { enabled: false } },
      },
    });
    return () => {
      chart.destroy();
    };
  }, [track, count, theme]);
  return (
    <div>
      <figcaption style={{ paddingLeft: LEFT }}>
        {track.name}
        {track.unit && `, ${track.unit}`}
      </figcaption>
      <Box $height={TRACK}>
        <canvas ref={canvas} aria-hidden />
      </Box>
    </div>
  );
}
