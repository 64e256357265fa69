import { describe, expect, it } from 'vitest';
import recordedFile from '../../demo/recorded-fans.json' with { type: 'json' };
import { inspectStudy } from '../analysis/inspect-study.ts';
import { SOUND_PARTS } from '../forms/recording.ts';
import type { StudyDocument } from '../model/study-document.ts';

const FANS = recordedFile as unknown as StudyDocument;
/** The study with other parts of its readings. */
function changed(round: number, change: Record<string, number | string | undefined>): StudyDocument {
  const document = structuredClone(FANS);
  for (const reading of document.readings.filter((found) => found.round === round)) {
    reading.parts = [
      ...reading.parts.filter(({ name }) => !(name in change)),
      ...Object.entries(change).flatMap(([name, value]) =>
        value === undefined
          ? []
          : [{ name, text: String(value), number: typeof value === 'number' ? value : null }],
      ),
    ];
  }
  return document;
}
const found = (document: StudyDocument, kind: string) =>
  inspectStudy(document).find((finding) => finding.kind === kind);

describe('recordings', () => {
  it('that are clipped are noticed, with their readings', () => {
    expect(found(FANS, 'clipped')).toBeUndefined();
    const document = changed(2, { [SOUND_PARTS.clipped]: 12 });
    const finding = found(document, 'clipped');
    expect(finding?.message).toBe(
      '6 readings of Sound level are of sounds that were too loud for the recorder: their levels are at least that.',
    );
    expect(finding?.readingIds).toHaveLength(6);
  });
  it('of another gain are noticed where none has a tone of its own', () => {
    expect(found(FANS, 'other gain')).toBeUndefined();
    const [first] = FANS.calibrations;
    const borrowing = changed(2, { [SOUND_PARTS.background]: 41 });
    expect(found(borrowing, 'other gain')).toBeUndefined();
    borrowing.calibrations = FANS.calibrations.map((calibration) => ({
      ...calibration,
      ...{ fileId: null, channel: null, toneFrom: null, toneTo: null, toneLevel: null },
    }));
    expect(found(borrowing, 'other gain')?.message).toMatch(
      /^The background of round-2\.wav lies 11\.\d dB above that of round-1\.wav, and neither/,
    );
    // The third round is 6.5 dB louder than the first; by a tone of its own that is the room.
    const third = changed(3, { [SOUND_PARTS.calibration]: first?.id });
    expect(found(third, 'other gain')).toBeUndefined();
  });
});
