import { useState } from 'react';
import styled from 'styled-components';
import { ALPHA } from '../../../core/model/alpha.ts';
import { convert } from '../../../core/quantity/units.ts';
import { measurandsInOrder } from '../../../core/model/in-order.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import {
  type PowerInput,
  alikeDf,
  differenceSeen,
  differenceSeenPooled,
  levelPerPair,
  ownDf,
  power,
  readingsNeeded,
} from '../../../core/plan/power.ts';
import { roundingVariance } from '../../../core/summary/step.ts';
import { counted, formatPlain, formatShare, withUnit } from '../../../core/quantity/format.ts';
import { parseQuantity } from '../../../core/quantity/parse.ts';
import { pooledSpreadOf, usePooledSpread } from '../../app/api/analysis.ts';
import { fetchDocument, patchStudy, useStudies } from '../../app/api/studies.ts';
import { Menu } from '../../ui/menu.tsx';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/choice.tsx';
import { Segments } from '../../ui/segments.tsx';
import { TextField } from '../../ui/text-field.tsx';
import { PowerCurve } from './power-curve.tsx';
import { tell } from '../../app/tell.ts';

const Grid = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(280px, 380px);
  gap: 16px 36px;
  align-items: start;
  @media (max-width: 860px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const Fields = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(170px, 1fr));
  gap: 12px;
  margin-bottom: 16px;
`;

const Answer = styled.p`
  margin-top: 12px;
  font-size: var(--size-19);
  line-height: 1.4;
  max-width: 56ch;
  & + & {
    margin-top: 8px;
    font-size: var(--size-16);
    color: var(--quiet);
  }
