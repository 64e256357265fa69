import type { FormSettings, ReadingPart } from '../model/parts.ts';
import { parseQuantity } from '../quantity/parse.ts';
import type { AskedPart, FormContext, FormSetting, PartTexts, ReadParts, ReadingForm } from './form.ts';

/** The number of a part; null where it is missing. */
export const partNumber = (parts: readonly ReadingPart[], name: string): number | null =>
  parts.find((part) => part.name === name)?.number ?? null;

/** What a setting of a kind can be set to. */
type Said<T extends FormSetting> = T extends { kind: 'whole' | 'number' }
  ? number
  : T extends { kind: 'yes' }
    ? boolean
    : T extends { kind: 'choice'; options: readonly { value: infer V }[] }
      ? V
      : T extends { kind: 'unit' }
        ? string
        : readonly string[];

/** A setting as it is set, or as it is when nobody has said anything. */
export const setting = <const T extends FormSetting>(asked: T, settings: FormSettings): Said<T> =>
  (settings[asked.name] ?? asked.fallback) as Said<T>;

/** All settings of a form with what holds where nothing was said. */
export const allSettings = ({ settings }: Pick<ReadingForm, 'settings'>): FormSettings =>
  Object.fromEntries(
    settings.map(({ name, fallback }) => [name, typeof fallback === 'object' ? [...fallback] : fallback]),
  );

/** The unit that is read where the value's own is fixed by the form. */
export const READ_UNIT = {
  kind: 'unit',
  name: 'readUnit',
  label: 'Read in',
  fallback: '',
  help: 'the unit of what is read; the value follows from it',
} as const;

export const readUnit = ({ settings }: Pick<FormContext, 'settings'>): string => setting(READ_UNIT, settings);

/**
 * Understands each part in its unit. A part that may be left empty and is left so is not in the result.
 * @param check says what is wrong with a number that was understood
 */
export function readParts(
  asked: readonly AskedPart[],
  texts: PartTexts,
  check?: (name: string, number: number) => string | undefined,
): ReadParts {
  const parts: ReadingPart[] = [];
  for (const { name, unit, optional, label } of asked) {
    const text = texts[name] ?? '';
    if (text.trim() === '') {
      if (optional) continue;
      return { problem: asked.length === 1 ? 'Type a number.' : `${label}: type a number.`, part: name };
    }
    const understood = parseQuantity(text, unit);
    const problem = 'problem' in understood ? understood.problem : check?.(name, understood.number);
    if ('problem' in understood || problem !== undefined) {
      return {
        problem: asked.length === 1 ? (problem as string) : `${label}: ${problem as string}`,
        part: name,
      };
    }
    parts.push({ name, text, number: understood.number });
  }
  return { parts };
}
