import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import type { StudyDocument } from '../model/study-document.ts';
import { screenedOf } from './observed.ts';
import { readingDetails } from './reading-details.ts';

const demo = (name: string) => JSON.parse(readFileSync(`demo/${name}.json`, 'utf8')) as StudyDocument;

/** What is known of the first reading of a measurand. */
function detailsOf(document: StudyDocument, place = 0) {
  const [measurand] = document.measurands;
  if (!measurand) throw new Error('The study has no measurand.');
  const observation = screenedOf(document, measurand).observations[place];
  if (!observation) throw new Error('The study has no such reading.');
  return { observation, details: readingDetails(document, measurand, observation) };
}

describe('what is known of a reading', () => {
  it('says its session, its conditions and how it came; a number that stands as it was typed is not said twice', () => {
    const { details } = detailsOf(demo('desk-fans'));
    expect(details.parts).toEqual([]);
    expect(details.source).toBe('typed');
    expect(details.session?.instrument).toBe('Vane anemometer');
    expect(details.conditions).toEqual([
      { name: 'Air temperature', text: '21.2\u202f°C' },
      { name: 'Mains voltage', text: '231\u202fV' },
    ]);
  });
  it('says each part with its unit, and many as one text', () => {
    const pair = detailsOf(demo('kitchen-thermometers')).details.parts;
    expect(pair.map(({ name }) => name)).toEqual(['Reference', 'Indicated']);
    for (const { text } of pair) expect(text).toMatch(/^-?\d+\.\d\u202f°C$/);
    const ramp = demo('desk-fans');
    const releases = Array.from({ length: 12 }, (_, i) => ({
      ...{ name: `release${String(i + 1)}`, text: String(i + 1), number: i + 1 },
    }));
    Object.assign(ramp.measurands[0] ?? {}, { form: 'ramp', settings: { counts: 'nth', releases: 12 } });
    Object.assign(ramp.readings[0] ?? {}, { parts: releases });
    const [many, ...others] = detailsOf(ramp).details.parts;
    expect(others).toEqual([]);
    expect(many?.name).toBe('12 parts');
    expect(many?.text.split('; ')).toHaveLength(12);
  });
  it('says ten parts one by one', () => {
    const ramp = demo('desk-fans');
    const releases = Array.from({ length: 10 }, (_, i) => ({
      ...{ name: `release${String(i + 1)}`, text: String(i + 1), number: i + 1 },
    }));
    Object.assign(ramp.measurands[0] ?? {}, { form: 'ramp', settings: { counts: 'nth', releases: 10 } });
    Object.assign(ramp.readings[0] ?? {}, { parts: releases });
    expect(detailsOf(ramp).details.parts).toHaveLength(10);
  });
  it('says what a condition was at that very moment', () => {
    const fans = demo('desk-fans');
    const [reading] = fans.readings;
    const session = fans.sessions.find(({ id }) => id === reading?.sessionId);
    const [first] = session?.conditions ?? [];
    if (!reading || !session || !first) throw new Error('Nothing was noted.');
    const then = (takenAt: string) => ({ ...first, at: 'during' as const, takenAt, text: '25', number: 25 });
    const others = session.conditions;
    session.conditions = [...others, then(reading.takenAt)];
    expect(detailsOf(structuredClone(fans)).details.conditions[0]?.text).toBe('25\u202f°C');
    session.conditions = [...others, then(new Date(Date.parse(reading.takenAt) + 1).toISOString())];
    expect(detailsOf(structuredClone(fans)).details.conditions[0]?.text).toBe('21.2\u202f°C');
  });
  it('leaves the cells of a grid to the picture of where they lie', () => {
    expect(detailsOf(demo('lawn-sprinklers')).details.parts).toEqual([]);
  });
  it('says of a recording what belongs to its value, and the value once', () => {
    const names = detailsOf(demo('recorded-fans')).details.parts.map(({ name }) => name);
    expect(names.slice(0, 3)).toEqual(['From', 'To', 'Channel']);
    expect(names).toContain('Background');
  });
  it('keeps what was typed in another way as it was typed', () => {
    const document = demo('desk-fans');
    const [reading] = document.readings;
    Object.assign(reading ?? {}, { parts: [{ name: 'value', text: '12,6 km/h', number: 3.5 }] });
    expect(detailsOf(document).details.parts).toEqual([{ name: 'Reading', text: '12,6 km/h' }]);
  });
  it('has each condition as it was noted last before the reading, or first where nothing was before', () => {
    const document = demo('desk-fans');
    const { observation } = detailsOf(document);
    const session = document.sessions.find(({ id }) => id === observation.sessionId);
    const [air] = document.conditions;
    const noted = (takenAt: string, text: string) => ({
      ...{ conditionId: air?.id ?? '', at: 'during' as const, takenAt, text, number: Number(text) },
    });
    const moment = Date.parse(observation.takenAt);
    const before = new Date(moment - 1000).toISOString();
    const after = new Date(moment + 1000).toISOString();
    const airThen = () => detailsOf(document).details.conditions[0]?.text;
    Object.assign(session ?? {}, { conditions: [noted(after, '25')] });
    expect(airThen()).toBe('25\u202f°C');
    Object.assign(session ?? {}, { conditions: [noted(before, '22'), noted(after, '25')] });
    expect(airThen()).toBe('22\u202f°C');
  });
  it('has the notes and photos to it, its run, its item and its session, and no other', () => {
    const document = demo('desk-fans');
    const { observation } = detailsOf(document);
    const { id: readingId, itemId, sessionId } = observation;
    const other = document.readings.find((reading) => reading.itemId !== itemId);
    const nothing = { readingId: null, itemId: null, sessionId: null, run: null };
    const about = [
      { ...nothing, readingId },
      { ...nothing, itemId },
      { ...nothing, sessionId },
      { ...nothing, itemId: other?.itemId ?? '' },
      { ...nothing, readingId: other?.id ?? '' },
      nothing,
    ];
    document.notes = about.map((to, i) => ({
      ...{ id: String(i), studyId: document.study.id, version: 1, createdAt: '', updatedAt: '' },
      ...{ ...to, text: 'seen', photo: null, removed: false, notedAt: '' },
    }));
    expect(detailsOf(document).details.remarks.map(({ id }) => id)).toEqual(['0', '1', '2']);
    Object.assign(document.notes[1] ?? {}, { removed: true });
    expect(detailsOf(document).details.remarks.map(({ id }) => id)).toEqual(['0', '2']);
  });
  it('names the readings from which a value was worked out', () => {
    const document = demo('desk-fans');
    const derived = document.measurands.find(({ expression }) => expression !== null);
    if (!derived) throw new Error('The demo has no derived measurand.');
    const [observation] = screenedOf(document, derived).observations;
    if (!observation) throw new Error('Nothing was worked out.');
    const { from, source, parts } = readingDetails(document, derived, observation);
    expect(from.map(({ name }) => name)).toEqual(['Air speed at one metre', 'Power']);
    expect([source, parts]).toEqual([undefined, []]);
  });
});
