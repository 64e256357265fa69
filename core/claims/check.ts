import {
  type ClassAnalysis,
  type MeasurandAnalysis,
  type SettingAnalysis,
  analyseStudy,
} from '../analysis/analyse-study.ts';
import { atSetting, groupsOf } from '../analysis/at-setting.ts';
import { type Better, betterOf, merit } from '../compare/better.ts';
import { leastSquares, spearman } from '../compare/trend.ts';
import { tQuantileUpper } from '../distributions/index.ts';
import { levelOfEach } from '../distributions/several.ts';
import { ALPHA } from '../model/alpha.ts';
import type { Claim, Measurand } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { factorLevels } from '../plan/grid.ts';
import { capital, counted, decimalsFor, formatNumber, listed, withUnit } from '../quantity/format.ts';
import { convert } from '../quantity/units.ts';
import { instrumentUncertainty } from '../summary/instrument-uncertainty.ts';
import type { ClaimOutcome } from './outcome.ts';

export interface CheckedClaim {
  claimId: string;
  outcome: ClaimOutcome;
  /** In numbers, one or two sentences. */
  sentence: string;
}

type Checked = Omit<CheckedClaim, 'claimId'>;

/** The level of each interval that a claim is checked by, and how many of them share that of the measurand. */
interface Shared {
  each: number;
  checks: number;
}

/** What an interval promises beside others. */
const togetherWords = ({ checks }: Shared): string =>
  checks > 1
    ? ` The interval is at ${withUnit('95', '%')} for all ${counted(checks, 'check')} together.`
    : '';

const none: Checked = { outcome: 'no readings', sentence: 'There are too few readings to check it by.' };

/** A difference in another unit: the zero of a temperature scale has no part in it. */
function convertDifference(value: number, from: string, to: string): number {
  if (from.trim() === '') return value;
  const [end, zero] = [convert(value, from, to), convert(0, from, to)];
  return end === undefined || zero === undefined ? value : end - zero;
}

function checkOrder(claim: Claim, { classes, measurand, bySize }: SettingAnalysis): Checked {
  const better: Better = bySize ? { kind: 'lower' } : betterOf(measurand.direction);
  if (better.kind === 'unranked') {
    return {
      outcome: 'no readings',
      sentence: `${measurand.name} is not ranked, so an order cannot be checked.`,
    };
  }
  const claimed = new Map(claim.order.map((id, place) => [id, place]));
  const found: { name: string; place: number; merit: number }[] = [];
  let [as, against, open] = [0, 0, 0];
  const reversed: string[] = [];
  for (const { items, analysis } of classes) {
    analysis.items.forEach(({ summary }, i) => {
      const item = items[i] as (typeof items)[number];
      const place = claimed.get(item.id);
      if (place === undefined || summary.mean === null) return;
      found.push({ name: item.name, place, merit: merit(summary.mean, better) });
    });
    for (const { a, b, verdict } of analysis.pairs) {
      const [itemA, itemB] = [items[a], items[b]] as [(typeof items)[number], (typeof items)[number]];
      const [first, second] = [claimed.get(itemA.id), claimed.get(itemB.id)];
      if (first === undefined || second === undefined) continue;
      const ahead = verdict === 'a ahead' ? 'a' : verdict === 'b ahead' ? 'b' : undefined;
      if (ahead === undefined) open += 1;
      else if ((ahead === 'a') === first < second) as += 1;
      else {
        against += 1;
        const [winner, loser] = ahead === 'a' ? [itemA, itemB] : [itemB, itemA];
        reversed.push(`${winner.name} is ahead of ${loser.name}`);
      }
    }
  }
  if (found.length < 2) return none;
  const rho = spearman(
    found.map(({ place }) => -place),
    found.map((entry) => entry.merit),
  );
  const order = [...found].sort((x, y) => y.merit - x.merit).map(({ name }) => name);
  return {
    outcome: against > 0 ? 'contradicted' : open === 0 && as > 0 ? 'holds' : 'not contradicted',
    sentence: [
      `Found by mean: ${order.join(' > ')}${rho === undefined ? '' : ` (rank correlation ${formatNumber(rho, 2)})`}.`,
      `Of ${counted(as + against + open, 'pair')}, ${String(as)} as claimed, ${String(against)} the other way round, ${String(open)} not told apart.`,
      ...(reversed.length > 0
        ? [`${listed(reversed.slice(0, 3))}${reversed.length > 3 ? ' and others' : ''}.`]
        : []),
    ].join(' '),
  };
}

