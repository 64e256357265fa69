import { counted, formatPlain, withUnit } from '../quantity/format.ts';
import { claimWords } from '../plan/claim-words.ts';
import { ruleWords } from '../screening/words.ts';
import { looksWords } from '../plan/looks.ts';
import type { Change, Claim, Corrections, Direction, Margin, RuleInForce, Spec } from '../model/parts.ts';
import { correctionsInForce } from './correction-words.ts';
import type { Looks } from '../model/study.ts';
import type { StudyDocument } from '../model/study-document.ts';

type Named = Pick<StudyDocument, 'items' | 'measurands' | 'factors' | 'conditions'>;

/** How the value of each watched field is spoken; the claim and the codes have sentences of their own. */
const SPOKEN: Record<
  Exclude<Change['field'], 'claim' | 'blind' | 'class' | 'role' | 'corrections'>,
  (value: unknown, unit: string) => string
> = {
  margin: (value, unit) => {
    const { kind, value: size } = value as Margin;
    return withUnit(formatPlain(size), kind === 'percent' ? '%' : unit);
  },
  rule: (value) => ruleWords(value as RuleInForce),
  direction: (value, unit) => {
    const { kind, target } = value as Direction;
    return kind === 'nearest' ? `nearest to ${withUnit(formatPlain(target ?? 0), unit)}` : kind;
  },
  spec: (value, unit) => {
    const spec = value as Spec | null;
    if (spec === null) return 'none';
    const shown = (limit: number) => withUnit(formatPlain(limit), spec.kind === 'percent' ? '%' : unit);
    const [low, high] = [spec.low, spec.high].map((limit) => (limit === null ? '' : shown(limit)));
    const limits =
      low === ''
        ? `at most ${high ?? ''}`
        : high === ''
          ? `at least ${low ?? ''}`
          : `between ${low ?? ''} and ${high ?? ''}`;
    return `${limits}, kept by ${withUnit(formatPlain(spec.share), '%')}`;
  },
  looks: (value) => looksWords(value as Looks),
  expression: (value) => (typeof value === 'string' ? `“${value}”` : 'read at the bench'),
};

const BLIND_WORDS: Record<string, string> = {
  no: 'codes given up',
  blind: 'codes in place of names',
  opened: 'codes opened',
};

/** One change of the plan in words: “margin from 0.1 m/s to 0.05 m/s”. */
export function changeWords({ field, before, after, measurandId, itemId }: Change, document: Named): string {
  const [old, next] = [JSON.parse(before) as unknown, JSON.parse(after) as unknown];
  if (field === 'blind') return BLIND_WORDS[String(next)] ?? 'codes changed';
  if (field === 'claim') {
    const words = (claim: unknown) => `“${claimWords(claim as Claim, document)}”`;
    if (old === null) return `claim added: ${words(next)}`;
    if (next === null) return `claim removed: ${words(old)}`;
    return `claim ${words(old)} changed to ${words(next)}`;
  }
  if (field === 'class' || field === 'role') {
    const item = document.items.find(({ id }) => id === itemId)?.name ?? 'an item';
    const words = (value: unknown) =>
      field === 'role' ? String(value) : value === '' ? 'no class' : `class “${String(value)}”`;
    return `${item} moved from ${words(old)} to ${words(next)}`;
  }
  const unit = document.measurands.find(({ id }) => id === measurandId)?.unit ?? '';
  if (field === 'corrections') {
    const words = (value: unknown) =>
      correctionsInForce({ corrections: value as Corrections, unit }, document);
    return words(old) === words(next)
      ? 'corrections changed that are not in force'
      : `corrections from ${words(old)} to ${words(next)}`;
  }
  return `${field} from ${SPOKEN[field](old, unit)} to ${SPOKEN[field](next, unit)}`;
}

/** Whether a change came when there were readings that it bears on. */
export const isLate = ({ readingsThen }: Change): boolean => readingsThen > 0;

/** How many changes came after the first reading; for a title. */
export const changesTitle = (count: number): string => `${counted(count, 'change')} after the first reading`;

/** When a field of a measurand was last settled, and whether that was before its first reading. */
export function settledAt(
  document: Pick<StudyDocument, 'measurands' | 'changes'>,
  measurandId: string,
  field: 'margin' | 'rule' | 'direction',
): { moment: string; late: boolean } {
  const measurand = document.measurands.find(({ id }) => id === measurandId);
  const last = document.changes.findLast(
    (change) => change.measurandId === measurandId && change.field === field,
  );
  return last
    ? { moment: last.changedAt, late: isLate(last) }
    : { moment: measurand?.createdAt ?? '', late: false };
}
