import { analyseStudy } from '../analysis/analyse-study.ts';
import { precisionOf } from '../analysis/precision.ts';
import { noticedIn } from '../claims/noticed.ts';
import { conditionKind, isSameWord } from '../conditions/index.ts';
import { conditionsInOrder } from '../bench/session.ts';
import { checkClaims } from '../claims/check.ts';
import { OUTCOME_WORDS } from '../claims/outcome.ts';
import { byText, measurandsInOrder } from '../model/in-order.ts';
import type { Session } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { CAUTIONS } from '../plan/cautions.ts';
import { claimWords } from '../plan/claim-words.ts';
import { capital, counted, formatPlain, withUnit, wordFor } from '../quantity/format.ts';
import { changeWords, isLate } from '../record/change-words.ts';
import { describedRule } from '../screening/described.ts';
import { precisionSentences } from './precision.ts';
import type { ReportBlock, ReportCell } from './report.ts';
import type { ComposeOptions } from './reported.ts';

export function claims(document: StudyDocument): ReportBlock[] {
  const items = measurandsInOrder(document).flatMap(({ id }) =>
    checkClaims(document, id).map(({ claimId, outcome, sentence }) => {
      const claim = document.claims.find((entered) => entered.id === claimId);
      const source = claim?.source ? ` (${claim.source})` : '';
      return `${claim ? claimWords(claim, document) : ''}${source}. ${OUTCOME_WORDS[outcome]}. ${sentence}`;
    }),
  );
  return items.length === 0 ? [] : [{ kind: 'list', items }];
}

/** More readings than this are counted and not listed. */
const MOST_LISTED = 40;

const BY: Record<string, string> = {
  hand: 'by hand',
  misfire: 'misfire',
  again: 'taken again',
  source: 'with what it comes from',
  correction: 'cannot be set right',
};

export function leftOut(document: StudyDocument): ReportBlock[] {
  const names = new Map(document.items.map(({ id, name, mark }) => [id, { name, mark }]));
  const rows = measurandsInOrder(document)
    .filter(({ expression }) => expression === null)
    .flatMap((measurand) =>
      analyseStudy(document, measurand.id, { resamples: 0 }).settings.flatMap(({ setting, readings }) =>
        readings.flatMap(({ itemId, round, value, use }): ReportCell[][] => {
          if (use.is !== 'left out') return [];
          const item = names.get(itemId);
          return [
            [
              { text: item?.name ?? '', mark: item?.mark as number },
              { text: measurand.name },
              { text: [setting.words, `round ${String(round)}`].filter(Boolean).join(', ') },
              {
                text:
                  value === null ? '–' : withUnit(formatPlain(Number(value.toPrecision(6))), measurand.unit),
              },
              {
                text:
                  use.by === 'rule'
                    ? describedRule(measurand.rule.name).label
                    : [BY[use.by] ?? use.by, use.reason].filter(Boolean).join(': '),
              },
            ],
          ];
        }),
      ),
    );
  if (rows.length === 0) return [{ kind: 'text', text: 'No reading was left out.' }];
  return [
    {
      kind: 'table',
      table: {
        caption:
          rows.length > MOST_LISTED
            ? `The first ${String(MOST_LISTED)} of ${counted(rows.length, 'reading')} that do not count`
            : `${capital(counted(rows.length, 'reading'))} that ${wordFor(rows.length, 'does', 'do')} not count`,
        figures: [3],
        head: ['Item', 'Measurand', 'Where', 'Reading', 'By what, and why'],
        rows: rows.slice(0, MOST_LISTED),
      },
    },
  ];
}

export function findings(document: StudyDocument): ReportBlock[] {
  const items = noticedIn(document).map(({ id, message, why }) => {
    const given = document.study.answers.find(({ finding }) => finding === id);
    return `${message} ${given ? `The tester: ${given.text}` : `${why} Not answered.`}`;
  });
  return items.length === 0 ? [] : [{ kind: 'list', items }];
}

