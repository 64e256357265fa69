import { Minus, Plus } from 'lucide-react';
import styled from 'styled-components';
import type { Item, Measurand } from '../../../../core/model/parts.ts';
import { spanText } from '../../../../core/quantity/clock.ts';
import { formatNumber, withUnit } from '../../../../core/quantity/format.ts';
import { CheckBox } from '../../../ui/check-box.tsx';
import { IconButton } from '../../../ui/icon-button.tsx';
import { FigureHead, Scroll, Table } from '../../../ui/table.tsx';
import { Odd, RowItem, RowName, Where } from '../from-files/row-pieces.tsx';
import { LetterKey } from '../letter-key.tsx';
import { placeWords } from '../from-files/place-words.ts';
import type { SoundRow } from './use-sounds.ts';

const Missed = styled.span`
  display: inline-flex;
  align-items: center;
  gap: 2px;
  font-size: var(--size-13);
  color: var(--quiet);
`;

/** Levels are shown to a tenth of a decibel, as instruments have them. */
const levelText = (level: number, unit: string): string => withUnit(formatNumber(level, 1), unit);

function oddOf({ value, problem, extra, odd }: SoundRow): readonly string[] {
  if (extra) return [];
  const ofLevel = !value ? [] : 'problem' in value ? [value.problem] : value.remarks;
  return [...(odd === undefined ? [] : [odd]), ...(problem === undefined ? ofLevel : [problem])];
}

export interface SoundTableProps {
  rows: readonly SoundRow[];
  items: readonly Item[];
  measurand: Measurand;
  chosenKey: string | undefined;
  onChoose: (key: string) => void;
  onExtra: (row: SoundRow, extra: boolean) => void;
  onMissed: (row: SoundRow, count: number) => void;
  onItem: (row: SoundRow, itemId: string) => void;
}

interface SoundRowProps extends Omit<SoundTableProps, 'rows' | 'chosenKey'> {
  row: SoundRow;
  chosen: boolean;
}

/** How many runs were missed before a sound, to be set where it is chosen. */
function MissedBefore({ row, chosen, onMissed }: Pick<SoundRowProps, 'row' | 'chosen' | 'onMissed'>) {
  const { missed, extra } = row;
  if (!chosen) return missed > 0 && <Missed>{missed} missed before</Missed>;
  if (extra) return null;
  return (
    <Missed>
      <IconButton
        label="Fewer runs missed before it"
        isDisabled={missed === 0}
        onPress={() => {
          onMissed(row, missed - 1);
        }}
      >
        <Minus size={15} aria-hidden />
      </IconButton>
      {missed} missed before <LetterKey>M</LetterKey>
      <IconButton
        label="One more run missed before it"
        onPress={() => {
          onMissed(row, missed + 1);
        }}
      >
        <Plus size={15} aria-hidden />
      </IconButton>
    </Missed>
  );
}

/** Where the reading of a sound goes, or why it is none. */
function Taking({
  row,
  chosen,
  onExtra,
  onMissed,
}: Pick<SoundRowProps, 'row' | 'chosen' | 'onExtra' | 'onMissed'>) {
  const { run, taken, extra, tone } = row;
  if (taken) return `in round ${String(taken.round)}`;
  if (tone) return 'the calibrator’s tone';
  if (!run && !extra) return 'no run left';
  return (
    <>
      <CheckBox
        isSelected={!extra}
        onChange={(next) => {
          onExtra(row, !next);
        }}
      >
        {extra ? 'no reading' : placeWords(run?.place, '')}
        {chosen && (
          <>
            {' '}
            <LetterKey>X</LetterKey>
          </>
        )}
      </CheckBox>
      <MissedBefore row={row} chosen={chosen} onMissed={onMissed} />
    </>
  );
}

function SoundLine({ row, chosen, items, measurand, onChoose, onExtra, onMissed, onItem }: SoundRowProps) {
  const { key, number, window: cut, level, run, taken, extra } = row;
  return (
    <tr {...(chosen ? { 'data-current': true } : {})}>
      <RowName
        chosen={chosen}
        onChoose={() => {
          onChoose(key);
        }}
      >
        {number}
      </RowName>
      <Where>
        {spanText(cut.from)} to {spanText(cut.to)}
      </Where>
      <td className="figure">{level === undefined ? '' : levelText(level, measurand.unit)}</td>
      <Where>
        <Taking row={row} chosen={chosen} onExtra={onExtra} onMissed={onMissed} />
      </Where>
      <td>
        {!extra && !taken && (
          <RowItem
            label={`Item of sound ${String(number)}`}
            items={items}
            item={run?.item}
            onItem={(itemId) => {
              onItem(row, itemId);
            }}
          />
        )}
        {taken && (items.find(({ id }) => id === taken.itemId)?.name ?? '')}
      </td>
      <td>
        <Odd sentences={oddOf(row)} />
      </td>
    </tr>
  );
}

/** Each sound of a recording: whose it is, its window, its level, and where the reading goes. */
export function SoundTable({ rows, chosenKey, ...of }: SoundTableProps) {
  return (
    <Scroll aria-label="Sounds">
      <Table>
        <thead>
          <tr>
            <th scope="col">Sound</th>
            <th scope="col">Window</th>
            <FigureHead>{of.measurand.name}</FigureHead>
            <th scope="col">Take</th>
            <th scope="col">Item</th>
            <th scope="col">To look at</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <SoundLine key={row.key} {...of} row={row} chosen={row.key === chosenKey} />
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}
