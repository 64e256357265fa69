import {
  type CSSProperties,
  type ReactNode,
  memo,
  useEffect,
  useEffectEvent,
  useMemo,
  useRef,
  useState,
} from 'react';
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

const TAKEN_AS = {
  cells: 'Copy for a spreadsheet',
  markdown: 'Copy as Markdown',
  html: 'Copy as HTML',
} as const;

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
  const copy = (kind: keyof typeof TAKEN_AS) => {
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
          actions={(['cells', 'markdown', 'html'] as const).map((kind) => ({
            id: kind,
            label: TAKEN_AS[kind],
            onAction: () => {
              copy(kind);
            },
          }))}
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
  { kind, light }: PictureWanted,
): Promise<void> {
  const svg = place?.querySelector<SVGSVGElement>('svg[role=img]');
  if (!svg) throw new Error('There is no picture yet.');
  const made = pictureFile(svg, place?.querySelector('figcaption')?.textContent ?? what, light);
  const blob = kind === 'svg' ? new Blob([made.text], { type: 'image/svg+xml' }) : await pngFile(made);
  download(blob, `${fileName(what)}.${kind}`);
}

/** How a picture is wanted: as which file, light or as it is on the screen. */
interface PictureWanted {
  kind: PictureKind;
  light: boolean;
}

/** Drawn once: what it is asked for may be another picture by then. */
const PictureMenu = memo(function PictureMenu({
  what,
  onTake,
}: {
  what: string;
  onTake: (wanted: PictureWanted) => void;
}) {
  const actions = useMemo(() => {
    const action = (id: string, label: string, wanted: PictureWanted) => ({
      ...{ id, label },
      onAction: () => {
        // The same may be wanted again.
        onTake({ ...wanted });
      },
    });
    return [
      action('svg', 'Save as SVG', { kind: 'svg', light: true }),
      action('png', 'Save as PNG', { kind: 'png', light: true }),
      action('shown', 'Save as PNG, as shown', { kind: 'png', light: false }),
    ];
  }, [onTake]);
  return <Menu label={`Take the picture: ${what}`} actions={actions} />;
});

/** A picture that can be taken: as SVG or PNG, light or as it is on the screen. */
export function TakePicture({ what, children }: { what: string; children: ReactNode }) {
  const frame = useRef<HTMLDivElement>(null);
  return (
    <Frame ref={frame}>
      <Corner $foot>
        <PictureMenu
          what={what}
          onTake={(wanted) => {
            tell(savePicture(frame.current, what, wanted));
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
  const [wanted, setWanted] = useState<PictureWanted>();
  const [drawn, setDrawn] = useState<{ wanted: PictureWanted; picture: ReactNode }>();
  const draws = useEffectEvent((as: PictureWanted) => {
    tell(
      draw().then((picture) => {
        setDrawn({ wanted: as, picture });
      }),
    );
  });
  useEffect(() => {
    if (wanted) draws(wanted);
  }, [wanted]);
  const takes = useEffectEvent((as: PictureWanted) => {
    tell(
      savePicture(place.current, what, as).finally(() => {
        setDrawn(undefined);
      }),
    );
  });
  useEffect(() => {
    if (drawn) takes(drawn.wanted);
  }, [drawn]);
  return (
    <div>
      <PictureMenu what={what} onTake={setWanted} />
      {drawn && (
        <Aside ref={place} inert aria-hidden>
          {drawn.picture}
        </Aside>
      )}
    </div>
  );
}
