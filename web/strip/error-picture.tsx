import { scaleTime } from 'd3-scale';
import type { AgreedPair, StudyAgreement } from '../../core/analysis/agree.ts';
import { markColour, markOutline } from '../../core/model/marks.ts';
import type { Item, Measurand } from '../../core/model/parts.ts';
import { formatPlain, withUnit } from '../../core/quantity/format.ts';
import { specLimits } from '../../core/summary/spec.ts';
import { useWidth } from '../ui/use-width.ts';
import { clockTime, dayAndTime, shortDay } from '../ui/when.ts';
import { Axes, type PlotFrame } from './axes.tsx';
import { type ValueAxis, valueAxis } from './axis.ts';
import { Drawing } from './drawing.tsx';

const errorOf = ({ indicated, reference }: AgreedPair): number => indicated - reference;

/** The ways to see pairs: what lies across, and whether the error or what was indicated goes up. */
export const ERROR_VIEWS = {
  reference: {
    label: 'Over the reference',
    title: 'error over the reference',
    across: ({ reference }: AgreedPair) => reference,
    up: errorOf,
  },
  mean: {
    label: 'Over the mean of both',
    title: 'difference over the mean of both',
    across: ({ reference, indicated }: AgreedPair) => (reference + indicated) / 2,
    up: errorOf,
  },
  indicated: {
    label: 'Indicated',
    title: 'indicated over the reference',
    across: ({ reference }: AgreedPair) => reference,
    up: ({ indicated }: AgreedPair) => indicated,
  },
  time: {
    label: 'Over time',
    title: 'error over time',
    across: ({ takenAt }: AgreedPair) => Date.parse(takenAt),
    up: errorOf,
  },
} as const;
export type ErrorView = keyof typeof ERROR_VIEWS;

const FRAME: PlotFrame = { height: 310, top: 26, foot: 52, left: 62, right: 12 };
const { height: HEIGHT, top: TOP, foot: FOOT, left: LEFT, right: RIGHT } = FRAME;
const MARK = 5.5;
const DAY_MS = 86_400_000;

/** An axis of moments in px, with the words of its ticks. */
function timeAxis(times: readonly number[], from: number, to: number) {
  const [first, last] = [Math.min(...times), Math.max(...times)];
  const pad = Math.max(60_000, 0.05 * (last - first));
  const scale = scaleTime()
    .domain([first - pad, last + pad])
    .range([from, to])
    .clamp(true);
  const words = last - first > 3 * DAY_MS ? shortDay : last - first > DAY_MS / 2 ? dayAndTime : clockTime;
  return {
    place: (time: number) => scale(time),
    ticks: scale.ticks(5).map((tick) => ({ value: tick.getTime(), words: words(tick.getTime()) })),
  };
}

/** The limits of the spec along an axis: at each reference, or where they are the same for all. */
function specAlong(measurand: Measurand, x: ValueAxis, view: ErrorView) {
  const { spec, direction } = measurand;
  if (!spec) return [];
  const limitsAt = (reference: number) => specLimits(spec, direction, { reference });
  const along = Array.from({ length: 41 }, (_, i) => x.low + ((x.high - x.low) * i) / 40);
  const everywhere =
    JSON.stringify(limitsAt(x.low)) === JSON.stringify(limitsAt(x.high)) && spec.below === null;
  if ((view === 'time' || view === 'mean') && !everywhere) return [];
  return (['low', 'high'] as const).map((end) =>
    along.flatMap((reference) => {
      const limit = limitsAt(reference)?.[end];
      return limit == null ? [] : [{ x: reference, y: view === 'indicated' ? reference + limit : limit }];
    }),
  );
}

type Point = Record<'x' | 'y', number>;

/** Where there is no error, the bias, and the limits of the spec. */
function Lines({
  view,
  values,
  bias,
  spec,
  x,
  y,
  right,
}: {
  view: ErrorView;
  values: ValueAxis;
  bias: number;
  /** Its lines, the lower one first. */
  spec: readonly (readonly Point[])[];
  x: (value: number) => number;
  y: (value: number) => number;
  right: number;
}) {
  const line = (points: readonly Point[]) =>
    points.map((point) => `${x(point.x).toFixed(1)},${y(point.y).toFixed(1)}`).join(' ');
  const level = (value: number) => ({ x1: LEFT, x2: right, y1: y(value), y2: y(value) });
  return (
    <>
      {view === 'indicated' ? (
        <polyline
          points={line([values.low, values.high].map((value) => ({ x: value, y: value })))}
          fill="none"
          stroke="var(--ink)"
        />
      ) : (
        <>
          <line {...level(0)} stroke="var(--ink)" />
          <line {...level(bias)} stroke="var(--fern)" strokeDasharray="6 4" strokeWidth={1.5} />
        </>
      )}
      {spec.map((points, i) => (
        <polyline
          key={i === 0 ? 'low' : 'high'}
          points={line(points)}
          fill="none"
          stroke="var(--rust)"
          strokeDasharray="2 3"
        />
      ))}
    </>
  );
}

