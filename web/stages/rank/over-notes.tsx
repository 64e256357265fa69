import type { OverLevels } from '../../../core/analysis/over-levels.ts';
import { describedMethod } from '../../../core/compare/described.ts';
import { ALPHA } from '../../../core/model/alpha.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { formatNumber } from '../../../core/quantity/format.ts';
import { answerOverLevels } from '../../../core/report/over-levels.ts';
import { ChangeNote } from '../../app/change-note.tsx';
import { Note } from '../../ui/note.tsx';
import { Aside } from '../../ui/page.tsx';
import { confidence, marginSentence } from './words.ts';

/** What is odd about the readings at each level. */
function LevelFindings({ over }: { over: OverLevels }) {
  const findings = over.classes.flatMap(({ levels }) =>
    levels.flatMap((level, i) =>
      (level?.analysis.findings ?? []).map((finding) => ({ ...finding, level: over.levels[i]?.name ?? '' })),
    ),
  );
  return findings.map(({ message, why, todo, level }) => (
    <Note key={`${level}/${message}`} tone="attention" title={`At ${level}: ${message}`}>
      {why} {todo}
    </Note>
  ));
}

/** The margin of the ranking over levels: where the order turns, what does not go one way, how it was compared. */
export function OverNotes({
  document,
  over,
  alpha = ALPHA,
}: {
  document: StudyDocument;
  over: OverLevels;
  alpha?: number | undefined;
}) {
  const methods = new Set(
    over.classes.flatMap(({ levels }) => levels.flatMap((level) => (level ? [level.analysis.method] : []))),
  );
  return (
    <>
      <LevelFindings over={over} />
      {over.measurand.direction.kind !== 'unranked' &&
        over.classes.flatMap((group) =>
          answerOverLevels(over, group).notes.map(({ tone, title, text }) => (
            <Note key={`${group.name}/${title}`} tone={tone} title={title}>
              {text}
            </Note>
          )),
        )}
      <ChangeNote document={document} asking />
      <Aside>
        <h3>Margin</h3>
        <p>{marginSentence(over.measurand, over.ranksOnly)}</p>
      </Aside>
      <Aside>
        <h3>Compared by</h3>
        <p>
          {[...methods]
            .map((method) => `${describedMethod(method).label}. ${describedMethod(method).because}`)
            .join(' ')}
        </p>
        <p style={{ marginTop: 8 }}>
          {over.ranksOnly
            ? 'All comparisons at all levels hold at once.'
            : `Verdicts at all levels hold at once, with ${confidence(alpha)} confidence; so do the changes of all items.`}
        </p>
        {over.classes.map(
          ({ name, test }) =>
            test?.interaction && (
              <p key={name} style={{ marginTop: 8 }}>
                {interactionWords(over, test.interaction)}
              </p>
            ),
        )}
      </Aside>
    </>
  );
}

/** Whether what the factor does depends on the item, by the analysis of variance. */
function interactionWords(
  { factor }: OverLevels,
  { f, df, p }: { f: number | null; df: number; p: number | null },
): string {
  if (f === null || p === null)
    return 'The readings show no spread, so items cannot be tested for how they respond.';
  const figures = `F = ${formatNumber(f, 1)} on ${String(df)} degrees of freedom, p ${p < 0.001 ? '< 0.001' : `= ${formatNumber(p, 3)}`}, equal spread assumed`;
  return p < ALPHA
    ? `The items do not all respond to ${factor.name} alike (${figures}).`
    : `No sign that the items respond to ${factor.name} in different ways (${figures}).`;
}
