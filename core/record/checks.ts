import { conditionKind, isSameWord } from '../conditions/index.ts';
import { derivedExpression } from '../expression/derived.ts';
import { DERIVED_FORM, hasReference, readingForm, settingProblems, takesFigures } from '../forms/index.ts';
import { MOST_FILE_BYTES } from '../model/limits.ts';
import { factorLevels, planSize } from '../plan/grid.ts';
import { formatNumber } from '../quantity/format.ts';
import { convert } from '../quantity/units.ts';
import type {
  Calibration,
  FilePart,
  Claim,
  Condition,
  Decision,
  Factor,
  Figure,
  Item,
  Level,
  Measurand,
  Reading,
  Session,
} from '../model/parts.ts';
import type { PartKind } from '../model/part-kinds.ts';
import type { Study } from '../model/study.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { checkCorrections } from './check-corrections.ts';
import {
  type FieldProblem,
  type PlanContext,
  asCompared,
  byCode,
  byFactor,
  byId,
  byName,
} from './plan-context.ts';

/** Another part of the same name, if there is one. */
const namesake = <T extends { id: string; name: string }>(parts: readonly T[], { id, name }: T) =>
  byName(parts)
    .get(asCompared(name))
    ?.find((other) => other.id !== id);

function checkItem(item: Item, { items }: PlanContext): FieldProblem[] {
  const problems: FieldProblem[] = [];
  const taken = byCode(items)
    .get(asCompared(item.code))
    ?.find((other) => other.id !== item.id);
  if (taken) problems.push({ path: '/code', message: `The code “${item.code}” is taken by ${taken.name}.` });
  if (namesake(items, item)) {
    problems.push({ path: '/name', message: `Another item is called “${item.name}” already.` });
  }
  return problems;
}

function checkForm({ form: formName, settings, unit }: Measurand): FieldProblem[] {
  const form = readingForm(formName);
  if (!form) return [{ path: '/form', message: `There is no reading form “${formName}”.` }];
  const problems = settingProblems(form, settings).map(({ name, message }) => ({
    path: `/settings/${name}`,
    message,
  }));
  if (problems.length > 0) return problems;
  const fixed = form.valueUnit?.(settings);
  return fixed === undefined || unit === fixed
    ? []
    : [
        {
          path: '/unit',
          message: `The value of “${form.label}” set so has ${fixed === '' ? 'no unit' : `the unit ${fixed}`}, not “${unit}”.`,
        },
      ];
}

function checkSpec(measurand: Measurand): FieldProblem[] {
  const { spec, direction } = measurand;
  if (spec === null) return [];
  const { kind, low, high, below } = spec;
  const ofReference = hasReference(measurand);
  if (low === null && high === null) {
    return [{ path: '/spec', message: 'A spec has a lower limit, an upper one, or both.' }];
  }
  if (low !== null && high !== null && low >= high) {
    return [
      {
        path: '/spec/low',
        message: `The lower limit ${String(low)} of the spec must be below the upper one, ${String(high)}.`,
      },
    ];
  }
  if (kind === 'percent' && !ofReference && (direction.kind !== 'nearest' || direction.target === 0)) {
    return [
      { path: '/spec/kind', message: 'Per cent is of the target or of the reference, and there is neither.' },
    ];
  }
  return below !== null && !ofReference
    ? [{ path: '/spec/below', message: 'A band below a split is for errors against a reference.' }]
    : [];
}

function checkControls({ controls }: Measurand, { items }: PlanContext): FieldProblem[] {
  const seen = new Set<string>();
  return controls.flatMap(({ itemId, low, high }, i) => {
    const path = `/controls/${String(i)}`;
    if (!byId(items).has(itemId)) {
      return [{ path: `${path}/itemId`, message: 'The study has no item with this id.' }];
    }
    if (seen.has(itemId)) return [{ path: `${path}/itemId`, message: 'This item is there twice.' }];
    seen.add(itemId);
    return low !== null && high !== null && low >= high
      ? [
          {
            path: `${path}/low`,
            message: `The lower end ${String(low)} of what is expected must be below the upper one, ${String(high)}.`,
          },
        ]
      : [];
  });
}

