import { Plus, Trash2 } from 'lucide-react';
import styled from 'styled-components';
import { READING_FORMS, readingForm, unitRead } from '../../../core/forms/index.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import { measurandsInOrder } from '../../../core/model/in-order.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { letGo, withForm, withSettings, withUnit } from '../../../core/plan/meaning.ts';
import { listed } from '../../../core/quantity/format.ts';
import { ruleWords } from '../../../core/screening/words.ts';
import { DESCRIBED_RULES } from '../../../core/screening/described.ts';
import { createPart, deletePart, patchPart } from '../../app/api/studies.ts';
import { SavedNumber, SavedText } from '../../app/draft-field.tsx';
import { RangeFields } from '../../app/range-fields.tsx';
import { newMeasurand } from '../../../core/plan/new-parts.ts';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/choice.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { focusRing } from '../../ui/tokens.ts';
import { Row } from '../../ui/page.tsx';
import { FormSettings } from './form-settings.tsx';
import { ControlRanges } from './control-ranges.tsx';
import { MeasuredOn } from './measured-on.tsx';
import { NewDerived, SavedExpression } from './derived.tsx';
import { SpecFields } from './spec-fields.tsx';
import { Settled } from './settled.tsx';
import { Columns, Span, twelveColumns } from '../../ui/span.tsx';
import { tell, tellDone, tellFailure } from '../../app/tell.ts';

/** What is settled once and seldom looked at again. */
const Details = styled.details`
  grid-column: 1 / -1;
  summary {
    min-height: 44px;
    padding: 10px 4px;
    cursor: pointer;
    font-size: var(--size-15);
    font-weight: 640;
    border-radius: 4px;
  }
  summary span {
    margin-left: 10px;
    font-weight: 400;
    color: var(--quiet);
  }
  summary:focus-visible {
    ${focusRing}
  }
`;

const Group = styled.fieldset`
  ${twelveColumns}
  margin: 0;
  padding: 4px 0 18px;
  border: 0;
  & + & {
    border-top: 1px dashed var(--rule);
    padding-top: 16px;
  }
  legend {
    position: absolute;
    clip-path: inset(50%);
    width: 1px;
    height: 1px;
    overflow: hidden;
  }
`;

const DIRECTION_OPTIONS = [
  { value: 'higher', label: 'Higher is better' },
  { value: 'lower', label: 'Lower is better' },
  { value: 'nearest', label: 'Nearest to a target' },
  { value: 'unranked', label: 'Not ranked' },
] as const;

const notNegative = (value: number) => (value < 0 ? 'An accuracy is 0 or more.' : undefined);

const FORM_OPTIONS = READING_FORMS.map(({ name, label, help }) => ({ value: name, label, help }));

/** Instrument and rule of a measurand, in a few words. */
const detailWords = ({ instrument, rule, expression }: Measurand): string =>
  [...(expression === null ? [instrument.name || 'no instrument named'] : []), ruleWords(rule)].join(', ');

type Save = (changes: Partial<Measurand>) => Promise<Measurand>;

/** Part of the fields of a measurand. */
interface FieldsProps {
  measurand: Measurand;
  save: Save;
}

/** Saves what gives a measurand another meaning: what meant something else is let go of, which is said and can be taken back. */
async function savedMeaning(
  { measurand, save }: FieldsProps,
  changes: Partial<Measurand>,
): Promise<Measurand> {
  const lost = letGo(measurand, changes);
  const now = await save(changes);
  if (lost.length === 0) return now;
  const before = Object.fromEntries(
    Object.keys(changes).map((field) => [field, measurand[field as keyof Measurand]]),
  ) as Partial<Measurand>;
  tellDone(
    `${listed(lost)} of ${measurand.name} meant something else and ${lost.length > 1 ? 'are' : 'is'} open again.`,
    () => patchPart('measurands', now, before),
  );
  return now;
}