const summaryOf = (classes: readonly ClassAnalysis[], itemId: string) => {
  for (const { items, analysis, signed } of classes) {
    const place = items.findIndex(({ id }) => id === itemId);
    // A figure said of an error has its sign.
    if (place !== -1) return signed?.[place] ?? analysis.items[place]?.summary;
  }
  return undefined;
};

function checkFigure(
  claim: Claim,
  { classes, controls, measurand }: SettingAnalysis,
  shared: Shared,
): Checked {
  const summary = summaryOf(groupsOf({ classes, controls }), claim.itemId as string);
  const { unit, instrument, margin } = measurand;
  const claimed = claim.unit === '' ? claim.value : convert(claim.value as number, claim.unit, unit);
  if (summary?.mean == null || claimed === null || claimed === undefined) return none;
  const { mean, se, df } = summary;
  // The figure is another's, so what our instrument may be off by counts beside the spread.
  const ours = instrumentUncertainty(instrument, mean);
  if (se === null && ours === undefined) return none;
  const half = Math.hypot(se === null ? 0 : tQuantileUpper(shared.each / 2, df) * se, ours ?? 0);
  const difference = mean - claimed;
  const matters = margin.kind === 'absolute' ? margin.value : (margin.value / 100) * Math.abs(claimed);
  const decimals = decimalsFor(half);
  const figure = (value: number) => withUnit(formatNumber(value, decimals), unit);
  const outcome =
    Math.abs(difference) + half < matters
      ? 'holds'
      : Math.abs(difference) > half
        ? 'contradicted'
        : 'not contradicted';
  return {
    outcome,
    sentence: `Ours is ${figure(mean)} ± ${figure(half)}, the figure ${figure(claimed)}: ${difference >= 0 ? '' : '−'}${figure(Math.abs(difference))} apart${claimed === 0 ? '' : ` (${difference >= 0 ? '' : '−'}${withUnit(formatNumber(Math.abs((100 * difference) / claimed), 1), '%')})`}.${togetherWords(shared)}`,
  };
}

function lineSentence(
  measurand: Measurand,
  slope: number,
  interval: readonly [number, number],
  claimed: number,
  step: string,
  points: string,
): Checked {
  const half = (interval[1] - interval[0]) / 2;
  const decimals = decimalsFor(half);
  const figure = (value: number) => withUnit(formatNumber(value, decimals), measurand.unit);
  const inside = claimed >= interval[0] && claimed <= interval[1];
  return {
    outcome: inside ? 'not contradicted' : 'contradicted',
    sentence: `Found: ${figure(slope)} for each ${step}, between ${figure(interval[0])} and ${figure(interval[1])}; claimed ${figure(claimed)}. ${points}`,
  };
}

function checkAlongAttribute(
  document: StudyDocument,
  claim: Claim,
  { classes, measurand }: SettingAnalysis,
  shared: Shared,
): Checked {
  const points = document.items.flatMap((item) => {
    const x = item.attributes.find(({ name }) => name === claim.attribute)?.value;
    const mean = summaryOf(classes, item.id)?.mean;
    return x === undefined || x === null || mean === undefined || mean === null ? [] : [{ x, mean }];
  });
  const step = claim.stepSize ?? 1;
  const line = leastSquares(
    points.map(({ x }) => x / step),
    points.map(({ mean }) => mean),
    shared.each,
  );
  if (!line?.slopeInterval) return none;
  const unit = document.items
    .flatMap(({ attributes }) => attributes)
    .find(({ name }) => name === claim.attribute)?.unit;
  return lineSentence(
    measurand,
    line.slope,
    line.slopeInterval,
    convertDifference(claim.value as number, claim.unit, measurand.unit),
    `${withUnit(String(step), unit ?? '')} of ${claim.attribute}`,
    points.length < 8
      ? `From ${counted(points.length, 'item')} only; few items can go together by chance.${togetherWords(shared)}`
      : `From ${counted(points.length, 'item')}.${togetherWords(shared)}`,
  );
}

