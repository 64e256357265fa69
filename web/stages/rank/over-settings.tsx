import { useState } from 'react';
import styled from 'styled-components';
import type { ClassOverLevels, OverLevels } from '../../../core/analysis/over-levels.ts';
import { factorsRead } from '../../../core/analysis/series.ts';
import type { LookState } from '../../../core/bench/look-state.ts';
import type { Item, Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { placedWords } from '../../../core/report/figures.ts';
import { levelFigures, orderOver, placeAt } from '../../../core/report/over-levels.ts';
import { answerOverSettings, turnsOverSettings } from '../../../core/report/over-settings.ts';
import { listed } from '../../../core/quantity/format.ts';
import { useOverSettings } from '../../app/api/analysis.ts';
import { ChangeNote } from '../../app/change-note.tsx';
import { TakePicture, TakeTable } from '../../app/take.tsx';
import { OverPicture, spanOfAll } from '../../strip/over-picture.tsx';
import { ItemHead } from '../../ui/name.tsx';
import { Note } from '../../ui/note.tsx';
import { Aside, PageHead, Section } from '../../ui/page.tsx';
import { Segments } from '../../ui/segments.tsx';
import { FigureHead, Table } from '../../ui/table.tsx';
import type { RankFrame } from './rank-frame.ts';
import { better, confidence, marginSentence } from './words.ts';

const Pictures = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(400px, 100%), 1fr));
  gap: 24px 36px;
  margin-top: 18px;
  h3 {
    margin-bottom: 4px;
  }
`;

/** One class of items in one series of settings. */
interface ClassInSeries {
  over: OverLevels;
  group: ClassOverLevels;
}

const Controls = ({ shown }: { shown: readonly ClassInSeries[] }) => (
  <Section aria-labelledby="controls">
    <h2 id="controls">Controls, measured and not ranked</h2>
    <TakeTable what="Controls by setting">
      <SettingTable shown={shown} isRanked={false} />
    </TakeTable>
  </Section>
);

/** A measurand at all settings of several factors: along one of them, a picture for each combination of the others. */
export function SettingsRanking({
  document,
  measurand,
  look,
  frame,
}: {
  document: StudyDocument;
  measurand: Measurand;
  look: LookState;
  frame: RankFrame;
}) {
  const factors = factorsRead(document).map(({ over }) => over);
  // Along the factor with the most levels there are the fewest pictures.
  const widest = factors.toSorted((a, b) => b.levels.length - a.levels.length)[0];
  const [chosen, setChosen] = useState('');
  const along = factors.find(({ factor }) => factor.id === chosen) ?? widest;
  const { data: series } = useOverSettings(document, measurand.id, along?.factor.id ?? '', {
    pairAlpha: look.level,
  });
  const controls = (series ?? []).flatMap((over): ClassInSeries[] =>
    over.controls ? [{ over, group: over.controls }] : [],
  );
  const names = [...new Set(series?.flatMap(({ classes }) => classes.map(({ name }) => name)))];
  return frame(
    series && <SettingsNotes document={document} series={series} names={names} alpha={look.level} />,
    <>
      {along && (
        <Segments
          label="Along"
          value={along.factor.id}
          options={factors.map(({ factor }) => ({ value: factor.id, label: factor.name }))}
          onChange={setChosen}
        />
      )}
      {series === undefined && <PageHead title="Comparing…" />}
      {series?.length === 0 && <PageHead title={`${measurand.name} was not read at these settings.`} />}
      {names.map((name) => {
        const shown = (series ?? []).flatMap((over): ClassInSeries[] => {
          const group = over.classes.find((candidate) => candidate.name === name);
          return group ? [{ over, group }] : [];
        });
        return (
          <ClassAtSettings
            key={name}
            {...{ measurand, shown }}
            title={answerOverSettings(series ?? [], name, !look.final)}
            about={`${names.length > 1 ? `${name || 'Without a class'}. ` : ''}${measurand.name}${
              measurand.unit && ` in ${measurand.unit}`
            } at all settings of ${listed(factors.map(({ factor }) => factor.name))}`}
          />
        );
      })}
      {controls.length > 0 && <Controls shown={controls} />}
    </>,
  );
}

function ClassAtSettings({
  measurand,
  shown,
  title,
  about,
}: {
  measurand: Measurand;
  shown: readonly ClassInSeries[];
  title: string;
  about: string;
}) {
  const [first] = shown;
  if (!first) return null;
  const { ranksOnly, bySize } = first.over;
  const isRanked = measurand.direction.kind !== 'unranked';
  const spanned = spanOfAll(shown);
  // Every item has the same place beside its neighbours in all pictures.
  const order = orderOver(first.group).map((item) => first.group.items[item]?.id);
  const orderIn = ({ items }: ClassOverLevels) =>
    [...items.keys()].sort((a, b) => rankOf(items[a]) - rankOf(items[b]));
  const rankOf = (item: Item | undefined) => {
    const rank = order.indexOf(item?.id);
    return rank === -1 ? order.length : rank;
  };
  return (
    <>
      <PageHead title={isRanked ? title : `${measurand.name} is not ranked.`}>
        {about}, {bySize ? 'ranked by the size of the error, smaller is better' : better(measurand)}.
      </PageHead>
      {!ranksOnly && (
        <Pictures>
          {shown.map(({ over, group }) => (
            <div key={over.held}>
              <h3>{over.held}</h3>
              <TakePicture what={`${measurand.name} over ${over.factor.name}, at ${over.held}`}>
                <OverPicture over={over} group={group} order={orderIn(group)} spanned={spanned} />
              </TakePicture>
            </div>
          ))}
        </Pictures>
      )}
      <Section>
        <TakeTable what="Items by setting">
          <SettingTable shown={shown} isRanked={isRanked} />
        </TakeTable>
      </Section>
    </>
  );
}

const Place = styled.b`
  display: inline-block;
  min-width: 42px;
