import { markColour, markOutline } from '../model/marks.ts';
import type { Study } from '../model/study.ts';
import {
  type ComposedReport,
  type ReportBlock,
  type ReportCell,
  type ReportPart,
  type ReportPicture,
  type ReportTable,
  headOfRow,
} from '../report/report.ts';
import { htmlText } from './cells.ts';

/** What a report cannot say of itself: how its pictures are drawn, and where its photos are. */
export interface ReportPieces {
  /** A figure with its caption, as HTML; undefined where it cannot be drawn, and the caption stands alone. */
  picture: (picture: ReportPicture, caption: string) => string | undefined;
  /** The address of a photo, or all that is in it. */
  photo: (file: string) => string;
  /** When the last reading was taken, in words; '' where nobody knows. */
  lastReading: string;
}

const text = (words: string): string => `<bdi>${htmlText(words)}</bdi>`;

const sign = (mark: number): string =>
  `<svg width="14" height="14" viewBox="-1.3 -1.3 2.6 2.6" aria-hidden="true"><path d="${markOutline(mark)}" fill="${markColour(mark)}"/></svg>`;

function tableHtml({ caption, head, rows, figures }: ReportTable): string {
  const attributes = (column: number) => (figures.includes(column) ? ' class="figure"' : '');
  const said = ({ text: words, mark }: ReportCell) => `${mark === undefined ? '' : sign(mark)}${text(words)}`;
  const row = (cells: readonly ReportCell[]) =>
    `<tr>${cells
      .map((cell, column) =>
        column === headOfRow(cells)
          ? `<th scope="row">${said(cell)}</th>`
          : `<td${attributes(column)}>${said(cell)}</td>`,
      )
      .join('')}</tr>`;
  return `<table><caption>${text(caption)}</caption><thead><tr>${head
    .map((title, column) => `<th scope="col"${attributes(column)}>${text(title)}</th>`)
    .join('')}</tr></thead><tbody>${rows.map(row).join('')}</tbody></table>`;
}

function blockHtml(block: ReportBlock, { picture, photo }: ReportPieces): string {
  switch (block.kind) {
    case 'lead':
      return `<p class="lead">${text(block.text)}</p>`;
    case 'text':
      return `<p>${text(block.text)}</p>`;
    case 'list':
      return `<ul>${block.items.map((item) => `<li>${text(item)}</li>`).join('')}</ul>`;
    case 'table':
      return tableHtml(block.table);
    case 'picture':
      return picture(block.picture, block.caption) ?? `<p class="quiet">${text(block.caption)}</p>`;
    case 'photos':
      return block.photos
        .map(
          ({ file, caption }) =>
            `<figure><img src="${htmlText(photo(file))}" alt="${htmlText(caption || 'A photo without a caption')}"><figcaption>${text(caption)}</figcaption></figure>`,
        )
        .join('');
  }
}

/** The blocks of a part; of what else was measured each with its picture, side by side. */
function blocksHtml({ name, blocks }: ReportPart, pieces: ReportPieces): string {
  const made = blocks.map((block) => blockHtml(block, pieces));
  if (name !== 'others') return made.join('\n');
  const groups: string[] = [];
  blocks.forEach(({ kind }, i) => {
    if (kind === 'text') groups.push('');
    groups.push((groups.pop() ?? '') + (made[i] ?? ''));
  });
  return `<div class="pairs">${groups.map((group) => `<div>${group}</div>`).join('')}</div>`;
}

/** The report as HTML to stand inside a page, with the tester's own words and without the parts that are hidden. */
export function reportArticle(
  { title, question, parts }: ComposedReport,
  { hidden, words }: Pick<Study['report'], 'hidden' | 'words'>,
  pieces: ReportPieces,
): string {
  const shown = parts.filter(({ name }) => !hidden.includes(name));
  return [
    `<header><h1>${text(title)}</h1>`,
    ...(question ? [`<p>${text(question)}</p>`] : []),
    ...(pieces.lastReading ? [`<p>Last reading ${htmlText(pieces.lastReading)}.</p>`] : []),
    '</header>',
    ...shown.map((part) => {
      const written = words.find(({ under }) => under === part.name);
      return `<section><h2>${text(part.heading)}</h2>
${blocksHtml(part, pieces)}${written ? `<p class="words">${text(written.text)}</p>` : ''}
</section>`;
    }),
  ].join('\n');
}
