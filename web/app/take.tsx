import { type ReactNode, useRef } from 'react';
import styled from 'styled-components';
import { Menu } from '../ui/menu.tsx';
import { toast } from '../ui/toast.tsx';
import { PRINT } from '../ui/tokens.ts';
import { asHtml, asMarkdown, asTabs, cellsOf, download, fileName, pictureFile, pngFile } from './pieces.ts';
import { tell } from './tell.ts';

const Frame = styled.div`
  position: relative;
  min-width: 0;
  figcaption {
    padding-right: 44px;
  }
`;

/** Above a table, beside its caption; under a picture, beside its words. */
const Corner = styled.div<{ $foot?: boolean }>`
  position: absolute;
  ${({ $foot = false }) => ($foot ? 'bottom: -8px' : 'top: -10px')};
  right: -8px;
  z-index: 1;
  opacity: 0.55;
  &:hover,
  &:focus-within {
    opacity: 1;
  }
  ${PRINT} {
    display: none;
  }
`;

/** A table that can be taken: as cells for a spreadsheet, as Markdown, as HTML. */
export function TakeTable({ what, children }: { what: string; children: ReactNode }) {
  const frame = useRef<HTMLDivElement>(null);
  const copy = (kind: 'cells' | 'markdown' | 'html') => {
    const table = frame.current?.querySelector('table');
    if (!table) return;
    const cells = cellsOf(table);
    const html = asHtml(cells, table.caption?.textContent ?? '');
    const text = kind === 'cells' ? asTabs(cells) : kind === 'markdown' ? asMarkdown(cells) : html;
    const blobs: Record<string, Blob> = { 'text/plain': new Blob([text], { type: 'text/plain' }) };
    // A spreadsheet and a letter take the table; whoever takes text gets text.
    if (kind === 'cells') blobs['text/html'] = new Blob([html], { type: 'text/html' });
    tell(
      navigator.clipboard.write([new ClipboardItem(blobs)]).then(() => {
        toast({ text: 'The table is copied.' });
      }),
    );
  };
  return (
    <Frame ref={frame}>
      <Corner data-unprinted>
        <Menu
          label={`Take the table: ${what}`}
          actions={[
            {
              id: 'cells',
              label: 'Copy for a spreadsheet',
              onAction: () => {
                copy('cells');
              },
            },
            {
              id: 'markdown',
              label: 'Copy as Markdown',
              onAction: () => {
                copy('markdown');
              },
            },
            {
              id: 'html',
              label: 'Copy as HTML',
              onAction: () => {
                copy('html');
              },
            },
          ]}
        />
      </Corner>
      {children}
    </Frame>
  );
}

/** A picture that can be taken: as SVG or PNG, light or as it is on the screen. */
export function TakePicture({ what, children }: { what: string; children: ReactNode }) {
  const frame = useRef<HTMLDivElement>(null);
  const picture = (light: boolean) => {
    const svg = frame.current?.querySelector<SVGSVGElement>('svg[role=img]');
    if (!svg) throw new Error('There is no picture yet.');
    return pictureFile(svg, frame.current?.querySelector('figcaption')?.textContent ?? what, light);
  };
  const save = (kind: 'svg' | 'png', light: boolean) => {
    tell(
      (async () => {
        const made = picture(light);
        const blob = kind === 'svg' ? new Blob([made.text], { type: 'image/svg+xml' }) : await pngFile(made);
        download(blob, `${fileName(what)}.${kind}`);
      })(),
    );
  };
  return (
    <Frame ref={frame}>
      <Corner data-unprinted $foot>
        <Menu
          label={`Take the picture: ${what}`}
          actions={[
            {
              id: 'svg',
              label: 'Save as SVG',
              onAction: () => {
                save('svg', true);
              },
            },
            {
              id: 'png',
              label: 'Save as PNG',
              onAction: () => {
                save('png', true);
              },
            },
            {
              id: 'shown',
              label: 'Save as PNG, as shown',
              onAction: () => {
                save('png', false);
              },
            },
          ]}
        />
      </Corner>
      {children}
    </Frame>
  );
}
