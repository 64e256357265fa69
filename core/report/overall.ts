import { scoreBasis } from '../analysis/score-basis.ts';
import { scoreFlips } from '../analysis/score-flips.ts';
import { type ClassScores, classScores, classVerdicts } from '../analysis/scores.ts';
import type { Scoring } from '../model/study.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { formatNumber } from '../quantity/format.ts';
import { placeRange } from '../rank/place.ts';
import type { ScoreVerdicts } from '../rank/score-verdicts.ts';
import type { ReportBlock, ReportTable } from './report.ts';
import type { ReportLook } from './reported.ts';
import { answerScores, flipSentence, reachWords, scoreNotes, scoringSentence } from './scores.ts';

/** All ranked measurands in one score, where the tester has said what each weighs. */
export function overall(document: StudyDocument, { soFar, pairAlpha }: ReportLook): ReportBlock[] {
  const { scoring } = document.study;
  if (scoring.weights.length === 0 || document.readings.length === 0) return [];
  const basis = scoreBasis(document, { pairAlpha });
  return basis.classes
    .filter(({ measurands }) => measurands.length > 1)
    .flatMap((group): ReportBlock[] => {
      const scores = classScores(group, scoring);
      if (scores.order.length === 0) return [];
      const verdicts = classVerdicts(scores, scoring, basis);
      const flips = scoreFlips(document, { pairAlpha, className: group.name }, scoring);
      const head = basis.classes.length > 1 ? `${group.name || 'Without a class'}: ` : '';
      return [
        { kind: 'lead', text: `${head}${answerScores(scores, verdicts, soFar)}` },
        {
          kind: 'text',
          text: [
            `Scored by ${scoringSentence(scores, scoring)}`,
            ...scoreNotes(scores, scoring).map(({ title, text }) => `${title}. ${text}`),
            ...(verdicts.draws > 0
              ? [
                  `How sure that is comes from ${formatNumber(verdicts.draws, 0)} draws of all means within what their readings allow (seed ${String(basis.seed)}).`,
                ]
              : []),
            ...(flips ? [flipSentence(scores, flips)] : []),
          ].join(' '),
        },
        { kind: 'table', table: scoreTable(scores, verdicts, scoring) },
      ];
    });
}

function scoreTable(
  { basis, weighed, reach }: ClassScores,
  { ranking }: ScoreVerdicts,
  scoring: Scoring,
): ReportTable {
  return {
    caption: `${basis.name && `${basis.name}: `}Score, and what each measurand gives to it`,
    figures: [2, ...weighed.map((_, i) => i + 3)],
    head: ['Place', 'Item', 'Score', ...weighed.map(({ name }) => name)],
    rows: ranking.map((entry) => [
      { text: placeRange(entry) },
      { text: basis.items[entry.index]?.name ?? '', mark: basis.items[entry.index]?.mark as number },
      { text: reachWords(reach.scores[entry.index] ?? null, scoring) },
      ...(reach.given[entry.index] ?? []).map((part) => ({
        text: part === null ? 'missing' : reachWords(part, scoring),
      })),
    ]),
  };
}
