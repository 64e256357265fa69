import { memo, useState } from 'react';
import { useQueryClient } from '@tanstack/react-query';
import styled from 'styled-components';
import type { SchoolOutcome } from '../../../core/analysis/analyse-study.ts';
import type { PriceDesign } from '../../../core/analysis/school-price.ts';
import { itemsInOrder } from '../../../core/model/in-order.ts';
import type { Item, Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { counted, formatNumber, formatReading, listed } from '../../../core/quantity/format.ts';
import { describedRule } from '../../../core/screening/described.ts';
import { ruleWords } from '../../../core/screening/words.ts';
import { priceQuery, useAnalysis, usePrice, useSchools } from '../../app/api/analysis.ts';
import { TakeDrawing } from '../../app/take.tsx';
import { settingFigures } from '../../strip/lanes.ts';
import type { PicturedSchool } from '../../strip/schools-picture.tsx';
import { Button } from '../../ui/button.tsx';
import { FigureHead, Scroll, Table } from '../../ui/table.tsx';
import { Segments } from '../../ui/segments.tsx';
import { NARROW } from '../../ui/tokens.ts';
import { enforce } from './enforce.ts';
import { MovedMeans, type Stretch } from './moved-means.tsx';
import { useOpened } from '../../ui/use-opened.ts';

/** Readings that a rule leaves out are named up to here, and counted beyond. */
const MOST_NAMED = 4;
/** What the verdicts promise. */
const PROMISE = 0.05;
/** Beyond this a school makes the intervals too short, and not the simulation by chance. */
const TOO_MANY = 0.07;
/** The longest bar. */
const FULL = 0.2;

const Schools = styled(Table)`
  td,
  tbody th {
    padding-top: 9px;
    padding-bottom: 9px;
  }
  small {
    display: block;
    max-width: 26ch;
    font-size: var(--size-13);
    font-weight: 400;
    color: var(--quiet);
  }
  /* As wide while the simulation runs as when its bars are there. */
  .price {
    min-width: 150px;
    white-space: nowrap;
    ${NARROW} {
      min-width: 110px;
    }
  }
  .changed {
    color: var(--rust);
    font-weight: 640;
  }
`;

const Bar = styled.span`
  position: relative;
  display: inline-block;
  width: 92px;
  height: 14px;
  vertical-align: middle;
  ${NARROW} {
    width: 60px;
  }
  i {
    position: absolute;
    inset: 4px auto 4px 0;
    min-width: 2px;
    border-radius: 2px;
  }
  b {
    position: absolute;
    inset: 0 auto;
    left: ${(100 * PROMISE) / FULL}%;
    border-left: 2px dotted var(--quiet);
  }
`;

const Foot = styled.div`
  display: flex;
  justify-content: flex-end;
`;

const Caption = styled.p`
  max-width: 84ch;
  margin-bottom: 12px;
  color: var(--quiet);
`;

const percent = (share: number) => `${formatNumber(100 * share, 0)}\u202f%`;

/** What a school costs clean studies of the same size: samples hurt, false winners, and a bar against the promise. */
function Price({ design, rule }: { design: PriceDesign; rule: SchoolOutcome['rule'] }) {
  const { data: price } = usePrice(design, rule);
  if (!price) {
    return (
      <>
        <td className="figure">…</td>
        <td className="price">…</td>
      </>
    );
  }
  const many = price.falseWinner > TOO_MANY;
  return (
    <>
      <td className="figure">{percent(price.hurt)}</td>
      <td className="price">
        <Bar aria-hidden>
          <i
            style={{
              width: `${String(Math.min(100, (100 * price.falseWinner) / FULL))}%`,
              background: many ? 'var(--rust)' : 'var(--fern)',
            }}
          />
          <b />
        </Bar>{' '}
        <span className={many ? 'changed' : undefined}>{percent(price.falseWinner)}</span>
      </td>
    </>
  );
}

/** What a rule leaves out, named or counted. */
function leavesOut({ leftOut, notApplied }: SchoolOutcome, items: ReadonlyMap<string, Item>): string {
  if (notApplied !== undefined) return notApplied;
  if (leftOut.length === 0) return 'leaves out nothing';
  const count = leftOut.length;
  const more = count > MOST_NAMED ? count - MOST_NAMED + 1 : 0;
  const named = leftOut
    .slice(0, count - more)
    .map(({ itemId, value }) => `${items.get(itemId)?.code ?? ''}\u00a0${formatReading(value)}`);
  return `leaves out ${String(count)}: ${named.join(', ')}${more > 0 ? ` and ${String(more)} more` : ''}`;
}

/** Who is first by a school; it says nothing where it does not apply. */
const firstWords = ({ contenders, notApplied }: SchoolOutcome, items: readonly Item[]): string => {
  if (notApplied !== undefined) return '–';
  const names = contenders.map((index) => items[index]?.name ?? '');
  if (names.length === 0) return '–';
  return names.length === 1 ? (names[0] as string) : 'not settled';
};

/** Whether a school says something else about first place than the one in force. */
const changesFirst = (
  school: SchoolOutcome,
  mine: SchoolOutcome | undefined,
  items: readonly Item[],
): boolean =>
  mine !== undefined &&
  school.notApplied === undefined &&
  firstWords(school, items) !== firstWords(mine, items);

/** How many readings a school leaves out. */
const outShortly = ({ leftOut, notApplied }: SchoolOutcome): string =>
  notApplied !== undefined
    ? 'does not apply'
    : leftOut.length === 0
      ? 'leaves out nothing'
      : `leaves out ${counted(leftOut.length, 'reading')}`;

const pricedWords = ({ studies }: PriceDesign): string =>
  `The last columns are from ${String(studies)} made-up studies of the same size in which no item is better`;

/** What the schools do and cost, in a sentence or two. */
function headline(schools: readonly SchoolOutcome[], items: readonly Item[], inForce: string): string {
  const mine = schools.find(({ rule }) => rule.name === inForce);
  if (!mine) return '';
  const judging = schools.filter(({ notApplied }) => notApplied === undefined);
  const other = judging.filter((school) => firstWords(school, items) !== firstWords(mine, items));
  const more = judging.filter(({ leftOut }) => leftOut.length > mine.leftOut.length).length;
  const first =
    other.length === 0
      ? 'No rule changes who is first.'
      : `${counted(other.length, 'rule')} would say something else about first place: ${listed(other.map(({ rule }) => describedRule(rule.name).label))}.`;
  return more === 0
    ? first
    : `${first} ${counted(more, 'rule takes', 'rules take')} more readings than the one in force.`;
}

interface SchoolRowProps {
  school: SchoolOutcome;
  /** The one in force. */
  mine: SchoolOutcome | undefined;
  items: readonly Item[];
  /** The means where no rule leaves anything out. */
  from: SchoolOutcome['means'];
  stretch: Stretch;
  design: PriceDesign;
  figure: (value: number | null | undefined) => string;
  onUse: (rule: SchoolOutcome['rule']) => void;
}

/** One school: what it leaves out, where that moves the means, who is first, and what it costs. */
function SchoolRow({ school, mine, items, from, stretch, design, figure, onUse }: SchoolRowProps) {
  const { rule, means } = school;
  const current = rule.name === mine?.rule.name;
  const first = firstWords(school, items);
  const changes = changesFirst(school, mine, items);
  return (
    <tr data-current={current || undefined}>
      <th scope="row">
        {describedRule(rule.name).label}
        <small>{leavesOut(school, new Map(items.map((item) => [item.id, item])))}</small>
      </th>
      <td>
        <MovedMeans items={items} means={means} from={from} stretch={stretch} />
        <span hidden>{items.map(({ code }, i) => `${code} ${figure(means[i])}`).join(', ')}</span>
      </td>
      <td className={changes ? 'changed' : undefined}>
        <bdi>{first}</bdi>
      </td>
      <Price design={design} rule={rule} />
      <td className="figure">
        {current ? (
          'in force'
        ) : (
          <Button
            size="small"
            tone="quiet"
            aria-label={`Use ${ruleWords(rule)}`}
            onPress={() => {
              onUse(rule);
            }}
          >
            Use
          </Button>
        )}
      </td>
    </tr>
  );
}

export interface SchoolTableProps {
  document: StudyDocument;
  measurand: Measurand;
  settingKey: string;
}

/** The schools of a class of items, with what they are shown by. */
interface Schooled {
  schools: readonly SchoolOutcome[];
  design: PriceDesign;
  items: readonly Item[];
  measurand: Measurand;
  /** What they judge: the measurand, its setting, its class. */
  what: string;
}

const keepingAll = ({ schools }: Schooled) => schools.find(({ rule }) => describedRule(rule.name).keepsAll);
const inForce = ({ schools, measurand }: Schooled) =>
  schools.find(({ rule }) => rule.name === measurand.rule.name);

/** The schools side by side as a picture to publish, made where it is asked for. */
function TakeSchools({ of }: { of: Schooled }) {
  const client = useQueryClient();
  const { schools, design, items, measurand, what } = of;
  const mine = inForce(of);
  const draw = async () => {
    const { SchoolsPicture } = await import('../../strip/schools-picture.tsx');
    const prices = await Promise.all(schools.map(({ rule }) => client.query(priceQuery(design, rule))));
    return (
      <SchoolsPicture
        label={`${what}: what each rule would do`}
        unit={measurand.unit}
        items={items}
        schools={schools.map((school, i): PicturedSchool => ({
          label: describedRule(school.rule.name).label,
          out: outShortly(school),
          means: school.means,
          first: firstWords(school, items),
          changes: changesFirst(school, mine, items),
          inForce: school === mine,
          price: prices[i] as (typeof prices)[number],
        }))}
        from={keepingAll(of)?.means ?? items.map(() => null)}
        promise={PROMISE}
        tooMany={TOO_MANY}
        caption={`${what}: what each rule for bad readings would do. ${headline(schools, items, measurand.rule.name)} ${pricedWords(design)}: how many clean samples lose a reading, and in how many studies a false winner is named; the dotted line is what the verdicts promise.`}
      />
    );
  };
  return (
    <Foot>
      <TakeDrawing what={`${what}, what each rule would do`} draw={draw} />
    </Foot>
  );
}

/** What the schools do together, and how what they cost is known. */
function SchoolsCaption({ of: { schools, items, measurand, design } }: { of: Schooled }) {
  const { data: plain } = usePrice(design, measurand.rule);
  return (
    <Caption>
      {headline(schools, items, measurand.rule.name)} {pricedWords(design)}
      {design.step > 0 && ', read in the same steps'}: how many clean samples lose a reading, and in how many
      studies a false winner is named. The dotted line is the 5{'\u202f'}% that the verdicts promise.
      {plain &&
        ` Plain t-tests between all pairs, as is the habit, would name one in ${percent(plain.plainTests)} after the rule in force.`}
    </Caption>
  );
}

function SchoolRows({ of, figure }: { of: Schooled; figure: SchoolRowProps['figure'] }) {
  const { schools, items, design, measurand } = of;
  const from = keepingAll(of)?.means;
  const all = schools.flatMap(({ means }) => means.flatMap((mean) => (mean === null ? [] : [mean])));
  const stretch: Stretch = { low: Math.min(...all), high: Math.max(...all) };
  return schools.map((school) => (
    <SchoolRow
      key={school.rule.name}
      school={school}
      mine={inForce(of)}
      items={items}
      from={from ?? school.means}
      stretch={stretch}
      design={design}
      figure={figure}
      onUse={(rule) => {
        enforce(measurand, rule);
      }}
    />
  ));
}

const SchoolHeads = () => (
  <thead>
    <tr>
      <th scope="col">Rule</th>
      <th scope="col">means, moved from where no rule leaves them</th>
      <th scope="col">first</th>
      <FigureHead>
        clean samples
        <br />
        it hurts
      </FigureHead>
      <th scope="col">
        false winner among
        <br />
        equal items
      </th>
      <th scope="col">
        <span hidden>use it</span>
      </th>
    </tr>
  </thead>
);

/** Every school of screening side by side: what it leaves out, the means that result, who is first, what it costs. */
export const SchoolTable = memo(function SchoolTable({ document, measurand, settingKey }: SchoolTableProps) {
  const ranked = itemsInOrder(document).filter(({ role }) => role !== 'control');
  const classes = [...new Set(ranked.map((item) => item.class))];
  const [chosen, setChosen] = useState<string>();
  const className = classes.find((name) => name === chosen) ?? classes[0] ?? '';
  const items = ranked.filter((item) => item.class === className);
  const { data } = useSchools(document, measurand.id, className, settingKey);
  const { data: analysis } = useAnalysis(document, measurand.id, settingKey, { resamples: 0 });
  const choice = classes.length > 1 && (
    <div style={{ marginBottom: 14 }}>
      <Segments
        label="Items of the class"
        options={classes.map((name) => ({ value: name, label: name || 'Without a class' }))}
        value={className}
        onChange={setChosen}
      />
    </div>
  );
  if (!data || !analysis)
    return (
      <>
        {choice}
        <p>Comparing the rules…</p>
      </>
    );
  const { result } = settingFigures(analysis);
  const { words: setting } = analysis.setting;
  const what = `${measurand.name}${setting && ` at ${setting}`}${classes.length > 1 ? `, ${className || 'without a class'}` : ''}`;
  const of: Schooled = { ...data, items, measurand, what };
  return (
    <>
      {choice}
      <SchoolsCaption of={of} />
      <Scroll aria-label="What each rule would do">
        <Schools>
          <SchoolHeads />
          <tbody>
            <SchoolRows of={of} figure={result} />
          </tbody>
        </Schools>
      </Scroll>
      <TakeSchools of={of} />
      <MeansTable schools={data.schools} items={items} figure={result} />
    </>
  );
});

interface MeansProps {
  schools: readonly SchoolOutcome[];
  items: readonly Item[];
  figure: (value: number | null | undefined) => string;
}

/** The same means as figures, made once they are asked for. */
function MeansTable(props: MeansProps) {
  const { opened, onToggle } = useOpened();
  return (
    <details style={{ marginTop: 12 }} onToggle={onToggle}>
      <summary>The means as figures</summary>
      {opened && <Means {...props} />}
    </details>
  );
}

/** The mean of each item under each rule; those that a rule moves are marked. */
function Means({ schools, items, figure }: MeansProps) {
  const none = schools.find(({ rule }) => describedRule(rule.name).keepsAll);
  return (
    <Scroll aria-label="Means under each rule">
      <Schools>
        <thead>
          <tr>
            <th scope="col">Rule</th>
            {items.map(({ id, code, name }) => (
              <FigureHead key={id} aria-label={name}>
                {code}
              </FigureHead>
            ))}
          </tr>
        </thead>
        <tbody>
          {schools.map(({ rule, means }) => (
            <tr key={rule.name}>
              <th scope="row">{describedRule(rule.name).label}</th>
              {items.map(({ id }, i) => (
                <td
                  key={id}
                  className={`figure${figure(means[i]) === figure(none?.means[i]) ? '' : ' changed'}`}
                >
                  {figure(means[i])}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Schools>
    </Scroll>
  );
}
