import { type Location, locate } from '../compare/sample.ts';
import { measurandsInOrder, itemsInOrder } from '../model/in-order.ts';
import type { Item, Measurand } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { conditionValue, conditionsInOrder } from '../bench/session.ts';
import { convert, isTemperature } from '../quantity/units.ts';
import { correctionsInForce } from '../record/correction-words.ts';
import { ALPHA } from '../model/alpha.ts';
import { isRankedBySize, readingsOf } from './analyse-study.ts';
import { type ScreenedReadings, keptOf } from './compare-screened.ts';
import { type Cell, type Screened, screenedOf } from './observed.ts';
import { settingsRead } from './settings.ts';

/** What was found of one item; mean and variances in the unit of its measurand. */
export interface OccasionFigure {
  location: Location;
  /** The same of each reading less the ambient temperature of its session; null where that is not known. */
  lessAmbient: Location | null;
}

/** One measurand at one setting, item by item. */
export interface OccasionSetting {
  key: string;
  words: string;
  /** In the order of the items; null where nothing counts. */
  figures: (OccasionFigure | null)[];
}

export interface OccasionMeasurand {
  id: string;
  name: string;
  unit: string;
  /** The quantity that the ambient temperature was read as; undefined where the values are no temperatures. */
  ambient: string | undefined;
  /** What is set right in the values, in words; “none” where nothing is. */
  corrections: string;
  /** Step of the values, in their unit. */
  step: number;
  settings: OccasionSetting[];
}

/** One test of items, as another one is held against it: what was found, without the readings. */
export interface Occasion {
  studyId: string;
  /** Where it is one session of a study, and not the whole. */
  sessionId: string | undefined;
  title: string;
  /** When its first reading was taken; '' without any. */
  startedAt: string;
  items: Pick<Item, 'id' | 'name'>[];
  /** Marks in an order and exact figures have no differences, and are not among them. */
  measurands: OccasionMeasurand[];
}

/** The condition that is the ambient temperature: the first one with such a unit. What is referred to a common ambient has none left in it. */
const ambientOf = (document: StudyDocument, { unit, expression, corrections }: Measurand, bySize: boolean) =>
  isTemperature(unit) && expression === null && !bySize && !corrections.ambient?.on
    ? conditionsInOrder(document).find((condition) => isTemperature(condition.unit))
    : undefined;

/** The observations of a cell that a session holds, with what the rule left out of them. */
function ofSession(cell: Cell, sessionId: string | undefined): Cell {
  if (sessionId === undefined) return cell;
  const out = new Set(cell.screening.leftOut.map(({ index }) => index));
  const observations = cell.observations.filter(
    (observation, i) => observation.sessionId === sessionId && !out.has(i),
  );
  // What a rule cuts from both ends it cuts from all readings of the item; of a part the rest is taken as it is.
  return {
    ...{ ...cell, observations, rounds: undefined },
    values: Float64Array.from(observations, ({ value }) => value as number),
    screening: { leftOut: [], judged: 'reading' },
  };
}

function locationOf(readings: ScreenedReadings, { average, step }: Screened): Location | null {
  const [sample] = keptOf([readings], { alpha: ALPHA, average, step }).samples;
  return sample && sample.kept.length > 0 ? locate(sample) : null;
}

function figureOf(
  document: StudyDocument,
  screened: Screened,
  item: Item,
  cell: Cell,
): OccasionFigure | null {
  const { measurand } = screened;
  const bySize = isRankedBySize(measurand);
  const readings = readingsOf(item, cell, bySize ? measurand.direction.target : null);
  const location = locationOf(readings, screened);
  if (!location) return null;
  const ambient = ambientOf(document, measurand, bySize);
  const surroundings = cell.observations.map(({ sessionId }) => {
    const read = ambient && conditionValue(document, sessionId, ambient.id);
    return ambient && read !== undefined ? convert(read, ambient.unit, measurand.unit) : undefined;
  });
  const known = ambient !== undefined && surroundings.every((value) => value !== undefined);
  return {
    location,
    lessAmbient: known
      ? locationOf(
          {
            ...readings,
            values: Float64Array.from(readings.values, (value, i) => value - (surroundings[i] as number)),
          },
          screened,
        )
      : null,
  };
}

/**
 * What a study found, or one session of it: of each item at each setting its mean, the variance of that, and the same
 * less the ambient temperature. Readings are screened over the whole study.
 * @param sessionId the session that alone is looked at
 */
export function occasionOf(document: StudyDocument, sessionId?: string): Occasion {
  const items = itemsInOrder(document);
  const taken = document.readings.filter(
    (reading) => sessionId === undefined || reading.sessionId === sessionId,
  );
  const settingsOfStudy = settingsRead(document);
  const measurands = measurandsInOrder(document).flatMap((measurand): OccasionMeasurand[] => {
    const screened = screenedOf(document, measurand);
    if (screened.ranksOnly || screened.exact) return [];
    const cells = new Map(screened.cells.map((cell) => [`${cell.setting}/${cell.itemId}`, cell]));
    const { id, name, unit } = measurand;
    const settings = settingsOfStudy.map(({ key, words }): OccasionSetting => ({
      ...{ key, words },
      figures: items.map((item) => {
        const cell = cells.get(`${key}/${item.id}`);
        return cell ? figureOf(document, screened, item, ofSession(cell, sessionId)) : null;
      }),
    }));
    const read = settings.filter(({ figures }) => figures.some(Boolean));
    return read.length === 0
      ? []
      : [
          {
            ...{ id, name, unit, step: screened.step, settings: read },
            ambient: ambientOf(document, measurand, isRankedBySize(measurand))?.quantity,
            corrections: correctionsInForce(measurand, document),
          },
        ];
  });
  return {
    studyId: document.study.id,
    sessionId,
    title: document.study.title,
    startedAt: taken.reduce((first, { takenAt }) => (first === '' || takenAt < first ? takenAt : first), ''),
    items: items.map(({ id, name }) => ({ id, name })),
    measurands,
  };
}