function sessionWords(document: StudyDocument, session: Session, when: ComposeOptions['when']): string {
  const taken = document.readings.filter(({ sessionId }) => sessionId === session.id).length;
  const conditions = conditionsInOrder(document).flatMap((condition) => {
    const read = session.conditions.filter(({ conditionId }) => conditionId === condition.id);
    const [first, last] = [read[0], read.at(-1)];
    if (!first || !last) return [];
    const { isQuantity, shown } = conditionKind(condition);
    if (isQuantity) {
      const from = read.length > 1 ? `${shown(first, { unit: '' })} to ` : '';
      return [`${condition.quantity} ${from}${shown(last, condition)}`];
    }
    const words = read.map(({ text }) => text);
    const changes = words.filter((word, i) => i === 0 || !isSameWord(word, words[i - 1] as string));
    return [`${condition.quantity}: ${changes.join(', then ')}`];
  });
  return [
    `${when(session.startedAt)}${session.kind === 'import' ? ', read in from a table' : ''}`,
    ...(session.operator ? [`by ${session.operator}`] : []),
    ...(session.instrument ? [`with ${session.instrument}`] : []),
    counted(taken, 'reading'),
    ...conditions,
    ...(session.note ? [session.note] : []),
  ].join('; ');
}

export const sessions = (document: StudyDocument, { when }: ComposeOptions): ReportBlock[] =>
  document.sessions.length === 0
    ? []
    : [
        {
          kind: 'list',
          items: [...document.sessions]
            .sort((a, b) => byText(a.startedAt, b.startedAt))
            .map((session) => sessionWords(document, session, when)),
        },
        ...measurandsInOrder(document).flatMap(({ id, name, unit, expression }): ReportBlock[] => {
          const precision = expression === null ? precisionOf(document, id) : undefined;
          return precision
            ? [{ kind: 'text', text: `${name}. ${precisionSentences(precision, unit).join(' ')}` }]
            : [];
        }),
      ];

/** What was settled before the first reading and what after, and where the work left the plan. */
export function plan(document: StudyDocument, { when }: ComposeOptions): ReportBlock[] {
  const late = document.changes.filter(isLate);
  const { deviations } = document.study;
  return [
    {
      kind: 'text',
      text:
        late.length === 0
          ? 'Margins, rules, directions and claims stood as they are before the first reading.'
          : 'Changed after there were readings:',
    },
    ...(late.length === 0
      ? []
      : [
          {
            kind: 'list' as const,
            items: late.map(
              (change) =>
                `${changeWords(change, document)}, ${when(change.changedAt)}: ${change.reason || 'no reason was given'}`,
            ),
          },
        ]),
    ...(deviations.length === 0
      ? []
      : [
          { kind: 'text' as const, text: 'Where the work left the plan:' },
          {
            kind: 'list' as const,
            items: deviations.map(({ text, notedAt }) => `${text} (${when(notedAt)})`),
          },
        ]),
  ];
}

const HANDLED: Record<string, string> = {
  held: 'held the same',
  recorded: 'recorded',
  accepted: 'accepted',
};

export function limits(document: StudyDocument): ReportBlock[] {
  const { confounds } = document.study;
  return [
    ...(confounds.length === 0
      ? []
      : [
          { kind: 'text' as const, text: 'What else changes when the item changes:' },
          {
            kind: 'list' as const,
            items: confounds.map(
              ({ what, handling, note }) => `${what}: ${HANDLED[handling] ?? handling}${note && `, ${note}`}`,
            ),
          },
        ]),
    {
      kind: 'text',
      text: 'These are the items as they were on the bench: one of each says how that one did, not how all others of its kind do. What was not measured is not compared.',
    },
  ];
}

export const cautions = ({ study }: StudyDocument): ReportBlock[] =>
  study.hazards.length === 0
    ? []
    : [
        {
          kind: 'list',
          items: CAUTIONS.filter(({ hazard }) => study.hazards.includes(hazard)).map(
            ({ label, caution }) => `${label}. ${caution}`,
          ),
        },
        { kind: 'text', text: 'The maker’s instructions and local codes come first.' },
      ];

export function photos(document: StudyDocument): ReportBlock[] {
  const chosen = document.study.report.photos.flatMap((noteId) => {
    const note = document.notes.find(({ id, removed }) => id === noteId && !removed);
    return note?.photo ? [{ noteId, file: note.photo, caption: note.text }] : [];
  });
  return chosen.length === 0 ? [] : [{ kind: 'photos', photos: chosen }];
}
