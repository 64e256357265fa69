import type { FormSetting } from '../../../core/forms/form.ts';
import { readingForm } from '../../../core/forms/index.ts';
import type { FormSettings as Settings, Measurand } from '../../../core/model/parts.ts';
import { SavedNumber, SavedText } from '../../app/draft-field.tsx';
import { Choice } from '../../ui/choice.tsx';
import { Span } from '../../ui/span.tsx';
import { tell } from '../../app/tell.ts';

const YES_NO = [
  { value: 'yes', label: 'Yes' },
  { value: 'no', label: 'No' },
] as const;

interface SettingProps {
  own: FormSetting;
  settings: Settings;
  said: Settings[string] | undefined;
  save: (value: Settings[string]) => Promise<unknown>;
}

function SettingField({ own, settings, said, save }: SettingProps) {
  const value = said ?? own.fallback;
  const help = own.help === undefined ? {} : { help: own.help };
  switch (own.kind) {
    case 'whole':
      return (
        <SavedNumber
          label={own.label}
          {...help}
          saved={value as number}
          required
          check={(next) =>
            Number.isInteger(next) && next >= own.low && next <= own.high
              ? undefined
              : `A whole number from ${String(own.low)} to ${String(own.high)}.`
          }
          save={(next) => save(next ?? own.fallback)}
        />
      );
    case 'number':
      return (
        <SavedNumber
          label={own.label}
          {...help}
          saved={value as number}
          unit={own.unit(settings)}
          required
          save={(next) => save(next ?? own.fallback)}
        />
      );
    case 'choice':
      return (
        <Choice
          label={own.label}
          value={value as string}
          options={own.options}
          onChange={(next) => {
            tell(save(next));
          }}
        />
      );
    case 'yes':
      return (
        <Choice
          label={own.label}
          value={value === true ? 'yes' : 'no'}
          options={YES_NO}
          onChange={(next) => {
            tell(save(next === 'yes'));
          }}
        />
      );
    case 'unit':
      return (
        <SavedText
          label={own.label}
          saved={value as string}
          placeholder="g, mL, pieces…"
          maxLength={24}
          save={(next) => save(next.trim())}
        />
      );
    default:
      return (
        <SavedText
          label={own.label}
          help="with commas between them"
          saved={(value as readonly string[]).join(', ')}
          save={(next) =>
            save(
              next
                .split(',')
                .map((one) => one.trim())
                .filter(Boolean),
            )
          }
        />
      );
  }
}

/** What the reading form of a measurand can be told: rows and columns, which release counts, the marks. */
export function FormSettings({
  measurand,
  save,
}: {
  measurand: Measurand;
  save: (settings: Settings) => Promise<unknown>;
}) {
  const form = readingForm(measurand.form);
  if (!form) return null;
  const { settings } = measurand;
  // Where the unit of the value is the tester's own, that is what is read in.
  const shown = form.settings.filter(
    ({ kind, when }) =>
      (kind !== 'unit' || form.valueUnit?.(settings) !== undefined) && (when?.(settings) ?? true),
  );
  return shown.map((own) => (
    <Span key={own.name} $columns={own.kind === 'lines' || own.kind === 'yes' ? 6 : 3}>
      <SettingField
        own={own}
        settings={settings}
        said={settings[own.name]}
        save={(value) => save({ ...settings, [own.name]: value })}
      />
    </Span>
  ));
}
