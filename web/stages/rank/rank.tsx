import { type ReactNode, Suspense, lazy, useMemo, useState } from 'react';
import styled from 'styled-components';
import type { ClassAnalysis, SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import { DRAWS } from '../../../core/analysis/draws.ts';
import { betterPlaced, merit } from '../../../core/compare/better.ts';
import type { PairMethodName } from '../../../core/compare/method-names.ts';
import type { Item } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { counted, formatPlain, withUnit } from '../../../core/quantity/format.ts';
import { answer } from '../../../core/report/answer.ts';
import { leftOutWords, stripCaption } from '../../../core/report/left-out-words.ts';
import { NextStage } from '../../app/next-stage.tsx';
import { useAnalysis } from '../../app/api/analysis.ts';
import type { LookState } from '../../../core/bench/look-state.ts';
import { NoReadings } from '../../app/no-readings.tsx';
import { type StudyView, useStudyView } from '../../app/study-view.tsx';
import { useLook, useRecordedLook } from '../../app/use-look.ts';
import { leaderBand, shifted, stripLanes } from '../../strip/lanes.ts';
import { TakenStrip } from '../../app/taken-strip.tsx';
import { Fold } from '../../ui/fold.tsx';
import { Later } from '../../ui/later.tsx';
import { PageHead, Section, Sheet } from '../../ui/page.tsx';
import { Bias } from './bias.tsx';
import { Claims } from './claims.tsx';
import { better } from './words.ts';
import { Against } from './against.tsx';
import { LookNote } from './look-note.tsx';
import { DifferenceTable } from './difference-table.tsx';
import type { FirstPlaceProps } from './first-place.tsx';
import { PairMatrix } from './pair-matrix.tsx';
import { PlaceShares } from './place-shares.tsx';
import { Since } from './since/since.tsx';
import type { RankFrame } from './rank-frame.ts';
import { RankNotes } from './rank-notes.tsx';

/** Opened by few, and loaded when they are. */
const Overall = lazy(async () => ({ default: (await import('./overall/overall.tsx')).Overall }));

const OverRanking = lazy(async () => ({ default: (await import('./over-ranking.tsx')).OverRanking }));

const SettingsRanking = lazy(async () => ({
  default: (await import('./over-settings.tsx')).SettingsRanking,
}));

const FirstPlace = lazy(async () => ({ default: (await import('./first-place.tsx')).FirstPlace }));

const Lower = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(420px, 100%), 1fr));
  gap: 28px 44px;
  /* A sentence in the place of a picture needs no column. */
  &:has(> p) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

interface ClassProps {
  analysis: SettingAnalysis;
  group: ClassAnalysis;
  /** Whether there are other classes, so that this one's name must be said. */
  named: boolean;
  /** Whether readings are to come, so that the answer may still change. */
  soFar: boolean;
}

/** The answer of a class in a sentence, and what it rests on. */
function ClassHead({ analysis, group, named, soFar }: ClassProps) {
  const {
    measurand,
    setting: { words: setting },
    bySize,
  } = analysis;
  const said = answer(
    group.items.map(({ name }) => name),
    group.analysis,
    measurand.unit,
    soFar,
  );
  const rounds = new Set(analysis.readings.map(({ round }) => round)).size;
  return (
    <PageHead
      title={measurand.direction.kind === 'unranked' ? `${measurand.name} is not ranked.` : said.sentence}
    >
      {named && `${group.name || 'Without a class'}. `}
      {measurand.name}
      {measurand.unit && ` in ${measurand.unit}`}
      {setting && ` at ${setting}`},{' '}
      {bySize ? 'ranked by the size of the error, smaller is better' : better(measurand)}.{' '}
      {!group.analysis.exact && `${counted(rounds, 'round')}, `}
      {leftOutWords(analysis.leftOut, measurand.rule.name)}.
      {group.analysis.exact
        ? ' Exact figures, worked out from attributes alone.'
        : group.analysis.ranksOnly
          ? ' Only the order of the marks decides, not their mean; the last column is the place.'
          : ' Bars are 95 % intervals of the means; the last column is the place.'}
    </PageHead>
  );
}

