import { Chart, LinearScale, PointElement, type Plugin, ScatterController } from 'chart.js';
import { decimalsOf, formatNumber, formatPlain, formatReading } from '../../core/quantity/format.ts';
import { axisOver } from './axis.ts';
import {
  type Domain,
  FOOT,
  MARK_RADIUS,
  type PlacedMark,
  type StripBand,
  type StripLane,
  type StripMark,
  clearHeight,
  measuredOut,
  parkedMarks,
  placeMarks,
  placedAlike,
  shareAlong,
} from './layout.ts';
import { MARKS } from '../../core/model/marks.ts';
import { LaneMarks } from './lane-marks.ts';

Chart.register(LinearScale, PointElement, ScatterController);

/** Width of one figure under the axis, in px. */
const FIGURE_WIDTH = 8;
/** Height of the axis under the lanes, in px. */
export const AXIS_HEIGHT = 34;

export interface StripState {
  lanes: readonly StripLane[];
  domain: Domain;
  band: StripBand | undefined;
  laneHeight: number;
  /** The reading to point out, such as the one just recorded. */
  pointedId: string | undefined;
}

interface Inks {
  marks: string[];
  ink: string;
  quiet: string;
  rule: string;
  fernSoft: string;
  fern: string;
  sheet: string;
  font: string;
}

function readInks(): Inks {
  const style = getComputedStyle(document.documentElement);
  const ink = (name: string) => style.getPropertyValue(name).trim();
  return {
    marks: MARKS.map((_, i) => ink(`--mark-${String(i)}`)),
    ink: ink('--ink'),
    quiet: ink('--quiet'),
    rule: ink('--rule'),
    fernSoft: ink('--fern-soft'),
    fern: ink('--fern'),
    sheet: ink('--sheet'),
    font: ink('--text'),
  };
}

/** The drawn strip: lanes, marks, means, intervals, band and axis on one canvas. Chart.js gives scale and axis. */
export class StripChart {
  /** Marks by lane, sorted by x; for pointer and keys. */
  placed: PlacedMark[][] = [];
  /** What the marks of each lane were placed by. */
  private placedBy: { marks: readonly StripMark[]; frame: string }[] = [];
  private state: StripState = {
    lanes: [],
    domain: { min: 0, max: 1 },
    band: undefined,
    laneHeight: 50,
    pointedId: undefined,
  };
  private inks = readInks();
  /** What the axis was laid out for. */
  private axis = '';
  /** Made again for other colours, and where the page is zoomed. */
  private marks: LaneMarks | undefined;
  private readonly chart: Chart<'scatter'>;
  private readonly onPlaced: () => void;

  /** Shows nothing until the first update. @param onPlaced is called whenever marks have moved on the canvas */
  constructor(canvas: HTMLCanvasElement, onPlaced: () => void) {
    this.onPlaced = onPlaced;
    const plugin: Plugin<'scatter'> = {
      id: 'strip',
      afterLayout: (chart) => {
        this.place(chart);
      },
      beforeDraw: (chart) => {
        this.drawBand(chart);
      },
      afterDraw: (chart) => {
        this.drawMarks(chart);
      },
    };
    this.chart = new Chart(canvas, {
      type: 'scatter',
      data: { datasets: [{ data: [] }] },
      plugins: [plugin],
      options: {
        responsive: true,
        maintainAspectRatio: false,
        animation: false,
        events: [],
        layout: { padding: 0 },
        plugins: { legend: { display: false } },
        scales: {
          x: {
            type: 'linear',
            afterBuildTicks: (scale) => {
              const { min, max, ratios } = this.state.domain;
              if (!ratios) return;
              const width = this.chart.width;
              const { ticks } = axisOver(
                { low: min, high: max, ratios },
                { from: 0, to: width, count: Math.max(2, Math.round(width / 80)) },
              );
              scale.ticks = ticks.map((value) => ({ value: Math.log10(value) }));
            },
            afterFit: (scale) => {
              scale.height = AXIS_HEIGHT;
              scale.paddingLeft = 0;
              scale.paddingRight = 0;
            },
            border: { display: false },
            grid: { drawTicks: false },
            ticks: { includeBounds: false, maxRotation: 0, autoSkipPadding: 16, padding: 8 },
          },
          y: { display: false, min: 0, max: 1 },
        },
      },
    });
    this.apply();
  }

  update(state: StripState): void {
    this.state = state;
    this.apply();
  }

  /** Reads the colours again, after a change of theme. */
  retint(): void {
    this.inks = readInks();
    this.marks = undefined;
    this.axis = '';
    this.apply();
  }

  destroy(): void {
    this.chart.destroy();
  }

