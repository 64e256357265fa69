import { useState } from 'react';
import styled from 'styled-components';
import type { Measurand } from '../../../core/model/parts.ts';
import { itemsInOrder } from '../../../core/model/in-order.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { counted } from '../../../core/quantity/format.ts';
import { Button } from '../../ui/button.tsx';
import { CheckBox } from '../../ui/check-box.tsx';
import { Dialog, DialogAnswers } from '../../ui/dialog.tsx';
import { FieldLabel } from '../../ui/text-field.tsx';
import { tell } from '../../app/tell.ts';

const Field = styled.div`
  display: grid;
  gap: 4px;
  button {
    width: 100%;
    justify-content: flex-start;
  }
`;

const Items = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  max-height: 50vh;
  overflow-y: auto;
`;

/** On which items a measurand is measured: on all, or on those that are ticked. */
export function MeasuredOn({
  document,
  measurand,
  save,
}: {
  document: StudyDocument;
  measurand: Measurand;
  save: (onItems: string[] | null) => Promise<unknown>;
}) {
  const items = itemsInOrder(document);
  const { onItems } = measurand;
  const [chosen, setChosen] = useState<ReadonlySet<string>>();
  const close = () => {
    setChosen(undefined);
  };
  const on = items.filter(({ id }) => onItems === null || onItems.includes(id));
  return (
    <Field>
      <FieldLabel>Measured on</FieldLabel>
      <Button
        onPress={() => {
          setChosen(new Set(on.map(({ id }) => id)));
        }}
        aria-label={`${measurand.name} is measured on`}
      >
        {onItems === null ? 'All items' : `${counted(on.length, 'item')} of ${String(items.length)}`}
      </Button>
      <Dialog title={`${measurand.name} is measured on`} isOpen={chosen !== undefined} onClose={close}>
        <Items>
          {items.map(({ id, name }) => (
            <CheckBox
              key={id}
              isSelected={chosen?.has(id) ?? false}
              onChange={(ticked) => {
                const next = new Set(chosen);
                if (ticked) next.add(id);
                else next.delete(id);
                setChosen(next);
              }}
            >
              <bdi>{name}</bdi>
            </CheckBox>
          ))}
        </Items>
        <DialogAnswers
          onNo={close}
          go="Measure it there"
          isDisabled={chosen?.size === 0}
          onGo={() => {
            const ids = items.map(({ id }) => id).filter((id) => chosen?.has(id));
            tell(save(ids.length === items.length ? null : ids));
            close();
          }}
        />
      </Dialog>
    </Field>
  );
}
