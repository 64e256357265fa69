import { describe, expect, it } from 'vitest';
import flasksFile from '../../demo/vacuum-flasks.json' with { type: 'json' };
import againFile from '../../demo/vacuum-flasks-again.json' with { type: 'json' };
import type { StudyDocument } from '../model/study-document.ts';
import { seededRandom } from '../random/seeded.ts';
import { newSession } from '../plan/new-parts.ts';
import { earlierTests, sinceNotes, sinceSentence, sinceTable, trendWords } from '../report/since.ts';
import { testId, testStudy } from '../testing-study.ts';
import { sessionsRead } from '../bench/session.ts';
import { occasionOf } from './occasion.ts';
import { type SinceEarlier, sinceEarlier } from './since.ts';

const THEN = { Ama: [10.1, 10.4, 9.9, 10.2], Bel: [12, 12.3, 11.8], Cip: [9, 9.2, 9.1, 9.4] };
const NOW = { Ama: [9.6, 9.9, 9.7, 9.5], Bel: [12.1, 12.4, 12.2], Cip: [6, 6.3, 6.1, 6.2] };

/** A study of readings item by item, each in a round of its own. */
function read(readings: Record<string, number[]>, takenAt = '2026-05-04T10:00:00.000Z') {
  const names = Object.keys(readings);
  const made = testStudy(names, { rounds: 4, runOrder: 'full-shuffle' });
  names.forEach((name, item) =>
    readings[name]?.forEach((value, round) => {
      made.read(item, round + 1, String(value)).takenAt = takenAt;
    }),
  );
  return made;
}

const NOON = '2026-05-04T12:00:00.000Z';
const AS_READ = { settingKey: '', lessAmbient: false };

function held(
  now: ReturnType<typeof testStudy>,
  then: ReturnType<typeof testStudy>[],
  matches: { itemId: string; earlierItemId: string | null }[] = [],
): SinceEarlier {
  const since = sinceEarlier(
    now.document,
    now.measurand.id,
    occasionOf(now.document),
    then.map(({ document }) => ({ occasion: occasionOf(document), matches })),
    AS_READ,
  );
  if (!since) throw new Error('Nothing was read.');
  return since;
}

