import type { ReactNode } from 'react';
import { Dialog as AriaDialog, Heading, Modal, ModalOverlay } from 'react-aria-components';
import styled from 'styled-components';
import { Button } from './button.tsx';

const Overlay = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  z-index: 20;
  display: grid;
  place-items: center;
  padding: 16px;
  background: var(--shade);
`;

const Frame = styled(Modal)<{ $wide: boolean }>`
  width: min(${({ $wide }) => ($wide ? 980 : 560)}px, 100%);
  max-height: calc(100dvh - 32px);
  overflow: auto;
  border-radius: 14px;
  background: var(--sheet);
  color: var(--ink);
  box-shadow: 0 16px 60px var(--shade);
`;

const Body = styled(AriaDialog)`
  display: flex;
  flex-direction: column;
  gap: 16px;
  padding: 24px;
  outline: none;
`;

const Title = styled(Heading)`
  font-size: var(--size-25);
  line-height: 1.2;
  font-weight: 680;
`;

export const DialogActions = styled.div`
  display: flex;
  flex-wrap: wrap;
  justify-content: flex-end;
  gap: 8px;
`;

export interface DialogProps {
  title: string;
  isOpen: boolean;
  onClose: () => void;
  /** For a table inside. */
  wide?: boolean;
  /** A press beside it does not close it. */
  stays?: boolean;
  children: ReactNode;
}

/** A question that must be answered, or left by Escape, before anything else. */
export function Dialog({ title, isOpen, onClose, wide = false, stays = false, children }: DialogProps) {
  return (
    <Overlay
      isOpen={isOpen}
      onOpenChange={(open) => {
        if (!open) onClose();
      }}
      isDismissable={!stays}
    >
      <Frame $wide={wide}>
        <Body>
          <Title slot="title">{title}</Title>
          {children}
        </Body>
      </Frame>
    </Overlay>
  );
}

/** The two ways out of a question: it is left, or done. */
export function DialogAnswers({
  no = 'Not now',
  onNo,
  go,
  onGo,
  isDisabled = false,
}: {
  no?: string;
  onNo: () => void;
  go: ReactNode;
  onGo: () => void;
  /** Whether it cannot be done yet. */
  isDisabled?: boolean;
}) {
  return (
    <DialogActions>
      <Button tone="quiet" onPress={onNo}>
        {no}
      </Button>
      <Button tone="go" isDisabled={isDisabled} onPress={onGo}>
        {go}
      </Button>
    </DialogActions>
  );
}
