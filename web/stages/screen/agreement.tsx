import { useState } from 'react';
import styled from 'styled-components';
import type { GroupAgreement, StudyAgreement } from '../../../core/analysis/agree.ts';
import type { Item, Measurand } from '../../../core/model/parts.ts';
import { decimalsFor, formatNumber, listed } from '../../../core/quantity/format.ts';
import { isTemperature } from '../../../core/quantity/units.ts';
import { TakePicture } from '../../app/take.tsx';
import { ERROR_VIEWS, ErrorPicture, type ErrorView } from '../../strip/error-picture.tsx';
import { ItemName } from '../../ui/name.tsx';
import { Segments } from '../../ui/segments.tsx';
import { FigureHead, Scroll, Table } from '../../ui/table.tsx';

type By = 'item' | 'band' | 'day' | 'setting';

/** How errors are printed: as finely as the item that repeats best. */
export function errorFigure({ byItem, whole }: StudyAgreement): (value: number | null | undefined) => string {
  const spreads = byItem.flatMap(({ agreement: { sd } }) => (sd !== null && sd > 0 ? [sd] : []));
  const decimals = decimalsFor(spreads.length > 0 ? Math.min(...spreads) : Math.abs(whole.bias));
  return (value) => (value == null ? '–' : formatNumber(value, decimals));
}

const Choices = styled.div`
  margin: 12px 0 10px;
`;

const VIEWS = (Object.keys(ERROR_VIEWS) as ErrorView[]).map((value) => ({
  value,
  label: ERROR_VIEWS[value].label,
}));

const BY_HEADS: Record<By, string> = { item: 'Item', band: 'Reference', day: 'Day', setting: 'Setting' };

/** Per cent of a temperature would depend on where its zero was put. */
const isRelative = ({ unit }: Measurand) => !isTemperature(unit);

function AgreementRow({
  group: { label, agreement: figures, within },
  mark,
  measurand,
  figure,
}: {
  group: GroupAgreement;
  /** Of the item, where the row is one. */
  mark: number | undefined;
  measurand: Measurand;
  figure: ReturnType<typeof errorFigure>;
}) {
  return (
    <tr>
      <th scope="row">{mark === undefined ? label : <ItemName name={label} mark={mark} size={14} />}</th>
      <td className="figure">{figures.n}</td>
      <td className="figure">{figure(figures.bias)}</td>
      <td className="figure">{figure(figures.meanAbsolute)}</td>
      {isRelative(measurand) && (
        <td className="figure">
          {figures.meanRelative === null ? '–' : `${formatNumber(100 * figures.meanRelative, 1)}\u202f%`}
          {figures.zeros > 0 && <small> but {figures.zeros} at 0</small>}
        </td>
      )}
      <td className="figure">{figure(figures.rmse)}</td>
      <td className="figure">{figure(figures.largest)}</td>
      <td className="figure">
        {figures.limits ? `${figure(figures.limits[0])} to ${figure(figures.limits[1])}` : '–'}
      </td>
      {measurand.spec && (
        <td className="figure">{within ? `${String(within.within)} of ${String(within.n)}` : '–'}</td>
      )}
    </tr>
  );
}