async function remove(measurand: Measurand): Promise<void> {
  try {
    await deletePart('measurands', measurand);
    const { studyId, version: _version, createdAt: _created, updatedAt: _updated, ...fields } = measurand;
    tellDone(`${measurand.name} is removed.`, () => createPart(studyId, 'measurands', fields));
  } catch (error) {
    tellFailure(error);
  }
}

/** Which way is better, or which target is aimed at. */
function Direction({ measurand, save, alone }: FieldsProps & { alone: boolean }) {
  const { direction, unit } = measurand;
  return (
    <>
      <Span $columns={measurand.expression !== null ? 6 : 3}>
        <Choice
          label="Which is better"
          value={direction.kind}
          options={DIRECTION_OPTIONS}
          onChange={(kind) => {
            tell(save({ direction: { kind, target: kind === 'nearest' ? (direction.target ?? 0) : null } }));
          }}
        />
        {!alone && (
          <IconButton label={`Remove ${measurand.name}`} onPress={() => void remove(measurand)}>
            <Trash2 size={18} aria-hidden />
          </IconButton>
        )}
      </Span>
      {direction.kind === 'nearest' && (
        <SavedNumber
          columns={3}
          label="Target"
          saved={direction.target}
          unit={unit}
          required
          save={(target) => save({ direction: { kind: 'nearest', target } })}
        />
      )}
    </>
  );
}

/** What is read, how, in which unit, and which way is better. */
function WhatIsRead({
  measurand,
  save,
  document,
  alone,
}: FieldsProps & { document: StudyDocument; alone: boolean }) {
  const { unit } = measurand;
  const derived = measurand.expression !== null;
  const fixedUnit = readingForm(measurand.form)?.valueUnit?.(measurand.settings);
  const saveMeaning = (changes: Partial<Measurand>) => savedMeaning({ measurand, save }, changes);
  return (
    <>
      <SavedText
        columns={4}
        label="Measurand"
        saved={measurand.name}
        required
        save={(name) => save({ name })}
      />
      {!derived && (
        <Span $columns={3}>
          <Choice
            label="How it is read"
            value={measurand.form}
            options={FORM_OPTIONS}
            onChange={(name) => {
              tell(saveMeaning(withForm(measurand, name)));
            }}
          />
        </Span>
      )}
      <SavedText
        columns={2}
        label={fixedUnit === undefined ? 'Unit' : 'Unit of the value'}
        saved={unit}
        placeholder={fixedUnit === undefined ? 'm/s, dB, g…' : 'none'}
        isDisabled={fixedUnit !== undefined}
        save={(text) => saveMeaning(withUnit(measurand, text.trim()))}
      />
      <Direction {...{ measurand, save, alone }} />
      {derived ? (
        <Span $columns={12}>
          <SavedExpression
            document={document}
            measurand={measurand}
            save={(text) => save({ expression: text })}
          />
        </Span>
      ) : (
        <FormSettings
          measurand={measurand}
          save={(settings) => saveMeaning(withSettings(measurand, settings))}
        />
      )}
    </>
  );
}

/** The difference that matters, and what a value can be. */
function MarginAndLimits({ measurand: { margin, limits, unit, direction }, save }: FieldsProps) {
  return (
    <>
      <SavedNumber
        columns={3}
        label="Margin that matters"
        saved={margin.value}
        unit={margin.kind === 'percent' ? '%' : unit}
        required
        check={(value) => (value < 0 ? 'A margin is 0 or more.' : undefined)}
        save={(value) => save({ margin: { ...margin, value: value ?? 0 } })}
      />
      <Span $columns={2}>
        <Choice
          label="Margin in"
          value={margin.kind}
          options={[
            { value: 'absolute', label: unit || 'the unit' },
            { value: 'percent', label: direction.kind === 'nearest' ? '% of target' : '% of best' },
          ]}
          onChange={(kind) => {
            tell(save({ margin: { ...margin, kind } }));
          }}
        />
      </Span>
      <RangeFields
        range={limits}
        labels={['Plausible from', 'to']}
        columns={4}
        unit={unit}
        save={(range) => save({ limits: range })}
      />
    </>
  );
}