function checkMeasurand(measurand: Measurand, context: PlanContext): FieldProblem[] {
  const { limits, direction, name, expression, onItems } = measurand;
  const problems = checkForm(measurand);
  if (limits.low !== null && limits.high !== null && limits.low >= limits.high) {
    problems.push({
      path: '/limits/low',
      message: `The lower limit ${String(limits.low)} must be below the upper limit ${String(limits.high)}.`,
    });
  }
  problems.push(
    ...checkSpec(measurand),
    ...checkControls(measurand, context),
    ...checkCorrections(measurand, context),
  );
  if (direction.kind === 'nearest' && direction.target === null) {
    problems.push({ path: '/direction/target', message: '“Nearest to a target” needs the target.' });
  }
  if (
    measurand.margin.kind === 'percent' &&
    measurand.margin.value > 0 &&
    direction.kind === 'nearest' &&
    direction.target === 0 &&
    !(readingForm(measurand.form)?.rankedBySize && expression === null)
  ) {
    problems.push({
      path: '/margin',
      message: `Per cent of a target of 0 is nothing: give the margin in ${measurand.unit || 'the unit of the value'}.`,
    });
  }
  if (namesake(context.measurands, measurand)) {
    problems.push({ path: '/name', message: `Another measurand is called “${name}” already.` });
  }
  if (expression !== null) {
    const others = context.measurands.filter(({ id }) => id !== measurand.id);
    const read = derivedExpression({ ...context, measurands: [...others, measurand] }, measurand);
    if ('problem' in read) problems.push({ path: '/expression', message: read.problem });
    if (measurand.form !== DERIVED_FORM) {
      problems.push({
        path: '/form',
        message: `A derived measurand is worked out, so its form is “${DERIVED_FORM}”.`,
      });
    }
  }
  const strange = onItems?.find((id) => !byId(context.items).has(id));
  if (strange !== undefined) {
    problems.push({ path: '/onItems', message: 'The study has no item with one of these ids.' });
  }
  return problems;
}

function checkFactor(factor: Factor, { factors }: PlanContext): FieldProblem[] {
  const problems: FieldProblem[] = [];
  if (namesake(factors, factor)) {
    problems.push({ path: '/name', message: `Another factor is called “${factor.name}” already.` });
  }
  const other = factors.find(({ id, irreversible }) => id !== factor.id && irreversible);
  if (factor.irreversible && other) {
    problems.push({
      path: '/irreversible',
      message: `${other.name} cannot be undone either; only one factor of a study can be so.`,
    });
  }
  return problems;
}

function checkLevel(level: Level, { factors, levels }: PlanContext): FieldProblem[] {
  const siblings = byFactor(levels).get(level.factorId) ?? [];
  const problems: FieldProblem[] = [];
  if (namesake(siblings, level)) {
    problems.push({ path: '/name', message: `Another level is called “${level.name}” already.` });
  }
  const numeric = factors.find(({ id }) => id === level.factorId)?.kind === 'numeric';
  if (numeric && level.value === null) {
    problems.push({ path: '/value', message: 'A level of a numeric factor needs its number.' });
  }
  return problems;
}

function checkClaim(claim: Claim, { items, measurands, factors, levels }: PlanContext): FieldProblem[] {
  const { kind, order, itemId, value, unit, factorId, attribute, stepSize, measurandId } = claim;
  const problems: FieldProblem[] = [];
  const measurand = measurands.find(({ id }) => id === measurandId);
  if (kind === 'order') {
    if (order.length < 2) problems.push({ path: '/order', message: 'An order needs at least two items.' });
    else if (order.some((id) => !byId(items).has(id))) {
      problems.push({ path: '/order', message: 'The study has no item with one of these ids.' });
    }
    return problems;
  }
  if (value === null) problems.push({ path: '/value', message: 'The claim needs its figure.' });
  if (
    measurand &&
    value !== null &&
    unit.trim() !== '' &&
    convert(value, unit, measurand.unit) === undefined
  ) {
    problems.push({
      path: '/unit',
      message: `“${unit}” cannot be turned into ${measurand.unit || 'no unit'}.`,
    });
  }
  if (kind === 'figure') {
    if (itemId === null) problems.push({ path: '/itemId', message: 'Which item is the figure of?' });
    return problems;
  }
  if ((factorId === null) === (attribute.trim() === '')) {
    problems.push({ path: '/attribute', message: 'The steps go along one factor, or along one attribute.' });
  } else if (factorId === null && stepSize === null) {
    problems.push({ path: '/stepSize', message: 'How much of the attribute is one step?' });
  } else if (
    factorId !== null &&
    !factorLevels({ factors, levels }).some(({ factor }) => factor.id === factorId)
  ) {
    problems.push({ path: '/factorId', message: 'The factor has no levels.' });
  }
  return problems;
}

