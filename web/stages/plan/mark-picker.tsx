import { Button, Dialog, DialogTrigger, ListBox, ListBoxItem } from 'react-aria-components';
import styled from 'styled-components';
import { MARKS } from '../../../core/model/marks.ts';
import { MarkSign } from '../../strip/mark-sign.tsx';
import { Sheetlet } from '../../ui/choice.tsx';
import { focusRing } from '../../ui/tokens.ts';

const Trigger = styled(Button)`
  display: grid;
  place-items: center;
  width: 44px;
  height: 44px;
  border: 1px solid transparent;
  border-radius: var(--corner);
  background: transparent;
  cursor: pointer;
  &[data-hovered] {
    background: var(--hover);
  }
  &[data-focus-visible] {
    ${focusRing}
  }
`;

const Grid = styled(ListBox)`
  display: grid;
  grid-template-columns: repeat(4, 44px);
  gap: 2px;
  outline: none;
`;

const Option = styled(ListBoxItem)`
  display: grid;
  place-items: center;
  width: 44px;
  height: 44px;
  border-radius: 6px;
  cursor: pointer;
  outline: none;
  &[data-focused] {
    background: var(--hover);
  }
  &[data-selected] {
    background: var(--fern-soft);
  }
  &[data-focus-visible] {
    ${focusRing}
    outline-offset: -2px;
  }
`;

/** Chooses one of the twelve marks. */
export function MarkPicker({
  mark,
  label,
  onChange,
}: {
  mark: number;
  label: string;
  onChange: (mark: number) => void;
}) {
  return (
    <DialogTrigger>
      <Trigger aria-label={label}>
        <MarkSign mark={mark} size={22} />
      </Trigger>
      <Sheetlet>
        <Dialog aria-label={label} style={{ outline: 'none' }}>
          {({ close }) => (
            <Grid
              aria-label="Marks"
              layout="grid"
              selectionMode="single"
              selectedKeys={[String(mark)]}
              onSelectionChange={(keys) => {
                const [key] = keys === 'all' ? [] : keys;
                if (key !== undefined) onChange(Number(key));
                close();
              }}
              autoFocus
            >
              {MARKS.map(({ shape }, i) => (
                <Option key={shape} id={String(i)} textValue={shape} aria-label={shape}>
                  <MarkSign mark={i} size={22} />
                </Option>
              ))}
            </Grid>
          )}
        </Dialog>
      </Sheetlet>
    </DialogTrigger>
  );
}
