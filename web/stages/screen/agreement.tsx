import { useState } from 'react';
import styled from 'styled-components';
import type { GroupAgreement, StudyAgreement } from '../../../core/analysis/agree.ts';
import type { Item, Measurand } from '../../../core/model/parts.ts';
import { decimalsFor, formatNumber, formatPlain, withUnit } from '../../../core/quantity/format.ts';
import { isTemperature } from '../../../core/quantity/units.ts';
import { specLimits } from '../../../core/summary/spec.ts';
import { markColour, markOutline } from '../../../core/model/marks.ts';
import { ItemName } from '../../ui/name.tsx';
import { Segments } from '../../ui/segments.tsx';
import { FigureHead, Scroll, Table } from '../../ui/table.tsx';

const WIDTH = 640;
const HEIGHT = 240;
const LEFT = 52;
const FOOT = 34;

const Picture = styled.figure`
  margin: 12px 0 16px;
  svg {
    display: block;
    width: 100%;
    max-width: 860px;
    height: auto;
  }
  text {
    fill: var(--quiet);
    font-size: 12px;
  }
  figcaption {
    font-size: var(--size-13);
    color: var(--quiet);
    max-width: 80ch;
  }
`;

/** Round steps for an axis, about five of them. */
function ticks(low: number, high: number): number[] {
  const rough = (high - low) / 5;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = ([1, 2, 5, 10].find((size) => size * power >= rough) ?? 10) * power;
  const first = Math.ceil(low / step);
  return Array.from({ length: Math.floor(high / step) - first + 1 }, (_, i) =>
    Number(((first + i) * step).toPrecision(12)),
  );
}

/** Each error over its reference, with the limits of agreement as a band and the spec as lines. */
function ErrorPicture({
  agreement: { pairs, whole },
  measurand,
  items,
}: {
  agreement: StudyAgreement;
  measurand: Measurand;
  items: ReadonlyMap<string, Item>;
}) {
  const references = pairs.map(({ reference }) => reference);
  const [from, to] = [Math.min(...references), Math.max(...references)];
  const pad = to > from ? 0.05 * (to - from) : Math.max(1, Math.abs(to) * 0.05);
  const [low, high] = [from - pad, to + pad];
  const spec = measurand.spec;
  const specAt = Array.from({ length: 41 }, (_, i) => low + ((high - low) * i) / 40).map((reference) => ({
    reference,
    limits: spec ? specLimits(spec, measurand.direction, { reference }) : undefined,
  }));
  const errors = [
    0,
    ...pairs.map(({ reference, indicated }) => indicated - reference),
    ...(whole.limits ?? []),
    ...specAt.flatMap(({ limits }) => [limits?.low, limits?.high].filter((value) => value != null)),
  ];
  const span = Math.max(...errors) - Math.min(...errors) || 1;
  const [bottom, top] = [Math.min(...errors) - 0.08 * span, Math.max(...errors) + 0.08 * span];
  const x = (value: number) => LEFT + ((value - low) / (high - low)) * (WIDTH - LEFT - 8);
  const y = (value: number) => 8 + ((top - value) / (top - bottom)) * (HEIGHT - FOOT - 8);
  const specLine = (end: 'low' | 'high') =>
    specAt
      .flatMap(({ reference, limits }) => {
        const value = limits?.[end];
        return value == null ? [] : [`${x(reference).toFixed(1)},${y(value).toFixed(1)}`];
      })
      .join(' ');
  const { unit } = measurand;
  return (
    <Picture>
      <svg
        viewBox={`0 0 ${String(WIDTH)} ${String(HEIGHT)}`}
        role="img"
        aria-label="Error over the reference"
      >
        {whole.limits && (
          <rect
            x={LEFT}
            width={WIDTH - LEFT - 8}
            y={y(whole.limits[1])}
            height={Math.max(1, y(whole.limits[0]) - y(whole.limits[1]))}
            fill="var(--fern-soft)"
          />
        )}
        {ticks(bottom, top).map((value) => (
          <g key={value}>
            <line x1={LEFT} x2={WIDTH - 8} y1={y(value)} y2={y(value)} stroke="var(--rule)" />
            <text x={LEFT - 8} y={y(value) + 4} textAnchor="end">
              {formatPlain(value)}
            </text>
          </g>
        ))}
        {ticks(low, high).map((value) => (
          <text key={value} x={x(value)} y={HEIGHT - FOOT + 18} textAnchor="middle">
            {formatPlain(value)}
          </text>
        ))}
        <line x1={LEFT} x2={WIDTH - 8} y1={y(0)} y2={y(0)} stroke="var(--ink)" />
        <line
          x1={LEFT}
          x2={WIDTH - 8}
          y1={y(whole.bias)}
          y2={y(whole.bias)}
          stroke="var(--fern)"
          strokeDasharray="6 4"
          strokeWidth={1.5}
        />
        {(['low', 'high'] as const).map((end) => (
          <polyline key={end} points={specLine(end)} fill="none" stroke="var(--rust)" strokeDasharray="2 3" />
        ))}
        {pairs.map(({ id, itemId, reference, indicated }) => {
          const mark = items.get(itemId)?.mark ?? 0;
          return (
            <path
              key={id}
              d={markOutline(mark)}
              fill={markColour(mark)}
              transform={`translate(${x(reference).toFixed(1)} ${y(indicated - reference).toFixed(1)}) scale(4.5)`}
            >
              <title>{`${items.get(itemId)?.name ?? ''}: ${withUnit(formatPlain(indicated), unit)} at ${withUnit(formatPlain(reference), unit)}`}</title>
            </path>
          );
        })}
        <text x={WIDTH - 8} y={HEIGHT - 2} textAnchor="end">
          {withUnit('reference', unit && `in ${unit}`)}
        </text>
      </svg>
      <figcaption>
        Each reading’s error over what the reference said. The band holds 95 % of errors as they spread; the
        dashed line is the bias{spec ? '; dotted lines are the spec' : ''}.
      </figcaption>
    </Picture>
  );
}

