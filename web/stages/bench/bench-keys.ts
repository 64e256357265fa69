import { type KeyboardEvent as ReactKeyboardEvent, useEffect, useEffectEvent } from 'react';
import type { InstrumentReading, InstrumentState } from '../../../core/model/instrument.ts';
import type { Run } from '../../../core/bench/queue.ts';
import { Triggered, type useLive } from '../../app/api/live.ts';
import { useKeyDown } from '../../app/use-key-down.ts';
import { usePreferences } from '../../app/preferences.ts';
import { toast } from '../../ui/toast.tsx';
import type { OpenDialog } from './bench-dialogs.tsx';
import { fitting } from './instruments.tsx';
import { type Pressed, pressedIn } from './pressed.ts';
import { RECORDED_ALREADY } from './run-at-bench.tsx';
import type { Bench } from './use-bench.ts';
import { inWords } from './use-take-from.ts';

/** What a typed reading may begin with. */
const BEGINS_A_NUMBER = /^[\d.,+\u2212-]$/;

/** What the keys of the bench work on. */
interface KeyContext {
  bench: Bench;
  live: ReturnType<typeof useLive>;
  /** The run that readings are taken for here; undefined while none are. */
  taken: Run | undefined;
  /** Whether another tab takes the readings. */
  followed: boolean;
  dialogOpen: boolean;
  openDialog: (dialog: OpenDialog) => void;
  takeFrom: (instrument: InstrumentState) => void;
}

/** What a key does it does once, however long it is held down. */
const ONCE = /^[?lusmanri]$/;

/** Does what a key stands for. @returns whether it stands for something just now */
function commanded(
  { key, held }: Pressed,
  { bench, live, taken, followed, openDialog, takeFrom }: KeyContext,
  letterKeys: boolean,
): boolean {
  if (key !== '?' && (!letterKeys || followed)) return false;
  if (held && ONCE.test(key)) return true;
  if (key === '?') openDialog('keys');
  else if (key === 'l') openDialog('log');
  else if (key === 'u') bench.undo();
  else if (!taken) return false;
  else if (key === 's') bench.skip();
  else if (key === 'm') openDialog({ misfire: taken.state === 'done' ? taken : 'now' });
  else if (key === 'a') bench.addRun(taken);
  else if (key === 'n') openDialog('note');
  else if (key === 'r' && taken.state === 'done') bench.takeAgain(taken);
  else if (key === 'i') {
    const [instrument] = fitting(live.instruments, taken.measurand);
    if (!instrument) return false;
    takeFrom(instrument);
  } else return false;
  return true;
}

/** Hears the keys that are pressed outside of any field. */
function useKeysBeside(onCommand: (pressed: Pressed) => boolean, onStray: () => void): void {
  useKeyDown((event) => {
    const target = event.target as HTMLElement;
    const typing = target.closest(
      'input, textarea, select, [role="dialog"], [role="menu"], [role="listbox"]',
    );
    if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
    if (onCommand(pressedIn(event))) event.preventDefault();
    else if (BEGINS_A_NUMBER.test(event.key)) onStray();
  });
}

/** Takes what an instrument sends by itself, where it fits what is read. */
function useTriggers({ bench, live, taken }: KeyContext): void {
  const onTriggered = useEffectEvent((reading: InstrumentReading) => {
    const triggered = live.instruments.filter(({ id }) => id === reading.id);
    if (taken && fitting(triggered, taken.measurand).length > 0) bench.takeText(inWords(reading));
  });
  useEffect(() => {
    const hear = (event: Event) => {
      if (event instanceof Triggered) onTriggered(event.reading);
    };
    live.triggers.addEventListener('triggered', hear);
    return () => {
      live.triggers.removeEventListener('triggered', hear);
    };
  }, [live.triggers]);
}

/** The keys of the bench, beside the entry and in it. */
export function useBenchKeys(
  context: KeyContext,
  focusEntry: () => void,
): {
  command: (pressed: Pressed) => boolean;
  entryKey: (event: ReactKeyboardEvent, typed: string) => boolean;
} {
  const { bench, taken, followed, dialogOpen } = context;
  const { letterKeys } = usePreferences();
  const { run, slip } = bench;
  const command = (pressed: Pressed): boolean => commanded(pressed, context, letterKeys);
  useTriggers(context);
  // What is typed beside the entry goes into it, or it is said why not.
  useKeysBeside(command, () => {
    if (followed || dialogOpen) return;
    if (taken && taken.state !== 'done') focusEntry();
    else if (taken) bench.trouble(RECORDED_ALREADY);
    else if (run) {
      const why = bench.session.paused
        ? 'The session is paused: go on first.'
        : 'Nothing is being read just now.';
      toast({ text: `Not taken: what was just typed. ${why}`, tone: 'attention' });
    }
  });
  const entryKey = (event: ReactKeyboardEvent, typed: string): boolean => {
    if (event.key === 'Enter') {
      // Held down a little longer it would answer the question that it brought up.
      if (!event.repeat) bench.enter();
      return true;
    }
    if (event.ctrlKey || event.metaKey || event.altKey) return false;
    if (event.key === 'Escape') {
      if (slip ?? bench.waiting) bench.dismiss();
      else bench.goTo(undefined);
      return true;
    }
    const pressed = pressedIn(event);
    const letter = pressed.key;
    if (letterKeys && slip?.suggestion !== undefined && letter === 't') {
      bench.takeSuggestion();
      return true;
    }
    // In an empty entry, and while a question waits, letters are keys: no number begins so.
    const isKey =
      typed === '' ||
      ((slip ?? bench.waiting) !== undefined && /^[msut?]$/.test(letter)) ||
      (bench.undone && letter === 'u');
    return isKey && command(pressed);
  };
  return { command, entryKey };
}
