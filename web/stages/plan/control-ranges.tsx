import { readingForm } from '../../../core/forms/index.ts';
import { itemsInOrder } from '../../../core/model/in-order.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { RangeFields } from '../../app/range-fields.tsx';

/** What each control item should read: where it reads something else, its session is in doubt. */
export function ControlRanges({
  document,
  measurand,
  save,
}: {
  document: StudyDocument;
  measurand: Measurand;
  save: (controls: Measurand['controls']) => Promise<unknown>;
}) {
  const { controls, unit, form } = measurand;
  const items = itemsInOrder(document).filter(({ role }) => role === 'control');
  if (readingForm(form)?.ranksOnly) return null;
  return items.map(({ id, name }) => {
    const range = controls.find(({ itemId }) => itemId === id) ?? { low: null, high: null };
    return (
      <RangeFields
        key={id}
        range={range}
        labels={[`Control ${name}: reads from`, 'to']}
        columns={5}
        unit={unit}
        save={({ low, high }) => {
          const others = controls.filter(({ itemId }) => itemId !== id);
          return save(low === null && high === null ? others : [...others, { itemId: id, low, high }]);
        }}
      />
    );
  });
}
