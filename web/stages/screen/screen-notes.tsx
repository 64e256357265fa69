import { memo } from 'react';
import { readingForm } from '../../../core/forms/index.ts';
import { groupsOf } from '../../../core/analysis/at-setting.ts';
import type { SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import { type Observation, isDerived } from '../../../core/observations/observation.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import type { Item, RuleInForce } from '../../../core/model/parts.ts';
import {
  counted,
  formatNumber,
  formatReading,
  readingWords,
  withUnit,
} from '../../../core/quantity/format.ts';
import { describedRule } from '../../../core/screening/described.ts';
import { ruleWords } from '../../../core/screening/words.ts';
import type { TriedAction } from '../../../core/analysis/tried.ts';
import { Button } from '../../ui/button.tsx';
import { Note } from '../../ui/note.tsx';
import { Aside } from '../../ui/page.tsx';
import { MethodLink } from '../../app/method-link.tsx';
import { BeforeAfter } from './before-after.tsx';
import { clockTime } from '../../ui/when.ts';

export interface ScreenNotesProps {
  document: StudyDocument;
  settingKey: string | undefined;
  analysis: SettingAnalysis;
  items: ReadonlyMap<string, Item>;
  chosenId: string | undefined;
  onChoose: (id: string | undefined) => void;
  onLeaveOut: (id: string) => void;
  onDecide: (action: 'take-back' | 'keep', id: string, reason: string) => void;
  onRule: (rule: RuleInForce) => void;
}

/** More notes than this on left-out readings are counted and not named one by one. */
const MOST_NOTES = 6;

/** The margin of the screening: the chosen reading, every left-out one with why, findings, the rule in force. */
export const ScreenNotes = memo(function ScreenNotes({
  document,
  settingKey,
  analysis,
  items,
  chosenId,
  onChoose,
  onLeaveOut,
  onDecide,
  onRule,
}: ScreenNotesProps) {
  const { measurand, readings, leftOut } = analysis;
  const rule = describedRule(measurand.rule.name);
  const name = (id: string) => items.get(id)?.name ?? '';
  const title = (observation: Observation) =>
    `${name(observation.itemId)}, round ${String(observation.round)}: ${readingWords(observation, measurand.unit)}`;

  const why = ({ use }: Observation): string => {
    if (use.is === 'kept') return use.insisted ? `Kept by hand: ${use.insisted}.` : 'It counts.';
    if (use.by === 'misfire') return `Misfire: ${use.reason}.`;
    if (use.by === 'again') return 'It was taken again at the bench.';
    if (use.by === 'hand') return `Left out by hand: ${use.reason}.`;
    if (use.by === 'source') return `Left out ${use.reason}.`;
    if (use.by === 'correction') return `It cannot be set right: ${use.reason}.`;
    if (use.statistic === undefined || use.limit === undefined) return `Left out by the rule: ${use.reason}.`;
    const judged = use.judged === 'distance' ? ', by its distance from the median of its round' : '';
    return `Left out by ${use.reason}${judged}: ${rule.statisticName} = ${formatNumber(use.statistic, 2)} over ${formatNumber(use.limit, 2)}.`;
  };
  const intervalWords = ({ interval }: Observation) =>
    interval
      ? `By itself it is known to ${formatReading(Number(interval.low.toPrecision(3)))} to ${withUnit(formatReading(Number(interval.high.toPrecision(3))), measurand.unit)} (${interval.method}). `
      : '';
  /** What looks odd about its parts: samples that are clipped, a yield over 100 %. */
  const doubtWords = (reading: Observation) =>
    (isDerived(reading) ? undefined : readingForm(measurand.form)?.doubt?.(reading.parts, measurand)) ?? '';
  const actions = (reading: Observation) => {
    const { id, use } = reading;
    if (isDerived(reading)) return 'Worked out from other readings; judge those.';
    if (use.is === 'kept') {
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
          {use.insisted !== undefined && (
            <Button
              size="small"
              tone="quiet"
              onPress={() => {
                onDecide('take-back', id, '');
              }}
            >
              Let the rule judge
            </Button>
          )}
        </>
      );
    }
    if (use.by === 'correction') return 'Estimate it under Corrections, or switch that correction off.';
    if (use.by === 'rule') {
      // A rule that always takes the extremes would take another one in its place.
      return rule.alwaysCuts ? null : (
        <Button
          size="small"
          onPress={() => {
            onDecide('keep', id, 'looked at and found good');
          }}
        >
          Keep it
        </Button>
      );
    }
    return (
      <Button
        size="small"
        onPress={() => {
          onDecide('take-back', id, '');
        }}
      >
        Take it back
      </Button>
    );
  };
  const note = (reading: Observation) => (
    <Note
      key={reading.id}
      tone={reading.use.is === 'kept' ? 'good' : 'attention'}
      title={title(reading)}
      actions={actions(reading)}
    >
      {why(reading)} {doubtWords(reading)}
      {intervalWords(reading)}
      {reading.read !== undefined &&
        `Read as ${withUnit(formatReading(reading.read), measurand.unit)}${reading.estimated ? ', and set right by an estimate' : ''}. `}
      Recorded {clockTime(reading.takenAt)}
      {reading.note && `, “${reading.note}”`}.
    </Note>
  );

  /** What its buttons would decide; nothing for what cannot be decided here. */
  const wouldDecide = (reading: Observation): TriedAction | undefined => {
    const { use } = reading;
    if (isDerived(reading)) return undefined;
    if (use.is === 'kept') return 'leave-out';
    if (use.by === 'rule') return rule.alwaysCuts ? undefined : 'keep';
    return use.by === 'correction' ? undefined : 'take-back';
  };

  const { level, judges } = measurand.rule;
  const ruleToday =
    !rule.keepsAll &&
    !rule.alwaysCuts &&
    !rule.byItself &&
    ((rule.tests && level === 'sample') || judges === 'reading')
      ? 'This study keeps the way that it was judged in. Today a rule shares its level among all samples of a study and judges readings in rounds by their distance from the median of the round, which names fewer false winners and finds misreads through a drift.'
      : undefined;
  const chosen = chosenId === undefined ? undefined : readings.find(({ id }) => id === chosenId);
  const trying = chosen && wouldDecide(chosen);
  const uncorrected = leftOut.readings.filter(({ use }) => use.by === 'correction');
  const out = leftOut.readings.filter(({ id, use }) => id !== chosenId && use.by !== 'correction');
  const groups = groupsOf(analysis);
  const notApplied = groups.flatMap(({ analysis: { items: analysed } }) =>
    analysed.filter(({ notScreened, n }) => notScreened !== undefined && n > 0),
  );
  return (
    <>
      {chosen && (
        <div aria-live="polite">
          {note(chosen)}
          {trying && (
            <BeforeAfter
              document={document}
              analysis={analysis}
              settingKey={settingKey}
              readingIds={[chosen.id]}
              action={trying}
              brief
            />
          )}
          <Button
            size="small"
            tone="quiet"
            onPress={() => {
              onChoose(undefined);
            }}
          >
            Let go
          </Button>
        </div>
      )}
      {uncorrected.length > 0 && (
        <Note
          tone="attention"
          title={`${counted(uncorrected.length, 'reading')} cannot be set right, and ${uncorrected.length === 1 ? 'is' : 'are'} left out`}
        >
          {why(uncorrected[0] as Observation)} Estimate it under Corrections, or switch that correction off.
        </Note>
      )}
      {out.slice(0, MOST_NOTES).map(note)}
      {out.length > MOST_NOTES && <p>And {counted(out.length - MOST_NOTES, 'more')}, in the table below.</p>}
      {groups
        .flatMap(({ analysis: { findings } }) => findings)
        .map(({ kind, item, message, why: reason, todo }) => (
          <Note key={`${kind}/${item ?? ''}`} tone="attention" title={message}>
            {reason} {todo}
          </Note>
        ))}
      {analysis.ruled && notApplied.length > 0 && (
        <Note title={`${rule.label} was not applied to ${counted(notApplied.length, 'item')}`}>
          It {notApplied[0]?.notScreened}.
        </Note>
      )}
      {analysis.ruled && (
        <Aside>
          <h3>Rule in force</h3>
          <p>
            {ruleWords(measurand.rule)}. {rule.does} {rule.suits}{' '}
            {!rule.keepsAll && <MethodLink name={rule.name} />}
          </p>
          {ruleToday && (
            <>
              <p style={{ marginTop: 8 }}>{ruleToday}</p>
              <Button
                size="small"
                onPress={() => {
                  onRule({ ...measurand.rule, level: 'study', judges: 'distance' });
                }}
              >
                Change over
              </Button>
            </>
          )}
        </Aside>
      )}
    </>
  );
});
