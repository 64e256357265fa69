import { quantitiesOf } from '../conditions/index.ts';
import { measurandsInOrder } from '../model/in-order.ts';
import type { StudyDocument } from '../model/study-document.ts';

/** Functions that an expression may use. */
export const FUNCTIONS = ['abs', 'sqrt', 'min', 'max', 'exp', 'log', 'log10', 'if'] as const;

/** Words that the parser keeps for itself. */
const KEPT = new Set<string>([
  ...FUNCTIONS,
  'to',
  'in',
  'mod',
  'and',
  'or',
  'xor',
  'not',
  'true',
  'false',
  'null',
  'undefined',
  'nan',
  'infinity',
  'end',
]);

/** Something that an expression may name. */
export interface StudyName {
  /** As it is written in an expression: “air_speed”. */
  identifier: string;
  /** As the tester wrote it: “Air speed”. */
  name: string;
  kind: 'measurand' | 'attribute' | 'condition';
  unit: string;
  /** Id of the measurand or condition; the name of an attribute. */
  id: string;
}

/**
 * A name as an expression writes it: small letters, and a low line for whatever is no letter or figure.
 * @returns undefined for a name in a script that the parser does not read
 * @example identifierOf('Air speed, 1 m') // 'air_speed_1_m'
 */
export function identifierOf(name: string): string | undefined {
  const written = name
    .normalize('NFC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '_')
    .replace(/^_|_$/g, '');
  if (written === '' || !/^[a-z0-9_\u00df-\u024f\u0370-\u03ff]+$/.test(written)) return undefined;
  return /^\d/.test(written) ? `n${written}` : written;
}

/** Everything in a study that an expression may name: measurands, attributes and conditions, each once. */
export function studyNames(
  document: Pick<StudyDocument, 'items' | 'measurands' | 'conditions'>,
): StudyName[] {
  const attributes = new Map<string, string>();
  for (const { attributes: ofItem } of document.items) {
    for (const { name, unit } of ofItem) if (!attributes.has(name)) attributes.set(name, unit);
  }
  const found: Omit<StudyName, 'identifier'>[] = [
    ...measurandsInOrder(document).map(({ id, name, unit }) => ({
      id,
      name,
      unit,
      kind: 'measurand' as const,
    })),
    ...[...attributes].map(([name, unit]) => ({ id: name, name, unit, kind: 'attribute' as const })),
    ...quantitiesOf(document.conditions).map(({ id, quantity, unit }) => ({
      id,
      name: quantity,
      unit,
      kind: 'condition' as const,
    })),
  ];
  const taken = new Set(KEPT);
  return found.map((named, i) => {
    const stem = identifierOf(named.name) ?? `${named.kind}${String(i + 1)}`;
    let identifier = stem;
    for (let n = 2; taken.has(identifier); n += 1) identifier = `${stem}_${String(n)}`;
    taken.add(identifier);
    return { ...named, identifier };
  });
}
