import { describe, expect, it } from 'vitest';
import loggedFile from '../../demo/logged-flasks.json' with { type: 'json' };
import recordedFile from '../../demo/recorded-fans.json' with { type: 'json' };
import type { StudyDocument } from '../model/study-document.ts';
import { testId } from '../testing-study.ts';
import { fileWords } from './from-files.ts';

const FANS = recordedFile as unknown as StudyDocument;
const FLASKS = loggedFile as unknown as StudyDocument;

describe('levels of recordings', () => {
  it('are said with what they were worked out from, and by what they are in dB', () => {
    expect(fileWords(FANS)).toEqual([
      '18 readings of Sound level were worked out from 3 recordings: equivalent level, A-weighted, background taken off, in dB by a calibrator’s tone (full scale 101.0 to 104.0 dB).',
    ]);
  });
  it('are spoken of as one where there is one', () => {
    const lone = structuredClone(FANS);
    lone.readings = lone.readings.slice(0, 1);
    expect(fileWords(lone)[0]).toMatch(
      /^1 reading of Sound level was worked out from 1 recording: .* \(full scale \d+\.\d dB\)\.$/,
    );
  });
  it('are said to be relative to full scale, or by a figure', () => {
    const typed = structuredClone(FANS);
    for (const calibration of typed.calibrations) {
      calibration.toneLevel = null;
      calibration.fullScale = 104;
    }
    expect(fileWords(typed)[0]).toContain('in dB by a figure for full scale (full scale 104.0 dB).');
    const [measurand] = typed.measurands;
    if (measurand) measurand.settings = { ...measurand.settings, scale: 'fullScale', background: 'in' };
    expect(fileWords(typed)[0]).toMatch(
      /equivalent level, A-weighted, relative to full scale, of recordings that must have the same gain\.$/,
    );
  });
});

describe('values of traces', () => {
  /** The flasks with other parts of their first readings, and with other settings. */
  function said(parts: Record<string, number | undefined>, readings = 1, settings = {}): string | undefined {
    const document = structuredClone(FLASKS);
    document.readings = document.readings.map((reading, i) => ({
      ...reading,
      parts:
        i < readings
          ? reading.parts.flatMap((part) => {
              const number = part.name in parts ? parts[part.name] : part.number;
              return number === undefined ? [] : [{ ...part, number }];
            })
          : reading.parts,
    }));
    document.measurands = document.measurands.map((measurand) => ({
      ...measurand,
      settings: { ...measurand.settings, ...settings },
    }));
    return fileWords(document)[0];
  }
  it('are said with their window and what was taken off', () => {
    expect(said({})).toBe(
      '25 readings of Time constant were worked out from 5 logged files: time constant, with “Room (°C)” taken off, from 0:30:00 to 8:00:00 after the start.',
    );
    expect(said({}, 1, { rest: 'fixed', restValue: 21.5 })).toContain(', with 21.5\u202f°C taken off, from');
    expect(said({}, 1, { rest: 'none' })).toContain(': time constant, from 0:30:00');
  });
  it('are said to be of several windows, or of none where no reading says one', () => {
    expect(said({ to: 28700 })).toMatch(/taken off, in windows of their own\.$/);
    for (const end of ['from', 'to'])
      expect(said({ [end]: undefined }, 1000)).toMatch(/with “Room \(°C\)” taken off\.$/);
  });
  it('are of another column where no reading says which', () => {
    const document = structuredClone(FLASKS);
    for (const reading of document.readings)
      reading.parts = reading.parts.filter(({ name }) => name !== 'less');
    expect(fileWords(document)[0]).toContain('with another column taken off');
  });
  it('are not spoken of where they were typed, left out, or worked out otherwise', () => {
    const document = structuredClone(FLASKS);
    const [first, second] = document.readings;
    if (first) first.parts = first.parts.filter(({ name }) => name !== 'file');
    expect(fileWords(document)[0]).toMatch(/^24 readings/);
    if (second) {
      const { id, studyId, version, createdAt, updatedAt } = second;
      document.decisions.push({
        ...{ id: testId(), studyId, version, createdAt, updatedAt },
        ...{ action: 'leave-out', readingId: id, sessionId: null, run: null, reason: 'The lid was off.' },
        decidedAt: updatedAt,
      });
    }
    expect(fileWords(structuredClone(document))[0]).toMatch(/^23 readings/);
  });
});
