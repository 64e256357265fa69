import type { ReactNode } from 'react';
import { readingForm } from '../../../core/forms/index.ts';
import type { TriedAction } from '../../../core/analysis/tried.ts';
import { type Observation, isDerived } from '../../../core/observations/observation.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import { formatNumber, formatReading, readingWords, withUnit } from '../../../core/quantity/format.ts';
import { describedRule } from '../../../core/screening/described.ts';
import { Button } from '../../ui/button.tsx';
import { Note } from '../../ui/note.tsx';
import { clockTime } from '../../ui/when.ts';
import type { ScreenNotesProps } from './screen-notes.tsx';

/** Why a reading counts or does not. */
export function whyWords({ use }: Observation, { rule: { name } }: Pick<Measurand, 'rule'>): string {
  if (use.is === 'kept') return use.insisted ? `Kept by hand: ${use.insisted}.` : 'It counts.';
  if (use.by === 'misfire') return `Misfire: ${use.reason}.`;
  if (use.by === 'again') return 'It was taken again at the bench.';
  if (use.by === 'hand') return `Left out by hand: ${use.reason}.`;
  if (use.by === 'source') return `Left out ${use.reason}.`;
  if (use.by === 'correction') return `It cannot be set right: ${use.reason}.`;
  if (use.statistic === undefined || use.limit === undefined) return `Left out by the rule: ${use.reason}.`;
  const judged = use.judged === 'distance' ? ', by its distance from the median of its round' : '';
  return `Left out by ${use.reason}${judged}: ${describedRule(name).statisticName} = ${formatNumber(use.statistic, 2)} over ${formatNumber(use.limit, 2)}.`;
}

/** What the buttons of a reading would decide; nothing for what cannot be decided here. */
export function wouldDecide(
  reading: Observation,
  { rule }: Pick<Measurand, 'rule'>,
): TriedAction | undefined {
  const { use } = reading;
  if (isDerived(reading)) return undefined;
  if (use.is === 'kept') return 'leave-out';
  // A rule that always takes the extremes would take another one in its place.
  if (use.by === 'rule') return describedRule(rule.name).alwaysCuts ? undefined : 'keep';
  return use.by === 'correction' ? undefined : 'take-back';
}

type Deciding = Pick<ScreenNotesProps, 'onLeaveOut' | 'onDecide'>;

/** What can be decided about a reading. */
function actionsOf({
  reading,
  measurand,
  onLeaveOut,
  onDecide,
}: Deciding & { reading: Observation; measurand: Measurand }): ReactNode {
  const { id, use } = reading;
  if (isDerived(reading)) return 'Worked out from other readings; judge those.';
  if (use.is === 'left out' && use.by === 'correction')
    return 'Estimate it under Corrections, or switch that correction off.';
  const decides = (label: string, action: 'take-back' | 'keep', reason: string, tone?: 'quiet') => (
    <Button
      size="small"
      {...(tone ? { tone } : {})}
      onPress={() => {
        onDecide(action, id, reason);
      }}
    >
      {label}
    </Button>
  );
  const would = wouldDecide(reading, measurand);
  if (would === 'keep') return decides('Keep it', 'keep', 'looked at and found good');
  if (would === 'take-back') return decides('Take it back', 'take-back', '');
  if (use.is !== 'kept') return null;
  return (
    <>
      <Button
        size="small"
        onPress={() => {
          onLeaveOut(id);
        }}
      >
        Leave it out…
      </Button>
      {use.insisted !== undefined && decides('Let the rule judge', 'take-back', '', 'quiet')}
    </>
  );
}

const intervalWords = ({ interval }: Observation, { unit }: Measurand): string =>
  interval
    ? `By itself it is known to ${formatReading(Number(interval.low.toPrecision(3)))} to ${withUnit(formatReading(Number(interval.high.toPrecision(3))), unit)} (${interval.method}). `
    : '';

/** What looks odd about its parts: samples that are clipped, a yield over 100 %. */
const doubtWords = (reading: Observation, measurand: Measurand): string =>
  (isDerived(reading) ? undefined : readingForm(measurand.form)?.doubt?.(reading.parts, measurand)) ?? '';

/** A reading with how it stands, what is known of it, and what can be decided. */
export function ReadingNote({
  reading,
  items,
  analysis: { measurand },
  onLeaveOut,
  onDecide,
}: Deciding & Pick<ScreenNotesProps, 'items' | 'analysis'> & { reading: Observation }) {
  const name = items.get(reading.itemId)?.name ?? '';
  return (
    <Note
      tone={reading.use.is === 'kept' ? 'good' : 'attention'}
      title={`${name}, round ${String(reading.round)}: ${readingWords(reading, measurand.unit)}`}
      actions={actionsOf({ reading, measurand, onLeaveOut, onDecide })}
    >
      {whyWords(reading, measurand)} {doubtWords(reading, measurand)}
      {intervalWords(reading, measurand)}
      {reading.read !== undefined &&
        `Read as ${withUnit(formatReading(reading.read), measurand.unit)}${reading.estimated ? ', and set right by an estimate' : ''}. `}
      Recorded {clockTime(reading.takenAt)}
      {reading.note && `, “${reading.note}”`}.
    </Note>
  );
}
