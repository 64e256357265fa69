import type { ComponentType } from 'react';
import type { EntryKind } from '../../../../core/forms/form.ts';
import { Cells } from './cells.tsx';
import { Clock } from './clock.tsx';
import type { EntryProps } from './entry.ts';
import { Marks } from './marks.tsx';
import { OneNumber } from './one-number.tsx';
import { RecordingValue } from './recording-value.tsx';
import { SeveralNumbers } from './several-numbers.tsx';
import { Tally } from './tally.tsx';
import { TraceValue } from './trace-value.tsx';

/** The widget of each kind of entry; a reading form says which it is. */
export const ENTRIES: Record<EntryKind, ComponentType<EntryProps>> = {
  number: OneNumber,
  numbers: SeveralNumbers,
  tally: Tally,
  clock: Clock,
  cells: Cells,
  marks: Marks,
  trace: TraceValue,
  recording: RecordingValue,
};
