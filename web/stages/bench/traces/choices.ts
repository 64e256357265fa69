import type { TimeWindow } from '../../../../core/trace/series.ts';
import { isRecord, isTexts, useKept } from '../../../app/kept.ts';

/** What was chosen and not taken yet. */
export interface Choices {
  /** One window for all, or each its own. */
  shared: boolean;
  window?: TimeWindow;
  windows: Record<string, TimeWindow>;
  /** Items by the keys of tracks; '' for none. */
  items: Record<string, string>;
  /** The column that is taken off, by the ids of files. */
  less: Record<string, string>;
  /** Tracks that are ticked or not, where that is not as it was proposed. */
  ticked: Record<string, boolean>;
}

const NOTHING_CHOSEN: Choices = { shared: true, windows: {}, items: {}, less: {}, ticked: {} };

const isWindow = (value: unknown): value is TimeWindow =>
  isRecord(value) && typeof value.from === 'number' && typeof value.to === 'number';
const isChoices = (value: unknown): value is Choices =>
  isRecord(value) &&
  typeof value.shared === 'boolean' &&
  (value.window === undefined || isWindow(value.window)) &&
  isRecord(value.windows) &&
  Object.values(value.windows).every(isWindow) &&
  isTexts(value.items) &&
  isTexts(value.less) &&
  isRecord(value.ticked) &&
  Object.values(value.ticked).every((ticked) => typeof ticked === 'boolean');

/** What was chosen for the traces of a measurand, there again when the page is. */
export const useChoices = (studyId: string, measurandId: string) =>
  useKept<Choices>(`traces/${studyId}/${measurandId}`, () => NOTHING_CHOSEN, isChoices);
