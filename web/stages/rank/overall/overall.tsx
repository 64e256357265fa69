import { type ReactNode, useId, useMemo } from 'react';
import styled from 'styled-components';
import type { ClassBasis, ScoreBasis } from '../../../../core/analysis/score-basis.ts';
import { type ClassScores, classScores } from '../../../../core/analysis/scores.ts';
import type { LookState } from '../../../../core/bench/look-state.ts';
import type { Item } from '../../../../core/model/parts.ts';
import type { Scoring } from '../../../../core/model/study.ts';
import type { StudyDocument } from '../../../../core/model/study-document.ts';
import { placeRange } from '../../../../core/rank/place.ts';
import { answerScores, reachWords, scoreNotes, scoringSentence } from '../../../../core/report/scores.ts';
import { useScoreBasis, useScoreFlips, useScoreVerdicts } from '../../../app/api/analysis.ts';
import { TakePicture, TakeTable } from '../../../app/take.tsx';
import { ScorePicture } from '../../../strip/score-picture.tsx';
import { ItemHead } from '../../../ui/name.tsx';
import { Note } from '../../../ui/note.tsx';
import { Aside, PageHead, Section } from '../../../ui/page.tsx';
import { FigureHead, Table } from '../../../ui/table.tsx';
import { Against } from '../against.tsx';
import { Flips } from '../flips.tsx';
import { PlaceShares } from '../place-shares.tsx';
import type { RankFrame } from '../rank-frame.ts';
import { confidence } from '../words.ts';
import { type ScoringInHand, useScoring } from './use-scoring.ts';
import { Weights } from './weights.tsx';

const Gap = styled.div`
  height: 24px;
`;

/** One class below another. */
const ClassPart = styled.div`
  & + & {
    margin-top: 48px;
  }
`;

export interface OverallProps {
  document: StudyDocument;
  /** One setting; all of them when undefined. */
  settingKey: string | undefined;
  look: LookState;
  /** Puts the page around what is found: its margin and its sheet. */
  frame: RankFrame;
}

/** All ranked measurands in one score: weights to move, who is first by them, how sure that is, what would change it. */
export function Overall({ document, settingKey, look, frame }: OverallProps) {
  const { data: basis } = useScoreBasis(document, { settingKey, pairAlpha: look.level });
  const inHand = useScoring(document.study);
  const { scoring } = inHand;
  const all = useMemo(
    () => basis?.classes.map((group) => classScores(group, scoring)) ?? [],
    [basis, scoring],
  );
  if (!basis) return frame(null, <PageHead title="Scoring…" />);
  return frame(
    <ScoreNotes all={all} scoring={scoring} alpha={look.level} />,
    all.map((scores, i) => (
      <ClassPart key={scores.basis.name}>
        <ClassScore {...{ document, basis, scores, inHand, settingKey, look }}>
          {i === 0 && (
            <Weights
              measurands={measurandsOf(basis)}
              incomplete={all.some(({ missing }) => missing.some(({ length }) => length > 0))}
              inHand={inHand}
            />
          )}
        </ClassScore>
      </ClassPart>
    )),
  );
}

/** Every measurand of any class, each once. */
const measurandsOf = ({ classes }: ScoreBasis): ClassBasis['measurands'] => [
  ...new Map(
    classes.flatMap(({ measurands }) => measurands.map((measurand) => [measurand.id, measurand])),
  ).values(),
];

/** The margin: what is missing, and how the scores were drawn. */
function ScoreNotes({
  all,
  scoring,
  alpha,
}: {
  all: readonly ClassScores[];
  scoring: Scoring;
  alpha: number;
}) {
  return (
    <>
      {all.flatMap((scores) =>
        scoreNotes(scores, scoring).map(({ tone, title, text }) => (
          <Note key={`${scores.basis.name}/${title}`} tone={tone} title={title}>
            {text}
          </Note>
        )),
      )}
      {scoring.weights.length === 0 && (
        <Note title="All weigh the same">
          Nobody has said what matters more. Move a weight; the report shows the scores once you have.
        </Note>
      )}
      <Aside>
        <h3>How sure the order is</h3>
        <p>
          Every mean is drawn again within what its readings allow, and scored again. An item is called ahead
          of another when it is so in all but so few draws that all pairs hold at once, with{' '}
          {confidence(alpha)} confidence. Items that no measurand tells apart by its margin are the same.
        </p>
        <p style={{ marginTop: 8 }}>
          Measurands are drawn as if they did not go together. Weights that were chosen after the readings
          prove nothing: say why they are what they are.
        </p>
      </Aside>
    </>
  );
}

/** The score of each item, made up of what each measurand gives. */
function ScoreBars({
  scores,
  scoring,
  verdicts,
  order,
  caption,
  placeOf,
}: {
  scores: ClassScores;
  scoring: ScoringInHand['scoring'];
  verdicts: ReturnType<typeof useScoreVerdicts>['data'];
  /** Indices from first to last place. */
  order: readonly number[];
  caption: string;
  placeOf: (index: number) => string;
}) {
  return (
    <TakePicture what="Scores">
      <ScorePicture
        label={`Scores. ${answerScores(scores, verdicts)}`}
        caption={`${caption} What each measurand gives to the score.${
          scores.isRanged ? ' Lines: from where to where it may lie.' : ''
        }`}
        measurands={scores.weighed.map(({ name }) => name)}
        bars={order.map((index) => {
          const { id, name, mark } = scores.basis.items[index] as Item;
          return {
            ...{ id, name, mark, place: placeOf(index) },
            score: reachWords(scores.reach.scores[index] ?? null, scoring),
            parts: (scores.given[index] ?? []).map((part) => part ?? 0),
            ...(scores.isRanged ? { reach: scores.reach.scores[index] ?? null } : {}),
          };
        })}
      />
    </TakePicture>
  );
}

