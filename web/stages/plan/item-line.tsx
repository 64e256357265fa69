import { ArrowDown, ArrowUp, GripVertical, Trash2 } from 'lucide-react';
import type { RefObject } from 'react';
import { DragPreview } from 'react-aria/useDrag';
import styled from 'styled-components';
import { MARKS } from '../../../core/model/marks.ts';
import type { Item } from '../../../core/model/parts.ts';
import { ITEM_ROLES } from '../../../core/model/words.ts';
import { patchPart } from '../../app/api/studies.ts';
import { SavedText } from '../../app/draft-field.tsx';
import { tell } from '../../app/tell.ts';
import { Choice } from '../../ui/choice.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { ItemName } from '../../ui/name.tsx';
import { NARROW, focusRing } from '../../ui/tokens.ts';
import { MarkPicker } from './mark-picker.tsx';
import { type ItemDrag, useItemDrag } from './use-item-drag.ts';

/** The columns of a line of the list, and of its heads. */
export const ITEM_AREAS = `
  grid-template: 'grip mark name code role class ends' auto
    / 36px 48px minmax(160px, 1fr) 88px 132px minmax(96px, 0.5fr) 124px;
  gap: 8px;
`;

const Line = styled.li<{ $dragged: boolean; $edge: 'top' | 'bottom' | undefined }>`
  display: grid;
  ${ITEM_AREAS}
  align-items: start;
  padding: 4px 0;
  position: relative;
  background: var(--sheet);
  opacity: ${({ $dragged }) => ($dragged ? 0.45 : 1)};
  &::after {
    content: '';
    display: ${({ $edge }) => ($edge === undefined ? 'none' : 'block')};
    position: absolute;
    ${({ $edge }) => $edge ?? 'top'}: -1.5px;
    left: 0;
    right: 0;
    height: 3px;
    border-radius: 2px;
    background: var(--focus);
  }
  ${NARROW} {
    grid-template:
      'grip mark name name ends' auto
      'grip mark role code class' auto / 36px 48px minmax(0, 1.4fr) minmax(0, 1fr) minmax(132px, 1fr);
    padding: 8px 0 14px;
    border-top: 1px solid var(--rule);
  }
`;

const Cell = styled.div<{ $area: 'name' | 'code' | 'role' | 'class' | 'ends' }>`
  grid-area: ${({ $area }) => $area};
  min-width: 0;
`;

const Grip = styled.button`
  display: grid;
  place-items: center;
  width: 36px;
  height: 44px;
  border: 0;
  border-radius: 6px;
  background: transparent;
  color: var(--quiet);
  cursor: grab;
  &:hover {
    background: var(--hover);
    color: var(--ink);
  }
  &:focus-visible {
    ${focusRing}
  }
`;

const Ends = styled(Cell)`
  display: flex;
  justify-content: flex-end;
`;

const ROLE_LABELS: Record<Item['role'], string> = {
  candidate: 'Candidate',
  baseline: 'Baseline',
  control: 'Control',
};

/** What goes along under the pointer. */
const Preview = styled.div`
  padding: 8px 14px;
  border-radius: var(--corner);
  background: var(--sheet);
  color: var(--ink);
  border: 1px solid var(--rule-strong);
`;

export interface ItemLineProps {
  item: Item;
  /** Its index in the list, and how many there are. */
  place: number;
  count: number;
  drag: ItemDrag;
  line: RefObject<HTMLLIElement | null>;
  onMark: (mark: number) => void;
  onMove: (from: number, to: number) => void;
  onRemove: (item: Item) => void;
}

/** What an item is called and what it is. */
function ItemFields({ item, place }: { item: Item; place: number }) {
  const save = (changes: Partial<Item>) => patchPart('items', item, changes);
  return (
    <>
      <Cell $area="name">
        <SavedText
          label={`Name of item ${String(place + 1)}`}
          labelHidden
          saved={item.name}
          required
          save={(name) => save({ name })}
        />
      </Cell>
      <Cell $area="code">
        <SavedText
          label={`Code of ${item.name}`}
          labelHidden
          saved={item.code}
          required
          save={(code) => save({ code: code.toUpperCase() })}
        />
      </Cell>
      <Cell $area="role">
        <Choice
          label={`Role of ${item.name}`}
          labelHidden
          value={item.role}
          options={ITEM_ROLES.map((role) => ({
            value: role,
            label: ROLE_LABELS[role],
            ...(role === 'control' ? { help: 'measured, never ranked' } : {}),
            ...(role === 'baseline' ? { help: 'the one to compare with' } : {}),
          }))}
          onChange={(role) => {
            tell(save({ role }));
          }}
        />
      </Cell>
      <Cell $area="class">
        <SavedText
          label={`Class of ${item.name}`}
          labelHidden
          placeholder="no class"
          saved={item.class}
          save={(name) => save({ class: name.trim() })}
        />
      </Cell>
    </>
  );
}

/** An item in the list: dragged by its grip, moved by its arrows, its fields saved as they are left. */
export function ItemLine({ item, place, count, drag, line, onMark, onMove, onRemove }: ItemLineProps) {
  const { gripProps, lineProps, isDragged, edge, preview, grip } = useItemDrag(item, place, drag, line);
  return (
    <Line ref={line} $dragged={isDragged} $edge={edge} {...lineProps}>
      <Grip ref={grip} type="button" {...gripProps} aria-label={`Move ${item.name}`}>
        <GripVertical size={18} aria-hidden />
      </Grip>
      <DragPreview ref={preview}>
        {() => (
          <Preview>
            <ItemName name={item.name} mark={item.mark} />
          </Preview>
        )}
      </DragPreview>
      <MarkPicker
        mark={item.mark}
        label={`Mark of ${item.name}: ${MARKS[item.mark]?.shape ?? ''}`}
        onChange={onMark}
      />
      <ItemFields item={item} place={place} />
      <Ends $area="ends">
        <IconButton
          label={`Move ${item.name} up`}
          isDisabled={place === 0}
          onPress={() => {
            onMove(place, place - 1);
          }}
        >
          <ArrowUp size={18} aria-hidden />
        </IconButton>
        <IconButton
          label={`Move ${item.name} down`}
          isDisabled={place === count - 1}
          onPress={() => {
            onMove(place, place + 1);
          }}
        >
          <ArrowDown size={18} aria-hidden />
        </IconButton>
        <IconButton
          label={`Remove ${item.name}`}
          onPress={() => {
            onRemove(item);
          }}
        >
          <Trash2 size={18} aria-hidden />
        </IconButton>
      </Ends>
    </Line>
  );
}
