import { useSyncExternalStore } from 'react';
import { Label, ProgressBar } from 'react-aria-components';
import styled, { css, keyframes } from 'styled-components';
import { Button } from './button.tsx';
import { Dialog, DialogActions } from './dialog.tsx';

/** How far long work has come: what is being done, and how much of all of it is, 0 to 1 where that can be said. */
export interface Progress {
  doing: string;
  share: number | null;
}

/** What long work is stopped by, and says how far it has come to. */
export interface Way {
  signal: AbortSignal;
  say: (progress: Progress) => void;
}

interface Work {
  title: string;
  progress: Progress;
  stop: () => void;
}

/** Work that is done sooner is not shown, in ms. */
const SHOWN_AFTER_MS = 500;

let shown: Work | undefined;
const listeners = new Set<() => void>();
const show = (work: Work | undefined) => {
  shown = work;
  for (const listener of listeners) listener();
};
const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
  };
};

/**
 * Does work that may take long: where it does, a dialog says how far it has come, and stops it.
 * @returns undefined where it was stopped
 */
export async function underWay<T>(title: string, work: (way: Way) => Promise<T>): Promise<T | undefined> {
  const stopping = new AbortController();
  const its: Work = {
    title,
    progress: { doing: '', share: null },
    stop: () => {
      stopping.abort();
    },
  };
  const say = (progress: Progress) => {
    its.progress = progress;
    if (shown?.stop === its.stop) show({ ...its });
  };
  const timer = setTimeout(() => {
    show({ ...its });
  }, SHOWN_AFTER_MS);
  try {
    return await work({ signal: stopping.signal, say });
  } catch (error) {
    if (stopping.signal.aborted) return undefined;
    throw error;
  } finally {
    clearTimeout(timer);
    if (shown?.stop === its.stop) show(undefined);
  }
}

const Bar = styled(ProgressBar)`
  display: flex;
  flex-direction: column;
  gap: 8px;
  color: var(--quiet);
`;

const Track = styled.div`
  height: 10px;
  overflow: hidden;
  border: 1px solid var(--rule-strong);
  border-radius: 5px;
`;

const toAndFro = keyframes`
  from { margin-left: 0; }
  to { margin-left: 70%; }
`;

const Done = styled.div<{ $open: boolean }>`
  height: 100%;
  background: var(--fern);
  ${({ $open }) =>
    $open &&
    css`
      width: 30%;
      animation: ${toAndFro} 1.6s ease-in-out infinite alternate;
      @media (prefers-reduced-motion: reduce) {
        animation: none;
        width: 100%;
        opacity: 0.4;
      }
    `}
  @media (forced-colors: active) {
    background: Highlight;
    forced-color-adjust: none;
  }
`;

/** Where long work is shown; once, in the shell. */
export function UnderWay() {
  const work = useSyncExternalStore(subscribe, () => shown);
  if (!work) return null;
  const { doing, share } = work.progress;
  return (
    <Dialog title={work.title} isOpen stays onClose={work.stop}>
      <Bar isIndeterminate={share === null} value={100 * (share ?? 0)}>
        {({ percentage }) => (
          <>
            <Label>{doing === '' ? 'Working on it' : doing}…</Label>
            <Track>
              <Done
                $open={percentage === undefined}
                style={percentage === undefined ? {} : { width: `${String(percentage)}%` }}
              />
            </Track>
            {percentage !== undefined && <span aria-hidden>{Math.round(percentage)} %</span>}
          </>
        )}
      </Bar>
      <DialogActions>
        <Button onPress={work.stop}>Stop</Button>
      </DialogActions>
    </Dialog>
  );
}
