import { hasReference } from '../../../core/forms/index.ts';
import type { Measurand, Spec } from '../../../core/model/parts.ts';
import { SavedNumber } from '../../app/draft-field.tsx';
import { RangeFields } from '../../app/range-fields.tsx';
import { tell } from '../../app/tell.ts';
import { Choice } from '../../ui/choice.tsx';
import { Span } from '../../ui/span.tsx';

const NEW_SPEC: Spec = { kind: 'absolute', low: null, high: null, below: null, share: 95 };

/** What a per cent of a spec is of; undefined where there is nothing that it could be of. */
function percentOf(measurand: Measurand): string | undefined {
  if (hasReference(measurand)) return 'reference';
  const { kind, target } = measurand.direction;
  return kind === 'nearest' && target !== 0 ? 'target' : undefined;
}

interface SpecPartProps {
  spec: Spec;
  unit: string;
  change: (changes: Partial<Spec>) => Promise<unknown>;
}

/** In what its limits are, and how many readings must keep to them. */
function KeptFields({
  spec: { kind, share },
  unit,
  of,
  change,
}: SpecPartProps & {
  /** What a per cent is of; undefined where there is nothing that it could be of. */
  of: string | undefined;
}) {
  return (
    <>
      {of !== undefined && (
        <Span $columns={2}>
          <Choice
            label="Spec in"
            value={kind}
            options={[
              { value: 'absolute', label: unit || 'the unit' },
              { value: 'percent', label: `% of ${of}` },
            ]}
            onChange={(next) => {
              tell(change({ kind: next }));
            }}
          />
        </Span>
      )}
      <SavedNumber
        columns={2}
        label="kept by at least"
        saved={share}
        unit="%"
        required
        check={(value) => (value > 0 && value <= 100 ? undefined : 'More than 0 and at most 100 %.')}
        save={(value) => change({ share: value ?? 95 })}
      />
    </>
  );
}

/** What holds instead below a reference: an error of so much. */
function BelowFields({ spec: { below }, unit, change }: SpecPartProps) {
  return (
    <>
      <SavedNumber
        columns={2}
        label="Reference below"
        saved={below?.split ?? null}
        unit={unit}
        placeholder="–"
        check={(value) => (value > 0 ? undefined : 'More than 0.')}
        save={(value) =>
          change({ below: value === null ? null : { split: value, within: below?.within ?? 1 } })
        }
      />
      {below && (
        <SavedNumber
          columns={2}
          label="instead within ±"
          saved={below.within}
          unit={unit}
          required
          check={(value) => (value > 0 ? undefined : 'More than 0.')}
          save={(value) => change({ below: { ...below, within: value ?? below.within } })}
        />
      )}
    </>
  );
}

/** The limits that a reading must keep to: one- or two-sided, absolute or in per cent; and how many must. */
export function SpecFields({
  measurand,
  save,
}: {
  measurand: Measurand;
  save: (changes: Pick<Measurand, 'spec'>) => Promise<unknown>;
}) {
  const { spec, unit } = measurand;
  const { kind, low, high } = spec ?? NEW_SPEC;
  const shown = kind === 'percent' ? '%' : unit;
  const change = (changes: Partial<Spec>) => {
    const changed = { ...(spec ?? NEW_SPEC), ...changes };
    return save({ spec: changed.low === null && changed.high === null ? null : changed });
  };
  return (
    <>
      <RangeFields
        range={{ low, high }}
        labels={[hasReference(measurand) ? 'Spec: error from' : 'Spec from', 'to']}
        columns={4}
        unit={shown}
        save={change}
      />
      {spec && <KeptFields spec={spec} unit={unit} of={percentOf(measurand)} change={change} />}
      {spec && hasReference(measurand) && <BelowFields spec={spec} unit={unit} change={change} />}
    </>
  );
}
