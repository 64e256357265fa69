import { useMemo, useState } from 'react';
import styled from 'styled-components';
import type { ClassAnalysis, MeasurandAnalysis } from '../../../core/analysis/analyse-study.ts';
import type { PairMethodName } from '../../../core/compare/pairs.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { counted, formatPlain, withUnit } from '../../../core/quantity/format.ts';
import { answer } from '../../../core/rank/answer.ts';
import { leftOutWords } from '../../../core/analysis/left-out-words.ts';
import { useAnalysis } from '../../app/api/analysis.ts';
import { NoReadings } from '../../app/no-readings.tsx';
import { useStudyView } from '../../app/study-view.tsx';
import { leaderBand, stripLanes } from '../../strip/lanes.ts';
import { Strip } from '../../strip/strip.tsx';
import { PageHead, Section, Sheet } from '../../ui/page.tsx';
import { Claims } from './claims.tsx';
import { ChanceFirst } from './chance-first.tsx';
import { PairMatrix } from './pair-matrix.tsx';
import { RankNotes } from './rank-notes.tsx';

const Lower = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(420px, 100%), 1fr));
  gap: 28px 44px;
`;

const better = ({ direction, unit }: Measurand): string => {
  if (direction.kind === 'nearest')
    return `nearest to ${withUnit(formatPlain(direction.target ?? 0), unit)} is best`;
  return direction.kind === 'unranked' ? 'not ranked' : `${direction.kind} is better`;
};

function ClassRanking({
  document,
  analysis,
  group,
  named,
  setting,
}: {
  document: StudyDocument;
  analysis: MeasurandAnalysis;
  group: ClassAnalysis;
  /** Whether there are other classes, so that this one's name must be said. */
  named: boolean;
  /** The levels that were set, in words. */
  setting: string;
}) {
  const { measurand } = analysis;
  const said = answer(
    group.items.map(({ name }) => name),
    group.analysis,
    measurand.unit,
    measurand.instrument.resolution,
  );
  const { ranking } = group.analysis;
  const order = useMemo(
    () => [
      ...ranking.flatMap(({ index }) => group.items[index] ?? []),
      ...group.items.filter((_, i) => !ranking.some(({ index }) => index === i)),
    ],
    [group, ranking],
  );
  const lanes = useMemo(
    () => stripLanes(document, measurand, analysis, { order, places: true }),
    [document, measurand, analysis, order],
  );
  const band = useMemo(
    () =>
      leaderBand(analysis, group.name, (margin) =>
        withUnit(formatPlain(Number(margin.toPrecision(3))), measurand.unit),
      ),
    [analysis, group.name, measurand.unit],
  );
  const rounds = new Set(analysis.readings.map(({ round }) => round)).size;
  return (
    <>
      <PageHead
        title={measurand.direction.kind === 'unranked' ? `${measurand.name} is not ranked.` : said.sentence}
      >
        {named && `${group.name || 'Without a class'}. `}
        {measurand.name}
        {measurand.unit && ` in ${measurand.unit}`}
        {setting && ` at ${setting}`}, {better(measurand)}. {counted(rounds, 'round')},{' '}
        {leftOutWords(analysis.readings, measurand.rule.name)}. Bars are 95 % intervals of the means; the last
        column is the place.
      </PageHead>
      <Strip
        label={`${measurand.name}: items in order of place`}
        unit={measurand.unit}
        lanes={lanes}
        band={band}
      />
      {group.analysis.pairs.length > 0 && measurand.direction.kind !== 'unranked' && (
        <Section>
          <Lower>
            <PairMatrix
              group={group}
              unit={measurand.unit}
              resolution={measurand.instrument.resolution}
              order={order}
            />
            <ChanceFirst group={group} />
          </Lower>
        </Section>
      )}
    </>
  );
}

/** The items in order, with what the readings support and what they do not. */
export function Rank() {
  const { document: whole, view: document, measurand, setting, control } = useStudyView();
  const [method, setMethod] = useState<PairMethodName>();
  const { data: analysis, error } = useAnalysis(document, measurand?.id, method ? { method } : {});
  if (!measurand || document.readings.length === 0) {
    return (
      <NoReadings title="No readings to rank yet.">
        Here the items stand in order, with how sure that order is.
      </NoReadings>
    );
  }
  return (
    <Sheet
      notesLabel="Notes on the ranking"
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
      {control}
      {!analysis && <PageHead title={error ? 'This way of comparing does not apply.' : 'Comparing…'} />}
      {analysis?.classes.map((group) => (
        <ClassRanking
          key={group.name}
          document={document}
          analysis={analysis}
          group={group}
          named={analysis.classes.length > 1}
          setting={setting}
        />
      ))}
      {analysis && <Claims document={whole} view={document} measurand={measurand} />}
      {analysis?.controls && (
        <Section aria-labelledby="controls">
          <h2 id="controls">Controls, measured and not ranked</h2>
          <Strip
            label={`${measurand.name}: control items`}
            unit={measurand.unit}
            lanes={stripLanes(document, measurand, analysis, { order: analysis.controls.items })}
          />
        </Section>
      )}
    </Sheet>
  );
}
