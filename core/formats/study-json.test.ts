import { describe, expect, it } from 'vitest';
import deskFans from '../../demo/desk-fans.json' with { type: 'json' };
import type { StudyDocument } from '../model/study-document.ts';
import { studyJsonPieces } from './study-json.ts';

const FANS = deskFans as unknown as StudyDocument;

/** The fans with their readings again and again, as many as asked for. */
const fansOf = (readings: number): StudyDocument => ({
  ...FANS,
  readings: Array.from({ length: readings }, (_, i) => FANS.readings[i % FANS.readings.length] as never),
});

describe('a study as JSON, piece by piece', () => {
  it.each([0, 1, 999, 1000, 1001, 2500])('is the study, with %d readings', (readings) => {
    const document = fansOf(readings);
    const pieces = [...studyJsonPieces(document)];
    expect(JSON.parse(pieces.join(''))).toEqual(document);
    expect(pieces.filter((piece) => piece.includes('"parts"'))).toHaveLength(Math.ceil(readings / 1000));
  });
});
