import { type WriteStream, createWriteStream } from 'node:fs';
import { readFile, rm } from 'node:fs/promises';
import path from 'node:path';
import { v7 } from 'uuid';
import type { RunningLog } from '../../core/model/instrument.ts';
import { Problem, notFound } from '../problems.ts';
import { type KeptFile, WrittenFiles, keepWritten, titleMoment } from './keep-written.ts';

/** In front of what the first line of a log says about it. */
const ABOUT = '# log ';

interface About {
  studyId: string;
  column: string;
  startedAt: string;
}

interface Running extends RunningLog {
  stream: WriteStream;
  timer: ReturnType<typeof setTimeout> | undefined;
  stopped: boolean;
}

const quoted = (text: string) => `"${text.replace(/\s+/g, ' ').replaceAll('"', '""')}"`;
const shown = ({ stream: _stream, timer: _timer, stopped: _stopped, ...log }: Running): RunningLog => log;

/** What instruments show, row by row. */
export class InstrumentLogs extends WrittenFiles<Running> {
  protected readonly kind = { word: 'log', ending: '.log' };

  list(studyId: string): RunningLog[] {
    return this.allOf(studyId).map(shown);
  }

  /**
   * Begins to write down what an instrument shows.
   * @param column what is measured: the name of the item
   * @param periodS seconds from row to row
   */
  start(studyId: string, instrumentId: string, column: string, periodS: number): RunningLog {
    // Let go of and connected again, it is another connection.
    const connection = () => this.driver.connection(instrumentId);
    const state = connection()?.state;
    if (!state) throw notFound('instrument');
    const other = this.ofInstrument(instrumentId);
    if (other)
      throw new Problem(
        409,
        'Already logged',
        `This instrument is being logged already, for ${other.column}.`,
      );
    const id = v7();
    const startedAt = new Date().toISOString();
    const { unit } = state;
    const about: About = { studyId, column, startedAt };
    const stream = createWriteStream(this.placeOf(id), { flags: 'wx', mode: 0o600 });
    const log: Running = {
      ...{ id, studyId, instrumentId, column, unit, startedAt, periodS },
      ...{ rows: 0, last: null, stream, timer: undefined, stopped: false, problem: null },
    };
    stream.on('error', () => {
      log.problem = 'The log cannot be written: is the disk full?';
    });
    stream.write(
      `${ABOUT}${JSON.stringify(about)}\ntime,${quoted(unit === '' ? column : `${column} (${unit})`)}\n`,
    );
    this.running.set(id, log);
    let due = Date.now();
    const row = async () => {
      const moment = new Date().toISOString();
      // Where nothing is shown, that is a row as well.
      const text = await connection()
        ?.read()
        .then(
          (reading) => reading.text,
          () => null,
        );
      if (log.stopped) return;
      stream.write(`${moment},${text ?? ''}\n`);
      log.last = text ?? null;
      log.rows += 1;
      // From the time that it was due at, so that a slow answer moves no later row.
      due = Math.max(due + 1000 * periodS, Date.now());
      log.timer = setTimeout(() => void row(), due - Date.now()).unref();
    };
    void row();
    return shown(log);
  }

  /** Ends a log. @returns the file that it became; undefined where nothing was written that could be read */
  async stop(studyId: string, id: string): Promise<KeptFile | undefined> {
    const log = this.ofStudy(studyId, id);
    this.halt(log);
    await new Promise<void>((resolve) => log.stream.end(resolve));
    return this.keep(path.basename(this.placeOf(id)), '');
  }

  private halt(log: Running): void {
    log.stopped = true;
    clearTimeout(log.timer);
    this.running.delete(log.id);
  }

  protected async keep(name: string, ending: string): Promise<KeptFile | undefined> {
    const written = path.join(this.folder, name);
    const text = await readFile(written, 'utf8');
    const [first = '', , ...rows] = text.split('\n');
    let about: About;
    try {
      about = JSON.parse(first.slice(ABOUT.length)) as About;
    } catch {
      return undefined;
    }
    if (rows.filter((row) => row !== '').length < 2) {
      await rm(written, { force: true });
      return undefined;
    }
    const title = `${about.column.slice(0, 80)}, ${titleMoment(about.startedAt)}${ending}`;
    return { studyId: about.studyId, title, ...(await keepWritten(written, 'csv')) };
  }
}
