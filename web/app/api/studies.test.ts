import { QueryObserver } from '@tanstack/react-query';
import { v7 } from 'uuid';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { idAt } from '../../../core/model/id-time.ts';
import type { Item, Reading, Session } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { newSession } from '../../../core/plan/new-parts.ts';
import { testStudy } from '../../../core/testing-study.ts';
import { Refusal, ServerAway, problemText, request } from './client.ts';
import { outbox } from './outbox.ts';
import {
  Conflict,
  createPart,
  deletePart,
  documentOptions,
  followedOptions,
  hearState,
  newInstant,
  newRecordId,
  patchInTurn,
  keepLivePart,
  keepLiveStudy,
  patchPart,
  patchStudy,
  queryClient,
} from './studies.ts';
import { eventually } from '../../testing.ts';

interface Sent {
  method: string;
  address: string;
  body: Record<string, unknown>;
}

let sent: Sent[];
/** What the server answers, one after the other. */
let answers: { status: number; body?: unknown }[];

beforeEach(() => {
  sent = [];
  answers = [];
  queryClient.clear();
  vi.stubGlobal('fetch', (address: string, { method, body }: { method: string; body?: string }) => {
    sent.push({
      method,
      address,
      body: body === undefined ? {} : (JSON.parse(body) as Record<string, unknown>),
    });
    const answer = answers.shift();
    if (!answer) return Promise.reject(new TypeError('failed to fetch'));
    return Promise.resolve(
      new Response(answer.body === undefined ? null : JSON.stringify(answer.body), { status: answer.status }),
    );
  });
});
afterEach(() => {
  vi.unstubAllGlobals();
});

const opened = () => {
  const made = testStudy(['Ama', 'Bel']);
  const key = ['study', made.document.study.id];
  queryClient.setQueryData(key, made.document);
  return {
    ...made,
    item: made.items[0] as Item,
    cached: () => queryClient.getQueryData<StudyDocument>(key) as StudyDocument,
  };
};

describe('an edit by version', () => {
  it('names the version that it saw, and keeps what comes back', async () => {
    const { item, cached } = opened();
    answers = [{ status: 200, body: { ...item, name: 'Amabel', version: 2 } }];
    await patchPart('items', item, { name: 'Amabel' });
    expect(sent).toMatchObject([{ method: 'PATCH', body: { version: 1, name: 'Amabel' } }]);
    expect(cached().items[0]).toMatchObject({ name: 'Amabel', version: 2 });
  });
  it('is sent once more on top of a change of another field', async () => {
    const { item, cached } = opened();
    const theirs = { ...item, code: 'AX', version: 5 };
    answers = [
      { status: 409, body: { detail: 'Changed elsewhere.', current: theirs } },
      { status: 200, body: { ...theirs, name: 'Amabel', version: 6 } },
    ];
    await patchPart('items', item, { name: 'Amabel' });
    expect(sent.map(({ body }) => body.version)).toEqual([1, 5]);
    expect(cached().items[0]).toMatchObject({ name: 'Amabel', code: 'AX', version: 6 });
  });
  it('waits for the one before it, and is made of what that left', async () => {
    const { item, cached } = opened();
    const attribute = (name: string) => ({ name, value: 1, unit: '' });
    answers = [
      { status: 200, body: { ...item, attributes: [attribute('Mass')], version: 2 } },
      { status: 500, body: { detail: 'No.' } },
      {
        status: 200,
        body: { ...item, attributes: [attribute('Mass'), attribute('Price')], version: 3 },
      },
    ];
    const add = (name: string) =>
      patchInTurn('items', item, (now) => ({ attributes: [...now.attributes, attribute(name)] }));
    const [first, refused, last] = await Promise.allSettled([add('Mass'), add('Length'), add('Price')]);
    expect([first.status, refused.status, last.status]).toEqual(['fulfilled', 'rejected', 'fulfilled']);
    expect(sent.map(({ body }) => body.version)).toEqual([1, 2, 2]);
    expect(sent[2]?.body.attributes).toEqual([attribute('Mass'), attribute('Price')]);
    expect(cached().items[0]?.attributes).toHaveLength(2);
  });
  it('is a conflict when the same field was changed, and shows theirs', async () => {
    const { item, cached } = opened();
    answers = [
      { status: 409, body: { detail: 'Changed.', current: { ...item, name: 'Theirs', version: 2 } } },
    ];
    await expect(patchPart('items', item, { name: 'Mine' })).rejects.toBeInstanceOf(Conflict);
    expect(cached().items[0]?.name).toBe('Theirs');
    expect(sent).toHaveLength(1);
  });
  it('is a refusal with its sentence when it is not valid', async () => {
    const { document, cached } = opened();
    answers = [
      {
        status: 422,
        body: { detail: 'x', errors: [{ path: '/title', message: '“title” must not be empty.' }] },
      },
    ];
    const failure: unknown = await patchStudy(document.study, { title: '' }).catch((error: unknown) => error);
    expect(failure).toBeInstanceOf(Refusal);
    expect(problemText(failure)).toBe('“title” must not be empty.');
    expect(cached().study.title).toBe('Test study');
  });
  it('changes nothing while the server is away', async () => {
    const { item, cached } = opened();
    await expect(patchPart('items', item, { name: 'Amabel' })).rejects.toBeInstanceOf(ServerAway);
    expect(cached().items[0]?.name).toBe('Ama');
  });
});

