import { type ScaleLinear, scaleLinear } from 'd3-scale';
import { markColour, markOutline } from '../../core/model/marks.ts';
import { formatNumber, formatPlain } from '../../core/quantity/format.ts';
import { MovedMean } from './moved-mean.tsx';
import { useWidth } from '../ui/use-width.ts';
import { Drawing, shortened } from './drawing.tsx';

/** One school as the picture shows it. */
export interface PicturedSchool {
  label: string;
  /** What it leaves out, shortly. */
  out: string;
  /** The means of the items under it, in their order; null where it leaves nothing. */
  means: readonly (number | null)[];
  /** Who is first under it. */
  first: string;
  /** Whether that is another than under the rule in force. */
  changes: boolean;
  inForce: boolean;
  /** Share of clean samples that lose a reading, and of studies with nothing to find in which a false winner is named. */
  price: { hurt: number; falseWinner: number };
}

export interface SchoolsPictureProps {
  label: string;
  unit: string;
  items: readonly { id: string; name: string; mark: number }[];
  schools: readonly PicturedSchool[];
  /** The means where no rule leaves anything out. */
  from: readonly (number | null)[];
  /** What the verdicts promise, a share. */
  promise: number;
  /** The share beyond which a school is marked. */
  tooMany: number;
  caption: string;
}

const WIDTH = 860;
const ROW = 46;
const MARK = 5.5;
/** Where the columns begin, in px. */
const COLUMN = { means: 196, first: 556, hurt: 716, bar: 734 };
const MEANS = COLUMN.first - COLUMN.means - 36;
/** The longest bar, in px, and the share that it stands for. */
const BAR = { width: 80, share: 0.2 };
const LEGEND = { row: 22, character: 7.6, mark: 26 };

const percent = (share: number) => `${formatNumber(100 * share, 0)}\u202f%`;

/** Where each item of the legend stands: in lines that are as wide as the picture. */
function legendPlaces(items: SchoolsPictureProps['items']): { x: number; y: number }[] {
  let [x, y] = [0, 0];
  return items.map(({ name }) => {
    const width = LEGEND.mark + LEGEND.character * name.length + 14;
    if (x > 0 && x + width > WIDTH) [x, y] = [0, y + LEGEND.row];
    const place = { x, y };
    x += width;
    return place;
  });
}

/** The axis of the means. */
function MeansAxis({ x, y }: { x: ScaleLinear<number, number>; y: number }) {
  return (
    <g transform={`translate(${String(COLUMN.means)} ${String(y)})`}>
      <line x2={MEANS} stroke="var(--ink)" />
      {x.ticks(5).map((tick) => (
        <g key={tick} transform={`translate(${x(tick).toFixed(1)} 0)`}>
          <line y2={5} stroke="var(--ink)" />
          <text className="quiet" y={18} textAnchor="middle">
            {formatPlain(tick)}
          </text>
        </g>
      ))}
    </g>
  );
}

/** What each school of screening would do to one study, and what it costs studies like it: to publish. */
export function SchoolsPicture({
  label,
  unit,
  items,
  schools,
  from,
  promise,
  tooMany,
  caption,
}: SchoolsPictureProps) {
  const [frame] = useWidth<HTMLElement>(WIDTH);
  // Of a range there is no mean to show.
  const named = items.filter((_, i) => schools.some(({ means }) => means[i] != null));
  const legend = legendPlaces(named);
  const top = Math.max(...legend.map(({ y }) => y)) + LEGEND.row + 40;
  const bottom = top + ROW * schools.length;
  const all = [...schools.map(({ means }) => means), from].flat().filter((mean) => mean !== null);
  const x = scaleLinear()
    .domain([Math.min(...all), Math.max(...all)])
    .nice()
    .range([0, MEANS]);
  const promised = COLUMN.bar + (BAR.width * promise) / BAR.share;
  return (
    <Drawing
      frame={frame}
      width={WIDTH}
      height={bottom + 40}
      label={`${label}: ${schools.map((school) => `${school.label} ${school.out}, first ${school.first}`).join('; ')}`}
      caption={caption}
    >
      <Legend items={named} places={legend} />
      <Heads y={top - 10} unit={unit} />
      {schools.map((school, i) => (
        <School
          key={school.label}
          school={school}
          y={top + ROW * i}
          items={items}
          from={from}
          toX={x}
          tooMany={tooMany}
        />
      ))}
      <line
        x1={promised}
        x2={promised}
        y1={top}
        y2={bottom}
        stroke="var(--quiet)"
        strokeWidth={1.5}
        strokeDasharray="2 4"
      />
      <text className="quiet" x={promised} y={bottom + 18} textAnchor="middle">
        {percent(promise)}
      </text>
      <MeansAxis x={x} y={bottom} />
    </Drawing>
  );
}

