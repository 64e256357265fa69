import { describe, expect, it } from 'vitest';
import type { ComposedReport } from '../report/report.ts';
import { reportArticle } from './report-html.ts';

const strip = { of: 'strip', measurandId: 'm', settingKey: '', className: '' } as const;
const report: ComposedReport = {
  title: 'Fans & <vanes>',
  question: 'Which "blows" most?',
  pairAlpha: 0.05,
  parts: [
    { name: 'answer', heading: 'The answer', blocks: [{ kind: 'lead', text: 'A < B.' }] },
    {
      name: 'picture',
      heading: 'Readings',
      blocks: [{ kind: 'picture', picture: strip, caption: 'All of them' }],
    },
    {
      name: 'ranking',
      heading: 'The ranking',
      blocks: [
        {
          kind: 'table',
          table: {
            ...{ caption: 'Mean, m/s', figures: [1], head: ['Item', 'Mean'] },
            rows: [[{ text: '</th><script>', mark: 3 }, { text: '3.1 ± 0.2' }]],
          },
        },
      ],
    },
    {
      name: 'others',
      heading: 'Others',
      blocks: [
        { kind: 'text', text: 'Sound.' },
        { kind: 'picture', picture: { ...strip, measurandId: 'n' }, caption: 'Sound' },
        { kind: 'text', text: 'Power.' },
      ],
    },
    { name: 'findings', heading: 'Noticed', blocks: [{ kind: 'list', items: ['One', 'Two & three'] }] },
    {
      name: 'photos',
      heading: 'Photos',
      blocks: [{ kind: 'photos', photos: [{ noteId: 'x', file: 'f.jpg', caption: 'The "rig"' }] }],
    },
  ],
};
const made = (changes: Partial<Parameters<typeof reportArticle>[1]> = {}) =>
  reportArticle(
    report,
    { hidden: [], words: [], ...changes },
    {
      picture: ({ measurandId }, caption) =>
        measurandId === 'm' ? `<figure id="drawn">${caption}</figure>` : undefined,
      photo: (file) => `data:${file}`,
      lastReading: '12 May 2026',
    },
  );

describe('a report as HTML', () => {
  it('says all that was composed, in its order, and lets no text be markup', () => {
    const html = made();
    const places = [
      'Fans &amp; &lt;vanes&gt;',
      '12 May 2026',
      'A &lt; B.',
      'drawn',
      '3.1 ± 0.2',
      'Power.',
      'Two &amp; three',
    ];
    const found = places.map((text) => html.indexOf(text));
    expect(found.every((place) => place >= 0)).toBe(true);
    expect([...found].sort((a, b) => a - b)).toEqual(found);
    expect(html).not.toContain('<script>');
    expect(html).toContain('alt="The &quot;rig&quot;"');
    expect(html).toContain('src="data:f.jpg"');
  });
  it('puts figures to the right, heads of rows and columns in scope, and marks before names', () => {
    const html = made();
    expect(html).toContain('<th scope="col" class="figure"><bdi>Mean</bdi></th>');
    expect(html).toMatch(/<th scope="row"><svg[^>]*aria-hidden="true"><path[^>]*var\(--mark-3\)/);
    expect(html).toContain('<td class="figure"><bdi>3.1 ± 0.2</bdi></td>');
  });
  it('lets a caption stand for a picture that cannot be drawn', () => {
    expect(made()).toContain('<p class="quiet"><bdi>Sound</bdi></p>');
  });
  it('sets each other measurand beside the next, with its picture', () => {
    expect(/<div class="pairs">(.*)<\/div>/s.exec(made())?.[1]?.match(/<div>/g)).toHaveLength(2);
  });
  it('leaves hidden parts out, and sets the tester’s own words under theirs', () => {
    const html = made({
      hidden: ['findings'],
      words: [{ under: 'ranking', text: 'By <hand>\nand eye', figures: [] }],
    });
    expect(html).not.toContain('Two &amp; three');
    expect(html.match(/class="words"/gu)).toHaveLength(1);
    expect(html).toMatch(/3\.1 ± 0\.2.*<p class="words"><bdi>By &lt;hand&gt;\nand eye<\/bdi><\/p>/s);
  });
  it('begins with its title and question, and when it was last read', () => {
    expect(made()).toMatch(
      /^<header><h1><bdi>Fans &amp; &lt;vanes&gt;<\/bdi><\/h1>\n<p><bdi>Which &quot;blows&quot; most\?<\/bdi><\/p>\n<p>Last reading /,
    );
  });
  it('says nothing of a last reading where nobody knows when it was', () => {
    const html = reportArticle(
      { ...report, question: '' },
      { hidden: [], words: [] },
      { picture: () => undefined, photo: () => '', lastReading: '' },
    );
    expect(html).not.toContain('Last reading');
    expect(html.indexOf('<section>') - html.indexOf('</h1>')).toBeLessThan(30);
  });
});
