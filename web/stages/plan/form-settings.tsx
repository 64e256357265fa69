import type { FormSetting } from '../../../core/forms/form.ts';
import { readingForm } from '../../../core/forms/index.ts';
import type { FormSettings as Settings, Measurand } from '../../../core/model/parts.ts';
import { SavedNumber, SavedText } from '../../app/draft-field.tsx';
import { Choice, type ChoiceProps } from '../../ui/choice.tsx';
import { Span } from '../../ui/span.tsx';
import { tell } from '../../app/tell.ts';

const YES_NO = [
  { value: 'yes', label: 'Yes' },
  { value: 'no', label: 'No' },
] as const;

interface SettingProps {
  setting: FormSetting;
  settings: Settings;
  said: Settings[string] | undefined;
  save: (value: Settings[string]) => Promise<unknown>;
}

/** Words with commas between them. */
const wordsIn = (text: string): string[] =>
  text
    .split(',')
    .map((word) => word.trim())
    .filter(Boolean);

/** What is wrong with a number that must be a whole one. */
const wholeIn = ({ low, high }: { low: number; high: number }, number: number): string | undefined =>
  Number.isInteger(number) && number >= low && number <= high
    ? undefined
    : `A whole number from ${String(low)} to ${String(high)}.`;

function SettingChoice<Value extends string>({
  save,
  ...choice
}: Pick<ChoiceProps<Value>, 'label' | 'value' | 'options'> & { save: (value: Value) => Promise<unknown> }) {
  return (
    <Choice
      {...choice}
      onChange={(next) => {
        tell(save(next));
      }}
    />
  );
}

function SettingField({ setting, settings, said, save }: SettingProps) {
  const value = said ?? setting.fallback;
  const help = setting.help === undefined ? {} : { help: setting.help };
  switch (setting.kind) {
    case 'whole':
      return (
        <SavedNumber
          label={setting.label}
          {...help}
          saved={value as number}
          required
          check={(next) => wholeIn(setting, next)}
          save={(next) => save(next ?? setting.fallback)}
        />
      );
    case 'number':
      return (
        <SavedNumber
          label={setting.label}
          {...help}
          saved={value as number}
          unit={setting.unit(settings)}
          required
          save={(next) => save(next ?? setting.fallback)}
        />
      );
    case 'choice':
      return (
        <SettingChoice label={setting.label} value={value as string} options={setting.options} save={save} />
      );
    case 'yes':
      return (
        <SettingChoice
          label={setting.label}
          value={value === true ? 'yes' : 'no'}
          options={YES_NO}
          save={(next) => save(next === 'yes')}
        />
      );
    case 'unit':
      return (
        <SavedText
          label={setting.label}
          saved={value as string}
          placeholder="g, mL, pieces…"
          maxLength={24}
          save={(next) => save(next.trim())}
        />
      );
    default:
      return (
        <SavedText
          label={setting.label}
          help="with commas between them"
          saved={(value as readonly string[]).join(', ')}
          save={(next) => save(wordsIn(next))}
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
  return shown.map((setting) => (
    <Span key={setting.name} $columns={setting.kind === 'lines' || setting.kind === 'yes' ? 6 : 3}>
      <SettingField
        setting={setting}
        settings={settings}
        said={settings[setting.name]}
        save={(value) => save({ ...settings, [setting.name]: value })}
      />
    </Span>
  ));
}
