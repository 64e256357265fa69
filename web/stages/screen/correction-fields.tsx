import { Plus, Trash2 } from 'lucide-react';
import styled from 'styled-components';
import { correctionsOf } from '../../../core/forms/index.ts';
import { conditionsInOrder } from '../../../core/bench/session.ts';
import { quantitiesOf } from '../../../core/conditions/index.ts';
import type { Corrections, Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { notedValues, sessionsWithout } from '../../../core/observations/correct.ts';
import { moments } from '../../../core/summary/moments.ts';
import { patchInTurn } from '../../app/api/studies.ts';
import { SavedNumber, SavedText } from '../../app/draft-field.tsx';
import { tell } from '../../app/tell.ts';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/choice.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { Columns, Span } from '../../ui/span.tsx';
import { dayAndTime } from '../../ui/when.ts';

type Calibration = Corrections['calibrations'][number];
type Ambient = NonNullable<Corrections['ambient']>;
type Estimate = Ambient['estimates'][number];
/** Changes the corrections as they are by then. */
type Save = (change: (now: Corrections) => Partial<Corrections>) => Promise<unknown>;

const Group = styled.fieldset`
  margin: 0 0 20px;
  padding: 0;
  border: 0;
  min-width: 0;
  legend {
    padding: 0;
    margin-bottom: 4px;
    font-weight: 640;
  }
  > p {
    margin-bottom: 10px;
    max-width: 72ch;
    color: var(--quiet);
    font-size: var(--size-15);
  }
  > div + div {
    margin-top: 12px;
  }
`;

const notNegative = (value: number) => (value < 0 ? 'This is 0 or more.' : undefined);

interface CalibrationProps {
  calibration: Calibration;
  unit: string;
  save: (change: (now: Calibration) => Partial<Calibration>) => Promise<unknown>;
}

type CalibrationPoint = Calibration['points'][number];

/** A second point, which makes a line of the calibration. */
function SecondPoint({
  first,
  second,
  unit,
  save,
}: Pick<CalibrationProps, 'unit' | 'save'> & {
  first: CalibrationPoint;
  second: CalibrationPoint | undefined;
}) {
  return (
    <>
      <SavedNumber
        columns={3}
        label="and it read"
        saved={second?.indicated ?? null}
        unit={unit}
        placeholder="–"
        check={(value) =>
          value === first.indicated ? 'The second point differs from the first.' : undefined
        }
        save={(indicated) =>
          save(({ points: [now = first, other] }) => ({
            points: indicated === null ? [now] : [now, { indicated, is: other?.is ?? indicated }],
          }))
        }
      />
      <SavedNumber
        columns={3}
        label="where true was"
        saved={second?.is ?? null}
        unit={unit}
        placeholder="–"
        isDisabled={!second}
        save={(is) =>
          save(({ points: [now = first, other] }) => ({
            points: other && is !== null ? [now, { ...other, is }] : [now],
          }))
        }
      />
    </>
  );
}

/** What an instrument reads where the true value is known: a first point, and a second where it is a line. */
function CalibrationPoints({ calibration: { points }, unit, save }: CalibrationProps) {
  const [first, second] = points;
  if (!first) return null;
  return (
    <>
      <SavedNumber
        columns={3}
        label="It read"
        saved={first.indicated}
        unit={unit}
        required
        save={(indicated) =>
          save(({ points: [now, ...rest] }) => ({
            points: [{ ...(now ?? first), indicated: indicated ?? 0 }, ...rest],
          }))
        }
      />
      <SavedNumber
        columns={3}
        label="where true was"
        saved={first.is}
        unit={unit}
        required
        save={(is) =>
          save(({ points: [now, ...rest] }) => ({ points: [{ ...(now ?? first), is: is ?? 0 }, ...rest] }))
        }
      />
      <SecondPoint first={first} second={second} unit={unit} save={save} />
    </>
  );
}

/** One calibration: what the instrument reads at one known value, or at two. */
function CalibrationFields({
  instruments,
  remove,
  ...of
}: CalibrationProps & { instruments: readonly string[]; remove: () => void }) {
  const { calibration, unit, save } = of;
  const { instrument, points, mayBeOff } = calibration;
  if (points.length === 0) return null;
  const about = instrument ? ` of ${instrument}` : '';
  const named = [...new Set([...instruments, instrument])].filter(Boolean);
  return (
    <Columns role="group" aria-label={`Calibration${about}`}>
      {named.length > 0 && (
        <Span $columns={12}>
          <Choice
            label="Holds for"
            value={instrument}
            options={[
              { value: '', label: 'All readings' },
              ...named.map((name) => ({ value: name, label: `Sessions with ${name}` })),
            ]}
            onChange={(chosen) => {
              tell(save(() => ({ instrument: chosen })));
            }}
          />
        </Span>
      )}
      <CalibrationPoints {...of} />
      <Span $columns={4}>
        <SavedNumber
          label="Known to within ±"
          saved={mayBeOff}
          unit={unit}
          placeholder="–"
          check={notNegative}
          save={(value) => save(() => ({ mayBeOff: value }))}
        />
        <IconButton label={`Remove the calibration${about}`} onPress={remove}>
          <Trash2 size={18} aria-hidden />
        </IconButton>
      </Span>
    </Columns>
  );
}

function Calibrations({
  document,
  measurand: { corrections, unit },
  save,
}: {
  document: StudyDocument;
  measurand: Measurand;
  save: Save;
}) {
  const { calibrations } = corrections;
  const instruments = [...new Set(document.sessions.map(({ instrument }) => instrument.trim()))].filter(
    Boolean,
  );
  const free = ['', ...instruments].find(
    (name) => !calibrations.some(({ instrument }) => instrument === name),
  );
  return (
    <Group>
      <legend>Calibration</legend>
      <p>What the instrument read at a known value; a second one gives a line.</p>
      {calibrations.map((calibration) => (
        <CalibrationFields
          key={calibration.instrument}
          calibration={calibration}
          unit={unit}
          instruments={instruments}
          save={(change) =>
            save((now) => ({
              calibrations: now.calibrations.map((other) =>
                other.instrument === calibration.instrument ? { ...other, ...change(other) } : other,
              ),
            }))
          }
          remove={() => {
            tell(
              save((now) => ({
                calibrations: now.calibrations.filter(
                  ({ instrument }) => instrument !== calibration.instrument,
                ),
              })),
            );
          }}
        />
      ))}
      {free !== undefined && (
        <div>
          <Button
            size="small"
            onPress={() => {
              const added = { on: true, instrument: free, points: [{ indicated: 0, is: 0 }], mayBeOff: null };
              tell(save((now) => ({ calibrations: [...now.calibrations, added] })));
            }}
          >
            <Plus size={16} aria-hidden /> Add a calibration
          </Button>
        </div>
      )}
    </Group>
  );
}

const NOTHING = 'nothing';

/** What a condition was in the sessions that did not note it, as the tester thinks. */
function Estimates({
  document,
  measurand,
  ambient,
  save,
}: {
  document: StudyDocument;
  measurand: Measurand;
  ambient: Ambient;
  save: Save;
}) {
  const condition = document.conditions.find(({ id }) => id === ambient.conditionId);
  const missing = sessionsWithout(document, measurand.id, ambient.conditionId);
  if (!condition || missing.length === 0) return null;
  const noted = notedValues(document, condition.id);
  const usual =
    condition.tolerableDrift ?? (noted.length > 1 ? (Math.max(...noted) - Math.min(...noted)) / 2 || 1 : 1);
  const started = new Map(document.sessions.map(({ id, startedAt }) => [id, startedAt]));
  return missing.map((sessionId) => {
    const estimate = ambient.estimates.find((known) => known.sessionId === sessionId);
    const where = sessionId === null ? 'Outside sessions' : dayAndTime(started.get(sessionId) ?? 0);
    const change = (made: (known: Estimate | undefined) => Omit<Estimate, 'sessionId'> | undefined) =>
      save(({ ambient: now }) => {
        const held = now ?? ambient;
        const others = held.estimates.filter((known) => known.sessionId !== sessionId);
        const changed = made(held.estimates.find((known) => known.sessionId === sessionId));
        const estimates = changed ? [...others, { ...changed, sessionId }] : others;
        return { ambient: { ...held, estimates } };
      });
    return (
      <Columns key={sessionId ?? 'none'} role="group" aria-label={`${condition.quantity}, ${where}`}>
        <SavedNumber
          columns={5}
          label={`${where}: not noted. About`}
          saved={estimate?.value ?? null}
          unit={condition.unit}
          placeholder="What it is likely to have been"
          save={(value) =>
            change((known) => (value === null ? undefined : { value, mayBeOff: known?.mayBeOff ?? usual }))
          }
        />
        <SavedNumber
          columns={3}
          label="give or take"
          saved={estimate?.mayBeOff ?? null}
          placeholder="–"
          isDisabled={!estimate}
          required
          check={notNegative}
          save={(mayBeOff) => change((known) => known && { ...known, mayBeOff: mayBeOff ?? usual })}
        />
      </Columns>
    );
  });
}

/** What readings are referred to, and by how much each unit moves them. */
function ReferenceFields({
  ambient,
  unit,
  save,
}: {
  ambient: NonNullable<Measurand['corrections']['ambient']>;
  unit: string;
  save: Save;
}) {
  return (
    <>
      <SavedNumber
        columns={3}
        label="of"
        saved={ambient.reference}
        unit={unit}
        required
        save={(reference) =>
          save(({ ambient: now }) => ({
            ambient: { ...(now ?? ambient), reference: reference ?? 0 },
          }))
        }
      />
      <SavedNumber
        columns={5}
        label={`For each ${unit || 'unit'} a reading moves by`}
        saved={ambient.perUnit}
        required
        save={(perUnit) =>
          save(({ ambient: now }) => ({ ambient: { ...(now ?? ambient), perUnit: perUnit ?? 0 } }))
        }
      />
    </>
  );
}

function CommonAmbient({
  document,
  measurand,
  save,
}: {
  document: StudyDocument;
  measurand: Measurand;
  save: Save;
}) {
  const { ambient } = measurand.corrections;
  const conditions = quantitiesOf(conditionsInOrder(document));
  const condition = conditions.find(({ id }) => id === ambient?.conditionId);
  const choose = (conditionId: string) => {
    if (conditionId === NOTHING) return save(() => ({ ambient: null }));
    const noted = notedValues(document, conditionId);
    const reference = noted.length > 0 ? Number(moments(noted).mean.toPrecision(2)) : 0;
    return save(() => ({ ambient: { on: true, conditionId, reference, perUnit: 1, estimates: [] } }));
  };
  return (
    <Group>
      <legend>Common ambient</legend>
      <p>
        {conditions.length === 0
          ? 'The plan records no condition that readings could be referred to.'
          : 'Readings are what they would have been with the condition the same in every session. Against 0 they are what lies above the ambient.'}
      </p>
      {conditions.length > 0 && (
        <Columns>
          <Span $columns={4}>
            <Choice
              label="Refer readings to"
              value={condition?.id ?? NOTHING}
              options={[
                { value: NOTHING, label: 'nothing' },
                ...conditions.map(({ id, quantity }) => ({ value: id, label: quantity })),
              ]}
              onChange={(id) => {
                tell(choose(id));
              }}
            />
          </Span>
          {ambient && condition && <ReferenceFields ambient={ambient} unit={condition.unit} save={save} />}
        </Columns>
      )}
      {ambient && <Estimates document={document} measurand={measurand} ambient={ambient} save={save} />}
    </Group>
  );
}

/** Where corrections are said: unit, calibration, tare, and what readings are referred to. */
export function CorrectionFields({ document, measurand }: { document: StudyDocument; measurand: Measurand }) {
  const { corrections, unit } = measurand;
  const allowed = correctionsOf(measurand);
  const save: Save = (change) =>
    patchInTurn('measurands', measurand, ({ corrections: now }) => ({
      corrections: { ...now, ...change(now) },
    }));
  const simple = allowed.includes('unit') || allowed.includes('tare');
  return (
    <>
      {simple && (
        <Group>
          <legend>Unit and tare</legend>
          <Columns>
            {allowed.includes('unit') && (
              <SavedText
                columns={4}
                label="All numbers were read in"
                saved={corrections.unit?.from ?? ''}
                placeholder={unit || 'the unit of the plan'}
                save={(text) =>
                  save((now) => ({
                    unit: text.trim() === '' ? null : { on: now.unit?.on ?? true, from: text.trim() },
                  }))
                }
              />
            )}
            {allowed.includes('tare') && (
              <SavedNumber
                columns={4}
                label="Tare, taken off each"
                saved={corrections.tare?.value ?? null}
                unit={unit}
                placeholder="none"
                save={(value) =>
                  save(({ tare }) => ({ tare: value === null ? null : { on: tare?.on ?? true, value } }))
                }
              />
            )}
          </Columns>
        </Group>
      )}
      {allowed.includes('calibrations') && (
        <Calibrations document={document} measurand={measurand} save={save} />
      )}
      {allowed.includes('ambient') && <CommonAmbient document={document} measurand={measurand} save={save} />}
    </>
  );
}
