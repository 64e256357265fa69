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

/** Each sound of a recording: whose it is, its window, its level, and where the reading goes. */
export function SoundTable(props: SoundTableProps) {
  const { rows, items, measurand, chosenKey, onChoose, onExtra, onMissed, onItem } = props;
  return (
    <Scroll aria-label="Sounds">
      <Table>
        <thead>
          <tr>
            <th scope="col">Sound</th>
            <th scope="col">Window</th>
            <FigureHead>{measurand.name}</FigureHead>
            <th scope="col">Take</th>
            <th scope="col">Item</th>
            <th scope="col">To look at</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => {
            const { key, number, window: cut, level, run, taken, extra, missed } = row;
            return (
              <tr key={key} {...(key === chosenKey ? { 'data-current': true } : {})}>
                <RowName
                  chosen={key === chosenKey}
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
                  {taken ? (
                    `in round ${String(taken.round)}`
                  ) : row.tone ? (
                    'the calibrator’s tone'
                  ) : !run && !extra ? (
                    'no run left'
                  ) : (
                    <>
                      <CheckBox
                        isSelected={!extra}
                        onChange={(next) => {
                          onExtra(row, !next);
                        }}
                      >
                        {extra ? 'no reading' : placeWords(run?.place, '')}
                        {key === chosenKey && (
                          <>
                            {' '}
                            <LetterKey>X</LetterKey>
                          </>
                        )}
                      </CheckBox>
                      {key === chosenKey && !extra && (
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
                      )}
                      {key !== chosenKey && missed > 0 && <Missed>{missed} missed before</Missed>}
                    </>
                  )}
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
          })}
        </tbody>
      </Table>
    </Scroll>
  );
}