describe('the same items measured again', () => {
  const since = held(read(NOW), [read(THEN)]);
  it('change by as much as Welch’s t says, over all items at once', () => {
    // R 4.2: t.test(now, then, conf.level = 0.95^(1/3)), item by item.
    const expected = [
      [-0.475, -0.9217520401499, -0.0282479598501],
      [0.2, -0.560966529737, 0.960966529737],
      [-3.025, -3.38482818724, -2.66517181276],
    ];
    since.changes.forEach(([change], item) => {
      const [difference, low, high] = expected[item] as [number, number, number];
      expect(change?.difference).toBeCloseTo(difference, 9);
      expect(change?.interval?.[0]).toBeCloseTo(low, 7);
      expect(change?.interval?.[1]).toBeCloseTo(high, 7);
    });
    expect(since.changes.map(([change]) => change?.verdict)).toEqual(['falls', 'not settled', 'falls']);
  });
  it('agree within limits, and in their order', () => {
    // R 4.2: mean(d) ± 1.96 sd(d) of the means’ differences; cor(now, then, method = "spearman").
    const [agreed] = since.agreements;
    expect(agreed?.agreement.limits?.[0]).toBeCloseTo(-4.43380098386, 9);
    expect(agreed?.agreement.limits?.[1]).toBeCloseTo(2.23380098386, 9);
    expect(agreed?.ranks).toBeCloseTo(1, 12);
  });
  it('have no limits said of two items alone', () => {
    const titles = (names: readonly (keyof typeof NOW)[]) => {
      const of = (readings: typeof NOW) => Object.fromEntries(names.map((name) => [name, readings[name]]));
      return sinceNotes(held(read(of(NOW)), [read(of(THEN))]), 0).map(({ title }) => title);
    };
    expect(titles(['Ama', 'Bel', 'Cip'])).toContain('How well the tests agree');
    expect(titles(['Ama', 'Bel'])).not.toContain('How well the tests agree');
  });
  it('stand out where they changed otherwise than most others, however much one changed', () => {
    expect(since.changes.map(([change]) => change?.beyond?.standsOut)).toEqual([...[false, true, true]]);
    expect(since.changes[2]?.[0]?.beyond?.difference).toBeCloseTo(-3.025 - (0.2 - 0.475) / 2, 9);
    expect(sinceNotes(since, 0).map(({ title }) => title)).toContain('Bel and Cip stand out');
    expect(sinceSentence(since, 0)).toBe(
      'Ama and Cip read lower than then; what became of Bel is not settled.',
    );
  });
  it('are told as a table: then, now, what changed, and what that says', () => {
    const table = sinceTable(since, 0, 'Since then');
    expect([table.caption, table.figures]).toEqual(['Since then', [1, 2, 3, 4, 5]]);
    expect(table.head).toEqual(['Item', 'Then', 'Now', 'Change', '%', 'Beyond the others', 'What it says']);
    // Two figures of the narrowest half interval: 0.36 of Cip.
    expect(table.rows.map((row) => row.map(({ text }) => text))).toEqual([
      ['Ama', '10.15', '9.68', '−0.47 (−0.92 to −0.03)', '−4.7', '+0.94', 'lower than then'],
      ['Bel', '12.03', '12.23', '+0.20 (−0.56 to 0.96)', '+1.7', '+1.95', 'not settled; stands out'],
      ['Cip', '9.18', '6.15', '−3.03 (−3.38 to −2.67)', '−33.0', '−2.89', 'lower than then; stands out'],
    ]);
    expect(table.rows.map(([item]) => item?.mark)).toEqual(since.items.map(({ mark }) => mark));
  });
  it('are told of one that stands out, and of several, each as what it is', () => {
    const textOf = (now: Record<string, number[]>) => {
      const notes = sinceNotes(held(read(now), [read(THEN)]), 0);
      return notes.find(({ title }) => / stands? out$/u.test(title));
    };
    expect(sinceNotes(since, 0).find(({ title }) => title === 'Bel and Cip stand out')?.text).toMatch(
      /^They changed/u,
    );
    expect(textOf({ ...THEN, Cip: NOW.Cip })).toMatchObject({
      title: 'Cip stands out',
      text: expect.stringMatching(/^It changed otherwise than most others/u) as string,
    });
    expect(textOf(THEN)).toBeUndefined();
  });
  it('come out the same in another unit, and under other names matched by hand', () => {
    const then = read({ One: THEN.Ama, Two: THEN.Bel, Three: THEN.Cip });
    const now = read(NOW);
    const matches = now.items.map(({ id }, i) => ({ itemId: id, earlierItemId: then.items[i]?.id ?? null }));
    expect(held(now, [then], matches).changes).toEqual(since.changes);
    expect(held(now, [then]).tests[0]?.problem).toBe('None of the items was read at both tests.');
    const inKg = read(
      Object.fromEntries(Object.entries(THEN).map(([name, values]) => [name, values.map((g) => g / 1000)])),
    );
    inKg.measurand.unit = 'kg';
    held(now, [inKg]).changes.forEach(([change], item) => {
      expect(change?.interval?.[0]).toBeCloseTo(since.changes[item]?.[0]?.interval?.[0] ?? NaN, 9);
    });
  });
  it('are compared at the one setting that was read then, whatever it was called, and at none of two', () => {
    const levelled = (names: readonly string[]) => {
      const then = read({ Ama: [] });
      const stamp = { studyId: then.document.study.id, version: 1, createdAt: NOON, updatedAt: NOON };
      const factor = { ...stamp, id: testId(), name: 'Setting', kind: 'set' as const, unit: '', position: 1 };
      then.document.factors.push(factor as never);
      names.forEach((name, i) => {
        const level = { ...stamp, id: testId(), factorId: factor.id, name, value: null, position: i };
        then.document.levels.push(level as never);
        [10, 11].forEach((value, round) => {
          then.read(0, round + 1, String(value)).levels = [{ factorId: factor.id, levelId: level.id }];
        });
      });
      return then;
    };
    const now = read({ Ama: [9, 9.5] });
    expect(held(now, [levelled(['full'])]).tests[0]?.problem).toBeUndefined();
    expect(held(now, [levelled(['full', 'half'])]).tests[0]?.problem).toBe(
      'Nothing was read at this setting then.',
    );
  });
  it('say why where nothing can be compared', () => {
    const other = read(THEN);
    other.measurand.unit = 's';
    expect(held(read(NOW), [other]).tests[0]?.problem).toBe(
      'Pull was read in s then, which cannot be turned into g.',
    );
    other.measurand.name = 'Time';
    expect(held(read(NOW), [other]).tests[0]?.problem).toBe('Pull was not read then.');
  });
  it('are told one by one where they are few, and together where all went one way', () => {
    const moved = (by: Record<string, number>) =>
      held(
        read(
          Object.fromEntries(
            Object.entries(THEN).map(([name, values]) => [
              name,
              values.map((value) => value + (by[name] ?? 0)),
            ]),
          ),
        ),
        [read(THEN)],
      );
    const said = (by: Record<string, number>) => sinceSentence(moved(by), 0);
    expect(said({ Ama: 5, Bel: 5, Cip: 5 })).toBe('All 3 items read higher than then.');
    expect(said({ Ama: -5, Bel: -5, Cip: -5 })).toBe('All 3 items read lower than then.');
    expect(said({ Ama: 5, Bel: -5 })).toBe(
      'Ama reads higher than then; Bel reads lower than then; what became of Cip is not settled.',
    );
    const titles = (by: Record<string, number>) => sinceNotes(moved(by), 0).map(({ title }) => title);
    expect(titles({ Ama: 5, Bel: 5, Cip: 5 })).toContain('All items read higher than then');
    expect(titles({ Ama: -5, Bel: -5, Cip: -5 })).toContain('All items read lower than then');
    expect(titles({ Ama: 5, Bel: -5 }).join()).not.toContain('All items');
    const [, now] = [read(THEN), read(THEN)];
    now.measurand.margin = { kind: 'absolute', value: 3 };
    expect(sinceSentence(held(now, [read(THEN)]), 0)).toBe('All 3 items have not changed appreciably.');
    const alone = read({ Ama: THEN.Ama });
    alone.measurand.margin = { kind: 'absolute', value: 3 };
    expect(sinceSentence(held(alone, [read({ Ama: THEN.Ama })]), 0)).toBe('Ama has not changed appreciably.');
    expect(sinceSentence(moved({}), 7)).toBe('');
    expect(sinceNotes(moved({}), 7)).toEqual([]);
  });
  it('are judged by the instrument where each was read once', () => {
    const once = [read({ Ama: [10.2] }), read({ Ama: [10.1] }), read({ Ama: [7] })] as const;
    for (const { measurand } of once) {
      measurand.instrument = { ...measurand.instrument, accuracyConstant: 0.5 };
    }
    const [near, far] = [held(once[1], [once[0]]), held(once[2], [once[0]])];
    expect(near.changes[0]?.[0]).toMatchObject({ interval: null, withinAccuracy: true });
    expect(far.changes[0]?.[0]?.verdict).toBe('falls');
  });
});