function ClassRanking({
  document,
  analysis,
  group,
  named,
  soFar,
  pairAlpha,
}: ClassProps & {
  document: StudyDocument;
  /** Level of the pairs, before the settings share it. */
  pairAlpha: number;
}) {
  const {
    measurand,
    setting: { key },
    bySize,
  } = analysis;
  const { ranking } = group.analysis;
  const order = useMemo(
    () => [
      ...ranking.flatMap(({ index }) => group.items[index] ?? []),
      ...group.items.filter((_, i) => !ranking.some(({ index }) => index === i)),
    ],
    [group, ranking],
  );
  const lanes = useMemo(
    () => stripLanes(document, measurand, key, analysis, { order, places: true, sizes: true }),
    [document, measurand, key, analysis, order],
  );
  const band = useMemo(
    () =>
      leaderBand(analysis, group.name, (margin) =>
        withUnit(formatPlain(Number(margin.toPrecision(3))), measurand.unit),
      ),
    [analysis, group.name, measurand.unit],
  );
  return (
    <>
      <ClassHead {...{ analysis, group, named, soFar }} />
      <TakenStrip
        what={`${measurand.name}${named && group.name ? `, ${group.name}` : ''}`}
        caption={stripCaption(analysis, group.analysis)}
        label={`${measurand.name}: items in order of place`}
        unit={measurand.unit}
        lanes={lanes}
        band={band}
        trueZero={analysis.trueZero && !bySize}
      />
      {bySize && <Bias group={group} unit={measurand.unit} order={order} />}
      {measurand.direction.kind !== 'unranked' && (
        <Standing document={document} analysis={analysis} group={group} order={order} pairAlpha={pairAlpha} />
      )}
    </>
  );
}

/** How the items stand to one another: pairs, places, differences, what would change the leader, what they cost. */
function Standing({
  document,
  analysis,
  group,
  order,
  pairAlpha,
}: {
  document: StudyDocument;
  analysis: SettingAnalysis;
  group: ClassAnalysis;
  order: readonly Item[];
  pairAlpha: number;
}) {
  const { measurand, bySize } = analysis;
  const { items, pairs, ranksOnly } = group.analysis;
  const placed = betterPlaced(measurand.direction, { bySize, ranksOnly });
  return (
    <>
      {pairs.length > 0 && (
        <>
          <Section>
            <Lower>
              <PairMatrix group={group} unit={measurand.unit} order={order} />
              <Chances group={group} />
            </Lower>
            <div style={{ marginTop: 26 }}>
              <DifferenceTable
                group={group}
                unit={measurand.unit}
                order={order}
                trueZero={analysis.trueZero && !bySize}
              />
            </div>
          </Section>
          <WhatChangesFirst document={document} analysis={analysis} group={group} pairAlpha={pairAlpha} />
        </>
      )}
      <Against
        items={group.items}
        name={measurand.name}
        unit={ranksOnly ? 'mean rank' : measurand.unit}
        values={items.map(({ placedBy }) => placedBy)}
        merits={items.map(({ placedBy }) => (placedBy === null ? null : merit(placedBy, placed)))}
        intervals={items.map(({ summary, placedBy, typed }) => {
          if (ranksOnly || placedBy === null) return null;
          // A range is shown from end to end, an open one as the end that is known.
          return typed?.kind === 'range'
            ? [typed.low ?? placedBy, typed.high ?? placedBy]
            : shifted(summary.interval, placedBy, summary.mean);
        })}
      />
    </>
  );
}

/** What would change who leads by this measurand alone; tried once it is asked for. */
const WhatChangesFirst = (props: FirstPlaceProps) => (
  <div style={{ marginTop: 26 }}>
    <Fold title="What would change who leads" state="another rule, one reading less, another margin">
      <Later waiting={<p>Trying…</p>}>
        <FirstPlace {...props} />
      </Later>
    </Fold>
  </div>
);