const Legend = ({
  items,
  places,
}: Pick<SchoolsPictureProps, 'items'> & { places: readonly { x: number; y: number }[] }) => (
  <>
    {items.map(({ id, name, mark }, i) => (
      <g key={id} transform={`translate(${String(places[i]?.x ?? 0)} ${String((places[i]?.y ?? 0) + 12)})`}>
        <path
          d={markOutline(mark)}
          fill={markColour(mark)}
          transform={`translate(7 -4) scale(${String(MARK)})`}
        />
        <text x={20}>{name}</text>
      </g>
    ))}
  </>
);

const Heads = ({ y, unit }: { y: number; unit: string }) => (
  <>
    <text className="quiet" y={y}>
      Rule
    </text>
    <text className="quiet" x={COLUMN.means} y={y}>
      means{unit && `, ${unit}`}; trails: from where no rule leaves them
    </text>
    <text className="quiet" x={COLUMN.first} y={y}>
      first
    </text>
    <text className="quiet" x={COLUMN.hurt} y={y - 16} textAnchor="end">
      clean
    </text>
    <text className="quiet" x={COLUMN.hurt} y={y} textAnchor="end">
      samples hurt
    </text>
    <text className="quiet" x={COLUMN.bar} y={y}>
      false winners
    </text>
  </>
);

function School({
  school: { label, out, means, first, changes, inForce, price },
  y,
  items,
  from,
  toX,
  tooMany,
}: Pick<SchoolsPictureProps, 'items' | 'from' | 'tooMany'> & {
  school: PicturedSchool;
  y: number;
  toX: (value: number) => number;
}) {
  const middle = y + ROW / 2;
  const many = price.falseWinner > tooMany;
  return (
    <g>
      {inForce && (
        <rect x={-8} y={y + 1} width={WIDTH + 16} height={ROW - 2} fill="var(--fern-soft)" rx={4} />
      )}
      <line x2={WIDTH} y1={y} y2={y} stroke="var(--rule)" />
      <text className="strong" y={middle - 2}>
        {label}
      </text>
      <text className="quiet" y={middle + 15}>
        {inForce ? `in force; ${out}` : out}
      </text>
      <g transform={`translate(${String(COLUMN.means)} ${String(middle)})`}>
        <line x2={MEANS} stroke="var(--rule)" />
        {items.map(({ id, mark }, i) => (
          <MovedMean key={id} mark={mark} mean={means[i]} origin={from[i]} toX={toX} />
        ))}
      </g>
      <text className={changes ? 'turn strong' : ''} x={COLUMN.first} y={middle + 5}>
        {shortened(first, 14)}
      </text>
      <text x={COLUMN.hurt} y={middle + 5} textAnchor="end">
        {percent(price.hurt)}
      </text>
      <rect
        x={COLUMN.bar}
        y={middle - 4}
        width={Math.max(2, BAR.width * Math.min(1, price.falseWinner / BAR.share))}
        height={8}
        rx={2}
        fill={many ? 'var(--rust)' : 'var(--fern)'}
      />
      <text className={many ? 'turn strong' : ''} x={WIDTH} y={middle + 5} textAnchor="end">
        {percent(price.falseWinner)}
      </text>
    </g>
  );
}
