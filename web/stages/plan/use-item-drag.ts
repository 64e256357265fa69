import { type RefObject, useRef, useState } from 'react';
import { type DragPreviewRenderer, useDrag } from 'react-aria/useDrag';
import { useDrop } from 'react-aria/useDrop';
import type { Item } from '../../../core/model/parts.ts';

/** What is dragged from a line of the list; its text is the id of the item. */
const ITEM_TYPE = 'application/x-item-of-a-plan';

/** What is being dragged in a list of items. */
export interface ItemDrag {
  /** The index of the line that is being dragged. */
  from: number | undefined;
  onStart: (place: number) => void;
  onEnd: () => void;
  /** It was dropped on the line with this index. */
  onDrop: (id: string, to: number) => void;
}

/** One drag at a time, by pointer or by keys. */
export function useItemDrags(onDrop: ItemDrag['onDrop']): ItemDrag {
  const [from, setFrom] = useState<number>();
  return {
    from,
    onStart: setFrom,
    onEnd: () => {
      setFrom(undefined);
    },
    onDrop,
  };
}

/** Lets a line be dragged by its grip, and take what is dropped on it, which comes to stand in its place. */
export function useItemDrag(
  item: Item,
  place: number,
  { from, onStart, onEnd, onDrop }: ItemDrag,
  line: RefObject<HTMLElement | null>,
) {
  const preview = useRef<DragPreviewRenderer>(null);
  const grip = useRef<HTMLButtonElement>(null);
  const { dragProps, isDragging } = useDrag({
    preview,
    // No text, which any field that it is let go over would take in.
    getItems: () => [{ [ITEM_TYPE]: item.id }],
    getAllowedDropOperations: () => ['move'],
    onDragStart: () => {
      onStart(place);
    },
    onDragEnd: () => {
      onEnd();
      // By keys one was at the line on which it was dropped.
      grip.current?.focus();
    },
  });
  const { dropProps, isDropTarget } = useDrop({
    ref: line,
    getDropOperation: (types) => (types.has(ITEM_TYPE) && from !== place ? 'move' : 'cancel'),
    onDrop: ({ items }) => {
      for (const dropped of items) {
        if (dropped.kind === 'text' && dropped.types.has(ITEM_TYPE))
          void dropped.getText(ITEM_TYPE).then((id) => {
            onDrop(id, place);
          });
      }
    },
  });
  const below = from !== undefined && from < place;
  return {
    gripProps: dragProps,
    // Only what is dragged has anywhere to go, so lines are found by keys only then.
    lineProps:
      from === undefined
        ? dropProps
        : {
            ...dropProps,
            tabIndex: -1,
            'aria-label': `To place ${String(place + 1)}, where ${item.name} is`,
          },
    isDragged: isDragging,
    edge: isDropTarget ? (below ? ('bottom' as const) : ('top' as const)) : undefined,
    preview,
    grip,
  };
}
