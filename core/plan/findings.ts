import partition from 'lodash/partition.js';
import { quantitiesOf } from '../conditions/index.ts';
import { readingForm } from '../forms/index.ts';
import { derivedExpression } from '../expression/derived.ts';
import type { Expression } from '../expression/expression.ts';
import { claimWords } from './claim-words.ts';
import type { Claim, Measurand } from '../model/parts.ts';
import type { PlainNote } from '../model/plain-note.ts';
import { itemsInOrder, measurandsInOrder } from '../model/in-order.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { counted, formatPlain, formatShare, listed, withUnit, wordFor } from '../quantity/format.ts';
import { isTemperature, knownUnit } from '../quantity/units.ts';
import { factorLevels, isMeasuredOn, planSize } from './grid.ts';
import { usualDirection } from './new-parts.ts';
import { describedRule } from '../screening/described.ts';
import { type OrderedRun, balanceOf, plannedOrder } from './run-order.ts';
import { williamsRows } from './williams.ts';

type Look = (document: StudyDocument, order: readonly OrderedRun[]) => PlainNote[];
const attention = (title: string, text: string): PlainNote => ({ tone: 'attention', title, text });
const plain = (title: string, text: string): PlainNote => ({ tone: 'plain', title, text });

/** Mean places farther apart than this share of the way let a drift favour an item. */
export const UNEVEN = 0.15;

const size: Look = (document) => {
  const { refused, settings, grid, struck, runs } = planSize(document);
  if (refused !== undefined) return [attention('Too many runs', refused)];
  const factors = factorLevels(document);
  return factors.length > 1
    ? [
        plain(
          `${counted(factors.length, 'factor')} make a full grid`,
          `${counted(document.items.length, 'item')} at ${String(settings)} settings are ${counted(grid - struck, 'cell')} and ${counted(runs, 'reading')}. Where one factor at a time answers the question, that is fewer.`,
        ),
      ]
    : [];
};

const items: Look = ({ items: all }) =>
  all.length === 0
    ? [
        attention(
          'Begin with the items',
          'Type the first name under “Items” and press Enter, or paste a column of names.',
        ),
      ]
    : [];

const rounds: Look = (document) => {
  const { items: all, study } = document;
  if (all.length < 2) return [];
  if (study.rounds < 2) {
    return [
      attention(
        'One reading per item',
        'One reading shows no spread, so no difference can be judged. Plan at least three rounds.',
      ),
    ];
  }
  const found = measurandsInOrder(document)
    .filter(({ form }) => !readingForm(form)?.ranksOnly)
    .map(({ rule }) => describedRule(rule.name));
  const needs = found.find(({ fewest }) => fewest !== undefined && study.rounds < fewest);
  if (needs?.fewest === undefined) {
    return study.rounds < 4
      ? [
          plain(
            `${String(study.rounds)} rounds see large differences only`,
            'Five to eight are usual where readings are quick.',
          ),
        ]
      : [];
  }
  const said = counted(study.rounds, 'round');
  return [
    plain(
      `${said} leave bad readings to your own eye`,
      `${needs.label} judges from ${counted(needs.fewest, 'reading')} of an item on; with fewer, a bad one is left out by hand, and only large differences can be seen. ${String(needs.fewest)} rounds are enough where a reading is cheap; fewer will do where it is dear, or where the item does not bear more.`,
    ),
  ];
};

const margins: Look = (document) =>
  measurandsInOrder(document).flatMap(({ name, margin, instrument, unit, direction }) => {
    const { resolution } = instrument;
    if (margin.kind === 'absolute' && margin.value > 0 && resolution !== null && margin.value < resolution) {
      return [
        attention(
          `Margin finer than the instrument: ${name}`,
          `A difference of ${withUnit(formatPlain(margin.value), unit)} cannot be seen in steps of ${withUnit(formatPlain(resolution), unit)}. Use a finer instrument, or a wider margin.`,
        ),
      ];
    }
    return margin.value === 0 && direction.kind !== 'unranked'
      ? [
          plain(
            `What difference would matter? ${name}`,
            'Without a margin, the smallest lead counts as a lead. Say what is worth having before you see the readings.',
          ),
        ]
      : [];
  });

/** Measurands whose form leaves it to the tester which way is better, and of which nothing was said. */
const directions: Look = (document) =>
  measurandsInOrder(document)
    .filter(
      ({ form, settings, direction, expression }) =>
        document.items.length > 0 &&
        expression === null &&
        direction.kind === 'unranked' &&
        usualDirection(form, settings).kind === 'unranked',
    )
    .map(({ name }) =>
      attention(
        `Which way is better? ${name}`,
        'A change may be a gain or a loss. Say which is wanted, under “Which is better”; until then it is measured and not ranked.',
      ),
    );