function AgreementTable({
  by,
  agreement,
  measurand,
  items,
}: {
  by: By;
  agreement: StudyAgreement;
  measurand: Measurand;
  items: ReadonlyMap<string, Item>;
}) {
  const figure = errorFigure(agreement);
  const { byItem, byBand, byDay, bySetting } = agreement;
  const groups = { item: byItem, band: byBand, day: byDay, setting: bySetting }[by];
  const heads = [
    ...['pairs', 'bias', 'mean |error|'],
    ...(isRelative(measurand) ? ['mean relative'] : []),
    ...['RMSE', 'largest', 'limits of agreement'],
    ...(measurand.spec ? ['within spec'] : []),
  ];
  return (
    <Scroll aria-label="Agreement with the reference">
      <Table>
        <thead>
          <tr>
            <th scope="col">{BY_HEADS[by]}</th>
            {heads.map((head) => (
              <FigureHead key={head}>{head}</FigureHead>
            ))}
          </tr>
        </thead>
        <tbody>
          {groups.map((group) => (
            <AgreementRow
              key={group.key}
              group={group}
              mark={by === 'item' ? (items.get(group.key)?.mark ?? 0) : undefined}
              measurand={measurand}
              figure={figure}
            />
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}

/** A line's slope and its intercept, each with its interval. */
function LineCells({ line }: { line: NonNullable<StudyAgreement['byItem'][number]['deming']> | undefined }) {
  return (['slope', 'intercept'] as const).map((name) => {
    const interval = line?.[`${name}Interval`];
    return (
      <td key={name} className="figure">
        {line ? formatNumber(line[name], 3) : '–'}
        {interval && (
          <small>
            {' '}
            ({formatNumber(interval[0], 3)} to {formatNumber(interval[1], 3)})
          </small>
        )}
      </td>
    );
  });
}

/** The lines of indicated against reference, folded away; nothing where no item has one. */
function LinesTable({ byItem }: Pick<StudyAgreement, 'byItem'>) {
  const lines = byItem.filter(({ deming }) => deming !== undefined);
  if (lines.length === 0) return null;
  return (
    <details>
      <summary>Lines of indicated against reference</summary>
      <Table>
        <thead>
          <tr>
            <th scope="col">Item</th>
            <FigureHead>Deming: slope</FigureHead>
            <FigureHead>intercept</FigureHead>
            <FigureHead>Passing–Bablok: slope</FigureHead>
            <FigureHead>intercept</FigureHead>
          </tr>
        </thead>
        <tbody>
          {lines.map(({ key, label, deming, passingBablok }) => (
            <tr key={key}>
              <th scope="row">{label}</th>
              <LineCells line={deming} />
              <LineCells line={passingBablok} />
            </tr>
          ))}
        </tbody>
      </Table>
    </details>
  );
}

/** What the rows of the table have in common, where that is not plain. */
function togetherWords(by: By, { bySetting }: StudyAgreement): string {
  const together = [
    ...(by === 'item' ? [] : ['items']),
    ...(by === 'setting' || bySetting.length === 0 ? [] : ['settings']),
  ];
  return together.length === 0 ? '' : `All ${listed(together)} are taken together.`;
}

/** How the readings agree with their reference: by item, by band of the reference, by day, by setting. */
export function AgreementSection({
  agreement,
  measurand,
  items,
}: {
  agreement: StudyAgreement;
  measurand: Measurand;
  items: ReadonlyMap<string, Item>;
}) {
  const [by, setBy] = useState<By>('item');
  const [view, setView] = useState<ErrorView>('reference');
  const options = [
    { value: 'item' as const, label: 'By item' },
    ...(agreement.byBand.length > 0 ? [{ value: 'band' as const, label: 'By band of the reference' }] : []),
    ...(agreement.byDay.length > 0 ? [{ value: 'day' as const, label: 'By day' }] : []),
    ...(agreement.bySetting.length > 0 ? [{ value: 'setting' as const, label: 'By setting' }] : []),
  ];
  return (
    <>
      <Choices>
        <Segments label="Picture shown" labelHidden options={VIEWS} value={view} onChange={setView} />
      </Choices>
      <TakePicture what={`${measurand.name}: ${ERROR_VIEWS[view].title}`}>
        <ErrorPicture view={view} agreement={agreement} measurand={measurand} items={items} />
      </TakePicture>
      {options.length > 1 && (
        <Choices>
          <Segments label="Agreement shown" labelHidden options={options} value={by} onChange={setBy} />
        </Choices>
      )}
      <AgreementTable by={by} agreement={agreement} measurand={measurand} items={items} />
      <p style={{ marginTop: 8 }}>
        Errors in {measurand.unit || 'the unit of the reading'}: indicated less reference. Limits of agreement
        are bias ± 1.96 SD (Bland and Altman 1986). {togetherWords(by, agreement)}
      </p>
      <LinesTable byItem={agreement.byItem} />
    </>
  );
}
