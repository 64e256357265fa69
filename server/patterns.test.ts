import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import { PATTERNS } from '../core/plan/patterns/index.ts';
import { studyFromPattern } from '../core/plan/pattern.ts';
import { sharedServer } from './testing.ts';

const server = await sharedServer();

describe('a study started from a pattern', () => {
  it.each(PATTERNS.map((pattern) => [pattern.key, pattern] as const))(
    '%s passes the schema',
    async (_key, pattern) => {
      const document = studyFromPattern(pattern, {
        title: pattern.label,
        seed: 7,
        newId: () => v7(),
        now: new Date().toISOString(),
      });
      const made = await server.send('POST', '/studies/import', document);
      expect(made.status, JSON.stringify(made.body)).toBe(201);
      const back = await server.send('GET', `/studies/${document.study.id}/document`);
      expect(back.body).toEqual(JSON.parse(JSON.stringify(document)));
    },
  );
});
