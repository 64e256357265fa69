import { Button as AriaButton, type ButtonProps as AriaButtonProps } from 'react-aria-components';
import styled, { css } from 'styled-components';
import { focusRing } from './tokens.ts';

export type ButtonTone = 'go' | 'plain' | 'quiet' | 'attention';
export type ButtonSize = 'regular' | 'small' | 'large';

const tones = {
  go: css`
    background: var(--fern);
    border-color: var(--fern);
    color: var(--on-fern);
    &[data-hovered] {
      background: var(--fern-deep);
      border-color: var(--fern-deep);
    }
  `,
  plain: css`
    background: var(--sheet);
    border-color: var(--rule-strong);
    &[data-hovered] {
      background: var(--hover);
    }
  `,
  quiet: css`
    background: transparent;
    border-color: transparent;
    &[data-hovered] {
      background: var(--hover);
    }
  `,
  attention: css`
    background: var(--rust);
    border-color: var(--rust);
    color: var(--on-rust);
    &[data-hovered] {
      background: var(--rust-deep);
      border-color: var(--rust-deep);
    }
  `,
};

const sizes = {
  small: css`
    min-height: 36px;
    padding: 4px 12px;
    font-size: var(--size-15);
  `,
  regular: css`
    min-height: 44px;
    padding: 8px 16px;
  `,
  large: css`
    min-height: 52px;
    padding: 10px 20px;
    font-size: var(--size-19);
  `,
};

const Styled = styled(AriaButton)<{ $tone: ButtonTone; $size: ButtonSize }>`
  display: inline-flex;
  align-items: center;
  justify-content: center;
  gap: 8px;
  border: 1px solid;
  border-radius: var(--corner);
  font-weight: 640;
  line-height: 1.2;
  cursor: pointer;
  white-space: nowrap;
  ${({ $tone }) => tones[$tone]}
  ${({ $size }) => sizes[$size]}
  @media (pointer: coarse) {
    min-height: 44px;
  }
  &[data-pressed] {
    transform: translateY(1px);
  }
  &[data-focus-visible] {
    ${focusRing}
  }
  &[data-disabled] {
    opacity: 0.5;
    cursor: default;
  }
  svg {
    flex: none;
  }
`;

export interface ButtonProps extends AriaButtonProps {
  tone?: ButtonTone;
  size?: ButtonSize;
}

/** A button with words on it. */
export function Button({ tone = 'plain', size = 'regular', ...props }: ButtonProps) {
  return <Styled {...props} $tone={tone} $size={size} />;
}