function checkAlongFactor(
  document: StudyDocument,
  claim: Claim,
  { measurand, settings }: MeasurandAnalysis,
  shared: Shared,
): Checked {
  const factor = factorLevels(document).find((entry) => entry.factor.id === claim.factorId);
  if (!factor) return none;
  const perItem = new Map<string, { x: number; mean: number }[]>();
  for (const {
    setting: { levels },
    classes,
  } of settings) {
    const place = factor.levels.findIndex((level) => levels.includes(level));
    const level = factor.levels[place];
    if (!level) continue;
    const x = claim.stepSize === null ? place : (level.value ?? Number.NaN) / claim.stepSize;
    for (const { items, analysis } of classes) {
      analysis.items.forEach(({ summary }, i) => {
        const { id } = items[i] as (typeof items)[number];
        if (summary.mean === null || Number.isNaN(x)) return;
        perItem.set(id, [...(perItem.get(id) ?? []), { x, mean: summary.mean }]);
      });
    }
  }
  // Each item is centred on itself, so that only what the levels do is left.
  const groups = [...perItem.values()].filter((points) => points.length > 1);
  const centred = groups.flatMap((points) => {
    const mx = points.reduce((sum, { x }) => sum + x, 0) / points.length;
    const my = points.reduce((sum, { mean }) => sum + mean, 0) / points.length;
    return points.map(({ x, mean }) => ({ x: x - mx, y: mean - my }));
  });
  const line = leastSquares(
    centred.map(({ x }) => x),
    centred.map(({ y }) => y),
    shared.each,
    groups.length,
  );
  if (!line?.slopeInterval) return none;
  const step =
    claim.stepSize === null
      ? `step of ${factor.factor.name}`
      : `${withUnit(String(claim.stepSize), factor.factor.unit)} of ${factor.factor.name}`;
  return lineSentence(
    measurand,
    line.slope,
    line.slopeInterval,
    convertDifference(claim.value as number, claim.unit, measurand.unit),
    step,
    `From ${counted(centred.length, 'mean')} of ${counted(groups.length, 'item')}.${togetherWords(shared)}`,
  );
}

/** More settings than this are counted by their outcome, not named one by one. */
const MOST_TOLD = 4;

/** A claim that was held against each setting, as one. */
function overSettings(checks: readonly { words: string; checked: Checked }[]): Checked {
  const known = checks.filter(({ checked }) => checked.outcome !== 'no readings');
  const [first] = known;
  if (!first) return checks[0]?.checked ?? none;
  if (checks.length === 1) return first.checked;
  const outcomes = new Set(known.map(({ checked }) => checked.outcome));
  const outcome = !outcomes.has('contradicted')
    ? outcomes.size === 1
      ? first.checked.outcome
      : 'not contradicted'
    : outcomes.size === 1
      ? 'contradicted'
      : 'depends on the level';
  const told = (of: ClaimOutcome) => known.filter(({ checked }) => checked.outcome === of);
  const sentence =
    known.length <= MOST_TOLD
      ? known.map(({ words, checked }) => `At ${words}: ${lowered(checked.sentence)}`).join(' ')
      : (['holds', 'contradicted', 'not contradicted'] as const)
          .flatMap((of) => {
            const settings = told(of);
            return settings.length === 0
              ? []
              : [`${capital(of)} at ${listed(settings.map(({ words }) => words))}.`];
          })
          .join(' ');
  return { outcome, sentence };
}

const lowered = (text: string): string => text.slice(0, 1).toLowerCase() + text.slice(1);

const isAlongFactor = ({ kind, factorId }: Claim): boolean => kind === 'step' && factorId !== null;

/** Orders are checked by the verdicts of the ranking; all other claims share the level of the measurand by their number. */
function sharedBy(claims: readonly Claim[], settings: number): Shared {
  const byIntervals = claims.filter(({ kind }) => kind !== 'order');
  const overAll = byIntervals.filter(isAlongFactor).length;
  const checks = overAll + (byIntervals.length - overAll) * settings;
  return { each: levelOfEach(ALPHA, Math.max(1, checks)), checks };
}

/**
 * Checks the claims about a measurand against the readings.
 * @param key the setting that orders and figures are checked at; all that were read when left out
 */
export function checkClaims(document: StudyDocument, measurandId: string, key?: string): CheckedClaim[] {
  const claims = document.claims.filter((claim) => claim.measurandId === measurandId);
  if (claims.length === 0) return [];
  const analysis = analyseStudy(document, measurandId, { resamples: 0 });
  const shared = sharedBy(claims, analysis.settings.length);
  const settings = key === undefined ? analysis.settings : [atSetting(analysis, key)];
  const each = (check: (setting: SettingAnalysis) => Checked): Checked =>
    overSettings(settings.map((setting) => ({ words: setting.setting.words, checked: check(setting) })));
  const check = (claim: Claim): Checked => {
    if (claim.kind === 'order') return each((setting) => checkOrder(claim, setting));
    if (claim.kind === 'figure') return each((setting) => checkFigure(claim, setting, shared));
    return isAlongFactor(claim)
      ? checkAlongFactor(document, claim, analysis, shared)
      : each((setting) => checkAlongAttribute(document, claim, setting, shared));
  };
  return claims.map((claim) => ({ claimId: claim.id, ...check(claim) }));
}