type By = 'item' | 'band' | 'day';

/** How the readings agree with their reference: by item, by band of the reference, by day. */
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
  const { unit } = measurand;
  // Figures as fine as the item that repeats best.
  const spreads = agreement.byItem.flatMap(({ agreement: { sd } }) => (sd !== null && sd > 0 ? [sd] : []));
  const decimals = decimalsFor(spreads.length > 0 ? Math.min(...spreads) : Math.abs(agreement.whole.bias));
  // Per cent of a temperature would depend on where its zero was put.
  const relative = !isTemperature(unit);
  const figure = (value: number | null | undefined) => (value == null ? '–' : formatNumber(value, decimals));
  const groups: readonly GroupAgreement[] =
    by === 'item' ? agreement.byItem : by === 'band' ? agreement.byBand : agreement.byDay;
  const lines = agreement.byItem.filter(({ deming }) => deming !== undefined);
  const options = [
    { value: 'item' as const, label: 'By item' },
    ...(agreement.byBand.length > 0 ? [{ value: 'band' as const, label: 'By band of the reference' }] : []),
    ...(agreement.byDay.length > 0 ? [{ value: 'day' as const, label: 'By day' }] : []),
  ];
  return (
    <>
      <ErrorPicture agreement={agreement} measurand={measurand} items={items} />
      {options.length > 1 && (
        <Segments label="Agreement shown" labelHidden options={options} value={by} onChange={setBy} />
      )}
      <Scroll aria-label="Agreement with the reference">
        <Table>
          <thead>
            <tr>
              <th scope="col">{by === 'item' ? 'Item' : by === 'band' ? 'Reference' : 'Day'}</th>
              {[
                'pairs',
                'bias',
                'mean |error|',
                ...(relative ? ['mean relative'] : []),
                'RMSE',
                'largest',
                'limits of agreement',
              ].map((head) => (
                <FigureHead key={head}>{head}</FigureHead>
              ))}
              {measurand.spec && <FigureHead>within spec</FigureHead>}
            </tr>
          </thead>
          <tbody>
            {groups.map(({ key, label, agreement: figures, within }) => (
              <tr key={key}>
                <th scope="row">
                  {by === 'item' ? (
                    <ItemName name={label} mark={items.get(key)?.mark ?? 0} size={14} />
                  ) : (
                    label
                  )}
                </th>
                <td className="figure">{figures.n}</td>
                <td className="figure">{figure(figures.bias)}</td>
                <td className="figure">{figure(figures.meanAbsolute)}</td>
                {relative && (
                  <td className="figure">
                    {figures.meanRelative === null
                      ? '–'
                      : `${formatNumber(100 * figures.meanRelative, 1)}\u202f%`}
                    {figures.zeros > 0 && <small> but {figures.zeros} at 0</small>}
                  </td>
                )}
                <td className="figure">{figure(figures.rmse)}</td>
                <td className="figure">{figure(figures.largest)}</td>
                <td className="figure">
                  {figures.limits ? `${figure(figures.limits[0])} to ${figure(figures.limits[1])}` : '–'}
                </td>
                {measurand.spec && (
                  <td className="figure">
                    {within ? `${String(within.within)} of ${String(within.n)}` : '–'}
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        </Table>
      </Scroll>
      <p style={{ marginTop: 8 }}>
        Errors in {unit || 'the unit of the reading'}: indicated less reference. Limits of agreement are bias
        ± 1.96 SD (Bland and Altman 1986). All settings are taken together.
      </p>
      {lines.length > 0 && (
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
                  {[deming, passingBablok].flatMap((line, i) =>
                    (['slope', 'intercept'] as const).map((name) => {
                      const interval = line?.[`${name}Interval`];
                      return (
                        <td key={`${String(i)}${name}`} className="figure">
                          {line ? formatNumber(line[name], 3) : '–'}
                          {interval && (
                            <small>
                              {' '}
                              ({formatNumber(interval[0], 3)} to {formatNumber(interval[1], 3)})
                            </small>
                          )}
                        </td>
                      );
                    }),
                  )}
                </tr>
              ))}
            </tbody>
          </Table>
        </details>
      )}
    </>
  );
}