/** What is wrong with what was typed in of an item from elsewhere. */
function checkFigure(figure: Figure, { measurands, levels }: PlanContext): FieldProblem[] {
  const { kind, n, mean, sd, low, high } = figure;
  const problems = checkLevelsOf(figure, levels);
  const measurand = measurands.find(({ id }) => id === figure.measurandId);
  if (measurand && !takesFigures(measurand)) {
    problems.push({
      path: '/measurandId',
      message: readingForm(measurand.form)?.ranksOnly
        ? `${measurand.name} is in marks, which are compared by rank: a mean of them says nothing.`
        : `${measurand.name} is ranked by the size of each error, which a mean does not say.`,
    });
  }
  if (low !== null && high !== null && low > high)
    problems.push({ path: '/high', message: 'The upper end lies below the lower one.' });
  if (kind === 'range') {
    if (low === null && high === null)
      problems.push({ path: '/low', message: 'A range needs one end at least.' });
    if (n !== null || mean !== null || sd !== null)
      problems.push({ path: '/mean', message: 'A range has its ends only; a mean makes it a summary.' });
    return problems;
  }
  if (n === null) problems.push({ path: '/n', message: 'How many readings were summarized?' });
  if (mean === null) problems.push({ path: '/mean', message: 'What was their mean?' });
  if (n !== null && n > 1 && sd === null)
    problems.push({ path: '/sd', message: 'What was their standard deviation?' });
  if (n === 1 && sd !== null)
    problems.push({ path: '/sd', message: 'A single reading has no standard deviation.' });
  return problems;
}

/** What is wrong with a reading's parts, when its measurand is as given. */
export function checkReading({ parts, levels }: Reading, measurand: Measurand | undefined): FieldProblem[] {
  const form = measurand && readingForm(measurand.form);
  if (!form) return [];
  if (measurand.expression !== null) {
    return [{ path: '/measurandId', message: `${measurand.name} is worked out and not read.` }];
  }
  const asked = form.parts(measurand);
  // Read once: what each part's text is understood to be together with the others.
  const understood = form.read(Object.fromEntries(parts.map(({ name, text }) => [name, text])), measurand);
  const seen = new Set<string>();
  const problems = parts.flatMap((part, i) => {
    const path = `/parts/${String(i)}`;
    if (!asked.some(({ name }) => name === part.name)) {
      return [{ path: `${path}/name`, message: `The form “${form.name}” has no part “${part.name}”.` }];
    }
    if (seen.has(part.name)) {
      return [{ path: `${path}/name`, message: `The part “${part.name}” is there twice.` }];
    }
    seen.add(part.name);
    if (part.number === null) return [];
    if ('problem' in understood) return [{ path: `${path}/text`, message: understood.problem }];
    const number = understood.parts.find(({ name }) => name === part.name)?.number;
    return number === part.number
      ? []
      : [
          {
            path: `${path}/number`,
            message: `“${part.text}” is understood as ${String(number)}, not as ${String(part.number)}.`,
          },
        ];
  });
  const twice = levels.findIndex(
    ({ factorId }, i) => levels.findIndex((level) => level.factorId === factorId) !== i,
  );
  if (twice !== -1) {
    problems.push({ path: `/levels/${String(twice)}`, message: 'A reading has one level of a factor.' });
  }
  return problems;
}

/** What is wrong with a condition: limits the wrong way round, or what belongs to another kind. */
function checkCondition(condition: Condition): FieldProblem[] {
  const { unit, limits, tolerableDrift, words } = condition;
  const { isQuantity, takesWords } = conditionKind(condition);
  const problems: FieldProblem[] = [];
  if (limits.low !== null && limits.high !== null && limits.low >= limits.high) {
    problems.push({
      path: '/limits/low',
      message: `The lower limit ${String(limits.low)} must be below the upper limit ${String(limits.high)}.`,
    });
  }
  const said: Record<string, boolean> = {
    ...{ unit: unit !== '', tolerableDrift: tolerableDrift !== null },
    limits: limits.low !== null || limits.high !== null,
  };
  for (const [field, isSaid] of Object.entries(said)) {
    if (!isQuantity && isSaid)
      problems.push({
        path: `/${field}`,
        message: 'Only a quantity has a unit, limits and a drift that is tolerable.',
      });
  }
  if (!takesWords && words.length > 0)
    problems.push({ path: '/words', message: 'Only a condition that is a word has words to choose from.' });
  words.forEach((word, i) => {
    if (words.findIndex((other) => isSameWord(other, word)) !== i)
      problems.push({ path: `/words/${String(i)}`, message: `The word “${word}” stands there twice.` });
  });
  return problems;
}

