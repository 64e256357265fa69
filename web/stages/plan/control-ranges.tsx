import { readingForm } from '../../../core/forms/index.ts';
import { itemsInOrder } from '../../../core/model/in-order.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { SavedNumber } from '../../app/draft-field.tsx';
import { Span } from '../../ui/span.tsx';

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
    const { low, high } = controls.find(({ itemId }) => itemId === id) ?? { low: null, high: null };
    const change = (range: { low: number | null; high: number | null }) => {
      const others = controls.filter(({ itemId }) => itemId !== id);
      const open = range.low === null && range.high === null;
      return save(open ? others : [...others, { itemId: id, ...range }]);
    };
    return [
      <Span key={`${id} low`} $columns={3}>
        <SavedNumber
          label={`Control ${name}: reads from`}
          saved={low}
          unit={unit}
          placeholder="–"
          check={(value) => (high !== null && value >= high ? 'Must be below the upper end.' : undefined)}
          save={(value) => change({ low: value, high })}
        />
      </Span>,
      <Span key={`${id} high`} $columns={2}>
        <SavedNumber
          label="to"
          saved={high}
          unit={unit}
          placeholder="–"
          check={(value) => (low !== null && value <= low ? 'Must be above the lower end.' : undefined)}
          save={(value) => change({ low, high: value })}
        />
      </Span>,
    ];
  });
}