/** What it is read with, and how well that reads. */
function InstrumentFields({ measurand, save }: FieldsProps) {
  const { instrument } = measurand;
  return (
    <>
      <SavedText
        columns={3}
        label="Instrument"
        saved={instrument.name}
        placeholder="What it is read with"
        save={(name) => save({ instrument: { ...instrument, name } })}
      />
      <SavedNumber
        columns={2}
        label="Its steps"
        saved={instrument.resolution}
        unit={unitRead(measurand)}
        placeholder="–"
        check={(value) => (value <= 0 ? 'A resolution is more than 0.' : undefined)}
        save={(resolution) => save({ instrument: { ...instrument, resolution } })}
      />
      <SavedNumber
        columns={2}
        label="Accuracy, ± %"
        saved={instrument.accuracyPercent}
        unit="%"
        placeholder="–"
        check={notNegative}
        save={(accuracyPercent) => save({ instrument: { ...instrument, accuracyPercent } })}
      />
      <SavedNumber
        columns={2}
        label="and ± constant"
        saved={instrument.accuracyConstant}
        unit={unitRead(measurand)}
        placeholder="–"
        check={notNegative}
        save={(accuracyConstant) => save({ instrument: { ...instrument, accuracyConstant } })}
      />
      <SavedText
        columns={3}
        label="Calibrated on"
        type="date"
        saved={instrument.calibratedOn ?? ''}
        save={(day) => save({ instrument: { ...instrument, calibratedOn: day === '' ? null : day } })}
      />
    </>
  );
}

function RuleField({ measurand, save }: FieldsProps) {
  return (
    <Span $columns={12}>
      <Choice
        label="Rule for bad readings"
        value={measurand.rule.name}
        options={DESCRIBED_RULES.map(({ name, label, does }) => ({ value: name, label, help: does }))}
        onChange={(name) => {
          tell(save({ rule: { ...measurand.rule, name, parameter: null } }));
        }}
      />
    </Span>
  );
}

function MeasurandFields({
  measurand,
  document,
  alone,
}: {
  measurand: Measurand;
  document: StudyDocument;
  /** The only measurand, which stays and is shown in full. */
  alone: boolean;
}) {
  const derived = measurand.expression !== null;
  const save: Save = (changes) => patchPart('measurands', measurand, changes);
  const fields = { measurand, save };
  return (
    <Group>
      <legend>{measurand.name}</legend>
      <WhatIsRead {...fields} document={document} alone={alone} />
      <MarginAndLimits {...fields} />
      {!readingForm(measurand.form)?.ranksOnly && <SpecFields {...fields} />}
      {!derived && (
        <Span $columns={3}>
          <MeasuredOn document={document} measurand={measurand} save={(onItems) => save({ onItems })} />
        </Span>
      )}
      <ControlRanges document={document} measurand={measurand} save={(controls) => save({ controls })} />
      <Details open={alone || undefined}>
        <summary>
          {derived ? 'Rule' : 'Instrument and rule'}
          <span>{detailWords(measurand)}</span>
        </summary>
        <Columns>
          {!derived && <InstrumentFields {...fields} />}
          <RuleField {...fields} />
          <Settled document={document} measurand={measurand} />
        </Columns>
      </Details>
    </Group>
  );
}

/** The measurands, each with unit, direction, margin, plausible limits, instrument and rule. */
export function MeasurandList({ document }: { document: StudyDocument }) {
  const measurands = measurandsInOrder(document);
  const add = () => {
    const name = `Measurand ${String(measurands.length + 1)}`;
    const position = Math.max(0, ...measurands.map((other) => other.position)) + 1;
    tell(createPart(document.study.id, 'measurands', newMeasurand(name, position)));
  };
  return (
    <>
      {measurands.map((measurand) => (
        <MeasurandFields
          key={measurand.id}
          document={document}
          measurand={measurand}
          alone={measurands.length === 1}
        />
      ))}
      <Row>
        <Button onPress={add}>
          <Plus size={18} aria-hidden /> Another measurand
        </Button>
        <NewDerived document={document} />
      </Row>
    </>
  );
}
