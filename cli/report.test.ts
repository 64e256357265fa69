import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { HtmlValidate } from 'html-validate';
import { afterAll, describe, expect, it } from 'vitest';
import fans from '../demo/desk-fans.json' with { type: 'json' };
import aerators from '../demo/tap-aerators.json' with { type: 'json' };
import { analyse } from '../core/analysis/analyse.ts';
import { analyseStudy } from '../core/analysis/analyse-study.ts';
import { documentProblems } from '../core/formats/study-json.ts';
import { studyInReport } from '../core/formats/report-file.ts';
import { StudyDocument as StudyDocumentSchema } from '../core/model/study-document.ts';
import type { StudyDocument } from '../core/model/study-document.ts';
import { schemaProblems } from '../server/validate.ts';
import { composeReport } from '../core/report/compose.ts';
import plantGrowth from '../core/reference/plant-growth.json' with { type: 'json' };
import { commandOptions } from './options.ts';
import { readReadings, stepWritten } from './readings.ts';
import { studyOfFile } from './file-study.ts';
import { reportOfFile, writeReport } from './report.ts';

const folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-report-'));
afterAll(() => {
  rmSync(folder, { recursive: true, force: true });
});

const WHEN = '2026-05-04T10:00:00.000Z';
const asked = (text: string, ...args: string[]) => {
  const options = commandOptions(['file.csv', ...args]);
  return { options, readings: readReadings(text, options) };
};
const made = (text: string, ...args: string[]) => {
  const { options, readings } = asked(text, ...args);
  const document = studyOfFile(readings, options, 'Bench 2', WHEN);
  return { document, html: reportOfFile(document, '1.2.3') };
};
const plants = `item,value\n${plantGrowth.items.map((item, i) => `${item},${String(plantGrowth.values[i])}`).join('\n')}\n`;
const LEVELS = `item,round,value,pressure
${[1, 2, 3].flatMap((round) => ['A', 'B', 'C'].flatMap((item, i) => ['low', 'high'].map((level, j) => `${item},${String(round)},${(3 + i / 3 + j + round / 10).toFixed(1)},${level}`))).join('\n')}
`;
const validator = new HtmlValidate({
  extends: ['html-validate:recommended'],
  rules: {
    // A file with all in it has its style in it, and lines as they come.
    'no-inline-style': 'off',
    'no-trailing-whitespace': 'off',
    'void-style': 'off',
    'long-title': 'off',
  },
});
const complaints = async (html: string) => {
  const { results } = await validator.validateString(html);
  return results.flatMap(({ messages }) =>
    messages.map(({ ruleId, message, line }) => `${String(line)} ${ruleId}: ${message}`),
  );
};

