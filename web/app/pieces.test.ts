// @vitest-environment happy-dom
import { describe, expect, it } from 'vitest';
import { asHtml, asMarkdown, asTabs, cellsOf, fileName, wrapped } from './pieces.ts';

const TABLE = `<table><caption>Pull</caption>
<thead><tr><th>Item</th><th>Mean</th></tr></thead>
<tbody><tr><th><span><svg></svg><bdi>Ama | 2</bdi></span></th><td><span>+0.37</span><small>−0.1 to +0.8</small></td></tr>
<tr><th>Bel</th><td>−1\u202f200\u202fg</td></tr></tbody></table>`;

function table(): HTMLTableElement {
  const frame = document.createElement('div');
  frame.innerHTML = TABLE;
  return frame.querySelector('table') as HTMLTableElement;
}

describe('a table that is taken', () => {
  it('has its texts in plain characters', () => {
    expect(cellsOf(table())).toEqual([
      ['Item', 'Mean'],
      ['Ama | 2', '+0.37 -0.1 to +0.8'],
      ['Bel', '-1 200 g'],
    ]);
  });
  it('goes to a spreadsheet as cells, of which none is run', () => {
    expect(asTabs([['=1+1', '@now', '-dir', '-3.5', '+0.37', 'a\tb\nc']])).toBe(
      "'=1+1\t'@now\t'-dir\t-3.5\t+0.37\ta b c",
    );
  });
  it('goes to Markdown and HTML without breaking them', () => {
    expect(asMarkdown(cellsOf(table()))).toBe(
      '| Item | Mean |\n| --- | --- |\n| Ama \\| 2 | +0.37 -0.1 to +0.8 |\n| Bel | -1 200 g |',
    );
    expect(asMarkdown([])).toBe('');
    expect(asHtml([['<b>'], ['a & b']], 'x < y')).toBe(
      '<table><caption>x &lt; y</caption><thead><tr><th>&lt;b&gt;</th></tr></thead><tbody><tr><td>a &amp; b</td></tr></tbody></table>',
    );
  });
});

describe('names and captions of files', () => {
  it('are made of letters and figures', () => {
    expect(fileName('Desk fans: 2nd “run”')).toBe('desk-fans-2nd-run');
    expect(fileName('../..')).toBe('study');
    expect(fileName('Prüfung 7')).toBe('prufung-7');
  });
  it('are wrapped between words', () => {
    expect(wrapped('one two three four', 9)).toEqual(['one two', 'three', 'four']);
    expect(wrapped('', 9)).toEqual([]);
    expect(wrapped('a-word-that-is-longer', 5)).toEqual(['a-word-that-is-longer']);
  });
});
