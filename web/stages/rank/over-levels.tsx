import { useMemo, useState } from 'react';
import styled from 'styled-components';
import type { ClassOverLevels, LevelChange, OverLevels } from '../../../core/analysis/over-levels.ts';
import type { Item } from '../../../core/model/parts.ts';
import { formatNumber, formatPlain, withUnit } from '../../../core/quantity/format.ts';
import { placedWords } from '../../../core/report/figures.ts';
import { answerOverLevels, levelFigures, orderOver, placeAt } from '../../../core/report/over-levels.ts';
import { TakePicture, TakeTable } from '../../app/take.tsx';
import { OverPicture } from '../../strip/over-picture.tsx';
import { ItemHead } from '../../ui/name.tsx';
import { PageHead, Section } from '../../ui/page.tsx';
import { Segments } from '../../ui/segments.tsx';
import { FigureHead, Table } from '../../ui/table.tsx';
import { better } from './words.ts';

/** A class of items over the levels: the answer, the picture, and what each item changes by. */
export function ClassOver({
  over,
  group,
  named,
  soFar,
}: {
  over: OverLevels;
  group: ClassOverLevels;
  /** Whether there are other classes, so that this one's name must be said. */
  named: boolean;
  soFar: boolean;
}) {
  const { measurand, factor, held, bySize } = over;
  const said = answerOverLevels(over, group, soFar);
  const order = useMemo(() => orderOver(group), [group]);
  return (
    <>
      <PageHead
        title={measurand.direction.kind === 'unranked' ? `${measurand.name} is not ranked.` : said.sentence}
      >
        {named && `${group.name || 'Without a class'}. `}
        {measurand.name}
        {measurand.unit && ` in ${measurand.unit}`} over the levels of {factor.name}
        {held && `, at ${held}`},{' '}
        {bySize ? 'ranked by the size of the error, smaller is better' : better(measurand)}.
        {over.ranksOnly && ' Marks in an order have no means that count, so places alone are shown.'}
      </PageHead>
      {!over.ranksOnly && (
        <TakePicture what={`${measurand.name} over ${factor.name}`}>
          <OverPicture over={over} group={group} order={order} />
        </TakePicture>
      )}
      <TakeTable what="Items by level" style={{ marginTop: 18 }}>
        <LevelTable over={over} group={group} order={order} />
      </TakeTable>
      {!over.ranksOnly && group.changes.some((changes) => changes.length > 0) && (
        <Section>
          <ChangeTable over={over} group={group} order={order} />
        </Section>
      )}
    </>
  );
}

const Small = styled.small`
  display: block;
  color: var(--quiet);
  font-size: var(--size-13);
  font-weight: 400;
`;

const Place = styled.b`
  display: inline-block;
  min-width: 54px;
`;

interface TableProps {
  over: OverLevels;
  group: ClassOverLevels;
  order: readonly number[];
}

/** Mean and place of every item at every level. */
function LevelTable({ over: { measurand, levels, ranksOnly }, group, order }: TableProps) {
  const { result } = levelFigures(group);
  const ranked = measurand.direction.kind !== 'unranked';
  return (
    <Table>
      <caption>
        {ranksOnly ? 'Place' : `Mean${measurand.unit && `, ${measurand.unit}`}${ranked ? ', and place' : ''}`}{' '}
        at each level
      </caption>
      <thead>
        <tr>
          <th scope="col">Item</th>
          {levels.map(({ id, name }) => (
            <FigureHead key={id}>{name}</FigureHead>
          ))}
        </tr>
      </thead>
      <tbody>
        {order.map((item) => {
          const { id, name, mark } = group.items[item] as Item;
          return (
            <tr key={id}>
              <ItemHead name={name} mark={mark} />
              {group.levels.map((level, i) => (
                <td key={levels[i]?.id} className="figure">
                  {ranksOnly ? (
                    <b>{placeAt(group, i, item)}</b>
                  ) : (
                    <>
                      {placedWords(level?.analysis.items[item], result)}
                      {ranked && <Place>{placeAt(group, i, item)}</Place>}
                    </>
                  )}
                </td>
              ))}
            </tr>
          );
        })}
      </tbody>
    </Table>
  );
}