describe('three tests', () => {
  const inMayOf = (year: number) => `${String(year)}-05-04T10:00:00.000Z`;
  const around = (mean: number) => [mean - 0.1, mean, mean + 0.1];
  it('show a trend of each item, in the order of their time', () => {
    const tests = [2024, 2025, 2026].map((year, i) =>
      read({ Ama: around(10 + 2 * i), Bel: around(i === 1 ? 9 : 8) }, inMayOf(year)),
    ) as [ReturnType<typeof read>, ReturnType<typeof read>, ReturnType<typeof read>];
    const since = held(tests[2], [tests[1], tests[0]]);
    expect(since.tests.map(({ startedAt }) => startedAt.slice(0, 4))).toEqual(['2024', '2025', '2026']);
    expect(since.trends[0]?.slope).toBeCloseTo(2, 2);
    expect(trendWords(since.trends[0] ?? null, (value) => value.toFixed(1))).toMatch(/^rises by 2\.0 a year/);
    expect(trendWords(since.trends[1] ?? null, String)).toBe('no trend settled over 3 tests');
    expect(since.changes[0]?.map((change) => change?.difference.toFixed(3))).toEqual(['4.000', '2.000']);
  });
});

describe('sessions of one study', () => {
  it('are held against one another as tests are', () => {
    const made = read(THEN);
    const { document } = made;
    const [first, last] = ['2026-05-04T09:00:00.000Z', '2026-09-04T09:00:00.000Z'].map((startedAt) => ({
      ...{ id: testId(), studyId: document.study.id, version: 1, createdAt: startedAt, updatedAt: startedAt },
      ...newSession(startedAt),
    })) as [StudyDocument['sessions'][number], StudyDocument['sessions'][number]];
    document.sessions.push(last, first);
    for (const reading of document.readings) reading.sessionId = first.id;
    Object.values(NOW).forEach((values, item) => {
      values.forEach((value, round) => {
        made.read(item, round + 5, String(value)).sessionId = last.id;
      });
    });
    expect(sessionsRead(document).map(({ id }) => id)).toEqual([first.id, last.id]);
    const since = sinceEarlier(
      document,
      made.measurand.id,
      occasionOf(document, last.id),
      [{ occasion: occasionOf(document, first.id), matches: [] }],
      AS_READ,
    );
    expect(since?.changes[2]?.[0]?.difference).toBeCloseTo(-3.025, 9);
    expect(since?.tests[0]?.means[0]?.n).toBe(4);
  });
});