describe('parts', () => {
  it('are made with an id of ours and come into the study', async () => {
    const { document, item, cached } = opened();
    answers = [{ status: 201, body: { ...item, id: 'new', name: 'Cor' } }];
    await createPart(document.study.id, 'items', { ...item, name: 'Cor', id: 'new' });
    expect(sent[0]?.body).toMatchObject({ id: 'new', name: 'Cor' });
    expect(cached().items.map(({ name }) => name)).toEqual(['Ama', 'Bel', 'Cor']);
  });
  it('are deleted by version and leave the study', async () => {
    const { item, cached } = opened();
    answers = [{ status: 204 }];
    await deletePart('items', item);
    expect(sent[0]?.address).toContain('?version=1');
    expect(cached().items.map(({ name }) => name)).toEqual(['Bel']);
  });
  it('stay when the server keeps them', async () => {
    const { item, cached } = opened();
    answers = [{ status: 409, body: { detail: 'This item has 8 readings, so it stays in the record.' } }];
    await expect(deletePart('items', item)).rejects.toThrow('8 readings');
    expect(cached().items).toHaveLength(2);
  });
});

describe('a step at the bench after the clock was set back', () => {
  it('still comes behind the readings, the steps and the ids before it', () => {
    const { document, cached } = opened();
    const studyId = document.study.id;
    const tenOClock = '2036-05-04T10:00:00.000Z';
    const session: Session = {
      ...{ id: newRecordId(studyId), studyId, version: 1, createdAt: tenOClock, updatedAt: tenOClock },
      ...newSession('2036-05-04T09:00:00.000Z'),
      pauses: [{ from: tenOClock, to: null }],
    };
    queryClient.setQueryData(['study', studyId], { ...cached(), sessions: [session] });
    expect(newInstant(studyId)).toBe('2036-05-04T10:00:00.001Z');
    expect(newRecordId(studyId) > idAt(tenOClock)).toBe(true);
    const reading = {
      ...(document.readings[0] as Reading),
      id: v7({ msecs: Date.parse(tenOClock) + 60000 }),
    };
    queryClient.setQueryData(['study', studyId], { ...cached(), readings: [reading] });
    expect(newInstant(studyId)).toBe('2036-05-04T10:01:00.001Z');
  });
  it('is told by the clock as long as that goes on', () => {
    const { document } = opened();
    const before = Date.now();
    expect(Date.parse(newInstant(document.study.id))).toBeGreaterThanOrEqual(before);
    expect(Date.parse(newInstant(document.study.id))).toBeLessThan(before + 60000);
  });
});

describe('a reading that was recorded', () => {
  it('comes into the study that is open, once', () => {
    const { document, read, cached } = opened();
    const reading = { ...read(0, 1, '3'), id: 'recorded' };
    document.readings.length = 0;
    outbox.onRecorded('readings', reading);
    outbox.onRecorded('readings', reading);
    expect(cached().readings).toEqual([reading]);
  });
  it('comes into a study that is still being fetched', async () => {
    const { document, read } = testStudy(['Ama']);
    const reading: Reading = { ...read(0, 1, '3'), id: 'recorded' };
    document.readings.length = 0;
    const key = ['study', document.study.id];
    let arrive: (value: StudyDocument) => void = () => undefined;
    const fetching = new Promise<StudyDocument>((resolve) => {
      arrive = resolve;
    });
    const observer = new QueryObserver(queryClient, { queryKey: key, queryFn: () => fetching });
    const stop = observer.subscribe(() => undefined);
    outbox.onRecorded('readings', reading);
    arrive(document);
    await eventually(() => {
      expect(queryClient.getQueryData<StudyDocument>(key)?.readings).toEqual([reading]);
    });
    stop();
  });
  it('of a study that is not open changes nothing', () => {
    const { read } = testStudy(['Ama']);
    outbox.onRecorded('readings', read(0, 1, '3'));
    expect(queryClient.getQueryCache().getAll()).toEqual([]);
  });
});

