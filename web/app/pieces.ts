import { harmlessCell, htmlText } from '../../core/formats/cells.ts';
import { LIGHT_COLOURS } from '../ui/tokens.ts';

/** A table as rows of texts, its head first. */
export type Cells = readonly (readonly string[])[];

/** The texts of a table on the page; thin spaces become plain ones, which spreadsheets understand. */
export function cellsOf(table: HTMLTableElement): string[][] {
  return [...table.rows].map((row) =>
    [...row.cells].map((cell) => {
      // What stands small under a figure is a cell's second line.
      const lines = [...cell.childNodes].map((node) => node.textContent?.trim() ?? '').filter(Boolean);
      return lines
        .join(' ')
        .replace(/[\u202f\u00a0]/g, ' ')
        .replace(/\u2212/g, '-');
    }),
  );
}

/** A number, with its unit or a range perhaps: nothing that a spreadsheet would run, though a sign stands before it. */
const NUMERIC = /^[+-][\d.]/;

/** Cells as a spreadsheet takes them from the clipboard. What it would run as a formula stays a text. */
export const asTabs = (cells: Cells): string =>
  cells
    .map((row) =>
      row
        .map((text) => text.replace(/[\t\r\n]+/g, ' '))
        .map((text) => (NUMERIC.test(text) ? text : harmlessCell(text)))
        .join('\t'),
    )
    .join('\n');

/** Cells as a table in Markdown. */
export function asMarkdown(cells: Cells): string {
  const line = (row: readonly string[]) =>
    `| ${row
      .map((text) =>
        text
          .replace(/\\/g, '\\\\')
          .replace(/\|/g, '\\|')
          .replace(/[\r\n]+/g, ' '),
      )
      .join(' | ')} |`;
  const [head, ...rows] = cells;
  if (!head) return '';
  return [line(head), `|${head.map(() => ' --- |').join('')}`, ...rows.map(line)].join('\n');
}

/** Cells as a table in HTML, without a style of its own. */
export function asHtml(cells: Cells, caption = ''): string {
  const row = (texts: readonly string[], tag: 'th' | 'td') =>
    `<tr>${texts.map((text) => `<${tag}>${htmlText(text)}</${tag}>`).join('')}</tr>`;
  const [head = [], ...rows] = cells;
  return `<table>${caption && `<caption>${htmlText(caption)}</caption>`}<thead>${row(head, 'th')}</thead><tbody>${rows
    .map((texts) => row(texts, 'td'))
    .join('')}</tbody></table>`;
}

/** A caption in lines of about so many characters. */
export function wrapped(text: string, length: number): string[] {
  const lines: string[] = [];
  for (const word of text.split(/\s+/).filter(Boolean)) {
    const last = lines.at(-1);
    if (last === undefined || last.length + word.length + 1 > length) lines.push(word);
    else lines[lines.length - 1] = `${last} ${word}`;
  }
  return lines;
}

const SVG = 'http://www.w3.org/2000/svg';
const PADDING = 20;
const CAPTION = { size: 13, line: 18, perCharacter: 6.6 };

/** Colours of the theme on the screen, by their names. */
function coloursNow(): Record<string, string> {
  const styles = getComputedStyle(document.documentElement);
  return Object.fromEntries(
    Object.keys(LIGHT_COLOURS).map((name) => [name, styles.getPropertyValue(name).trim()]),
  );
}

/**
 * A picture of the page as a file of its own: with its caption, its colours, on its own ground.
 * @param light in the light theme's colours, whatever the theme on the screen
 * @returns SVG, and its size in px
 */
export function pictureFile(
  svg: SVGSVGElement,
  caption: string,
  light: boolean,
): { text: string; width: number; height: number } {
  const box = svg.viewBox.baseVal;
  const lines = wrapped(caption, Math.floor(box.width / CAPTION.perCharacter));
  const width = box.width + 2 * PADDING;
  const height = box.height + 2 * PADDING + CAPTION.line * lines.length;
  const whole = document.createElementNS(SVG, 'svg');
  whole.setAttribute('xmlns', SVG);
  whole.setAttribute('width', String(width));
  whole.setAttribute('height', String(height));
  whole.setAttribute('viewBox', `0 0 ${String(width)} ${String(height)}`);
  const style = document.createElementNS(SVG, 'style');
  style.textContent = `text{font-family:"Atkinson Hyperlegible Next",system-ui,sans-serif;font-size:14px;fill:var(--ink)}
.quiet{fill:var(--quiet);font-size:12.5px}.strong{font-weight:680}.turn{fill:var(--rust)}`;
  const ground = document.createElementNS(SVG, 'rect');
  ground.setAttribute('width', '100%');
  ground.setAttribute('height', '100%');
  ground.setAttribute('fill', 'var(--sheet)');
  const drawing = document.createElementNS(SVG, 'g');
  drawing.setAttribute('transform', `translate(${String(PADDING)} ${String(PADDING)})`);
  drawing.append(...[...svg.childNodes].map((node) => node.cloneNode(true)));
  whole.append(style, ground, drawing);
  lines.forEach((line, i) => {
    const text = document.createElementNS(SVG, 'text');
    text.setAttribute('class', 'quiet');
    text.setAttribute('x', String(PADDING));
    text.setAttribute('y', String(box.height + PADDING + CAPTION.line * (i + 1)));
    text.textContent = line;
    whole.append(text);
  });
  const colours = light ? LIGHT_COLOURS : coloursNow();
  const text = new XMLSerializer()
    .serializeToString(whole)
    .replace(/var\((--[a-z0-9-]+)\)/g, (all, name: string) => colours[name] ?? all);
  return { text, width, height };
}

/** Pixels of a saved picture for each px on the screen: sharp at print size. */
const SHARPNESS = 3;

/** The same as PNG. */
export async function pngFile({ text, width, height }: ReturnType<typeof pictureFile>): Promise<Blob> {
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(text)}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  canvas.width = width * SHARPNESS;
  canvas.height = height * SHARPNESS;
  canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height);
  return new Promise((resolve, reject) => {
    canvas.toBlob((blob) => {
      if (blob) resolve(blob);
      else reject(new Error('This browser made no picture of it. Take the SVG.'));
    }, 'image/png');
  });
}

/** Hands a file to the tester. */
export function download(blob: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  setTimeout(() => {
    URL.revokeObjectURL(link.href);
  }, 10000);
}

/** A name for a file from a title. */
export const fileName = (title: string): string =>
  title
    .normalize('NFKD')
    .replace(/\p{Mark}/gu, '')
    .replace(/[^\p{Letter}\p{Number}]+/gu, '-')
    .replace(/^-|-$/g, '')
    .toLowerCase() || 'study';
