import { type ReactNode, useState } from 'react';
import { measurandsInOrder } from '../../core/model/record.ts';
import type { Measurand } from '../../core/model/parts.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { Segments } from '../ui/segments.tsx';

/** Which measurand a stage is about, and the control to change it where there are several. */
export function useMeasurandChoice(document: StudyDocument): {
  measurand: Measurand | undefined;
  control: ReactNode;
} {
  const measurands = measurandsInOrder(document);
  const [chosen, setChosen] = useState<string>();
  const measurand = measurands.find(({ id }) => id === chosen) ?? measurands[0];
  return {
    measurand,
    control:
      measurands.length > 1 && measurand ? (
        <Segments
          label="Measurand"
          labelHidden
          value={measurand.id}
          options={measurands.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={setChosen}
        />
      ) : null,
  };
}
