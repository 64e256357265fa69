import { describe, expect, it } from 'vitest';
import fans from '../../demo/desk-fans.json' with { type: 'json' };
import { reportFile, studyInReport } from './report-file.ts';

const colours = { '--ink': '#111', '--sheet': '#fff' };

describe('a report in one file', () => {
  it('gives back the study that it carries', () => {
    const json = JSON.stringify(fans);
    const html = reportFile({
      title: 'Fans',
      article: '<h1>Fans</h1>',
      colours,
      study: { json, csv: 'a,b' },
    });
    expect(JSON.parse(studyInReport(html) ?? '')).toEqual(fans);
  });
  it('is not left by what a tester typed, and runs no script', () => {
    const question = '</script><script>alert(1)</script><!-- & "quoted" \u2028';
    const json = JSON.stringify({ question });
    const html = reportFile({ title: question, article: '', colours, study: { json, csv: '"</a>",<b>' } });
    expect(html.match(/<script/g)).toHaveLength(1);
    expect(html).not.toContain('<script>alert');
    expect(html).not.toContain('"</a>"');
    expect(JSON.parse(studyInReport(html) ?? '')).toEqual({ question });
  });
  it('says so where the study is not in it, and other pages hold none', () => {
    const html = reportFile({ title: 'Fans', article: '', colours });
    expect(html).toContain('too large');
    expect(studyInReport(html)).toBeUndefined();
    expect(studyInReport('<html><p>A page</p></html>')).toBeUndefined();
    expect(studyInReport('<script type="application/json" id="brackenridge-study">{"cut": ')).toBeUndefined();
  });
});