`;

/** Takes the spread of a measurand of another study, told in this one's unit. */
function SpreadFromStudy({
  unit,
  ownId,
  onSpread,
}: {
  unit: string;
  ownId: string;
  onSpread: (spread: number, from: string) => void;
}) {
  const { data: studies } = useStudies();
  const others = (studies ?? []).filter(
    ({ study, preview }) => study.id !== ownId && (preview?.runs.done ?? 0) > 1,
  );
  const take = async (id: string) => {
    const other = await fetchDocument(id);
    for (const measurand of measurandsInOrder(other)) {
      const { spread } = await pooledSpreadOf(other, measurand.id);
      // A spread is a difference, so the zero of a scale has no part in it.
      const [end, zero] = [convert(spread ?? 0, measurand.unit, unit), convert(0, measurand.unit, unit)];
      if (spread === undefined || end === undefined || zero === undefined) continue;
      onSpread(Math.abs(end - zero), `${measurand.name} of ${other.study.title}`);
      return;
    }
    throw new Error(`“${other.study.title}” has no spread that can be told in ${unit || 'no unit'}.`);
  };
  if (others.length === 0) return null;
  return (
    <Menu
      label="Spread from another study"
      trigger="Spread from another study"
      actions={others.map(({ study }) => ({
        id: study.id,
        label: study.title,
        onAction: () => {
          tell(take(study.id));
        },
      }))}
    />
  );
}

const figure = (value: number, unit: string) => withUnit(formatPlain(Number(value.toPrecision(2))), unit);

/** What the way of comparing and the instrument's step cost, as differences that the planned rounds see. */
function whatItCosts(
  input: Omit<PowerInput, 'difference'>,
  {
    rounds,
    chance,
    items,
    unit,
    step,
    inRounds,
  }: { rounds: number; chance: number; items: number; unit: string; step: number | null; inRounds: boolean },
): string {
  const { sd } = input;
  const parts: string[] = [];
  if (inRounds && items > 2) {
    const apart = differenceSeen(rounds, chance, { ...input, df: ownDf });
    const pooled = differenceSeenPooled(rounds, chance, { sd, alpha: ALPHA, items });
    parts.push(
      `Where items turn out to scatter differently, it is ${figure(apart, unit)}.`,
      ...(pooled === undefined
        ? []
        : [
            `If you can promise that all scatter alike, “Rounds, one spread for all” sees ${figure(pooled, unit)}.`,
          ]),
    );
  }
  const floor = step === null ? 0 : Math.sqrt(roundingVariance(step));
  if (step !== null && floor > sd) {
    // Steps that hide the spread stand in for it, and the rounding of both means comes on top.
    const coarse = differenceSeen(rounds, chance, { ...input, sd: floor * Math.sqrt(1 + rounds) });
    parts.push(
      `But the instrument’s steps of ${figure(step, unit)} hide this spread: with them it is ${figure(coarse, unit)}. A finer instrument would see what is said above.`,
    );
  }
  return parts.join(' ');
}

/** A number over 0 that was typed, in this unit; neither where nothing is typed. */
function positive(text: string, unit: string, what: string): { problem?: string; value?: number } {
  if (text.trim() === '') return {};
  const understood = parseQuantity(text, unit);
  if ('problem' in understood) return { problem: understood.problem };
  return understood.number > 0 ? { value: understood.number } : { problem: `${what} is more than 0.` };
}

const CHANCES = ['0.8', '0.9', '0.95'] as const;

/** What is asked of the numbers: which spread, which difference, seen with what chance. */
interface Wanted {
  spread?: string | undefined;
  spreadFrom?: string | undefined;
  difference?: string | undefined;
  chance: (typeof CHANCES)[number];
}

/** What the wanted numbers come to in a study. */
function neededFor({
  document,
  measurand,
  wanted,
  pilot,
}: {
  document: StudyDocument;
  measurand: Measurand;
  wanted: Wanted;
  /** The spread of the readings that there are. */
  pilot: number | undefined;
}) {
  const { unit, margin } = measurand;
  const spreadText = wanted.spread ?? (pilot === undefined ? '' : formatPlain(Number(pilot.toPrecision(2))));
  const differenceText =
    wanted.difference ?? (margin.kind === 'absolute' && margin.value > 0 ? formatPlain(margin.value) : '');
  const sd = positive(spreadText, unit, 'A spread');
  const difference = positive(differenceText, unit, 'A difference');
  const items = Math.max(2, document.items.length);
  const input: PowerInput | undefined =
    sd.value === undefined || difference.value === undefined
      ? undefined
      : {
          sd: sd.value,
          difference: difference.value,
          alpha: levelPerPair(ALPHA, items),
          df: document.study.runOrder === 'full-shuffle' ? undefined : alikeDf(items),
        };
  const needed = input && readingsNeeded(Number(wanted.chance), input);
  const whole = needed === undefined ? undefined : Math.ceil(needed);
  return { spreadText, differenceText, sd, difference, items, input, whole };
}

type Needed = ReturnType<typeof neededFor>;

/** From where the spread is. */
const spreadHelp = ({ spread, spreadFrom }: Wanted, pilot: number | undefined): string =>
  pilot !== undefined && spread === undefined
    ? 'From the readings that there are'
    : (spreadFrom ?? 'From a pilot, or a guess');

function NeededFields({
  measurands,
  measurand,
  wanted,
  needed: { spreadText, differenceText, sd, difference },
  pilot,
  onMeasurand,
  onWanted,
}: {
  measurands: readonly Measurand[];
  measurand: Measurand;
  wanted: Wanted;
  needed: Needed;
  pilot: number | undefined;
  onMeasurand: (id: string) => void;
  onWanted: (changes: Partial<Wanted>) => void;
}) {
  return (
    <Fields>
      {measurands.length > 1 && (
        <Choice
          label="For"
          value={measurand.id}
          options={measurands.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={onMeasurand}
        />
      )}
      <TextField
        label="Spread of one item’s readings (SD)"
        value={spreadText}
        onChange={(spread) => {
          onWanted({ spread, spreadFrom: undefined });
        }}
        suffix={measurand.unit}
        problem={sd.problem}
        help={spreadHelp(wanted, pilot)}
      />
      <TextField
        label="Difference to be seen"
        value={differenceText}
        onChange={(typed) => {
          onWanted({ difference: typed });
        }}
        suffix={measurand.unit}
        problem={difference.problem}
        help={wanted.difference === undefined && differenceText !== '' ? 'Your margin' : undefined}
      />
      <Segments
        label="Chance of seeing it"
        value={wanted.chance}
        onChange={(chance) => {
          onWanted({ chance });
        }}
        options={CHANCES.map((chance) => ({ value: chance, label: formatShare(Number(chance)) }))}
      />
    </Fields>
  );
}

/** How many readings it takes, and what the planned rounds see. */
function Answers({
  document: { study, readings },
  measurand: { unit, instrument },
  chance,
  input,
  items,
  whole,
}: {
  document: StudyDocument;
  measurand: Measurand;
  chance: number;
  input: PowerInput;
  items: number;
  whole: number | undefined;
}) {
  const { rounds } = study;
  const wanted = withUnit(formatPlain(input.difference), unit);
  return (
    <>
      <Answer>
        {whole === undefined
          ? 'More than 10 000 readings of each item would be needed: look for a wider margin or a steadier instrument.'
          : `${counted(whole, 'reading')} of each item show a difference of ${wanted} with a chance of ${formatShare(chance)}.`}
      </Answer>
      {rounds >= 2 && (
        <>
          <Answer>
            The {counted(rounds, 'round')} that are planned see {wanted} with a chance of{' '}
            {formatShare(power(rounds, input))}; with {formatShare(chance)} they see{' '}
            {figure(differenceSeen(rounds, chance, input), unit)}.
            {items > 2 && ` All pairs of ${String(items)} items are counted at once.`}
          </Answer>
          <Answer>
            {whatItCosts(input, {
              rounds,
              chance,
              items,
              unit,
              step: instrument.resolution,
              inRounds: input.df !== undefined,
            })}
          </Answer>
        </>
      )}
      {whole !== undefined && whole !== rounds && whole <= 500 && readings.length === 0 && (
        <Button
          style={{ marginTop: 12 }}
          onPress={() => {
            tell(patchStudy(study, { rounds: whole }));
          }}
        >
          Plan {counted(whole, 'round')}
        </Button>
      )}
    </>
  );
}

/** How many readings show a difference of the margin, and what the planned ones can see. */
export function ReadingsNeeded({ document }: { document: StudyDocument }) {
  const measurands = measurandsInOrder(document);
  const [measurandId, setMeasurandId] = useState<string>();
  const measurand = measurands.find(({ id }) => id === measurandId) ?? measurands[0];
  const [wanted, setWanted] = useState<Wanted>({ chance: '0.8' });
  const pilot = usePooledSpread(document, measurand?.id).data?.spread;
  if (!measurand) return <p>Say first what is measured.</p>;
  const change = (changes: Partial<Wanted>) => {
    setWanted((before) => ({ ...before, ...changes }));
  };
  const needed = neededFor({ document, measurand, wanted, pilot });
  const { input, items, whole } = needed;
  const chance = Number(wanted.chance);
  return (
    <Grid>
      <div>
        <NeededFields
          measurands={measurands}
          measurand={measurand}
          wanted={wanted}
          needed={needed}
          pilot={pilot}
          onMeasurand={(id) => {
            setMeasurandId(id);
            change({ spread: undefined, spreadFrom: undefined, difference: undefined });
          }}
          onWanted={change}
        />
        <SpreadFromStudy
          unit={measurand.unit}
          ownId={document.study.id}
          onSpread={(spread, spreadFrom) => {
            change({ spread: String(Number(spread.toPrecision(3))), spreadFrom });
          }}
        />
        {input === undefined ? (
          <Answer>Give a spread and a difference to see how many readings it takes.</Answer>
        ) : (
          <Answers
            document={document}
            measurand={measurand}
            chance={chance}
            input={input}
            items={items}
            whole={whole}
          />
        )}
      </div>
      {input && <PowerCurve input={input} rounds={document.study.rounds} aim={chance} needed={whole} />}
    </Grid>
  );
}
