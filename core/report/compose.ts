import { lookState } from '../bench/look-state.ts';
import { runQueue } from '../bench/queue.ts';
import { ALPHA } from '../model/alpha.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { STUDY_FORMAT_VERSION } from '../model/study-format.ts';
import { cellBlocks } from './cells.ts';
import { cautions, claims, findings, leftOut, limits, photos, plan, sessions } from './circumstances.ts';
import { type ComposedReport, type ReportBlock, type ReportPartName, partsInOrder } from './report.ts';
import { type ComposeOptions, details, isRanked, reportedOf, sentences } from './reported.ts';
import { overall } from './overall.ts';
import { earlierTests } from './since.ts';
import { method, others, pictures, readIn, tables } from './results.ts';

const HEADINGS: Record<ReportPartName, string> = {
  answer: 'The answer',
  picture: 'The readings that carry it',
  ranking: 'The ranking',
  overall: 'All measurands together',
  earlier: 'Since the earlier tests',
  others: 'What else was measured',
  claims: 'What was claimed',
  'left-out': 'What was left out',
  findings: 'What was noticed',
  sessions: 'Sessions and conditions',
  plan: 'Plan and what became of it',
  method: 'Method',
  limits: 'What this does not show',
  cautions: 'Cautions',
  photos: 'Photos',
  provenance: 'Where this comes from',
};

/** The report of a study, from what is in it: every sentence is one that the readings support. */
export function composeReport(document: StudyDocument, options: ComposeOptions): ComposedReport {
  const { study } = document;
  const { final, level } = lookState(document, runQueue(document), ALPHA);
  const look = { soFar: !final, pairAlpha: level };
  const reported = reportedOf(document, look);
  const deciding = reported.find(({ measurand }) => isRanked(measurand)) ?? reported[0];
  const rest = reported.filter((measured) => measured !== deciding);
  const blocks: Record<ReportPartName, ReportBlock[]> = {
    answer: deciding
      ? [
          ...sentences(deciding, look.soFar).map((text) => ({ kind: 'lead', text }) as const),
          ...details(deciding, look.soFar).map((text) => ({ kind: 'text', text }) as const),
        ]
      : [{ kind: 'lead', text: 'Nothing was read yet.' }],
    picture: deciding ? [...pictures(deciding), ...cellBlocks(document, deciding)] : [],
    ranking: deciding ? tables(deciding) : [],
    overall: overall(document, look),
    earlier: earlierTests(document, options.earlier ?? [], options.when),
    others: others(document, rest, look.soFar),
    claims: claims(document),
    'left-out': document.readings.length > 0 ? leftOut(document) : [],
    findings: findings(document),
    sessions: sessions(document, options),
    plan: plan(document, options),
    method: method(document, reported, look.pairAlpha),
    limits: limits(document),
    cautions: cautions(document),
    photos: photos(document),
    provenance: [
      {
        kind: 'text',
        text: `Brackenridge ${options.program}, study format ${String(STUDY_FORMAT_VERSION)}. ${readIn(document) ? 'Every' : `Run order from seed ${String(study.seed)}; every`} draw comes from ${readIn(document) ? `seed ${String(study.seed)}` : 'it'}, so that the same study gives the same figures.`,
      },
    ],
  };
  return {
    title: study.title,
    question: study.question,
    pairAlpha: look.pairAlpha,
    parts: partsInOrder(study.report.order).flatMap((name) =>
      blocks[name].length === 0 ? [] : [{ name, heading: HEADINGS[name], blocks: blocks[name] }],
    ),
  };
}