  private apply(): void {
    const x = this.chart.options.scales?.x;
    if (x?.type !== 'linear') return;
    const { domain, lanes, band } = this.state;
    // Without anything on it an axis says nothing.
    const isEmpty = band === undefined && lanes.every(({ marks }) => marks.length === 0);
    const axis = [domain.min, domain.max, String(domain.ratios), isEmpty].join(' ');
    if (axis === this.axis) {
      // What lies on the axis is drawn in half the time that it takes to lay out the axis too.
      this.place(this.chart);
      this.chart.draw();
      return;
    }
    this.axis = axis;
    x.min = measuredOut(domain, domain.min);
    x.max = measuredOut(domain, domain.max);
    if (x.grid) {
      x.grid.color = this.inks.rule;
      x.grid.display = !isEmpty;
    }
    if (x.ticks) {
      x.ticks.color = this.inks.quiet;
      x.ticks.font = { family: this.inks.font, size: 13 };
      x.ticks.callback = (tick, _index, ticks) => {
        const step = ticks.length > 1 ? Math.abs((ticks[1]?.value ?? 1) - (ticks[0]?.value ?? 0)) : 1;
        const value = domain.ratios ? Number((10 ** Number(tick)).toPrecision(12)) : Number(tick);
        const words = domain.ratios ? formatPlain(value) : formatNumber(value, decimalsOf(step));
        // A figure that the edge would cut is left out; its line stays.
        const px = shareAlong(domain, value) * this.chart.width;
        const half = (words.length * FIGURE_WIDTH) / 2;
        return isEmpty || px < half || px > this.chart.width - half ? '' : words;
      };
    }
    this.chart.update('none');
  }

  /** Px of a value, by where the axis has its ends: it is even, and this is asked of each of thousands of marks. */
  private toX(chart: Chart): (value: number) => number {
    const { domain } = this.state;
    const { x } = chart.scales;
    if (!x) return () => 0;
    const [from, to] = [x.getPixelForValue(x.min), x.getPixelForValue(x.max)];
    const perUnit = (to - from) / (x.max - x.min);
    return (value) => from + (measuredOut(domain, value) - x.min) * perUnit;
  }

  /** Where a range is drawn from and to, in px. */
  private drawnReach(chart: Chart, [low, high]: NonNullable<StripLane['reach']>): [number, number] {
    const toX = this.toX(chart);
    return [low === null ? 0 : toX(low), high === null ? chart.width : toX(high)];
  }

  private place(chart: Chart): void {
    const toX = this.toX(chart);
    const { domain, lanes, laneHeight } = this.state;
    const ends = [domain.min, domain.max];
    const frame = [...ends, ...ends.map(toX), chart.width, laneHeight, String(domain.ratios)].join(' ');
    const before = this.placedBy;
    this.placedBy = lanes.map(({ marks }) => ({ marks, frame }));
    this.placed = lanes.map(({ marks }, lane) => {
      const [known, placed] = [before[lane], this.placed[lane]];
      const alike =
        placed && known?.frame === frame
          ? known.marks === marks
            ? placed
            : placedAlike(marks, { marks: known.marks, placed })
          : undefined;
      return alike ?? placeMarks(marks, toX, lane, laneHeight, chart.width);
    });
    this.onPlaced();
  }

  private drawBand(chart: Chart): void {
    const context = chart.ctx;
    const toX = this.toX(chart);
    const { band, lanes, laneHeight } = this.state;
    if (!band) return;
    const from = Math.max(0, toX(band.from));
    const to = Math.min(chart.width, toX(band.to));
    if (to <= from) return;
    context.save();
    context.fillStyle = this.inks.fernSoft;
    context.fillRect(from, 0, to - from, lanes.length * laneHeight);
    context.restore();
  }

  private drawMarks(chart: Chart): void {
    const context = chart.ctx;
    const { lanes, laneHeight, pointedId } = this.state;
    const ratio = chart.currentDevicePixelRatio;
    const laneMarks = this.marks?.ratio === ratio ? this.marks : new LaneMarks(this.inks, ratio);
    this.marks = laneMarks;
    context.save();
    context.strokeStyle = this.inks.rule;
    context.lineWidth = 1;
    for (let lane = 1; lane <= lanes.length; lane += 1) {
      context.beginPath();
      context.moveTo(0, lane * laneHeight - 0.5);
      context.lineTo(chart.width, lane * laneHeight - 0.5);
      context.stroke();
    }
    lanes.forEach(({ mark, mean, interval, reach, words }, lane) => {
      const marks = this.placed[lane] ?? [];
      laneMarks.draw(context, { lane, mark, marks, laneHeight, width: chart.width });
      const pointed = pointedId && marks.find(({ mark: { id } }) => id === pointedId);
      if (pointed) this.ring(context, pointed);
      const parked = parkedMarks(marks);
      this.labelParked(context, { lane, marks, parked: parked.left, side: 'left' });
      this.labelParked(context, { lane, marks, parked: parked.right, side: 'right' });
      if (reach) this.drawReach(chart, lane, reach);
      if (mean !== null) this.drawMean(chart, lane, mean, interval);
      const [from, to] = reach ? this.drawnReach(chart, reach) : [0, 0];
      const x = mean === null ? (from + to) / 2 : this.toX(chart)(mean);
      if (words !== undefined) this.drawWords(chart, lane, words, x);
    });
    this.drawEnds(chart);
    context.restore();
  }

