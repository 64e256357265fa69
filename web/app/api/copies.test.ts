import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { testStudy } from '../../../core/testing-study.ts';
import { eventually } from '../../testing.ts';
import { copiedStudies, copyDocument, copyOf, copyPart, copyWithout } from './copies.ts';

const is = async (id: string, what: unknown) => {
  let copy: unknown;
  await eventually(() => {
    void copyOf(id).then((found) => {
      copy = found;
    });
    expect(copy).toEqual(what);
  });
};

describe('the copy of a study in the browser', () => {
  it('is the study as it was fetched, with what was recorded and changed since', async () => {
    const { document, items, read } = testStudy(['Ama', 'Bel']);
    read(0, 1, '3');
    const { id } = document.study;
    const fetched = structuredClone(document);
    copyDocument(fetched, Date.now());
    await is(id, fetched);
    const later = read(1, 1, '4');
    copyPart(id, 'readings', later);
    const renamed = { ...(items[0] as (typeof items)[number]), name: 'Amo', version: 2 };
    copyPart(id, 'items', renamed);
    copyWithout(id, 'items', items[1]?.id ?? '');
    copyPart(id, 'study', { ...document.study, title: 'Later', version: 2 });
    await is(id, {
      ...fetched,
      study: { ...document.study, title: 'Later', version: 2 },
      items: [renamed],
      readings: [...fetched.readings, later],
    });
    expect((await copiedStudies()).map((study) => study.id)).toContain(id);
  });
  it('keeps what came while the study was being fetched, and forgets what the fetch brought', async () => {
    const { document, read } = testStudy(['Ama']);
    const { id } = document.study;
    const before = structuredClone(document);
    const early = read(0, 1, '3');
    copyDocument(before, Date.now());
    await is(id, before);
    const since = Date.now() - 1000;
    copyPart(id, 'readings', early);
    await is(id, { ...before, readings: [early] });
    // This fetch began before the reading was recorded, and does not know it.
    copyDocument(before, since);
    await is(id, { ...before, readings: [early] });
    // This one knows that it was taken away again somewhere else.
    copyDocument(before, Date.now() + 1000);
    await is(id, before);
  });
  it('never goes back to an older version of a part', async () => {
    const { document, items } = testStudy(['Ama']);
    const { id } = document.study;
    const newer = { ...(items[0] as (typeof items)[number]), name: 'Newer', version: 3 };
    const held = { ...document, items: [newer] };
    copyDocument(held, Date.now());
    copyPart(id, 'items', { ...newer, name: 'Older', version: 2 });
    await is(id, held);
  });
  it('is not made of a study that would hold the page up, nor where there is none', async () => {
    const { document, read } = testStudy(['Ama']);
    const reading = read(0, 1, '3');
    copyDocument(document, Date.now());
    await is(document.study.id, document);
    copyDocument({ ...document, readings: Array.from({ length: 20_001 }, () => reading) }, Date.now());
    await is(document.study.id, undefined);
    expect(await copyOf('nowhere')).toBeUndefined();
  });
});