describe('the report of a file', () => {
  it('says what the command says, and holds the study', () => {
    const { document, html } = made(plants);
    const [group] =
      analyseStudy(document, document.measurands[0]?.id ?? '', { resamples: 0 }).settings[0]?.classes ?? [];
    const { options, readings } = asked(plants);
    const plain = analyse(readings, { ...options.analysis, resolution: stepWritten(readings), resamples: 0 });
    expect(group?.analysis.pairs.map(({ p, verdict }) => [p, verdict])).toEqual(
      plain.pairs.map(({ p, verdict }) => [p, verdict]),
    );
    const composed = composeReport(document, { program: '1.2.3', when: (instant) => instant });
    const [lead] = composed.parts.flatMap(({ blocks }) =>
      blocks.flatMap((block) => (block.kind === 'lead' ? [block.text] : [])),
    );
    expect(html).toContain(lead);
    expect(html).toContain('30 readings were read in from a table. No rule judged the readings.');
    expect(html).not.toMatch(/freshly shuffled|Run order/);
    expect(html).not.toContain('before the first reading');
    expect(JSON.parse(studyInReport(html) ?? '')).toEqual(document);
    expect(documentProblems(document)).toEqual([]);
  });
  it('draws its picture, over levels too', () => {
    expect(made(plants).html).toMatch(/<figure[^>]*><svg[^>]*role="img"[^>]*aria-label="value: /);
    const { html } = made(LEVELS, '--factor', 'pressure');
    expect(html.includes('aria-label="value over pressure')).toBe(true);
    expect(html).toContain('at each level');
  });
  it('takes rule, margin, direction, baseline and reference along', () => {
    const ruled = made(
      'item,value\nA,3\nA,3.1\nA,2.9\nA,3\nA,9\nA,3.05\nB,4\nB,4.1\n',
      '--rule',
      'grubbs',
      '--margin',
      '5%',
      '--better',
      'lower',
      '--baseline',
      'B',
    );
    expect(ruled.document.measurands[0]).toMatchObject({
      rule: { name: 'grubbs', level: 'study' },
      margin: { kind: 'percent', value: 5 },
      direction: { kind: 'lower', target: null },
    });
    expect(ruled.document.items.map(({ role }) => role)).toEqual(['candidate', 'baseline']);
    expect(ruled.html).toContain('1 reading that does not count');
    const errors = made(
      'item,value,true\nA,3,3.1\nA,3.2,3.1\nA,3.1,\nB,4,3\nB,4.1,3\n',
      '--reference',
      'true',
    );
    expect(errors.document.readings).toHaveLength(4);
    expect(errors.document.measurands[0]).toMatchObject({
      form: 'against-reference',
      direction: { kind: 'nearest', target: 0 },
    });
    const levels = made('item,value\nA,60\nA,70\nB,62\nB,63\n', '--decibel');
    expect(levels.document.measurands[0]).toMatchObject({ form: 'level', unit: 'dB' });
  });
  it('is sound HTML, whatever the items are called', async () => {
    const odd = 'item,value\n"<b>&""x""</b>",3\n"<b>&""x""</b>",3.1\n"עברית",4\n"עברית",4.1\n';
    for (const { html } of [made(plants), made(LEVELS, '--factor', 'pressure'), made(odd)])
      expect(await complaints(html)).toEqual([]);
    expect(made(odd).html).not.toContain('<b>&"x"');
  });
  it.each([fans, aerators])('is sound HTML for a whole study: $study.title', async (study) => {
    expect(await complaints(reportOfFile(study as unknown as StudyDocument, '1.2.3'))).toEqual([]);
  });
  it('holds a study that the server takes, whatever was read', () => {
    const odd = '-0.0000012 1e21 .5 -3 12345678.9012 0'.split(' ');
    const many = Array.from({ length: 10500 }, (_, i) => `A,${String(i % 7)}`);
    for (const [text, ...args] of [
      [plants, '--seed', '4294967295'],
      [LEVELS, '--factor', 'pressure', '--margin', '5%'],
      [`item,value\n${odd.map((value) => `A,${value}\nB,${value}`).join('\n')}\n`, '--better', 'nearest=2'],
      [`item,value\n${many.join('\n')}\n`, '--rule', 'fences=2'],
    ] as [string, ...string[]][]) {
      const { document } = made(text, ...args);
      expect(schemaProblems(StudyDocumentSchema, document)).toEqual([]);
      expect(documentProblems(document)).toEqual([]);
    }
  });
  it('carries no study that would be too large to open', () => {
    const { html } = made(
      `item,value\n${Array.from({ length: 30001 }, (_, i) => `${i % 2 ? 'A' : 'B'},${String(i % 9)}`).join('\n')}\n`,
    );
    expect(studyInReport(html)).toBeUndefined();
    expect(html.length).toBeLessThan(500000);
  });
  it('is written where it is asked for, or says why not', () => {
    const file = path.join(folder, 'plants.csv');
    writeFileSync(file, plants);
    const write = (report: string, ...args: string[]) => {
      const options = commandOptions([file, '--report', report, ...args]);
      writeReport(readReadings(plants, options), options, report);
    };
    write(path.join(folder, 'plants.html'));
    expect(readFileSync(path.join(folder, 'plants.html'), 'utf8')).toContain('<title>plants</title>');
    expect(() => {
      write(path.join(folder, 'nowhere', 'plants.html'));
    }).toThrow('(ENOENT)');
    expect(() => {
      write('x.html', '--method', 'tukey');
    }).toThrow('leave out --method');
    expect(() => {
      write('x.html', '--alpha', '0.1');
    }).toThrow('leave out --alpha');
    expect(() => commandOptions([file, '--report', ' '])).toThrow('takes the file to write');
    const options = commandOptions([file, '--report', 'x.html', '--decibel']);
    const refused = (text: string) => () => {
      writeReport(readReadings(text, options), options, 'x.html');
    };
    expect(refused(`item,value\n${'x'.repeat(130)},3\n`)).toThrow('has more than 120 characters');
    expect(refused('item,value\nA,3000\n')).toThrow('between −300 and 300 dB');
  });
});