  /** Says where the axis begins and ends where fewer than two of its figures have room: one alone gives no scale. */
  private drawEnds(chart: Chart): void {
    const { lanes, band, domain } = this.state;
    const figures = (chart.scales.x?.ticks ?? []).filter(({ label }) => label !== '');
    if (figures.length > 1 || (band === undefined && lanes.every(({ marks }) => marks.length === 0))) return;
    const context = chart.ctx;
    const y = lanes.length * this.state.laneHeight + AXIS_HEIGHT - 6;
    const decimals = Math.max(
      0,
      1 - Math.floor(Math.log10(domain.ratios ? domain.min : domain.max - domain.min)),
    );
    context.font = `12px ${this.inks.font}`;
    context.fillStyle = this.inks.quiet;
    context.textBaseline = 'alphabetic';
    for (const [value, x, align] of [
      [domain.min, 0, 'left'],
      [domain.max, chart.width, 'right'],
    ] as const) {
      context.textAlign = align;
      context.fillText(formatNumber(value, decimals), x, y);
    }
  }

  private ring(context: CanvasRenderingContext2D, { x, y }: PlacedMark): void {
    context.beginPath();
    context.arc(x, y, MARK_RADIUS + 4, 0, 2 * Math.PI);
    context.lineWidth = 1.5;
    context.strokeStyle = this.inks.ink;
    context.stroke();
  }

  /** Says the values of marks parked at an edge, since their place does not, where no mark is in the way. */
  private labelParked(
    context: CanvasRenderingContext2D,
    {
      lane,
      marks,
      parked,
      side,
    }: {
      lane: number;
      marks: readonly PlacedMark[];
      parked: readonly PlacedMark[];
      side: 'left' | 'right';
    },
  ): void {
    const first = parked[0];
    if (!first) return;
    const values = parked.map(({ mark }) => formatReading(mark.value));
    const words = values.length > 2 ? `${String(values.length)} far off` : values.join(', ');
    context.font = `13px ${this.inks.font}`;
    context.fillStyle = this.inks.quiet;
    context.textBaseline = 'middle';
    context.textAlign = side;
    const outward = side === 'left' ? -1 : 1;
    const start = first.x - outward * (MARK_RADIUS + 5);
    const end = start - outward * context.measureText(words).width;
    const across = { from: Math.min(start, end), to: Math.max(start, end) };
    const height = clearHeight(marks, across, first.y, { lane, laneHeight: this.state.laneHeight });
    if (height !== undefined) context.fillText(words, start, height);
    context.fillText(side === 'left' ? '‹' : '›', first.x + outward * (MARK_RADIUS + 7), first.y);
  }

  /** The range that an item is known by: a frame, broken where an end is open. */
  private drawReach(chart: Chart, lane: number, reach: NonNullable<StripLane['reach']>): void {
    const context = chart.ctx;
    const [from, to] = this.drawnReach(chart, reach);
    context.strokeStyle = this.inks.ink;
    context.lineWidth = 1.5;
    context.setLineDash(reach.includes(null) ? [6, 4] : []);
    context.strokeRect(from, (lane + 1) * this.state.laneHeight - FOOT / 2 - 3, Math.max(3, to - from), 8);
    context.setLineDash([]);
  }

  /** Words over a place of a lane without marks, inside the strip. */
  private drawWords(chart: Chart, lane: number, words: string, x: number): void {
    const context = chart.ctx;
    context.font = `13px ${this.inks.font}`;
    const half = context.measureText(words).width / 2;
    const centre = Math.min(chart.width - half - 4, Math.max(half + 4, x));
    context.fillStyle = this.inks.quiet;
    context.textBaseline = 'alphabetic';
    context.textAlign = 'center';
    context.fillText(words, centre, (lane + 1) * this.state.laneHeight - FOOT - 3);
  }

  private drawMean(
    chart: Chart,
    lane: number,
    mean: number,
    interval: readonly [number, number] | null,
  ): void {
    const context = chart.ctx;
    const toX = this.toX(chart);
    const y = (lane + 1) * this.state.laneHeight - FOOT / 2 + 1;
    context.strokeStyle = this.inks.ink;
    context.lineWidth = 2;
    if (interval) {
      context.beginPath();
      context.moveTo(Math.max(0, toX(interval[0])), y);
      context.lineTo(Math.min(chart.width, toX(interval[1])), y);
      context.stroke();
    }
    context.lineWidth = 2.5;
    context.beginPath();
    context.moveTo(toX(mean), y - 4.5);
    context.lineTo(toX(mean), y + 4.5);
    context.stroke();
  }
}