/** Control items over the levels: measured, and never ranked. */
export function ControlsOver({ over, group }: { over: OverLevels; group: ClassOverLevels }) {
  const unranked: OverLevels = {
    ...over,
    measurand: { ...over.measurand, direction: { kind: 'unranked', target: null } },
  };
  const order = group.items.map((_, item) => item);
  return (
    <Section aria-labelledby="controls">
      <h2 id="controls">Controls, measured and not ranked</h2>
      {!over.ranksOnly && (
        <TakePicture what={`${over.measurand.name}: controls`}>
          <OverPicture over={unranked} group={group} order={order} />
        </TakePicture>
      )}
      <LevelTable over={unranked} group={group} order={order} />
    </Section>
  );
}

type From = 'baseline' | 'before';

/** What a change is, beside its figure. */
function changeWords(change: LevelChange, margin: string, figure: (value: number) => string): string {
  const { verdict, interval, withinAccuracy } = change;
  const range = interval ? `${figure(interval[0])} to ${figure(interval[1])}` : '';
  if (withinAccuracy) return 'within the meter’s accuracy';
  if (verdict === 'too few') return 'one reading shows no spread';
  if (verdict === 'same') return `no appreciable difference, inside ${margin}`;
  return verdict === 'not settled' ? `not settled, ${range}` : range;
}

const signed = (value: number, decimals: number): string =>
  `${value > 0 ? '+' : ''}${formatNumber(value, decimals)}`;

const Change = styled.span<{ $open: boolean }>`
  font-weight: ${({ $open }) => ($open ? 400 : 640)};
  color: ${({ $open }) => ($open ? 'var(--quiet)' : 'inherit')};
`;

/** By how much an item changes, and whether that is more than chance. */
function ChangeCell({
  change,
  decimals,
  marginAt,
}: {
  change: TableProps['group']['changes'][number][number] | undefined;
  decimals: number;
  /** The difference that matters at a level, in words. */
  marginAt: (level: number) => string;
}) {
  if (!change) return <td className="figure">–</td>;
  return (
    <td className="figure">
      <Change $open={change.verdict !== 'rises' && change.verdict !== 'falls'}>
        {signed(change.difference, decimals)}
        {change.percent !== null && ` (${signed(change.percent, 0)}\u202f%)`}
      </Change>
      <Small>{changeWords(change, marginAt(change.from), (value) => signed(value, decimals))}</Small>
    </td>
  );
}

/** From where changes are counted. */
function FromChoice({
  from,
  baseline,
  onFrom,
}: {
  from: From;
  /** Name of the level. */
  baseline: string;
  onFrom: (from: From) => void;
}) {
  return (
    <Segments<From>
      label="Changes shown"
      labelHidden
      value={from}
      options={[
        { value: 'baseline', label: `From ${baseline}` },
        { value: 'before', label: 'From the level before' },
      ]}
      onChange={onFrom}
    />
  );
}

/** What each item changes by, from the baseline level or step by step. */
function ChangeTable({ over: { measurand, levels, baseline }, group, order }: TableProps) {
  const [from, setFrom] = useState<From>('baseline');
  const { decimals } = levelFigures(group);
  const steps = levels.flatMap((_, level): [number, number][] => {
    if (from === 'before') return level > 0 ? [[level - 1, level]] : [];
    return level === baseline ? [] : [[baseline, level]];
  });
  const found = (item: number, [start, end]: readonly [number, number]) =>
    group.changes[item]?.find((change) => change.from === start && change.to === end);
  const marginAt = (level: number) =>
    withUnit(formatPlain(Number((group.levels[level]?.analysis.margin ?? 0).toPrecision(3))), measurand.unit);
  return (
    <>
      <h2>What each item changes by</h2>
      {levels.length > 2 && (
        <FromChoice from={from} baseline={levels[baseline]?.name ?? ''} onFrom={setFrom} />
      )}
      <TakeTable what="Changes by level" style={{ marginTop: 12 }}>
        <Table>
          <caption>
            Change{measurand.unit && `, ${measurand.unit}`}, with an interval that holds with all others at
            once
          </caption>
          <thead>
            <tr>
              <th scope="col">Item</th>
              {steps.map(([start, end]) => (
                <FigureHead key={`${String(start)}/${String(end)}`}>
                  {levels[start]?.name} to {levels[end]?.name}
                </FigureHead>
              ))}
            </tr>
          </thead>
          <tbody>
            {order.map((item) => {
              const { id, name, mark } = group.items[item] as Item;
              return (
                <tr key={id}>
                  <ItemHead name={name} mark={mark} />
                  {steps.map((step) => (
                    <ChangeCell
                      key={step.join('/')}
                      change={found(item, step)}
                      decimals={decimals}
                      marginAt={marginAt}
                    />
                  ))}
                </tr>
              );
            })}
          </tbody>
        </Table>
      </TakeTable>
    </>
  );
}