describe('a study that is fetched again', () => {
  it('never brings back an older version of what the page has had', async () => {
    const { document, items } = testStudy(['Ama', 'Bel']);
    const { id } = document.study;
    const [ama, bel] = items as [Item, Item];
    const newer = { ...ama, name: 'Amo', version: 2 };
    queryClient.setQueryData(['study', id], { ...document, items: [newer, bel] });
    // The answer was read before the change, and knows another one of Bel.
    const changed = { ...bel, name: 'Belo', version: 3 };
    answers = [{ status: 200, body: { ...document, items: [ama, changed] } }];
    await queryClient.query(documentOptions(id));
    const held = queryClient.getQueryData<StudyDocument>(['study', id]);
    expect(held?.items).toEqual([newer, changed]);
    expect(held?.items[0]).toBe(newer);
  });
});

describe('a study that is followed', () => {
  it('is not fetched again because time went by, only where something was missed', async () => {
    const { document } = testStudy(['Ama', 'Bel']);
    const { id } = document.study;
    queryClient.setQueryData(['study', id], document, { updatedAt: 1 });
    const leave = new QueryObserver(queryClient, followedOptions(id)).subscribe(() => undefined);
    expect(sent).toEqual([]);
    answers = [{ status: 200, body: document }];
    hearState(id, 'a start:7', false);
    await eventually(() => {
      expect(sent.map(({ address }) => address)).toContain(`/api/v1/studies/${id}/document?readings=4000`);
    });
    leave();
  });
});

describe('an answer that comes late', () => {
  it('never takes the place of what is newer: a part, the study, or the log of changes', async () => {
    const { document, item, cached } = opened();
    const { id, version } = document.study;
    answers = [{ status: 200, body: { ...item, name: 'Amabel', version: 2 } }];
    const edit = patchPart('items', item, { name: 'Amabel' });
    const renamed = { ...item, name: 'Amalia', version: 3 };
    keepLivePart(id, 'items', renamed);
    await edit;
    expect(cached().items[0]?.name).toBe('Amalia');
    answers = [{ status: 200, body: { ...document.study, title: 'Old', version: version + 1 } }];
    const rename = patchStudy(document.study, { title: 'Old' });
    keepLiveStudy(id, { ...document.study, title: 'New', version: version + 2 } as never);
    await rename;
    expect(cached().study.title).toBe('New');
  });
  it('is the same list of all else', async () => {
    const { item, cached } = opened();
    const { items, readings, measurands } = cached();
    answers = [{ status: 200, body: { ...item, name: 'Amabel', version: 2 } }];
    await patchPart('items', item, { name: 'Amabel' });
    const now = cached();
    expect(now.items[1]).toBe(items[1]);
    expect(now.readings).toBe(readings);
    expect(now.measurands).toBe(measurands);
  });
});

describe('what the server answers', () => {
  it.each([502, 503, 504])('with %i it is away', async (status) => {
    answers = [{ status, body: {} }];
    await expect(request('GET', '/studies')).rejects.toBeInstanceOf(ServerAway);
  });
  it('that is no JSON, it is away too', async () => {
    vi.stubGlobal('fetch', () => Promise.resolve(new Response('<html>', { status: 200 })));
    await expect(request('GET', '/studies')).rejects.toBeInstanceOf(ServerAway);
  });
  it('is told in sentences that say what is kept', () => {
    expect(problemText(new ServerAway())).toContain('What you typed is still here.');
    expect(problemText(new Refusal(409, 'This was changed.'))).toBe('This was changed.');
    expect(problemText(new Error('odd'))).toBe('odd');
    expect(problemText('odd')).toBe('odd');
  });
});