const order: Look = (document, runs) => {
  if (document.items.length < 2 || document.study.rounds < 2) return [];
  const { study } = document;
  const shares = balanceOf(runs).sort((a, b) => a.meanPlace - b.meanPlace);
  const [first, last] = [shares[0], shares[shares.length - 1]];
  if (!first || !last || last.meanPlace - first.meanPlace <= UNEVEN) return [];
  const named = new Map(itemsInOrder(document).map(({ id, name }) => [id, name]));
  const rows = williamsRows(document.items.length);
  return [
    attention(
      'The order is not balanced',
      `${named.get(first.itemId) ?? ''} comes early (${formatShare(first.meanPlace)} of the way on average), ${named.get(last.itemId) ?? ''} late (${formatShare(last.meanPlace)}). A steady drift would favour one of them. ${
        study.runOrder === 'balanced-square'
          ? `The square is even after ${String(rows)} rounds.`
          : 'Plan more rounds, shuffle again, or take a balanced square.'
      }`,
    ),
  ];
};

const conditions: Look = ({ conditions: all }) =>
  quantitiesOf(all)
    .filter(({ required, unit }) => required && unit.trim() === '')
    .map(({ quantity }) =>
      attention(
        `No unit: ${quantity}`,
        'It must be recorded, and months later a bare number says little. Give it a unit.',
      ),
    );

const factors: Look = (document) =>
  document.factors.flatMap((factor) => {
    const ofFactor = document.levels.filter(({ factorId }) => factorId === factor.id);
    if (ofFactor.length === 0) {
      return [
        attention(
          `No levels: ${factor.name}`,
          'A factor counts from its first level on. Add its levels, or remove it.',
        ),
      ];
    }
    return ofFactor.length === 1
      ? [
          plain(
            `One level only: ${factor.name}`,
            'What is not varied is no factor: add a level, or note it under the procedure.',
          ),
        ]
      : [];
  });

/** A temperature from absolute zero in an expression with others, where it may have been meant as one of them. */
function besideKelvin({ name }: Pick<Measurand, 'name'>, { uses }: Expression): PlainNote[] {
  const temperatures = uses.filter((use) => isTemperature(use.unit));
  const [absolute, others] = partition(temperatures, (use) => knownUnit(use.unit)?.zero === 0);
  const [first] = absolute;
  return first && others.length > 0
    ? [
        plain(
          `${first.unit} beside ${listed([...new Set(others.map((use) => use.unit))])}: ${name}`,
          `${listed(absolute.map((use) => use.name))} in ${first.unit} ${wordFor(absolute.length, 'is', 'are')} taken as ${wordFor(absolute.length, 'a difference', 'differences')} of temperatures. What is a temperature itself needs the unit of the others.`,
        ),
      ]
    : [];
}

const measured: Look = (document) =>
  measurandsInOrder(document).flatMap((measurand) => {
    if (measurand.expression !== null) {
      const read = derivedExpression(document, measurand);
      return 'problem' in read
        ? [attention(`Cannot be worked out: ${measurand.name}`, read.problem)]
        : besideKelvin(measurand, read);
    }
    return document.items.length > 0 && !document.items.some((item) => isMeasuredOn(measurand, item))
      ? [
          attention(
            `On no item: ${measurand.name}`,
            'It is measured on none of the items that there are. Choose at least one.',
          ),
        ]
      : [];
  });

const claims: Look = (document) => {
  const found: PlainNote[] = [];
  for (const claim of document.claims) {
    const factor = document.factors.find(({ id }) => id === claim.factorId);
    const levels = document.levels.filter(({ factorId }) => factorId === claim.factorId);
    if (factor && levels.length > 0 && !levels.some(({ baseline }) => baseline)) {
      found.push(
        attention(
          `No baseline: ${factor.name}`,
          `“${claimWords(claim, document)}” counts its steps from a baseline. Mark one level of ${factor.name} as the baseline.`,
        ),
      );
    }
    const withIt = document.items.filter(({ attributes }) =>
      attributes.some(({ name, value }) => name === claim.attribute && value !== null),
    );
    if (claim.kind === 'step' && claim.attribute !== '' && withIt.length < 3) {
      found.push(
        attention(
          `${claim.attribute} of ${counted(withIt.length, 'item')} only`,
          `“${claimWords(claim, document)}” needs it of at least three items. Fill it in under the attributes.`,
        ),
      );
    }
  }
  return found;
};

const lateClaims: Look = (document) => {
  const added = document.changes.filter(
    ({ field, before, readingsThen }) => field === 'claim' && before === 'null' && readingsThen > 0,
  );
  return added.length === 0
    ? []
    : [
        attention(
          `${counted(added.length, 'claim')} entered after the first reading`,
          `${listed(added.slice(0, 2).map(({ after }) => `“${claimWords(JSON.parse(after) as Claim, document)}”`))}: a claim made with readings in sight is no prediction. The report says so.`,
        ),
      ];
};

const LOOKS: readonly Look[] = [
  size,
  items,
  rounds,
  measured,
  margins,
  directions,
  factors,
  order,
  conditions,
  claims,
  lateClaims,
];

/** All that is noticed about a plan, what matters most first. */
export const planFindings = (
  document: StudyDocument,
  runs: readonly OrderedRun[] = plannedOrder(document),
): PlainNote[] => {
  const found = LOOKS.flatMap((look) => look(document, runs));
  return [
    ...found.filter(({ tone }) => tone === 'attention'),
    ...found.filter(({ tone }) => tone === 'plain'),
  ];
};
