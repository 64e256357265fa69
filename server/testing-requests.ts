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
  const at = `/studies/${studyId}`;
  await server.send('POST', `${at}/readings`, server.readingFields(itemId, measurandId, '3'));
  const document = (await server.send('GET', `${at}/document`)).body as unknown as StudyDocument;
  const time = '2026-07-04T09:00:00.000Z';
  const session = { id: v7(), ...newSession(time), kind: 'import', endedAt: time };
  const requests: readonly Asked[] = [
    ['POST', '/studies', { id: v7(), title: 'A', question: '', rounds: 3, seed: 1 }],
    [
      'PATCH',
      at,
      { version: 1, title: 'B', struck: [{ itemId, levelIds: [] }], looks: { after: [2], spending: 'late' } },
    ],
    ['POST', `${at}/items`, server.itemFields('Bel', 'B')],
    ['PATCH', `${at}/items/${itemId}`, { version: 1, attributes: [{ name: 'Mass', value: 2, unit: 'g' }] }],
    [
      'POST',
      `${at}/measurands`,
      { ...server.measurandFields(), name: 'Push', expression: 'pull * 2', settings: { readUnit: 'g' } },
    ],
    [
      'PATCH',
      `${at}/measurands/${measurandId}`,
      { version: 1, form: 'fed-recovered', unit: '%', settings: { readUnit: 'g' } },
    ],
    ['POST', `${at}/readings`, server.readingFields(itemId, measurandId, '4', 2)],
    ['POST', `${at}/rounds`, { id: v7(), number: 1, sessionId: null, note: '' }],
    ['POST', `${at}/sessions`, { ...session, id: v7() }],
    [
      'POST',
      `${at}/decisions`,
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
      `${at}/notes`,
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
      `${at}/import-readings`,
      {
        session,
        items: [itemId],
        measurands: [measurandId],
        settings: [[]],
        rows: [{ item: 0, measurand: 0, setting: 0, round: 1, texts: { value: '3' }, takenAt: null }],
      },
    ],
    ['POST', `${at}/duplicate`, { id: v7(), title: 'C', extent: 'everything' }],
    ['POST', '/studies/import', document],
    ['POST', '/studies/import?copy=yes', document],
    ['POST', '/studies/import?copy=yes', studyToCsv(document)],
    ['POST', '/studies/import', 'item,round,value,taken_at\nAma,1,3.5,2026-07-04\n#Bel,2,4,\n'],
    ['GET', `${at}/readings-behind/${document.readings[0]?.id ?? ''}?most=5`, undefined],
    ['GET', `${at}/document?readings=1`, undefined],
    ['DELETE', `${at}/items/${itemId}?version=1`, undefined],
    ['POST', '/instruments', { host: '127.0.0.1', port: 1 }],
    ['POST', `${at}/logs`, { instrumentId: '127.0.0.1:1', column: 'Ama', periodS: 1 }],
    ['POST', `${at}/recordings`, { instrumentId: '127.0.0.1:1' }],
    ['POST', `${at}/recordings/${v7()}/stop`, undefined],
  ];
  return { studyId, itemId, measurandId, requests };
}
