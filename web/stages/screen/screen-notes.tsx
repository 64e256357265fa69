import { memo } from 'react';
import { groupsOf } from '../../../core/analysis/at-setting.ts';
import type { SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import { type Observation } from '../../../core/observations/observation.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import type { Item, RuleInForce } from '../../../core/model/parts.ts';
import { counted } from '../../../core/quantity/format.ts';
import { describedRule } from '../../../core/screening/described.ts';
import { ruleWords } from '../../../core/screening/words.ts';
import { Button } from '../../ui/button.tsx';
import { Note } from '../../ui/note.tsx';
import { Aside } from '../../ui/page.tsx';
import { MethodLink } from '../../app/method-link.tsx';
import { ReadingNote, whyWords, wouldDecide } from './reading-note.tsx';
import { BeforeAfter } from './before-after.tsx';
import { ChosenDetails } from './chosen-details.tsx';

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

/** What the margin says when a study keeps a way of judging that is not today's; undefined where it is today's. */
function ruleToday({ level, judges, name }: RuleInForce): string | undefined {
  const { keepsAll, alwaysCuts, byItself, tests } = describedRule(name);
  return !keepsAll && !alwaysCuts && !byItself && ((tests && level === 'sample') || judges === 'reading')
    ? 'This study keeps the way that it was judged in. Today a rule shares its level among all samples of a study and judges readings in rounds by their distance from the median of the round, which names fewer false winners and finds misreads through a drift.'
    : undefined;
}

/** The rule in force in plain words, with the way to today's where it is another one. */
function RuleNote({ rule, onRule }: { rule: RuleInForce } & Pick<ScreenNotesProps, 'onRule'>) {
  const { name, does, suits, keepsAll } = describedRule(rule.name);
  const today = ruleToday(rule);
  return (
    <Aside>
      <h3>Rule in force</h3>
      <p>
        {ruleWords(rule)}. {does} {suits} {!keepsAll && <MethodLink name={name} />}
      </p>
      {today && (
        <>
          <p style={{ marginTop: 8 }}>{today}</p>
          <Button
            size="small"
            onPress={() => {
              onRule({ ...rule, level: 'study', judges: 'distance' });
            }}
          >
            Change over
          </Button>
        </>
      )}
    </Aside>
  );
}

/** The reading that was chosen, what would change without it or with it, and the way to let go of it. */
function ChosenNote({ chosen, ...props }: ScreenNotesProps & { chosen: Observation }) {
  const { document, analysis, settingKey, onChoose } = props;
  const trying = wouldDecide(chosen, analysis.measurand);
  return (
    <div aria-live="polite">
      <ReadingNote reading={chosen} {...props} />
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
      <ChosenDetails document={document} measurand={analysis.measurand} chosen={chosen} />
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
  );
}

/** The reading that was chosen; nothing where none is. */
export const ChosenReading = memo(function ChosenReading(props: ScreenNotesProps) {
  const chosen = props.analysis.readings.find(({ id }) => id === props.chosenId);
  return chosen && <ChosenNote chosen={chosen} {...props} />;
});

/** The margin of the screening: every left-out reading with why, findings, the rule in force. */
export const ScreenNotes = memo(function ScreenNotes(props: ScreenNotesProps) {
  const { analysis, chosenId, onRule } = props;
  const { measurand, leftOut } = analysis;
  const [uncorrected, ...others] = leftOut.readings.filter(({ use }) => use.by === 'correction');
  const out = leftOut.readings.filter(({ id, use }) => id !== chosenId && use.by !== 'correction');
  const groups = groupsOf(analysis);
  const notApplied = groups.flatMap(({ analysis: { items: analysed } }) =>
    analysed.filter(({ notScreened, n }) => notScreened !== undefined && n > 0),
  );
  return (
    <>
      {uncorrected && (
        <Note
          tone="attention"
          title={`${counted(others.length + 1, 'reading')} cannot be set right, and ${others.length === 0 ? 'is' : 'are'} left out`}
        >
          {whyWords(uncorrected, measurand)} Estimate it under Corrections, or switch that correction off.
        </Note>
      )}
      {out.slice(0, MOST_NOTES).map((reading) => (
        <ReadingNote key={reading.id} reading={reading} {...props} />
      ))}
      {out.length > MOST_NOTES && <p>And {counted(out.length - MOST_NOTES, 'more')}, in the table below.</p>}
      {groups
        .flatMap(({ analysis: { findings } }) => findings)
        .map(({ kind, item, message, why, todo }) => (
          <Note key={`${kind}/${item ?? ''}`} tone="attention" title={message}>
            {why} {todo}
          </Note>
        ))}
      {analysis.ruled && notApplied.length > 0 && (
        <Note
          title={`${describedRule(measurand.rule.name).label} was not applied to ${counted(notApplied.length, 'item')}`}
        >
          It {notApplied[0]?.notScreened}.
        </Note>
      )}
      {analysis.ruled && <RuleNote rule={measurand.rule} onRule={onRule} />}
    </>
  );
});