`;

/** Mean and place of every item at every setting; the settings of one picture stand together. */
function SettingTable({ shown, isRanked }: { shown: readonly ClassInSeries[]; isRanked: boolean }) {
  const { measurand, ranksOnly } = (shown[0] as ClassInSeries).over;
  const figures = shown.map(({ group }) => levelFigures(group));
  const known = new Map(shown.flatMap(({ group }) => group.items.map((item) => [item.id, item] as const)));
  return (
    <Table>
      <caption>
        {ranksOnly
          ? 'Place'
          : `Mean${measurand.unit && `, ${measurand.unit}`}${isRanked ? ', and place' : ''}`}{' '}
        at each setting
      </caption>
      <thead>
        <tr>
          <th scope="col" rowSpan={2}>
            Item
          </th>
          {shown.map(({ over }) => (
            <th key={over.held} scope="colgroup" colSpan={over.levels.length}>
              {over.held}
            </th>
          ))}
        </tr>
        <tr>
          {shown.flatMap(({ over }) =>
            over.levels.map(({ id, name }) => <FigureHead key={`${over.held}/${id}`}>{name}</FigureHead>),
          )}
        </tr>
      </thead>
      <tbody>
        {[...known.values()].map(({ id, name, mark }) => (
          <tr key={id}>
            <ItemHead name={name} mark={mark} />
            {shown.flatMap(({ over, group }, series) => {
              const item = group.items.findIndex((candidate) => candidate.id === id);
              return over.levels.map((level, i) => (
                <td key={`${over.held}/${level.id}`} className="figure">
                  {!ranksOnly &&
                    placedWords(
                      group.levels[i]?.analysis.items[item],
                      (figures[series] as (typeof figures)[number]).result,
                    )}
                  {isRanked && <Place>{item === -1 ? '–' : placeAt(group, i, item)}</Place>}
                </td>
              ));
            })}
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

/** Turns that are written out. */
const MOST_TURNS = 4;

function SettingsNotes({
  document,
  series,
  names,
  alpha,
}: {
  document: StudyDocument;
  series: readonly OverLevels[];
  names: readonly string[];
  alpha: number;
}) {
  const [first] = series;
  const turns = names.flatMap((name) => turnsOverSettings(series, name));
  return (
    <>
      {turns.slice(0, MOST_TURNS).map(({ names: [first, second], sentence }) => (
        <Note key={`${first}/${second}`} tone="attention" title={`${first} and ${second} change places`}>
          {sentence}
        </Note>
      ))}
      {turns.length > MOST_TURNS && <p>{turns.length - MOST_TURNS} more pairs change places.</p>}
      <ChangeNote document={document} asking />
      {first && (
        <Aside>
          <h3>Margin</h3>
          <p>{marginSentence(first.measurand, first.ranksOnly)}</p>
        </Aside>
      )}
      {first && (
        <Aside>
          <h3>Compared by</h3>
          <p>
            {first.ranksOnly
              ? 'All comparisons at all settings hold at once.'
              : `Verdicts at all settings hold at once, with ${confidence(alpha)} confidence.`}{' '}
            What each item changes by from level to level stands in the views over one factor.
          </p>
        </Aside>
      )}
    </>
  );
}
