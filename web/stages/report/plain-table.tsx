import { Download } from 'lucide-react';
import { useState } from 'react';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { measurandsInOrder } from '../../../core/model/in-order.ts';
import { Button } from '../../ui/button.tsx';
import { CheckBox } from '../../ui/check-box.tsx';
import { Choice } from '../../ui/choice.tsx';
import { Dialog, DialogActions } from '../../ui/dialog.tsx';
import { FileLink } from '../../app/file-link.tsx';
import { Segments } from '../../ui/segments.tsx';

type Layout = 'long' | 'wide';

/** Readings as a clean table for a spreadsheet: how it is laid out, and with which signs. */
export function PlainTable({ document }: { document: StudyDocument }) {
  const [isOpen, setOpen] = useState(false);
  const [layout, setLayout] = useState<Layout>('wide');
  const [measurand, setMeasurand] = useState<string>();
  const [decimal, setDecimal] = useState<'point' | 'comma'>('point');
  const [units, setUnits] = useState<'names' | 'line'>('names');
  const [leftOut, setLeftOut] = useState(false);
  const measurands = measurandsInOrder(document);
  const chosen = measurands.find(({ id }) => id === measurand) ?? measurands[0];
  const close = () => {
    setOpen(false);
  };
  const wide = layout === 'wide';
  const query = new URLSearchParams({
    ...{ layout, decimal, 'left-out': leftOut ? 'yes' : 'no' },
    ...(wide && chosen ? { units, measurand: chosen.id } : {}),
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
        <Segments
          label="Rows"
          value={layout}
          options={[
            { value: 'wide', label: 'a column for each item' },
            { value: 'long', label: 'one reading a row' },
          ]}
          onChange={setLayout}
        />
        {wide && measurands.length > 1 && chosen && (
          <Choice
            label="Readings of"
            value={chosen.id}
            options={measurands.map(({ id, name }) => ({ value: id, label: name }))}
            onChange={setMeasurand}
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
            onChange={setUnits}
          />
        )}
        <Segments
          label="Decimals"
          value={decimal}
          options={[
            { value: 'point', label: '3.5' },
            { value: 'comma', label: '3,5 and semicolons' },
          ]}
          onChange={setDecimal}
        />
        <CheckBox isSelected={leftOut} onChange={setLeftOut}>
          With readings that do not count
        </CheckBox>
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
