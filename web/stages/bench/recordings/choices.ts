import { NOTHING_CHOSEN, type SoundChoices } from '../../../../core/bench/heard.ts';
import { isRecord, useKept } from '../../../app/kept.ts';

const isNumber = (value: unknown): value is number => typeof value === 'number' && Number.isFinite(value);
const isSaid = (value: unknown): value is { momentS: number } & Record<string, unknown> =>
  isRecord(value) && isNumber(value.momentS);
const isWindow = (value: unknown): boolean =>
  isRecord(value) && isNumber(value.from) && isNumber(value.to) && value.from < value.to;
const every = (value: unknown, fits: (entry: unknown) => boolean): boolean =>
  Array.isArray(value) && value.every(fits);

const isChoices = (value: unknown): value is SoundChoices =>
  isRecord(value) &&
  isNumber(value.channel) &&
  isNumber(value.apartS) &&
  isNumber(value.afterS) &&
  (value.lengthS === undefined || isNumber(value.lengthS)) &&
  (value.threshold === undefined ||
    (isRecord(value.threshold) &&
      isNumber(value.threshold.level) &&
      typeof value.threshold.through === 'string')) &&
  every(value.extras, isSaid) &&
  every(value.missed, (entry) => isSaid(entry) && isNumber(entry.count)) &&
  every(value.moved, (entry) => isSaid(entry) && isWindow(entry)) &&
  every(value.added, isWindow) &&
  every(value.items, (entry) => isSaid(entry) && typeof entry.itemId === 'string') &&
  (value.calibrationId === undefined || typeof value.calibrationId === 'string');

/** What was chosen for a recording, there again when the page is. */
export const useChoices = (studyId: string, measurandId: string, fileId: string) =>
  useKept<SoundChoices>(`sounds/${studyId}/${measurandId}/${fileId}`, () => NOTHING_CHOSEN, isChoices);