describe('the vacuum flasks', () => {
  const [flasks, again] = [flasksFile, againFile] as unknown as [StudyDocument, StudyDocument];
  const found = (name: string, lessAmbient = false) =>
    sinceEarlier(
      again,
      again.measurands.find((measurand) => measurand.name === name)?.id ?? '',
      occasionOf(again),
      [{ occasion: occasionOf(flasks), matches: [] }],
      { settingKey: '', lessAmbient },
    ) as SinceEarlier;
  it('all end colder in a colder room, and one alone keeps less of its heat', () => {
    const raw = found('Water after 8 h');
    expect(raw.changes.every(([change]) => change?.verdict === 'falls')).toBe(true);
    expect(sinceSentence(raw, 0)).toBe('All 5 items read lower than then.');
    expect(sinceNotes(raw, 0).map(({ title }) => title)).toEqual([
      'All items read lower than then',
      'Quarn stands out',
      'How well the tests agree',
      'The ambient is in it',
    ]);
    expect(sinceSentence(found('Heat kept'), 0)).toBe(
      'Quarn reads lower than then; Orrin, Velt 1, Tamsel and Bresk have not changed appreciably.',
    );
  });
  it('say where one test was set right and the other was not', () => {
    const tared = {
      ...again,
      measurands: again.measurands.map((measurand) =>
        measurand.name === 'Water after 8 h'
          ? { ...measurand, corrections: { ...measurand.corrections, tare: { on: true, value: 2 } } }
          : measurand,
      ),
    };
    const since = sinceEarlier(
      tared,
      tared.measurands.find(({ name }) => name === 'Water after 8 h')?.id ?? '',
      occasionOf(tared),
      [{ occasion: occasionOf(flasks), matches: [] }],
      { settingKey: '', lessAmbient: false },
    ) as SinceEarlier;
    const note = sinceNotes(since, 0).find(({ title }) => title === 'The tests were not set right alike');
    expect(note?.text.replaceAll('\u202f', ' ')).toContain('Then: none. Now: tare of 2 °C taken off.');
    expect(since.changes[0]?.[0]?.difference).toBeCloseTo(
      (found('Water after 8 h').changes[0]?.[0]?.difference ?? 0) - 2,
      9,
    );
  });
  it('have no value less the ambient, since it was not read one night', () => {
    expect(found('Water after 8 h', true).tests[0]?.problem).toBe(
      'The ambient temperature is not known for both tests.',
    );
  });
  it('go into the report, which says what is not at hand', () => {
    const blocks = earlierTests(again, [occasionOf(flasks)], (instant) => instant.slice(0, 10));
    const tables = blocks.flatMap((block) => (block.kind === 'table' ? [block.table] : []));
    expect(tables.map(({ caption }) => caption)).toEqual([
      'Water after 8 h, °C: then is Vacuum flasks, 2026-06-08',
      'Heat kept, %: then is Vacuum flasks, 2026-06-08',
    ]);
    // What stands on the page as the title of a note begins it here.
    const notes = sinceNotes(found('Heat kept'), 0);
    const texts = blocks.flatMap((block) => (block.kind === 'text' ? [block.text] : []));
    expect(notes.length).toBeGreaterThan(0);
    for (const { title, text } of notes) expect(texts).toContain(`${title}. ${text}`);
    expect(sinceTable(found('Heat kept'), 0, '').head).toEqual([
      ...['Item', 'Then', 'Now', 'Change', 'Beyond the others', 'What it says'],
    ]);
    expect(earlierTests(again, [], String)).toEqual([
      { kind: 'text', text: 'Not at hand, so not compared with: Vacuum flasks.' },
    ]);
    const blind = { ...again, study: { ...again.study, blind: 'blind' as const } };
    expect(earlierTests(blind, [occasionOf(flasks)], String)).toEqual([]);
  });
});

describe('tests between which nothing changed', () => {
  it.each([
    ['of equal spreads', () => 1],
    ['with one wild item', (item: number) => (item === 0 ? 10 : 1)],
  ])(
    'say that something did in one of twenty at most, and rarely that an item stands out: %s',
    (_what, sd) => {
      const random = seededRandom(23);
      const studies = 250;
      let [changed, out] = [0, 0];
      const test = (moved: number) =>
        read(
          Object.fromEntries(
            ['A', 'B', 'C', 'D'].map((name, item) => [
              name,
              Array.from({ length: 4 }, () =>
                Number((50 + item + moved + sd(item) * random.normal()).toFixed(3)),
              ),
            ]),
          ),
        );
      for (let study = 0; study < studies; study += 1) {
        const [then, now, moved] = [test(0), test(0), test(5)];
        if (held(now, [then]).changes.some(([change]) => ['rises', 'falls'].includes(change?.verdict ?? '')))
          changed += 1;
        if (held(moved, [then]).changes.some(([change]) => change?.beyond?.standsOut)) out += 1;
      }
      // Three standard errors of the simulation are left to chance.
      expect(changed / studies).toBeLessThan(0.05 + 0.041);
      expect(out / studies).toBeLessThan(0.05 + 0.041);
    },
  );
});
