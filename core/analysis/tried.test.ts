import { describe, expect, it } from 'vitest';
import fansFile from '../../demo/desk-fans.json' with { type: 'json' };
import type { StudyDocument } from '../model/study-document.ts';
import { recordOf } from '../record/record.ts';
import { analyseStudy } from './analyse-study.ts';
import { asIfDecided, changesBetween } from './tried.ts';

const FANS = fansFile as unknown as StudyDocument;
const [speed] = FANS.measurands;
const settingOf = (document: StudyDocument) => {
  const [setting] = analyseStudy(document, speed?.id ?? '', { resamples: 0 }).settings;
  if (!setting) throw new Error('no setting');
  return setting;
};
const readingOf = (name: string, round: number) => {
  const found = recordOf(FANS).readings.find(
    ({ item, measurand, reading }) =>
      item.name === name && measurand.id === speed?.id && reading.round === round,
  );
  return found?.reading.id ?? '';
};

describe('what a decision would change', () => {
  it('is nothing where nothing is decided', () => {
    expect(changesBetween(settingOf(FANS), settingOf(asIfDecided(FANS, [], 'leave-out')))).toEqual([]);
  });
  it('is one reading less of its item, and whatever follows from that', () => {
    const tried = asIfDecided(FANS, [readingOf('Fenwhir', 1)], 'leave-out');
    const changes = changesBetween(settingOf(FANS), settingOf(tried));
    const fenwhir = changes.find(({ item }) => item.name === 'Fenwhir');
    expect((fenwhir?.before.n ?? 0) - (fenwhir?.after.n ?? 0)).toBe(1);
    expect(fenwhir?.after.mean).not.toBe(fenwhir?.before.mean);
    expect(changes.filter(({ before, after }) => before.n !== after.n)).toHaveLength(1);
    // The study itself is as it was.
    expect(FANS.decisions).toHaveLength(tried.decisions.length - 1);
  });
  it('is one reading more where what the rule left out is kept', () => {
    const setting = settingOf(FANS);
    const out = setting.readings.find(({ use }) => use.is === 'left out' && use.by === 'rule');
    const changes = changesBetween(setting, settingOf(asIfDecided(FANS, [out?.id ?? ''], 'keep')));
    const changed = changes.find(({ item }) => item.id === out?.itemId);
    expect((changed?.after.n ?? 0) - (changed?.before.n ?? 0)).toBe(1);
    expect(changed?.after.sd ?? 0).toBeGreaterThan(changed?.before.sd ?? 0);
  });
  it('says places of what is ranked', () => {
    const changes = changesBetween(
      settingOf(FANS),
      settingOf(
        asIfDecided(
          FANS,
          FANS.readings.map(({ id }) => id),
          'leave-out',
        ),
      ),
    );
    expect(changes.every(({ before }) => /^\d/.test(before.places))).toBe(true);
    expect(changes.every(({ after }) => after.n === 0 && after.mean === null)).toBe(true);
  });
});