/** A pair as the mark of its item. */
function PairMark({
  pair: { indicated, reference },
  item: { mark, name } = { mark: 0, name: '' },
  unit,
  point: [x, y],
}: {
  pair: StudyAgreement['pairs'][number];
  item: Pick<Item, 'mark' | 'name'> | undefined;
  unit: string;
  point: readonly [number, number];
}) {
  return (
    <path
      d={markOutline(mark)}
      fill={markColour(mark)}
      transform={`translate(${x.toFixed(1)} ${y.toFixed(1)}) scale(${String(MARK)})`}
    >
      <title>{`${name}: ${withUnit(formatPlain(indicated), unit)} at ${withUnit(formatPlain(reference), unit)}`}</title>
    </path>
  );
}

const acrossWords = (view: ErrorView, unit: string): string =>
  view === 'time' ? 'taken' : withUnit(view === 'mean' ? 'mean of both' : 'reference', unit && `in ${unit}`);

/** The limits of agreement, shaded. */
const Band = ({
  limits: [low, high],
  y,
  width,
}: {
  limits: readonly [number, number];
  y: (value: number) => number;
  width: number;
}) => (
  <rect x={LEFT} width={width} y={y(high)} height={Math.max(1, y(low) - y(high))} fill="var(--fern-soft)" />
);

/** Each pair of what was indicated and what the reference said, with the limits of agreement and the spec. */
export function ErrorPicture({
  view,
  agreement: { pairs, whole },
  measurand,
  items,
}: {
  view: ErrorView;
  agreement: StudyAgreement;
  measurand: Measurand;
  items: ReadonlyMap<string, Item>;
}) {
  const [frame, width] = useWidth<HTMLElement>(860);
  const { across, up, title } = ERROR_VIEWS[view];
  const { unit } = measurand;
  const right = width - RIGHT;
  const places = pairs.map(across);
  const values = valueAxis(places, [], { from: LEFT, to: right, count: 6, ratios: false });
  const moments = view === 'time' ? timeAxis(places, LEFT, right) : undefined;
  const x = moments?.place ?? values.place;
  const spec = specAlong(measurand, values, view);
  const limits = view === 'indicated' ? null : whole.limits;
  const heights = [...pairs.map(up), ...(view === 'indicated' ? places : [0]), ...(limits ?? [])];
  const y = valueAxis([...heights, ...spec.flat().map((point) => point.y)], [], {
    ...{ from: HEIGHT - FOOT, to: TOP, count: 6, ratios: false },
  });
  return (
    <Drawing
      frame={frame}
      width={width}
      height={HEIGHT}
      label={`${measurand.name}: ${title}`}
      caption={captionOf(view, measurand.spec !== null && spec.length > 0)}
    >
      {limits && <Band limits={limits} y={y.place} width={right - LEFT} />}
      <Axes
        frame={FRAME}
        width={width}
        x={{ place: x, ticks: moments?.ticks ?? values.ticks }}
        y={y}
        across={acrossWords(view, unit)}
        up={withUnit(view === 'indicated' ? 'indicated' : 'error', unit && `in ${unit}`)}
      />
      <Lines view={view} values={values} bias={whole.bias} spec={spec} x={x} y={y.place} right={right} />
      {pairs.map((pair) => (
        <PairMark
          key={pair.id}
          pair={pair}
          item={items.get(pair.itemId)}
          unit={unit}
          point={[x(across(pair)), y.place(up(pair))]}
        />
      ))}
    </Drawing>
  );
}

function captionOf(view: ErrorView, withSpec: boolean): string {
  const spec = withSpec ? ' Dotted lines are the spec.' : '';
  if (view === 'indicated')
    return `What each item indicated, over the reference. On the line both agree.${spec}`;
  const what = {
    reference: 'Each reading’s error, over what the reference said.',
    mean: 'Each reading’s difference from the reference, over the mean of both (Bland and Altman 1986).',
    time: 'Each reading’s error, when it was taken.',
  }[view];
  return `${what} The band holds 95 % of errors as they spread; the dashed line is the bias.${spec}`;
}
