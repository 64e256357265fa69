import type { KeyboardEvent, RefObject } from 'react';
import type { InstrumentState } from '../../../../core/model/instrument.ts';
import type { PartTexts } from '../../../../core/forms/form.ts';
import type { Run } from '../../../../core/bench/queue.ts';

/** What every entry widget is given: the run, what was typed so far, and the bench's keys. */
export interface EntryProps {
  run: Run;
  texts: PartTexts;
  onText: (part: string, text: string, from?: 'typed' | 'timer') => void;
  /** Instruments that are connected. */
  instruments: readonly InstrumentState[];
  /** The part that was not understood. */
  wrongPart: string | undefined;
  /** Whether what was typed is questioned or not understood. */
  odd: boolean;
  /** Records, or asks first. */
  onEnter: () => void;
  /** Leaves the run as it is: on to the next one that is to come, or back to the first. */
  onMove: (to: 'next' | 'first') => void;
  /** The bench's own keys; true when the key was one of them. Letters are keys only where nothing is typed. */
  onKey: (event: KeyboardEvent, typed: string) => boolean;
  /** Gets the focus when the run comes up. */
  first: RefObject<HTMLInputElement | null>;
}

/** Under which name the stopwatch of a run is kept while it runs. */
export const clockName = ({ measurand, key }: Run): string => `clock/${measurand.studyId}/${key}`;
