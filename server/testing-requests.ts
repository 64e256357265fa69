import { v7 } from 'uuid';
import { studyToCsv } from '../core/formats/study-csv.ts';
import type { StudyDocument } from '../core/model/study-document.ts';
import { newSession } from '../core/plan/new-parts.ts';
import type { TestServer } from './testing.ts';

/** Method, address and body. */
export type Asked = readonly [string, string, unknown];

/** Requests to a server as they should be, of a study that is made for it; each is to be sent with something in it turned. */
export async function requestsTo(server: TestServer) {
  const { studyId, itemId, measurandId } = await server.readyStudy();
  const address = `/studies/${studyId}`;
  await server.send('POST', `${address}/readings`, server.readingFields(itemId, measurandId, '3'));
  const document = (await server.send('GET', `${address}/document`)).body as unknown as StudyDocument;
  const time = '2026-07-04T09:00:00.000Z';
  const session = { id: v7(), ...newSession(time), kind: 'import', endedAt: time };
  const requests: readonly Asked[] = [
    ['POST', '/studies', { id: v7(), title: 'A', question: '', rounds: 3, seed: 1 }],
    [
      'PATCH',
      address,
      { version: 1, title: 'B', struck: [{ itemId, levelIds: [] }], looks: { after: [2], spending: 'late' } },
    ],
    ['POST', `${address}/items`, server.itemFields('Bel', 'B')],
    [
      'PATCH',
      `${address}/items/${itemId}`,
      { version: 1, attributes: [{ name: 'Mass', value: 2, unit: 'g' }] },
    ],
    [
      'POST',
      `${address}/measurands`,
      { ...server.measurandFields(), name: 'Push', expression: 'pull * 2', settings: { readUnit: 'g' } },
    ],
    [
      'PATCH',
      `${address}/measurands/${measurandId}`,
      { version: 1, form: 'fed-recovered', unit: '%', settings: { readUnit: 'g' } },
    ],
    ['POST', `${address}/readings`, server.readingFields(itemId, measurandId, '4', 2)],
    ['POST', `${address}/rounds`, { id: v7(), number: 1, sessionId: null, note: '' }],
    ['POST', `${address}/sessions`, { ...session, id: v7() }],
    [
      'POST',
      `${address}/decisions`,
      {
        id: v7(),
        action: 'leave-out',
        readingId: document.readings[0]?.id,
        sessionId: null,
        run: null,
        reason: 'x',
        decidedAt: time,
      },
    ],
    [
      'POST',
      `${address}/notes`,
      {
        id: v7(),
        readingId: null,
        itemId,
        sessionId: null,
        run: null,
        text: 'x',
        photo: null,
        removed: false,
        notedAt: time,
      },
    ],
    [
      'POST',
      `${address}/import-readings`,
      {
        session,
        items: [itemId],
        measurands: [measurandId],
        settings: [[]],
        rows: [{ item: 0, measurand: 0, setting: 0, round: 1, texts: { value: '3' }, takenAt: null }],
      },
    ],
    ['POST', `${address}/duplicate`, { id: v7(), title: 'C', extent: 'everything' }],
    ['POST', '/studies/import', document],
    ['POST', '/studies/import?copy=yes', document],
    ['POST', '/studies/import?copy=yes', studyToCsv(document)],
    ['POST', '/studies/import', 'item,round,value,taken_at\nAma,1,3.5,2026-07-04\n#Bel,2,4,\n'],
    ['GET', `${address}/readings-behind/${document.readings[0]?.id ?? ''}?most=5`, undefined],
    ['GET', `${address}/document?readings=1`, undefined],
    ['DELETE', `${address}/items/${itemId}?version=1`, undefined],
    ['POST', '/instruments', { host: '127.0.0.1', port: 1 }],
    ['POST', `${address}/logs`, { instrumentId: '127.0.0.1:1', column: 'Ama', periodS: 1 }],
    ['POST', `${address}/recordings`, { instrumentId: '127.0.0.1:1' }],
    ['POST', `${address}/recordings/${v7()}/stop`, undefined],
  ];
  return { studyId, itemId, measurandId, requests };
}
