import { Download } from 'lucide-react';
import { useState } from 'react';
import type { Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { measurandsInOrder } from '../../../core/model/in-order.ts';
import { Button } from '../../ui/button.tsx';
import { CheckBox } from '../../ui/check-box.tsx';
import { Choice } from '../../ui/choice.tsx';
import { Dialog, DialogActions } from '../../ui/dialog.tsx';
import { FileLink } from '../../app/file-link.tsx';
import { Segments } from '../../ui/segments.tsx';

type Layout = 'long' | 'wide';

/** How such a table is laid out, and with which signs. */
interface Chosen {
  layout: Layout;
  /** Its id; undefined for the first. */
  measurand: string | undefined;
  decimal: 'point' | 'comma';
  units: 'names' | 'line';
  leftOut: boolean;
}

const FIRST: Chosen = {
  layout: 'wide',
  measurand: undefined,
  decimal: 'point',
  units: 'names',
  leftOut: false,
};

function TableChoices({
  chosen: { layout, measurand, decimal, units, leftOut },
  measurands,
  onChoose,
}: {
  chosen: Chosen;
  measurands: readonly Measurand[];
  onChoose: (changes: Partial<Chosen>) => void;
}) {
  const wide = layout === 'wide';
  const set =
    <Name extends keyof Chosen>(name: Name) =>
    (value: Chosen[Name]) => {
      onChoose({ [name]: value });
    };
  return (
    <>
      <Segments
        label="Rows"
        value={layout}
        options={[
          { value: 'wide', label: 'a column for each item' },
          { value: 'long', label: 'one reading a row' },
        ]}
        onChange={set('layout')}
      />
      {wide && measurands.length > 1 && measurand !== undefined && (
        <Choice
          label="Readings of"
          value={measurand}
          options={measurands.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={set('measurand')}
        />
      )}
      {wide && (
        <Segments
          label="Units"
          value={units}
          options={[
            { value: 'names', label: 'behind the names' },
            { value: 'line', label: 'in a line of their own' },
          ]}
          onChange={set('units')}
        />
      )}
      <Segments
        label="Decimals"
        value={decimal}
        options={[
          { value: 'point', label: '3.5' },
          { value: 'comma', label: '3,5 and semicolons' },
        ]}
        onChange={set('decimal')}
      />
      <CheckBox isSelected={leftOut} onChange={set('leftOut')}>
        With readings that do not count
      </CheckBox>
    </>
  );
}

/** Readings as a clean table for a spreadsheet. */
export function PlainTable({ document }: { document: StudyDocument }) {
  const [isOpen, setOpen] = useState(false);
  const [chosen, setChosen] = useState(FIRST);
  const measurands = measurandsInOrder(document);
  const of = measurands.find(({ id }) => id === chosen.measurand) ?? measurands[0];
  const close = () => {
    setOpen(false);
  };
  const { layout, decimal, units, leftOut } = chosen;
  const query = new URLSearchParams({
    ...{ layout, decimal, 'left-out': leftOut ? 'yes' : 'no' },
    ...(layout === 'wide' && of ? { units, measurand: of.id } : {}),
  });
  return (
    <>
      <Button
        onPress={() => {
          setOpen(true);
        }}
      >
        A table for a spreadsheet…
      </Button>
      <Dialog title="A table for a spreadsheet" isOpen={isOpen} onClose={close}>
        <TableChoices
          chosen={{ ...chosen, measurand: of?.id }}
          measurands={measurands}
          onChoose={(changes) => {
            setChosen((before) => ({ ...before, ...changes }));
          }}
        />
        <DialogActions>
          <Button tone="quiet" onPress={close}>
            Close
          </Button>
          <FileLink path={`/studies/${document.study.id}/readings.csv?${query.toString()}`}>
            <Download size={18} aria-hidden /> Save
          </FileLink>
        </DialogActions>
      </Dialog>
    </>
  );
}
