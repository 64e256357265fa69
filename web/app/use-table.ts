import { useEffect, useRef, useState } from 'react';
import { decodeText } from '../../core/formats/csv-read.ts';
import { FileProblem } from '../../core/formats/file-problem.ts';
import type { Delimiter } from '../../core/formats/readings-table.ts';
import { formatNumber } from '../../core/quantity/format.ts';
import { problemText } from './api/client.ts';

/** Larger files than this are no table of readings, bytes. */
const LARGEST_FILE = 60e6;

/**
 * The text of a file that may hold a table.
 * @throws Error that says in a sentence why it holds none
 */
async function textOfTable(file: File): Promise<string> {
  if (file.size > LARGEST_FILE) {
    throw new Error(`A table may have ${formatNumber(LARGEST_FILE / 1e6, 0)} MB.`);
  }
  try {
    return decodeText(new Uint8Array(await file.arrayBuffer()));
  } catch (error) {
    throw error instanceof FileProblem ? error : new Error('The file cannot be read.', { cause: error });
  }
}

/** What the columns of a table are said to hold. */
export interface ColumnMatching {
  roles: string[];
  decimal: '.' | ',';
}

/** A table as it is first shown: its first rows, and a guess at what its columns hold. */
export interface TableGuessed<Matching> {
  delimiter: Delimiter;
  columns: readonly string[];
  rows: readonly string[][];
  lines: readonly number[];
  rowCount: number;
  guess: Matching;
}

export interface TableUse<Head, Matching, Outcome> {
  parse: (text: string, delimiter?: Delimiter) => Promise<Head | { problem: string }>;
  /** Why columns matched so give nothing, before anything is read; undefined where they do. */
  refuse?: (matching: Matching) => string | undefined;
  read: (matching: Matching, onProgress: (share: number) => void) => Promise<Outcome>;
  /** Why what was read is nothing; undefined where it is something. */
  refused?: (outcome: Outcome) => string | undefined;
  /** A file to begin with. */
  file?: File | undefined;
}

/** Looks at something, one look after the other: only the latest is said, and what is still said of others comes too late. */
function useLooks() {
  const [busy, setBusy] = useState<string>();
  const [problem, setProblem] = useState<string>();
  const looks = useRef(0);
  return {
    ...{ busy, setBusy, problem, setProblem },
    /** Lets go of the look that is under way. */
    giveUp: () => {
      looks.current += 1;
      setBusy(undefined);
    },
    /** Runs a look, unless a later one has begun when it is done. */
    look: async (words: string, work: (isLatest: () => boolean) => Promise<() => void>) => {
      looks.current += 1;
      const mine = looks.current;
      const isLatest = () => looks.current === mine;
      setBusy(words);
      let done: () => void;
      try {
        done = await work(isLatest);
      } catch (error) {
        done = () => {
          setProblem(problemText(error));
        };
      }
      if (!isLatest()) return;
      looks.current += 1;
      setBusy(undefined);
      done();
    },
  };
}

/** What is said of the columns of a table, and what was read of it so. */
function useMatching<Matching extends ColumnMatching, Outcome>(
  { refuse, read, refused }: Pick<TableUse<unknown, Matching, Outcome>, 'refuse' | 'read' | 'refused'>,
  { look, giveUp, setBusy, setProblem }: ReturnType<typeof useLooks>,
) {
  const [matching, setMatching] = useState<Matching>();
  const [outcome, setOutcome] = useState<Outcome>();
  /** What was said last: a field that is left and a choice may change it before the page is drawn again. */
  const latest = useRef<Matching>(undefined);
  const check = async (next: Matching) => {
    latest.current = next;
    setMatching(next);
    setOutcome(undefined);
    const wrong = refuse?.(next);
    setProblem(wrong);
    if (wrong !== undefined) {
      giveUp();
      return;
    }
    await look('Checking…', async (isLatest) => {
      const found = await read(next, (share) => {
        if (isLatest()) setBusy(`Checking, ${formatNumber(100 * share, 0)} %`);
      });
      return () => {
        setOutcome(found);
        setProblem(refused?.(found));
      };
    });
  };
  return {
    ...{ matching, outcome, check },
    forgetOutcome: () => {
      setOutcome(undefined);
    },
    /** Says something else of the columns, and looks again. */
    change: (said: Partial<Matching>) =>
      latest.current ? check({ ...latest.current, ...said }) : Promise.resolve(),
  };
}

/** Takes a file that is there to begin with, once. */
function useAtFirst(file: File | undefined, take: (file: File) => Promise<unknown>): void {
  const begun = useRef(false);
  useEffect(() => {
    if (!file || begun.current) return;
    begun.current = true;
    void take(file);
  });
}

/**
 * A table that is taken apart, matched column by column, and looked at again with each change; a later look is never
 * overwritten by an earlier one.
 */
export function useTable<Matching extends ColumnMatching, Head extends TableGuessed<Matching>, Outcome>({
  parse,
  file,
  ...use
}: TableUse<Head, Matching, Outcome>) {
  const [name, setName] = useState('');
  const [table, setTable] = useState<Head>();
  const whole = useRef('');
  const looks = useLooks();
  const { busy, setBusy, problem, setProblem, look, giveUp } = looks;
  const { matching, outcome, check, change, forgetOutcome } = useMatching(use, looks);

  const apart = async (given: string, delimiter?: Delimiter) => {
    whole.current = given;
    forgetOutcome();
    await look('Reading…', async () => {
      const found = await parse(given, delimiter);
      return () => {
        if ('problem' in found) {
          setProblem(found.problem);
          if (!delimiter) setTable(undefined);
          return;
        }
        setTable(found);
        void check(found.guess);
      };
    });
  };

  /** Takes a file; its text where it is short enough to be shown. */
  const takeFile = async (chosen: File): Promise<string> => {
    setName(chosen.name.slice(0, 200));
    try {
      const given = await textOfTable(chosen);
      void apart(given);
      return given;
    } catch (error) {
      setProblem(problemText(error));
      return '';
    }
  };

  useAtFirst(file, takeFile);

  return {
    /** Name of the file; '' where the table was pasted. */
    name,
    ...{ table, matching, outcome, problem, busy, setBusy, takeFile, change },
    say: setProblem,
    takeText: (given: string) => {
      setName('');
      void apart(given);
    },
    setDelimiter: (delimiter: Delimiter) => void apart(whole.current, delimiter),
    forget: () => {
      giveUp();
      setTable(undefined);
      forgetOutcome();
      setProblem(undefined);
    },
  };
}
