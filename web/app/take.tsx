import { type CSSProperties, type ReactNode, useEffect, useEffectEvent, useRef, useState } from 'react';
import styled from 'styled-components';
import { Menu } from '../ui/menu.tsx';
import { Scroll } from '../ui/table.tsx';
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

/** A table that can be moved sideways, and taken: as cells for a spreadsheet, as Markdown, as HTML. */
export function TakeTable({
  what,
  style,
  children,
}: {
  what: string;
  style?: CSSProperties;
  children: ReactNode;
}) {
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
      <Corner>
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
      <Scroll aria-label={what} style={style}>
        {children}
      </Scroll>
    </Frame>
  );
}

type PictureKind = 'svg' | 'png';

/** Saves the drawing inside an element, with its caption; light, or as it is on the screen. */
async function savePicture(
  place: HTMLElement | null,
  what: string,
  kind: PictureKind,
  light: boolean,
): Promise<void> {
  const svg = place?.querySelector<SVGSVGElement>('svg[role=img]');
  if (!svg) throw new Error('There is no picture yet.');
  const made = pictureFile(svg, place?.querySelector('figcaption')?.textContent ?? what, light);
  const blob = kind === 'svg' ? new Blob([made.text], { type: 'image/svg+xml' }) : await pngFile(made);
  download(blob, `${fileName(what)}.${kind}`);
}

function PictureMenu({
  what,
  onTake,
}: {
  what: string;
  onTake: (kind: PictureKind, light: boolean) => void;
}) {
  const action = (id: string, label: string, kind: PictureKind, light: boolean) => ({
    ...{ id, label },
    onAction: () => {
      onTake(kind, light);
    },
  });
  return (
    <Menu
      label={`Take the picture: ${what}`}
      actions={[
        action('svg', 'Save as SVG', 'svg', true),
        action('png', 'Save as PNG', 'png', true),
        action('shown', 'Save as PNG, as shown', 'png', false),
      ]}
    />
  );
}

/** A picture that can be taken: as SVG or PNG, light or as it is on the screen. */
export function TakePicture({ what, children }: { what: string; children: ReactNode }) {
  const frame = useRef<HTMLDivElement>(null);
  return (
    <Frame ref={frame}>
      <Corner $foot>
        <PictureMenu
          what={what}
          onTake={(kind, light) => {
            tell(savePicture(frame.current, what, kind, light));
          }}
        />
      </Corner>
      {children}
    </Frame>
  );
}

/** Out of sight, and laid out all the same. */
const Aside = styled.div`
  position: absolute;
  left: -9999px;
  top: 0;
  width: 860px;
`;

/** What a picture that is painted on the screen is taken by: its drawing, made when it is wanted. */
export function TakeDrawing({ what, draw }: { what: string; draw: () => Promise<ReactNode> }) {
  const place = useRef<HTMLDivElement>(null);
  const [wanted, setWanted] = useState<{ kind: PictureKind; light: boolean; drawn: ReactNode }>();
  const take = useEffectEvent(({ kind, light }: { kind: PictureKind; light: boolean }) => {
    tell(
      savePicture(place.current, what, kind, light).finally(() => {
        setWanted(undefined);
      }),
    );
  });
  useEffect(() => {
    if (wanted) take(wanted);
  }, [wanted]);
  return (
    <div>
      <PictureMenu
        what={what}
        onTake={(kind, light) => {
          tell(
            draw().then((drawn) => {
              setWanted({ kind, light, drawn });
            }),
          );
        }}
      />
      {wanted && (
        <Aside ref={place} inert aria-hidden>
          {wanted.drawn}
        </Aside>
      )}
    </div>
  );
}
