import { EMPTY, NEW_STUDY } from '../model/new-study.ts';
import type { Claim, Condition, Factor, Item, Level, Measurand } from '../model/parts.ts';
import type { Study } from '../model/study.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { newCondition, newItem, newMeasurand } from './new-parts.ts';

type Stamps = 'id' | 'studyId' | 'version' | 'createdAt' | 'updatedAt';
type Said<T> = Partial<Omit<T, Stamps | 'position'>>;

/** What is said of a plan; the rest is as in a new study. Data files hold it, so it names parts and has no ids. */
export interface PlanPattern {
  question: string;
  /** The items of an earlier study measured once more: it is asked which. */
  again?: boolean;
  study: Partial<Study> & Pick<Study, 'rounds'>;
  items?: readonly (Said<Item> & Pick<Item, 'name'>)[];
  measurands: readonly (Said<Measurand> & Pick<Measurand, 'name' | 'form'>)[];
  factors?: readonly (Said<Factor> & Pick<Factor, 'name' | 'kind'> & { levels: readonly Said<Level>[] })[];
  conditions?: readonly (Said<Condition> & Pick<Condition, 'quantity' | 'unit'>)[];
  /** Claims name items by code, measurands and factors by name. */
  claims?: readonly {
    measurand: string;
    order?: readonly string[];
    item?: string;
    factor?: string;
    attribute?: string;
    value?: number;
    unit?: string;
    stepSize?: number;
    source: string;
  }[];
}

export interface PatternContext {
  title: string;
  seed: number;
  /** Makes an id; called in the order in which the parts are made. */
  newId: () => string;
  now: string;
}

/** What every part has, with a new id. */
type Stamp = () => { id: string; studyId: string; version: number; createdAt: string; updatedAt: string };

/** The factors of a pattern, and their levels. */
function factorsOf(pattern: PlanPattern, stamp: Stamp): { factors: Factor[]; levels: Level[] } {
  const factors: Factor[] = [];
  const levels: Level[] = [];
  for (const { levels: levelsSaid, ...said } of pattern.factors ?? []) {
    const factor: Factor = {
      unit: '',
      irreversible: false,
      ...stamp(),
      ...said,
      position: factors.length + 1,
    };
    factors.push(factor);
    levelsSaid.forEach((level, i) =>
      levels.push({
        value: null,
        baseline: false,
        name: '',
        ...stamp(),
        ...level,
        factorId: factor.id,
        position: i + 1,
      }),
    );
  }
  return { factors, levels };
}

/** The id of a part that a claim names. */
function named<T extends { id: string }>(parts: readonly T[], matches: (part: T) => boolean): string {
  const found = parts.find(matches);
  if (!found) throw new Error('a claim names something that is not there');
  return found.id;
}

/** The claims of a pattern. @throws Error where one names what is not there */
function claimsOf(
  pattern: PlanPattern,
  { items, measurands, factors }: Pick<StudyDocument, 'items' | 'measurands' | 'factors'>,
  stamp: Stamp,
): Claim[] {
  const itemOf = (code: string) => named(items, (item) => item.code === code);
  return (pattern.claims ?? []).map((said): Claim => ({
    ...stamp(),
    kind: said.order ? 'order' : said.item === undefined ? 'step' : 'figure',
    measurandId: named(measurands, ({ name }) => name === said.measurand),
    order: (said.order ?? []).map(itemOf),
    itemId: said.item === undefined ? null : itemOf(said.item),
    factorId: said.factor === undefined ? null : named(factors, ({ name }) => name === said.factor),
    attribute: said.attribute ?? '',
    value: said.value ?? null,
    unit: said.unit ?? '',
    stepSize: said.stepSize ?? null,
    source: said.source,
  }));
}

/**
 * A study from a pattern: its plan, no readings.
 * @throws Error where a claim names what is not there
 */
export function studyFromPattern(
  pattern: PlanPattern,
  { title, seed, newId, now }: PatternContext,
): StudyDocument {
  const studyId = newId();
  const stamp = () => ({ id: newId(), studyId, version: 1, createdAt: now, updatedAt: now });
  const items: Item[] = [];
  for (const said of pattern.items ?? []) items.push({ ...newItem(said.name, items), ...stamp(), ...said });
  const measurands = pattern.measurands.map((said, i): Measurand => {
    const fresh = newMeasurand(said.name, i + 1, said.form);
    return { ...fresh, ...stamp(), ...said, settings: { ...fresh.settings, ...said.settings } };
  });
  const { factors, levels } = factorsOf(pattern, stamp);
  const conditions = (pattern.conditions ?? []).map((said, i): Condition => ({
    ...newCondition(said.quantity, said.unit, i + 1),
    required: false,
    ...stamp(),
    ...said,
    position: i + 1,
  }));
  const claims = claimsOf(pattern, { items, measurands, factors }, stamp);
  return {
    ...structuredClone(EMPTY),
    study: {
      id: studyId,
      version: 1,
      createdAt: now,
      updatedAt: now,
      title,
      question: pattern.question,
      ...structuredClone(NEW_STUDY),
      seed,
      ...pattern.study,
    },
    items,
    measurands,
    factors,
    levels,
    conditions,
    claims,
  };
}
