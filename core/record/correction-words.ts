import type { Corrections, Measurand } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { formatPlain, withUnit } from '../quantity/format.ts';

type Named = Pick<StudyDocument, 'conditions'>;

/** One correction with whether it is in force, and what it does in a few words. */
export interface CorrectionLayer {
  /** What it is called among the corrections of its measurand. */
  key: string;
  on: boolean;
  words: string;
  /** The corrections as they are with this one switched. */
  switched: (now: Corrections, on: boolean) => Corrections;
}

const plain = (value: number): string => formatPlain(Number(value.toPrecision(8)));
const signed = (value: number): string => `${value < 0 ? '' : '+'}${plain(value)}`;

function calibrationWords(
  { points, instrument, mayBeOff }: Corrections['calibrations'][number],
  unit: string,
): string {
  const shown = points.map(
    ({ indicated, is }) => `${plain(indicated)} indicated is ${withUnit(plain(is), unit)}`,
  );
  const [first] = points;
  const shift =
    points.length === 1 && first
      ? ` (${withUnit(signed(Number((first.is - first.indicated).toPrecision(12))), unit)})`
      : '';
  const open = mayBeOff ? `, give or take ${withUnit(plain(mayBeOff), unit)}` : '';
  return `${instrument ? `calibration of ${instrument}` : 'calibration'}: ${shown.join(', ')}${shift}${open}`;
}

/** What is set right in a measurand, in the order in which it is done. */
export function correctionLayers(
  { corrections, unit: itsUnit }: Pick<Measurand, 'corrections' | 'unit'>,
  { conditions }: Named,
): CorrectionLayer[] {
  const { unit, calibrations, tare, ambient } = corrections;
  const condition = conditions.find(({ id }) => id === ambient?.conditionId);
  return [
    ...(unit
      ? [
          {
            ...{ key: 'unit', on: unit.on },
            words: `numbers read in ${unit.from}, turned into ${itsUnit || 'no unit'}`,
            switched: (now: Corrections, on: boolean) => ({ ...now, unit: now.unit && { ...now.unit, on } }),
          },
        ]
      : []),
    ...calibrations.map((calibration) => ({
      ...{ key: `calibration ${calibration.instrument}`, on: calibration.on },
      words: calibrationWords(calibration, itsUnit),
      switched: (now: Corrections, on: boolean) => ({
        ...now,
        calibrations: now.calibrations.map((other) =>
          other.instrument === calibration.instrument ? { ...other, on } : other,
        ),
      }),
    })),
    ...(tare
      ? [
          {
            ...{ key: 'tare', on: tare.on },
            words: `tare of ${withUnit(plain(tare.value), itsUnit)} taken off`,
            switched: (now: Corrections, on: boolean) => ({ ...now, tare: now.tare && { ...now.tare, on } }),
          },
        ]
      : []),
    ...(ambient
      ? [
          {
            ...{ key: 'ambient', on: ambient.on },
            words: ambientWords(ambient, itsUnit, condition),
            switched: (now: Corrections, on: boolean) => ({
              ...now,
              ambient: now.ambient && { ...now.ambient, on },
            }),
          },
        ]
      : []),
  ];
}

function ambientWords(
  { reference, perUnit, estimates }: NonNullable<Corrections['ambient']>,
  unit: string,
  condition: { quantity: string; unit: string } | undefined,
): string {
  const per =
    perUnit === 1 && unit === condition?.unit
      ? ''
      : ` (${withUnit(plain(perUnit), unit)} for each ${condition?.unit || 'unit'})`;
  const guessed =
    estimates.length === 0
      ? ''
      : `; estimated, not noted, in ${estimates.length === 1 ? 'one session' : `${String(estimates.length)} sessions`}`;
  return `referred to ${condition?.quantity ?? 'a condition that is gone'} of ${withUnit(plain(reference), condition?.unit ?? '')}${per}${guessed}`;
}

/** What of it is in force, in one line; “none” where nothing is. */
export function correctionsInForce(measurand: Pick<Measurand, 'corrections' | 'unit'>, named: Named): string {
  const words = correctionLayers(measurand, named).flatMap((layer) => (layer.on ? [layer.words] : []));
  return words.length === 0 ? 'none' : words.join('; ');
}
