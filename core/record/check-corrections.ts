import { quantitiesOf } from '../conditions/index.ts';
import { correctionsOf, readingForm } from '../forms/index.ts';
import type { CorrectionKind } from '../forms/form.ts';
import type { Measurand } from '../model/parts.ts';
import { convert } from '../quantity/units.ts';
import { type FieldProblem, type PlanContext, asCompared, byId } from './plan-context.ts';

/** The words of each kind of correction, for a form that has no place for it. */
const CORRECTION_WORDS: Record<CorrectionKind, string> = {
  unit: 'Another unit',
  calibrations: 'A calibration',
  tare: 'A tare',
  ambient: 'A common ambient',
};

type Corrections = Measurand['corrections'];

function calibrationProblems(calibrations: Corrections['calibrations']): FieldProblem[] {
  const problems: FieldProblem[] = [];
  calibrations.forEach(({ instrument, points }, i) => {
    const path = `/corrections/calibrations/${String(i)}`;
    const named = asCompared(instrument);
    if (calibrations.findIndex((other) => asCompared(other.instrument) === named) !== i) {
      problems.push({
        path: `${path}/instrument`,
        message: `There are two calibrations ${named === '' ? 'of all readings' : `of “${instrument}”`}.`,
      });
    }
    const [first, second] = points;
    if (!first || !second) return;
    if (first.indicated === second.indicated || first.is === second.is) {
      problems.push({
        path: `${path}/points/1`,
        message: 'Two points that give a line differ in what is indicated, and in what is true.',
      });
    }
  });
  return problems;
}

function ambientProblems(
  ambient: Corrections['ambient'],
  conditions: PlanContext['conditions'],
): FieldProblem[] {
  const problems: FieldProblem[] = [];
  if (ambient && !byId(quantitiesOf(conditions)).has(ambient.conditionId)) {
    problems.push({
      path: '/corrections/ambient/conditionId',
      message: byId(conditions).has(ambient.conditionId)
        ? 'The corrections refer readings to a condition that is no quantity.'
        : 'The corrections refer readings to a condition that the study does not have.',
    });
  }
  ambient?.estimates.forEach(({ sessionId }, i) => {
    if (ambient.estimates.findIndex((other) => other.sessionId === sessionId) !== i) {
      problems.push({
        path: `/corrections/ambient/estimates/${String(i)}/sessionId`,
        message: 'This session is estimated twice.',
      });
    }
  });
  return problems;
}

/** What is wrong with the corrections of a measurand; a path in each case. */
export function checkCorrections(measurand: Measurand, { conditions }: PlanContext): FieldProblem[] {
  const { corrections, unit: itsUnit, form } = measurand;
  const { unit, calibrations, tare, ambient } = corrections;
  const there: Record<CorrectionKind, boolean> = {
    ...{ unit: unit !== null, calibrations: calibrations.length > 0 },
    ...{ tare: tare !== null, ambient: ambient !== null },
  };
  const allowed = correctionsOf(measurand);
  const strange = (Object.keys(there) as CorrectionKind[]).find(
    (kind) => there[kind] && !allowed.includes(kind),
  );
  if (strange !== undefined) {
    const what =
      measurand.expression === null
        ? `readings of the form “${readingForm(form)?.label ?? form}”`
        : 'a measurand that is worked out; set right what it comes from';
    return [
      {
        path: `/corrections/${strange}`,
        message: `${CORRECTION_WORDS[strange]} cannot be applied to ${what}.`,
      },
    ];
  }
  const problems: FieldProblem[] = [];
  if (unit && (unit.from.trim() === '' || convert(1, unit.from, itsUnit) === undefined)) {
    problems.push({
      path: '/corrections/unit/from',
      message: `“${unit.from}” cannot be turned into ${itsUnit || 'no unit'}.`,
    });
  }
  return [...problems, ...calibrationProblems(calibrations), ...ambientProblems(ambient, conditions)];
}