function ClassScore({
  document,
  basis,
  scores,
  inHand: { scoring, settled },
  settingKey,
  look,
  children,
}: {
  document: StudyDocument;
  basis: ScoreBasis;
  scores: ClassScores;
  inHand: ScoringInHand;
  settingKey: string | undefined;
  look: LookState;
  /** What stands between the answer and the picture. */
  children: ReactNode;
}) {
  const { basis: group } = scores;
  const { data, isPlaceholderData } = useScoreVerdicts(group, scoring, basis);
  // What was drawn for other weights is not said of these.
  const verdicts = isPlaceholderData ? undefined : data;
  const named = basis.classes.length > 1;
  const order = verdicts?.ranking.map(({ index }) => index) ?? scores.order;
  const rest = group.items.flatMap((_, index) => (order.includes(index) ? [] : [index]));
  const placeOf = (index: number): string => {
    const entry = verdicts?.ranking.find((ranked) => ranked.index === index);
    return entry ? placeRange(entry) : scores.order.includes(index) ? '…' : '–';
  };
  const caption = `${named ? `${group.name || 'Without a class'}. ` : ''}${scoringSentence(scores, scoring)}`;
  return (
    <>
      <PageHead title={answerScores(scores, verdicts, !look.final)}>{caption}</PageHead>
      {children}
      <Gap />
      {scores.order.length > 0 && <ScoreBars {...{ scores, scoring, verdicts, order, caption, placeOf }} />}
      <ScoreTable scores={scores} scoring={scoring} order={[...order, ...rest]} placeOf={placeOf} />
      {verdicts?.ranking.every(({ shares }) => shares !== null) && (
        <Section aria-label="How often each place">
          <PlaceShares
            draws={verdicts.draws}
            entries={verdicts.ranking.map(({ index, shares }) => ({
              item: group.items[index] as Item,
              shares: shares ?? [],
            }))}
          />
        </Section>
      )}
      {settled && <ScoreFlips document={document} group={group} settingKey={settingKey} look={look} />}
      <Against
        items={group.items}
        name="Score"
        unit=""
        values={scores.scores}
        merits={scores.scores}
        {...(scores.isRanged ? { intervals: scores.reach.scores } : {})}
      />
    </>
  );
}

function ScoreTable({
  scores,
  scoring,
  order,
  placeOf,
}: {
  scores: ClassScores;
  scoring: Scoring;
  order: readonly number[];
  placeOf: (index: number) => string;
}) {
  return (
    <TakeTable what="Scores" style={{ marginTop: 18 }}>
      <Table>
        <caption>Score, and what each measurand gives to it</caption>
        <thead>
          <tr>
            <th scope="col">Item</th>
            {scores.weighed.map(({ id, name }) => (
              <FigureHead key={id}>{name}</FigureHead>
            ))}
            <FigureHead>Score</FigureHead>
            <FigureHead>Place</FigureHead>
          </tr>
        </thead>
        <tbody>
          {order.map((index) => {
            const { id, name, mark } = scores.basis.items[index] as Item;
            const score = scores.reach.scores[index] ?? null;
            return (
              <tr key={id} data-out={score === null ? true : undefined}>
                <ItemHead name={name} mark={mark} />
                {scores.weighed.map((measurand, i) => {
                  const part = scores.reach.given[index]?.[i] ?? null;
                  const lacks = scores.missing[index]?.includes(measurand.name);
                  return (
                    <td key={measurand.id} className="figure">
                      {part === null && lacks ? 'missing' : reachWords(part, scoring)}
                    </td>
                  );
                })}
                <td className="figure">
                  <b>{reachWords(score, scoring)}</b>
                </td>
                <td className="figure">
                  <b>{placeOf(index)}</b>
                </td>
              </tr>
            );
          })}
        </tbody>
      </Table>
    </TakeTable>
  );
}

/** What would change who leads; asked once the hand has let go. */
function ScoreFlips({
  document,
  group,
  settingKey,
  look,
}: {
  document: StudyDocument;
  group: ClassBasis;
  settingKey: string | undefined;
  look: LookState;
}) {
  const { data, isPlaceholderData } = useScoreFlips(
    document,
    { settingKey, pairAlpha: look.level, className: group.name },
    document.study.scoring,
  );
  const id = useId();
  return (
    <Section aria-labelledby={id}>
      <h2 id={id}>What would change who leads</h2>
      {data && !isPlaceholderData ? (
        <Flips scores={{ basis: group }} flips={data} />
      ) : (
        <p>{data === null ? 'Nobody leads.' : 'Trying…'}</p>
      )}
    </Section>
  );
}
