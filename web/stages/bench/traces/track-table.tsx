import { inValueUnit } from '../../../../core/forms/trace.ts';
import type { Item, Measurand } from '../../../../core/model/parts.ts';
import { spanText } from '../../../../core/quantity/clock.ts';
import { decimalsFor, formatNumber, formatReading, withUnit } from '../../../../core/quantity/format.ts';
import { CheckBox } from '../../../ui/check-box.tsx';
import { FigureHead, Scroll, Table } from '../../../ui/table.tsx';
import { placeWords } from '../from-files/place-words.ts';
import { Odd, RowItem, RowName, Where } from '../from-files/row-pieces.tsx';
import type { TrackRow } from './use-traces.ts';

/** A value with its unit, and the interval of this one reading where it has one. */
function Value({
  value,
  settings,
  unit,
}: { value: TrackRow['value'] } & Pick<Measurand, 'settings' | 'unit'>) {
  if (!value || 'problem' in value) return null;
  const { value: number, interval } = inValueUnit(value, settings);
  if (!interval) return <>{withUnit(formatReading(Number(number.toPrecision(4))), unit)}</>;
  const decimals = decimalsFor((interval.high - interval.low) / 2);
  return (
    <>
      {withUnit(formatNumber(number, decimals), unit)}
      <br />
      <small>
        {formatNumber(interval.low, decimals)} to {formatNumber(interval.high, decimals)}
      </small>
    </>
  );
}

const oddOf = ({ value, problem }: TrackRow): readonly string[] =>
  problem !== undefined ? [problem] : !value ? [] : 'problem' in value ? [value.problem] : value.remarks;

export interface TrackTableProps {
  rows: readonly TrackRow[];
  items: readonly Item[];
  measurand: Measurand;
  /** Whether files are more than one, so that each row says its own. */
  severalFiles: boolean;
  /** Whether each has a window of its own. */
  separate: boolean;
  chosenKey: string | undefined;
  onChoose: (key: string) => void;
  onItem: (key: string, itemId: string) => void;
  onTick: (key: string, ticked: boolean) => void;
}

/** Whether its window is to be taken, and as which reading. */
function Tick({
  row: { key, place, ticked },
  onTick,
}: Pick<TrackTableProps, 'onTick'> & { row: TrackTableProps['rows'][number] }) {
  return (
    <CheckBox
      isSelected={ticked}
      onChange={(next) => {
        onTick(key, next);
      }}
    >
      {placeWords(place, 'not taken')}
    </CheckBox>
  );
}

/** A column of a file. */
function TrackLine({
  row,
  ...props
}: Omit<TrackTableProps, 'rows'> & { row: TrackTableProps['rows'][number] }) {
  const { items, measurand, severalFiles, separate, chosenKey, onChoose, onItem, onTick } = props;
  const { key, name, file, item, window: cut, taken, value } = row;
  const good = item && value && !('problem' in value) && !taken;
  return (
    <tr {...(key === chosenKey ? { 'data-current': true } : {})}>
      <RowName
        chosen={key === chosenKey}
        onChoose={() => {
          onChoose(key);
        }}
      >
        <bdi>{name}</bdi>
        {severalFiles && <small>{file.name}</small>}
      </RowName>
      <td>
        <RowItem
          label={`Item of ${name}`}
          items={items}
          item={item}
          orNone
          onItem={(itemId) => {
            onItem(key, itemId);
          }}
        />
      </td>
      {separate && (
        <Where>
          {spanText(cut.from)} to
          <br />
          {spanText(cut.to)}
        </Where>
      )}
      <td className="figure">
        <Value value={value} settings={measurand.settings} unit={measurand.unit} />
      </td>
      <Where>{taken ? `in round ${String(taken.round)}` : good && <Tick row={row} onTick={onTick} />}</Where>
      <td>
        <Odd sentences={oddOf(row)} />
      </td>
    </tr>
  );
}

/** Each column of each file: whose it is, what its window gives, and where the reading goes. */
export function TrackTable(props: TrackTableProps) {
  const { measurand, separate } = props;
  return (
    <Scroll aria-label="Windows">
      <Table>
        <thead>
          <tr>
            <th scope="col">Column</th>
            <th scope="col">Item</th>
            {separate && <th scope="col">Window</th>}
            <FigureHead>{measurand.name}</FigureHead>
            <th scope="col">Take</th>
            <th scope="col">To look at</th>
          </tr>
        </thead>
        <tbody>
          {props.rows.map((row) => (
            <TrackLine key={row.key} row={row} {...props} />
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}
