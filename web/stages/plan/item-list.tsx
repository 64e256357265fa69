import { type RefObject, createRef, useMemo, useRef, useState } from 'react';
import styled from 'styled-components';
import { itemsInOrder } from '../../../core/model/in-order.ts';
import { MARKS } from '../../../core/model/marks.ts';
import type { Item } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { namesFromPaste } from '../../../core/plan/code.ts';
import { newItem } from '../../../core/plan/new-parts.ts';
import { counted } from '../../../core/quantity/format.ts';
import { problemText } from '../../app/api/client.ts';
import { createPart, deletePart, itemsNow, patchPart } from '../../app/api/studies.ts';
import { tell, tellDone, tellFailure } from '../../app/tell.ts';
import { Button } from '../../ui/button.tsx';
import { QuietFields } from '../../ui/quiet-fields.tsx';
import { TextField } from '../../ui/text-field.tsx';
import { toast } from '../../ui/toast.tsx';
import { NARROW } from '../../ui/tokens.ts';
import { ITEM_AREAS, ItemLine } from './item-line.tsx';
import { useItemDrags } from './use-item-drag.ts';

const Heads = styled.div`
  display: grid;
  ${ITEM_AREAS}
  padding-bottom: 4px;
  font-size: var(--size-13);
  font-weight: 660;
  color: var(--quiet);
  ${NARROW} {
    display: none;
  }
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

/** Names become items, one after the other, since each code depends on those before it. */
function useAdding(document: StudyDocument, onRefused: (names: readonly string[], problem: string) => void) {
  const adding = useRef<Promise<unknown>>(Promise.resolve());
  return (names: readonly string[]) => {
    adding.current = adding.current.then(async () => {
      // What was added just before is in the page's copy of the study, and perhaps not drawn yet.
      const known = itemsNow(document);
      const refused: string[] = [];
      let problem = '';
      for (const typed of names) {
        try {
          known.push(await createPart(document.study.id, 'items', newItem(typed, known)));
        } catch (error) {
          refused.push(typed);
          problem = problemText(error);
        }
      }
      if (refused.length > 0) onRefused(refused, problem);
      else if (names.length > 1) toast({ text: `${counted(names.length, 'item')} added.` });
    });
  };
}

/** Where a name is typed, or a column of names pasted. */
function AddItems({ document, isFirst }: { document: StudyDocument; isFirst: boolean }) {
  const [name, setName] = useState('');
  const [problem, setProblem] = useState<string>();
  const input = useRef<HTMLInputElement>(null);
  const add = useAdding(document, (refused, why) => {
    setProblem(why);
    // What was refused goes back into the field, so that it can be mended.
    setName((now) => (now === '' ? refused.join('; ') : now));
  });
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
  return (
    <Adding
      onPaste={(event) => {
        const names = namesFromPaste(event.clipboardData.getData('text/plain'));
        if (names.length < 2) return;
        event.preventDefault();
        add(names);
      }}
    >
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
          isFirst
            ? 'Or paste a column of names. Code and mark are chosen for you and can be changed.'
            : undefined
        }
        onEnter={addTyped}
      />
      <Button onPress={addTyped}>Add</Button>
    </Adding>
  );
}

/** Gives an item a mark; one that another item has is swapped with it, as long as there are enough for all. */
async function giveMark(document: StudyDocument, item: Item, mark: number): Promise<void> {
  const now = itemsNow(document);
  const holder = now.find((other) => other.mark === mark && other.id !== item.id);
  await patchPart('items', item, { mark });
  if (!holder || now.length > MARKS.length) return;
  await patchPart('items', holder, { mark: item.mark });
  toast({ text: `${item.name} and ${holder.name} have swapped their marks.` });
}

async function removeItem(item: Item): Promise<void> {
  try {
    await deletePart('items', item);
    const { studyId, version: _version, createdAt: _created, updatedAt: _updated, ...fields } = item;
    tellDone(`${item.name} is removed.`, () => createPart(studyId, 'items', fields));
  } catch (error) {
    tellFailure(error);
  }
}

/** Moves an item of the list to another place in it. */
function moveItem(items: readonly Item[], from: number, to: number): void {
  const item = items[from];
  if (!item || from === to) return;
  const rest = items.filter((_, i) => i !== from);
  const before = rest[to - 1]?.position ?? (rest[0]?.position ?? 1) - 2;
  const after = rest[to]?.position ?? (rest[rest.length - 1]?.position ?? 0) + 2;
  tell(patchPart('items', item, { position: (before + after) / 2 }));
}

/** The items: add one, paste a column of names, put them in order by drag or keys, say what each is. */
export function ItemList({ document }: { document: StudyDocument }) {
  const items = itemsInOrder(document);
  const move = (from: number, to: number) => {
    moveItem(items, from, to);
  };
  const order = items.map(({ id }) => id).join();
  // By keys one comes from line to line in the order in which they were made known, so all are with each new order.
  const lines = useMemo(() => order.split(',').map(() => createRef<HTMLLIElement>()), [order]);
  const drag = useItemDrags((id, to) => {
    move(
      items.findIndex((item) => item.id === id),
      to,
    );
  });
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
      <QuietFields as="ul" aria-label="Items">
        {items.map((item, place) => (
          <ItemLine
            key={item.id}
            item={item}
            place={place}
            count={items.length}
            drag={drag}
            line={lines[place] as RefObject<HTMLLIElement | null>}
            onMark={(mark) => {
              tell(giveMark(document, item, mark));
            }}
            onMove={move}
            onRemove={(removed) => void removeItem(removed)}
          />
        ))}
      </QuietFields>
      <AddItems document={document} isFirst={items.length === 0} />
    </>
  );
}
