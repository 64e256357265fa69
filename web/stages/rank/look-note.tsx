import type { LookState } from '../../../core/bench/look-state.ts';
import { counted, formatNumber } from '../../../core/quantity/format.ts';
import { Note } from '../../ui/note.tsx';

/** From here on the chance of a false winner is more than was promised. */
const MORE_THAN_PROMISED = 0.055;

const percent = (share: number) => `${formatNumber(100 * share, share < 0.02 ? 1 : 0)}\u202f%`;

/** Says where the plan stands, at what level the ranking is read, and what looking without a plan has cost. */
export function LookNote({ look }: { look: LookState }) {
  const costs = look.chance > MORE_THAN_PROMISED;
  return (
    <>
      {!look.final && (
        <Note title={`${String(look.complete)} of ${counted(look.of, 'round')} complete`}>
          {look.due
            ? `This look is planned: it is read at a level of ${percent(look.level)}, so that all looks together keep the promise. Where first place is settled, you may stop.`
            : look.planned.length > 1
              ? `No look is planned now; the next one is after round ${String(look.next ?? look.of)}. Until then the ranking is read at a level of ${percent(look.level)}.`
              : 'The answer may still change. Stopping as soon as it looks settled names false winners; plan your looks, or wait for the end.'}
        </Note>
      )}
      {costs && (
        <Note tone="attention" title={`Looked at ${counted(look.looked, 'time')} before the end`}>
          Where one stops at the first winner that shows, a false one now has a chance of about{' '}
          {percent(look.chance)}, not 5{'\u202f'}%. Looks that the plan names keep the promise.
        </Note>
      )}
    </>
  );
}