/** How often each item takes each place, or why that is not said. */
function Chances({ group: { analysis, items } }: { group: ClassAnalysis }) {
  const entries = analysis.ranking.flatMap(({ index, placeShares }) => {
    const item = items[index];
    return item && placeShares ? [{ item, shares: placeShares }] : [];
  });
  const why = analysis.remarks.find(({ about }) => about === 'draws');
  if (entries.length === 0) return why ? <p>{why.text}</p> : null;
  return <PlaceShares draws={DRAWS} entries={entries} />;
}

/** What every view of the ranking has around it: the choice of measurand and setting, notes, the way on. */
function RankSheet({
  view,
  look,
  notes,
  children,
}: {
  view: StudyView;
  look: LookState;
  notes: ReactNode;
  children: ReactNode;
}) {
  return (
    <Sheet
      notesLabel="Notes on the ranking"
      next={<NextStage to="report" />}
      notes={
        <>
          <LookNote look={look} />
          {notes}
        </>
      }
    >
      {view.control}
      {children}
    </Sheet>
  );
}

/** The ranking at one setting. */
function AtSetting({ view, look }: { view: StudyView; look: LookState }) {
  const { document, measurand, settingKey } = view;
  const [method, setMethod] = useState<PairMethodName>();
  const { data: analysis, error } = useAnalysis(document, measurand?.id, settingKey, {
    method,
    pairAlpha: look.level,
  });
  if (!measurand) return null;
  return (
    <RankSheet
      view={view}
      look={look}
      notes={
        <RankNotes
          document={document}
          analysis={analysis}
          error={error}
          method={method}
          onMethod={setMethod}
        />
      }
    >
      {!analysis && <PageHead title={error ? 'This way of comparing does not apply.' : 'Comparing…'} />}
      {analysis?.classes.map((group) => (
        <ClassRanking
          key={group.name}
          document={document}
          analysis={analysis}
          group={group}
          named={analysis.classes.length > 1}
          soFar={!look.final}
          pairAlpha={look.level}
        />
      ))}
      {analysis && <Claims document={document} measurand={measurand} settingKey={settingKey} />}
      {analysis && <Since document={document} measurand={measurand} settingKey={settingKey} />}
      {analysis?.controls && (
        <Section aria-labelledby="controls">
          <h2 id="controls">Controls, measured and not ranked</h2>
          <TakenStrip
            what={`${measurand.name}, controls`}
            caption={stripCaption(analysis, { ...analysis.controls.analysis, placed: false })}
            label={`${measurand.name}: control items`}
            unit={measurand.unit}
            lanes={stripLanes(document, measurand, settingKey, analysis, {
              order: analysis.controls.items,
              sizes: true,
            })}
          />
        </Section>
      )}
    </RankSheet>
  );
}

/** The items in order, with what the readings support and what they do not. */
export function Rank() {
  const view = useStudyView({ over: true, together: true });
  const look = useLook(view.document);
  useRecordedLook(view.document, look);
  if (!view.measurand || view.document.readings.length + view.document.figures.length === 0) {
    return (
      <NoReadings title="No readings to rank yet.">
        Here the items stand in order, with how sure that order is.
      </NoReadings>
    );
  }
  const frame: RankFrame = (notes, children) => (
    <RankSheet view={view} look={look} notes={notes}>
      {children}
    </RankSheet>
  );
  const { document, measurand, overall, series, whole } = view;
  if (!overall && !series && !whole) return <AtSetting view={view} look={look} />;
  return (
    <Suspense fallback={frame(null, <PageHead title="Comparing…" />)}>
      {overall && <Overall document={document} settingKey={overall.settingKey} look={look} frame={frame} />}
      {whole && <SettingsRanking document={document} measurand={measurand} look={look} frame={frame} />}
      {series && (
        <OverRanking document={document} measurand={measurand} series={series} look={look} frame={frame} />
      )}
    </Suspense>
  );
}