function checkSession({ startedAt, endedAt, pauses }: Session): FieldProblem[] {
  const behind = (from: string, to: string | null) => to === null || Date.parse(to) >= Date.parse(from);
  const problems: FieldProblem[] = [];
  if (!behind(startedAt, endedAt))
    problems.push({ path: '/endedAt', message: 'A session ends behind its start.' });
  pauses.forEach(({ from, to }, i) => {
    if (!behind(from, to))
      problems.push({ path: `/pauses/${String(i)}/to`, message: 'A pause ends behind its start.' });
  });
  return problems;
}

const checkDecision = ({ action, readingId, sessionId, run }: Decision): FieldProblem[] =>
  action !== 'look' && readingId === null && sessionId === null && run === null
    ? [{ path: '/readingId', message: 'A decision is about a reading, a session or a run.' }]
    : [];

/** Levels of a reading that the study does not have. */
export function checkLevelsOf(
  { levels: taken }: Pick<Reading, 'levels'>,
  levels: readonly Level[],
): FieldProblem[] {
  return taken.flatMap(({ factorId, levelId }, i) =>
    (byId(levels).get(levelId) as Level | undefined)?.factorId === factorId
      ? []
      : [{ path: `/levels/${String(i)}`, message: 'The study has no such level of this factor.' }],
  );
}

/**
 * What a schema cannot say: names and codes taken, limits the wrong way round, a number that is not what its text
 * says, an expression that does not come out. The part must have passed its schema.
 */
export function checkPart(kind: PartKind, part: unknown, context: PlanContext): FieldProblem[] {
  switch (kind) {
    case 'items':
      return checkItem(part as Item, context);
    case 'measurands':
      return checkMeasurand(part as Measurand, context);
    case 'factors':
      return checkFactor(part as Factor, context);
    case 'levels':
      return checkLevel(part as Level, context);
    case 'claims':
      return checkClaim(part as Claim, context);
    case 'figures':
      return checkFigure(part as Figure, context);
    case 'readings': {
      const reading = part as Reading;
      const measurand = context.measurands.find(({ id }) => id === reading.measurandId);
      return [...checkReading(reading, measurand), ...checkLevelsOf(reading, context.levels)];
    }
    case 'calibrations':
      return checkCalibration(part as Calibration);
    case 'conditions':
      return checkCondition(part as Condition);
    case 'sessions':
      return checkSession(part as Session);
    case 'decisions':
      return checkDecision(part as Decision);
    default:
      return [];
  }
}

/** What is wrong with all files of a study taken together. */
export function checkFiles(files: readonly Pick<FilePart, 'bytes'>[]): FieldProblem[] {
  const bytes = files.reduce((sum, file) => sum + file.bytes, 0);
  if (bytes <= MOST_FILE_BYTES) return [];
  return [
    {
      path: '/files',
      message: `The files of a study take at most ${formatNumber(MOST_FILE_BYTES / 1e9, 0)} GB together; these take ${formatNumber(bytes / 1e9, 1)} GB.`,
    },
  ];
}

/** What is wrong with a calibration of a recorder. */
function checkCalibration({ fileId, channel, toneFrom, toneTo, toneLevel }: Calibration): FieldProblem[] {
  const tone = { channel, toneFrom, toneTo, toneLevel };
  const problems = Object.entries(tone).flatMap(([name, value]): FieldProblem[] =>
    (value === null) === (fileId === null)
      ? []
      : [
          {
            path: `/${name}`,
            message:
              fileId === null
                ? 'There is no tone without a file.'
                : 'A tone has a channel, its two ends, and a level.',
          },
        ],
  );
  if (toneFrom !== null && toneTo !== null && toneFrom >= toneTo)
    problems.push({ path: '/toneTo', message: 'The tone ends before it begins.' });
  return problems;
}

/** What is wrong with what a study says of itself. */
export function checkStudy({ id, earlier }: Pick<Study, 'id' | 'earlier'>): FieldProblem[] {
  return earlier.flatMap(({ studyId }, i) => {
    const path = `/earlier/${String(i)}/studyId`;
    if (studyId === id) return [{ path, message: 'A study is no earlier test of itself.' }];
    const again = earlier.findIndex((test) => test.studyId === studyId) !== i;
    return again ? [{ path, message: 'This earlier test is named twice.' }] : [];
  });
}

/** A plan that is too large for any bench, named with its count. */
export function checkPlanSize(document: StudyDocument): FieldProblem[] {
  const { refused } = planSize(document);
  return refused === undefined ? [] : [{ path: '', message: refused }];
}
