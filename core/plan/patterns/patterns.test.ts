import { describe, expect, it } from 'vitest';
import { documentProblems } from '../../formats/study-json.ts';
import { testId } from '../../testing-study.ts';
import { planFindings } from '../findings.ts';
import { newItem } from '../new-parts.ts';
import { studyFromPattern } from '../pattern.ts';
import { runQueue } from '../../bench/queue.ts';
import { PATTERNS } from './index.ts';

const started = (pattern: (typeof PATTERNS)[number]) =>
  studyFromPattern(pattern, {
    title: pattern.label,
    seed: 7,
    newId: testId,
    now: '2026-05-04T10:00:00.000Z',
  });

describe('a pattern to start from', () => {
  it.each(PATTERNS.map((pattern) => [pattern.key, pattern] as const))(
    '%s is a sound plan that only lacks its items',
    (_key, pattern) => {
      const document = started(pattern);
      expect(documentProblems(document)).toEqual([]);
      expect(document.readings).toEqual([]);
      expect(planFindings(document).filter(({ tone }) => tone === 'attention')).toMatchObject([
        { title: 'Begin with the items' },
      ]);
      for (const name of ['Ama', 'Bel', 'Cor', 'Dee']) {
        document.items.push({
          ...newItem(name, document.items),
          id: testId(),
          studyId: document.study.id,
          version: 1,
          createdAt: document.study.createdAt,
          updatedAt: document.study.createdAt,
        });
      }
      expect(runQueue(document).length).toBeGreaterThanOrEqual(4 * document.study.rounds);
    },
  );
});
