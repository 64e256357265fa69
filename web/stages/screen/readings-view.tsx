import { lazy, useMemo, useState, memo } from 'react';
import styled from 'styled-components';
import type { SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import { readingsInOrder } from '../../../core/analysis/in-order.ts';
import { roundDistances } from '../../../core/analysis/round-distances.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import { stripCaption } from '../../../core/report/left-out-words.ts';
import { describedRule } from '../../../core/screening/described.ts';
import { TakenStrip } from '../../app/taken-strip.tsx';
import { lanesOfDistances, stripLanes } from '../../strip/lanes.ts';
import type { StripLane } from '../../strip/layout.ts';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/choice.tsx';
import { Row } from '../../ui/page.tsx';
import type { Shown } from './shown.ts';
import { canGoOut } from './several-out.tsx';
import { lanesOfSome, someReadings } from './some-readings.ts';
import { Later } from '../../ui/later.tsx';
import { ShownAs, type ShownBy } from '../../app/shown-as.tsx';

// Drawn when it is asked for.
const OrderPicture = lazy(async () => ({
  default: (await import('../../strip/order-picture.tsx')).OrderPicture,
}));

const Views = styled(Row)`
  > button:last-child {
    margin-left: auto;
  }
  margin-bottom: 8px;
`;

interface ReadingsViewProps extends Pick<Shown, 'view' | 'analysis' | 'analysed'> {
  chosenId: string | undefined;
  onChoose: (id: string | undefined) => void;
  onSeveral: () => void;
}

/** Readings in the order in which they were taken; what a rule leaves out is hollow too. */
function InOrder({ view, analysis }: Pick<Shown, 'view' | 'analysis'>) {
  const { document, measurand, settingKey } = view;
  const order = useMemo(
    () => readingsInOrder(document, measurand.id, settingKey),
    [document, measurand, settingKey],
  );
  const drawn = useMemo(() => {
    const out = new Set(analysis?.leftOut.readings.map(({ id }) => id));
    return {
      ...order,
      readings: order.readings.map((reading) => ({ ...reading, out: reading.out || out.has(reading.id) })),
    };
  }, [order, analysis]);
  const marks = useMemo(() => new Map(document.items.map(({ id, mark }) => [id, mark])), [document.items]);
  return (
    <Later>
      <OrderPicture label={measurand.name} unit={measurand.unit} order={drawn} marks={marks} />
    </Later>
  );
}

/** Whether a rule judges distances, or why it does not. */
function judgedWords({ name, judges }: Measurand['rule']): string {
  const { keepsAll, alwaysCuts, byItself } = describedRule(name);
  if (keepsAll) return 'No rule is in force.';
  return judges === 'distance' && !alwaysCuts && !byItself
    ? 'The rule in force judges these distances.'
    : 'The rule in force judges the readings themselves.';
}

/** Each reading less the median of its round: what drifts from round to round is gone, and a misread is not. */
function Distances({
  view: { measurand, setting },
  analysis,
  lanes,
  chosenId,
  onChoose,
}: Pick<ReadingsViewProps, 'view' | 'chosenId' | 'onChoose'> & {
  analysis: SettingAnalysis;
  lanes: readonly StripLane[];
}) {
  const shown = useMemo(
    () => lanesOfDistances(lanes, roundDistances(analysis.readings) ?? new Map()),
    [lanes, analysis],
  );
  if (shown.every(({ marks }) => marks.length === 0))
    return <p>Items share fewer than two rounds, so there is no distance from a round to show.</p>;
  const what = [measurand.name, setting, 'less the median of its round'].filter(Boolean).join(', ');
  const words = judgedWords(measurand.rule);
  return (
    <>
      <TakenStrip
        what={what}
        caption={`${what}: what drifts from round to round is gone. ${words} What was left out is hollow.`}
        label={`${measurand.name}: readings less the median of their round`}
        unit={measurand.unit}
        lanes={shown}
        pointedId={chosenId}
        onChoose={onChoose}
      />
      <p style={{ margin: '6px 0 14px' }}>
        Each reading less the median of its round, so what drifts from round to round is gone. {words}
      </p>
    </>
  );
}

/** Which of the readings are shown: all, or those of a round or a session. */
function PartChoice({
  parts,
  part,
  onPart,
}: {
  parts: ReturnType<typeof someReadings>;
  part: ReturnType<typeof someReadings>[number] | undefined;
  onPart: (value: string) => void;
}) {
  if (parts.length === 0) return null;
  return (
    <Choice
      label="Readings of"
      labelHidden
      options={[{ value: '', label: 'All readings' }, ...parts]}
      value={part?.value ?? ''}
      onChange={onPart}
    />
  );
}

const captionOf = (analysis: SettingAnalysis, ranksOnly: boolean, part: string | undefined): string =>
  `${stripCaption(analysis, { ranksOnly, placed: false })}${part === undefined ? '' : ` ${part} alone; means are of all readings.`}`;

/** All readings in a picture: item by item, all or some of them, or in the order taken. */
export const ReadingsView = memo(function ReadingsView({
  view,
  analysis,
  analysed,
  chosenId,
  onChoose,
  onSeveral,
}: ReadingsViewProps) {
  const { document, measurand, settingKey, setting } = view;
  const [by, setBy] = useState<ShownBy>('items');
  const [shownPart, setShownPart] = useState('');
  const parts = useMemo(
    () => (analysis ? someReadings(analysis.readings, document.sessions) : []),
    [analysis, document.sessions],
  );
  const part = parts.find(({ value }) => value === shownPart);
  const allLanes = useMemo(
    // Drawn once for a decision: what was decided is to be seen when the analysis knows it.
    () => stripLanes(analysed, measurand, settingKey, analysis, { analysed }),
    [analysed, measurand, settingKey, analysis],
  );
  const lanes = useMemo(() => (part ? lanesOfSome(allLanes, part) : allLanes), [allLanes, part]);
  const ranksOnly = analysis?.classes.some((group) => group.analysis.ranksOnly) ?? false;
  const inRounds = !ranksOnly && (analysis?.readings.some(({ sharesRound }) => sharesRound) ?? false);
  return (
    <>
      <Views>
        <ShownAs by={by} distances={inRounds} onBy={setBy} />
        {by === 'items' && <PartChoice parts={parts} part={part} onPart={setShownPart} />}
        {analysis?.readings.some(canGoOut) && (
          <Button size="small" tone="quiet" onPress={onSeveral}>
            Leave several out…
          </Button>
        )}
      </Views>
      {by === 'order' ? (
        <InOrder view={view} analysis={analysis} />
      ) : by === 'distances' && analysis && inRounds ? (
        <Distances {...{ view, analysis, lanes: allLanes, chosenId, onChoose }} />
      ) : (
        <TakenStrip
          what={[measurand.name, setting, part?.label ?? 'all readings'].filter(Boolean).join(', ')}
          caption={analysis ? captionOf(analysis, ranksOnly, part?.label) : ''}
          label={`${measurand.name}: all readings by item`}
          unit={measurand.unit}
          lanes={lanes}
          spanned={allLanes}
          pointedId={chosenId}
          onChoose={onChoose}
          trueZero={analysis !== undefined && analysis.trueZero && !analysis.bySize}
        />
      )}
    </>
  );
});
