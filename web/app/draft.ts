import { useEffect, useEffectEvent, useState } from 'react';
import { problemText } from './api/client.ts';
import { Conflict } from './api/studies.ts';

export interface DraftOptions<T> {
  /** The value as it is saved. */
  saved: T;
  toText: (value: T) => string;
  /** What the text means, or a sentence that says why it means nothing. */
  parse: (text: string) => { value: T } | { problem: string };
  save: (value: T) => Promise<unknown>;
}

export interface Draft {
  text: string;
  problem: string | undefined;
  /** The text that another tab saved in the meantime. */
  theirs: string | undefined;
  saving: boolean;
  change: (text: string) => void;
  /** Saves, when there is something to save. Call it on blur and on Enter. */
  commit: () => void;
  takeTheirs: () => void;
  keepMine: () => void;
}

/** Saves when the field goes away. */
function useCommitLast(commit: () => void): void {
  const commitLast = useEffectEvent(commit);
  useEffect(() => {
    // A page that is closed or left does not blur its fields first.
    globalThis.addEventListener('pagehide', commitLast);
    return () => {
      globalThis.removeEventListener('pagehide', commitLast);
      commitLast();
    };
  }, []);
}

/**
 * The text of one field between typing and saving. What was typed stays until it is saved or taken back: through a
 * refusal, an absent server, an edit elsewhere, and the field's own disappearance.
 */
export function useDraft<T>({ saved, toText, parse, save }: DraftOptions<T>): Draft {
  const savedText = toText(saved);
  const [text, setText] = useState<string>();
  const [base, setBase] = useState(savedText);
  const [problem, setProblem] = useState<string>();
  /** Whether what is saved changed while this was typed. */
  const [isOvertaken, setOvertaken] = useState(false);
  const [saving, setSaving] = useState(false);
  const send = async (typed: string) => {
    const parsed = parse(typed);
    if ('problem' in parsed) {
      setProblem(parsed.problem);
      return;
    }
    setSaving(true);
    try {
      await save(parsed.value);
      setText((now) => (now === typed ? undefined : now));
      setProblem(undefined);
      setOvertaken(false);
    } catch (error) {
      if (error instanceof Conflict) setOvertaken(true);
      else setProblem(problemText(error));
    } finally {
      setSaving(false);
    }
  };
  const forget = () => {
    setText(undefined);
    setProblem(undefined);
  };
  const commit = () => {
    if (text === undefined || saving) return;
    if (text === savedText) forget();
    else if (savedText === base) void send(text);
    else setOvertaken(true);
  };
  useCommitLast(commit);
  return {
    text: text ?? savedText,
    problem,
    theirs: isOvertaken ? savedText : undefined,
    saving,
    change: (next) => {
      if (text === undefined) setBase(savedText);
      setText(next);
      setProblem(undefined);
    },
    commit,
    takeTheirs: () => {
      forget();
      setOvertaken(false);
    },
    keepMine: () => {
      setOvertaken(false);
      setBase(savedText);
      if (text !== undefined) void send(text);
    },
  };
}
