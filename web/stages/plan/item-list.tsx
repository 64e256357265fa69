import {
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { ArrowDown, ArrowUp, GripVertical, Trash2 } from 'lucide-react';
import { type ClipboardEvent, useRef, useState } from 'react';
import styled from 'styled-components';
import { counted } from '../../../core/quantity/format.ts';
import type { Item } from '../../../core/model/parts.ts';
import { ITEM_ROLES } from '../../../core/model/words.ts';
import { itemsInOrder } from '../../../core/model/in-order.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { namesFromPaste } from '../../../core/plan/code.ts';
import { problemText } from '../../app/api/client.ts';
import { createPart, deletePart, itemsNow, patchPart } from '../../app/api/studies.ts';
import { SavedText } from '../../app/draft-field.tsx';
import { newItem } from '../../../core/plan/new-parts.ts';
import { MARKS } from '../../../core/model/marks.ts';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/choice.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { MarkPicker } from './mark-picker.tsx';
import { QuietFields } from '../../ui/quiet-fields.tsx';
import { TextField } from '../../ui/text-field.tsx';
import { toast } from '../../ui/toast.tsx';
import { tell, tellDone, tellFailure } from '../../app/tell.ts';
import { NARROW, focusRing } from '../../ui/tokens.ts';

const AREAS = `
  grid-template: 'grip mark name code role class ends' auto
    / 36px 48px minmax(160px, 1fr) 88px 132px minmax(96px, 0.5fr) 124px;
  gap: 8px;
`;

const Heads = styled.div`
  display: grid;
  ${AREAS}
  padding-bottom: 4px;
  font-size: var(--size-13);
  font-weight: 660;
  color: var(--quiet);
  ${NARROW} {
    display: none;
  }
`;

const Line = styled.li<{ $dragged: boolean }>`
  display: grid;
  ${AREAS}
  align-items: start;
  padding: 4px 0;
  position: relative;
  background: var(--sheet);
  z-index: ${({ $dragged }) => ($dragged ? 2 : 'auto')};
  box-shadow: ${({ $dragged }) => ($dragged ? '0 6px 20px var(--shade)' : 'none')};
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
  touch-action: none;
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

const Adding = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: flex-start;
  gap: 8px;
  margin-top: 14px;
  > button {
    margin-top: 22px;
  }
  > :first-child {
    flex: 0 1 480px;
    max-width: 480px;
  }
`;

const ROLE_LABELS: Record<Item['role'], string> = {
  candidate: 'Candidate',
  baseline: 'Baseline',
  control: 'Control',
};

interface LineProps {
  item: Item;
  at: number;
  of: number;
  onMark: (mark: number) => void;
  onMove: (from: number, to: number) => void;
  onRemove: (item: Item) => void;
}

function ItemLine({ item, at, of, onMark, onMove, onRemove }: LineProps) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } =
    useSortable({
      id: item.id,
    });
  const save = (changes: Partial<Item>) => patchPart('items', item, changes);
  return (
    <Line
      ref={setNodeRef}
      $dragged={isDragging}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      <Grip ref={setActivatorNodeRef} {...attributes} {...listeners} aria-label={`Move ${item.name}`}>
        <GripVertical size={18} aria-hidden />
      </Grip>
      <MarkPicker
        mark={item.mark}
        label={`Mark of ${item.name}: ${MARKS[item.mark]?.shape ?? ''}`}
        onChange={onMark}
      />
      <Cell $area="name">
        <SavedText
          label={`Name of item ${String(at + 1)}`}
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
      <Ends $area="ends">
        <IconButton
          label={`Move ${item.name} up`}
          isDisabled={at === 0}
          onPress={() => {
            onMove(at, at - 1);
          }}
        >
          <ArrowUp size={18} aria-hidden />
        </IconButton>
        <IconButton
          label={`Move ${item.name} down`}
          isDisabled={at === of - 1}
          onPress={() => {
            onMove(at, at + 1);
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

/** The items: add one, paste a column of names, put them in order by drag or keys, say what each is. */
export function ItemList({ document }: { document: StudyDocument }) {
  const items = itemsInOrder(document);
  const [name, setName] = useState('');
  const [problem, setProblem] = useState<string>();
  const input = useRef<HTMLInputElement>(null);
  const adding = useRef<Promise<unknown>>(Promise.resolve());
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );

  const nameOf = (id: string | number) => items.find((item) => item.id === id)?.name ?? '';
  const placeOf = (id: string | number) => String(items.findIndex((item) => item.id === id) + 1);

  const add = (names: readonly string[]) => {
    // One after the other, since each code depends on those before it.
    adding.current = adding.current.then(async () => {
      // What was added just before is in the page's copy of the study, and perhaps not drawn yet.
      const known = itemsNow(document);
      const refused: string[] = [];
      for (const typed of names) {
        try {
          known.push(await createPart(document.study.id, 'items', newItem(typed, known)));
        } catch (error) {
          refused.push(typed);
          setProblem(problemText(error));
        }
      }
      // What was refused goes back into the field, so that it can be mended.
      setName((now) => (refused.length > 0 && now === '' ? refused.join('; ') : now));
      if (refused.length === 0 && names.length > 1)
        toast({ text: `${counted(names.length, 'item')} added.` });
    });
  };
  const addTyped = () => {
    const names = namesFromPaste(name);
    if (names.length === 0) {
      setProblem('Type a name.');
      return;
    }
    setName('');
    setProblem(undefined);
    add(names);
    input.current?.focus();
  };
  const onPaste = (event: ClipboardEvent<HTMLDivElement>) => {
    const names = namesFromPaste(event.clipboardData.getData('text/plain'));
    if (names.length < 2) return;
    event.preventDefault();
    add(names);
  };

  const move = (from: number, to: number) => {
    const item = items[from];
    const rest = items.filter((_, i) => i !== from);
    if (!item || from === to) return;
    const before = rest[to - 1]?.position ?? (rest[0]?.position ?? 1) - 2;
    const after = rest[to]?.position ?? (rest[rest.length - 1]?.position ?? 0) + 2;
    tell(patchPart('items', item, { position: (before + after) / 2 }));
  };
  /** A mark that another item has is swapped with it, so that no two have the same while there are enough. */
  const mark = async (item: Item, wanted: number) => {
    const now = itemsNow(document);
    const holder = now.find((other) => other.mark === wanted && other.id !== item.id);
    await patchPart('items', item, { mark: wanted });
    if (!holder || now.length > MARKS.length) return;
    await patchPart('items', holder, { mark: item.mark });
    toast({ text: `${item.name} and ${holder.name} have swapped their marks.` });
  };
  const remove = async (item: Item) => {
    try {
      await deletePart('items', item);
      const { id, name: itemName, code, mark, role, class: itemClass, attributes, position } = item;
      tellDone(`${itemName} is removed.`, () =>
        createPart(item.studyId, 'items', {
          id,
          name: itemName,
          code,
          mark,
          role,
          class: itemClass,
          attributes,
          position,
        }),
      );
    } catch (error) {
      tellFailure(error);
    }
  };

  return (
    <>
      {items.length > 0 && (
        <Heads aria-hidden>
          <span />
          <span>Mark</span>
          <span>Name</span>
          <span>Code</span>
          <span>Role</span>
          <span>Class</span>
          <span />
        </Heads>
      )}
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        accessibility={{
          screenReaderInstructions: {
            draggable:
              'Space picks the item up, the arrow keys move it, Space puts it down, Escape leaves it.',
          },
          announcements: {
            onDragStart: ({ active }) => `${nameOf(active.id)} is picked up.`,
            onDragOver: ({ active, over }) =>
              over
                ? `${nameOf(active.id)} is at place ${placeOf(over.id)}.`
                : `${nameOf(active.id)} is outside.`,
            onDragEnd: ({ active, over }) =>
              over
                ? `${nameOf(active.id)} is put down at place ${placeOf(over.id)}.`
                : `${nameOf(active.id)} is back in its place.`,
            onDragCancel: ({ active }) => `${nameOf(active.id)} is back in its place.`,
          },
        }}
        onDragEnd={({ active, over }: DragEndEvent) => {
          if (over) {
            move(
              items.findIndex(({ id }) => id === active.id),
              items.findIndex(({ id }) => id === over.id),
            );
          }
        }}
      >
        <SortableContext items={items.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
          <QuietFields as="ul" aria-label="Items">
            {items.map((item, place) => (
              <ItemLine
                key={item.id}
                item={item}
                at={place}
                of={items.length}
                onMark={(wanted) => {
                  tell(mark(item, wanted));
                }}
                onMove={move}
                onRemove={(removed) => void remove(removed)}
              />
            ))}
          </QuietFields>
        </SortableContext>
      </DndContext>
      <Adding onPaste={onPaste}>
        <TextField
          label="Add an item"
          value={name}
          onChange={(text) => {
            setName(text);
            setProblem(undefined);
          }}
          inputRef={input}
          problem={problem}
          placeholder="Name, then Enter"
          help={
            items.length === 0
              ? 'Or paste a column of names. Code and mark are chosen for you and can be changed.'
              : undefined
          }
          onEnter={addTyped}
        />
        <Button onPress={addTyped}>Add</Button>
      </Adding>
    </>
  );
}
