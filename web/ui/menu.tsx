import { MoreHorizontal } from 'lucide-react';
import { Menu as AriaMenu, MenuItem, MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { Button } from './button.tsx';
import { Sheetlet } from './choice.tsx';
import { IconButton } from './icon-button.tsx';

const Items = styled(AriaMenu)`
  outline: none;
`;

const Item = styled(MenuItem)`
  display: flex;
  align-items: center;
  min-height: 44px;
  min-width: 200px;
  padding: 6px 14px;
  border-radius: 6px;
  cursor: pointer;
  outline: none;
  color: inherit;
  text-decoration: none;
  &[data-focused] {
    background: var(--fern-soft);
  }
`;

export interface MenuAction {
  id: string;
  label: string;
  /** Goes to an address instead of doing something. */
  href?: string;
  onAction?: () => void;
}

/** Further actions behind a button: three dots, or a word of its own. */
export function Menu({
  label,
  trigger,
  actions,
}: {
  label: string;
  trigger?: string;
  actions: readonly MenuAction[];
}) {
  return (
    <MenuTrigger>
      {trigger === undefined ? (
        <IconButton label={label}>
          <MoreHorizontal size={20} aria-hidden />
        </IconButton>
      ) : (
        <Button size="small">{trigger}</Button>
      )}
      <Sheetlet placement="bottom end">
        <Items aria-label={label}>
          {actions.map(({ id, label: text, href, onAction }) => (
            <Item key={id} id={id} {...(href ? { href } : {})} {...(onAction ? { onAction } : {})}>
              {text}
            </Item>
          ))}
        </Items>
      </Sheetlet>
    </MenuTrigger>
  );
}
