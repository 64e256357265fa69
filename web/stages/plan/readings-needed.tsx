import { useState } from 'react';
import styled from 'styled-components';
import { ALPHA } from '../../../core/model/alpha.ts';
import { convert } from '../../../core/quantity/units.ts';
import { measurandsInOrder } from '../../../core/model/in-order.ts';
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
      trigger="From another study"
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

/** How many readings show a difference of the margin, and what the planned ones can see. */
export function ReadingsNeeded({ document }: { document: StudyDocument }) {
  const measurands = measurandsInOrder(document);
  const [measurandId, setMeasurandId] = useState<string>();
  const measurand = measurands.find(({ id }) => id === measurandId) ?? measurands[0];
  const [typedSpread, setSpread] = useState<string>();
  const [spreadFrom, setSpreadFrom] = useState<string>();
  const [typedDifference, setDifference] = useState<string>();
  const [chance, setChance] = useState<'0.8' | '0.9' | '0.95'>('0.8');
  const pilot = usePooledSpread(document, measurand?.id).data?.spread;
  if (!measurand) return <p>Say first what is measured.</p>;
  const { unit, margin } = measurand;
  const spreadText = typedSpread ?? (pilot === undefined ? '' : formatPlain(Number(pilot.toPrecision(2))));
  const differenceText =
    typedDifference ?? (margin.kind === 'absolute' && margin.value > 0 ? formatPlain(margin.value) : '');
  const positive = (text: string, what: string) => {
    if (text.trim() === '') return { problem: undefined, value: undefined };
    const understood = parseQuantity(text, unit);
    if ('problem' in understood) return { problem: understood.problem, value: undefined };
    return understood.number > 0
      ? { problem: undefined, value: understood.number }
      : { problem: `${what} is more than 0.`, value: undefined };
  };
  const sd = positive(spreadText, 'A spread');
  const difference = positive(differenceText, 'A difference');
  const items = Math.max(2, document.items.length);
  const rounds = document.study.rounds;
  const alpha = levelPerPair(ALPHA, items);
  const input =
    sd.value === undefined || difference.value === undefined
      ? undefined
      : {
          sd: sd.value,
          difference: difference.value,
          alpha,
          df: document.study.runOrder === 'full-shuffle' ? undefined : alikeDf(items),
        };
  const needed = input && readingsNeeded(Number(chance), input);
  const whole = needed === undefined ? undefined : Math.ceil(needed);
  return (
    <Grid>
      <div>
        <Fields>
          {measurands.length > 1 && (
            <Choice
              label="For"
              value={measurand.id}
              options={measurands.map(({ id, name }) => ({ value: id, label: name }))}
              onChange={(id) => {
                setMeasurandId(id);
                setSpread(undefined);
                setDifference(undefined);
              }}
            />
          )}
          <TextField
            label="Spread of one item’s readings (SD)"
            value={spreadText}
            onChange={(text) => {
              setSpread(text);
              setSpreadFrom(undefined);
            }}
            suffix={unit}
            problem={sd.problem}
            help={
              pilot !== undefined && typedSpread === undefined
                ? 'From the readings that there are'
                : (spreadFrom ?? 'From a pilot, or a guess')
            }
          />
          <TextField
            label="Difference to be seen"
            value={differenceText}
            onChange={setDifference}
            suffix={unit}
            problem={difference.problem}
            help={typedDifference === undefined && differenceText !== '' ? 'Your margin' : undefined}
          />
          <Segments
            label="Chance of seeing it"
            value={chance}
            onChange={setChance}
            options={[
              { value: '0.8', label: '80\u202f%' },
              { value: '0.9', label: '90\u202f%' },
              { value: '0.95', label: '95\u202f%' },
            ]}
          />
        </Fields>
        <SpreadFromStudy
          unit={unit}
          ownId={document.study.id}
          onSpread={(spread, from) => {
            setSpread(String(Number(spread.toPrecision(3))));
            setSpreadFrom(from);
          }}
        />
        {input === undefined ? (
          <Answer>Give a spread and a difference to see how many readings it takes.</Answer>
        ) : (
          <>
            <Answer>
              {whole === undefined
                ? 'More than 10 000 readings of each item would be needed: look for a wider margin or a steadier instrument.'
                : `${counted(whole, 'reading')} of each item show a difference of ${withUnit(formatPlain(input.difference), unit)} with a chance of ${formatShare(Number(chance))}.`}
            </Answer>
            {rounds >= 2 && (
              <Answer>
                The {counted(rounds, 'round')} that are planned see{' '}
                {withUnit(formatPlain(input.difference), unit)} with a chance of{' '}
                {formatShare(power(rounds, input))}; with {formatShare(Number(chance))} they see{' '}
                {withUnit(
                  formatPlain(Number(differenceSeen(rounds, Number(chance), input).toPrecision(2))),
                  unit,
                )}
                .{items > 2 && ` All pairs of ${String(items)} items are counted at once.`}
              </Answer>
            )}
            {rounds >= 2 && (
              <Answer>
                {whatItCosts(input, {
                  rounds,
                  chance: Number(chance),
                  items,
                  unit,
                  step: measurand.instrument.resolution,
                  inRounds: input.df !== undefined,
                })}
              </Answer>
            )}
            {whole !== undefined && whole !== rounds && whole <= 500 && document.readings.length === 0 && (
              <Button
                style={{ marginTop: 12 }}
                onPress={() => {
                  tell(patchStudy(document.study, { rounds: whole }));
                }}
              >
                Plan {counted(whole, 'round')}
              </Button>
            )}
          </>
        )}
      </div>
      {input && <PowerCurve input={input} rounds={rounds} aim={Number(chance)} needed={whole} />}
    </Grid>
  );
}
