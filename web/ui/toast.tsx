import {
  Button as AriaButton,
  type QueuedToast,
  UNSTABLE_Toast as AriaToast,
  UNSTABLE_ToastContent as ToastContent,
  UNSTABLE_ToastQueue as ToastQueue,
  UNSTABLE_ToastRegion as AriaToastRegion,
} from 'react-aria-components';
import { X } from 'lucide-react';
import styled from 'styled-components';
import { Button } from './button.tsx';

export interface ToastMessage {
  text: string;
  tone?: 'plain' | 'attention';
  action?: { label: string; run: () => void };
}

const queue = new ToastQueue<ToastMessage>({ maxVisibleToasts: 3 });

/** Says something for a while at the foot of the page, with a way back. */
export function toast(message: ToastMessage): void {
  // What can be undone stays longer, so that there is time to reach it by keyboard.
  queue.add(message, { timeout: message.action ? 15000 : 7000 });
}

const Region = styled(AriaToastRegion)`
  position: fixed;
  bottom: 20px;
  left: 50%;
  transform: translateX(-50%);
  z-index: 30;
  display: flex;
  flex-direction: column-reverse;
  gap: 8px;
  width: min(560px, calc(100vw - 32px));
  border-radius: var(--corner-large);
`;

const Bar = styled(AriaToast)<{ $tone: 'plain' | 'attention' }>`
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 8px 8px 8px 18px;
  border-radius: var(--corner-large);
  background: var(--sheet);
  color: var(--ink);
  border: 1px solid ${({ $tone }) => ($tone === 'attention' ? 'var(--rust)' : 'var(--rule-strong)')};
  border-left-width: 4px;
  box-shadow: 0 8px 28px var(--shade);
`;

const Words = styled(ToastContent)`
  flex: 1;
  overflow-wrap: anywhere;
`;

const Close = styled(AriaButton)`
  display: grid;
  place-items: center;
  width: 40px;
  height: 40px;
  border: 0;
  border-radius: 6px;
  background: transparent;
  color: var(--quiet);
  cursor: pointer;
`;

/** Where toasts appear; once, in the shell. */
export function ToastRegion() {
  return (
    <Region queue={queue} aria-label="Messages">
      {({ toast }) => {
        const shown = toast as QueuedToast<ToastMessage>;
        return (
          <Bar toast={shown} $tone={shown.content.tone ?? 'plain'}>
            <Words>{shown.content.text}</Words>
            {shown.content.action && (
              <Button
                size="small"
                onPress={() => {
                  shown.content.action?.run();
                  queue.close(shown.key);
                }}
              >
                {shown.content.action.label}
              </Button>
            )}
            <Close slot="close" aria-label="Close">
              <X size={18} aria-hidden />
            </Close>
          </Bar>
        );
      }}
    </Region>
  );
}
