import { betterOf, betterPlaced } from '../compare/better.ts';
import { levelOfEach } from '../distributions/several.ts';
import { ALPHA } from '../model/alpha.ts';
import { measurandsInOrder } from '../model/in-order.ts';
import type { Item, Measurand, RuleInForce } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { listed, wordFor } from '../quantity/format.ts';
import type { ValueRange } from '../rank/ranges.ts';
import type { DrawnCriterion } from '../rank/score-verdicts.ts';
import { type ClassAnalysis, analyseStudy } from './analyse-study.ts';
import { screenedOf } from './observed.ts';

/** A criterion with its name and where it was read. */
export interface NamedCriterion extends DrawnCriterion {
  name: string;
  unit: string;
  /** Key of its setting; '' for exact figures, which are the same at all of them. */
  settingKey: string;
  /** Of which items a range is known, in place of a value. */
  ranges: (ValueRange | null)[];
  /** Why nothing can be drawn of it; undefined where it can. */
  notDrawn: string | undefined;
}

/** A class of items with all that their scores are made of. */
export interface ClassBasis {
  name: string;
  items: Item[];
  criteria: NamedCriterion[];
  /** Ranked measurands in the order of the plan: those that have a weight. */
  measurands: { id: string; name: string; unit: string }[];
}

export interface ScoreBasis {
  classes: ClassBasis[];
  /** Level that all pairs of a class share. */
  alpha: number;
  seed: number;
}

export interface ScoreBasisOptions {
  /** Key of one setting; all settings when left out. */
  settingKey?: string | undefined;
  /** Level of the pairs, where a planned look has its own. */
  pairAlpha?: number | undefined;
  /** One measurand by itself; all that are ranked when left out. */
  measurandId?: string | undefined;
  /** Another rule than the one in force, by measurand, to see what it would do. */
  ruleOf?: ((measurand: Measurand) => RuleInForce) | undefined;
}

/** The measurands that can be scored: those that are ranked. */
const scorable = (document: StudyDocument): Measurand[] =>
  measurandsInOrder(document).filter(({ direction }) => betterOf(direction).kind !== 'unranked');

/** What scores are made of: the ranked measurands of a study, or one of them, at one setting or at all. */
export function scoreBasis(document: StudyDocument, options: ScoreBasisOptions = {}): ScoreBasis {
  const measurands = scorable(document).filter(
    ({ id }) => options.measurandId === undefined || id === options.measurandId,
  );
  const criteria = measurands.map((measurand) => criteriaOf(document, measurand, options));
  const settings = Math.max(1, ...criteria.map(({ settings: read }) => read));
  const names = [...new Set(criteria.flatMap(({ placed }) => placed.map(({ group }) => group.name)))];
  return {
    classes: names.map((name) => {
      const inClass = criteria.map(({ placed }) => placed.filter(({ group }) => group.name === name));
      return {
        name,
        items: inClass.flat()[0]?.group.items ?? [],
        criteria: inClass.flat().map(({ criterion }) => criterion),
        measurands: measurands.flatMap(({ id, name: called, unit }, i) =>
          (inClass[i]?.length as number) > 0 ? [{ id, name: called, unit }] : [],
        ),
      };
    }),
    // Each setting can be scored, and all of them together: whoever is called first anywhere is named by the study.
    alpha: levelOfEach(options.pairAlpha ?? ALPHA, settings > 1 ? settings + 1 : 1),
    seed: document.study.seed,
  };
}

interface Placed {
  group: ClassAnalysis;
  criterion: NamedCriterion;
}

/** A measurand as criteria: of each class, at each setting that is asked for. */
function criteriaOf(
  document: StudyDocument,
  measurand: Measurand,
  { settingKey, pairAlpha, ruleOf }: ScoreBasisOptions,
): { placed: Placed[]; settings: number } {
  const { settings } = analyseStudy(document, measurand.id, {
    resamples: 0,
    pairAlpha,
    ...(ruleOf ? { rule: ruleOf(measurand) } : {}),
  });
  const { exact, ranksOnly } = screenedOf(document, measurand);
  const asked = exact
    ? settings.slice(0, 1)
    : settings.filter(({ setting }) => settingKey === undefined || setting.key === settingKey);
  return {
    settings: exact ? 1 : settings.length,
    placed: asked.flatMap(({ setting, classes, bySize, trueZero }) =>
      classes.map((group): Placed => {
        const better = betterPlaced(measurand.direction, { bySize, ranksOnly });
        const { items, pairs } = group.analysis;
        const values = items.map(({ placedBy }) => placedBy);
        const ranges = items.map(({ typed }): ValueRange | null => (typed?.kind === 'range' ? typed : null));
        const single = items.filter(({ summary, known }) => summary.n > 0 && known === null);
        return {
          group,
          criterion: {
            ...{ measurandId: measurand.id, name: measurand.name, unit: measurand.unit, better, values },
            ranges,
            settingKey: exact ? '' : setting.key,
            hasRatios:
              trueZero &&
              better.kind !== 'nearest' &&
              values.every((value) => value === null || value > 0) &&
              ranges.every((range) => range?.low == null || range.low >= 0),
            known: items.map(({ known }) => known),
            verdicts: pairs.map(({ a, b, verdict }) => ({ a, b, verdict })),
            notDrawn:
              single.length === 0
                ? undefined
                : ranksOnly
                  ? `${measurand.name} is marks in an order, which have no spread that could be drawn`
                  : `${listed(single.map(({ item }) => item))} ${wordFor(single.length, 'has', 'have')} a single reading of ${measurand.name}`,
          },
        };
      }),
    ),
  };
}
