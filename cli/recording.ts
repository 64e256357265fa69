import { FileProblem } from '../core/formats/file-problem.ts';
import {
  type Recording,
  type RecordingWindow,
  calibrated,
  channelRemarks,
  fullScaleOf,
  measureRecording,
  weightingRemarks,
} from '../core/formats/recording.ts';
import { spanText } from '../core/quantity/clock.ts';
import { BANDS, type Band, holdsBand } from '../core/sound/bands.ts';
import type { SoundFilters } from '../core/sound/filters.ts';
import type { SoundLevels } from '../core/sound/meter.ts';
import { WEIGHTINGS, type Weighting } from '../core/sound/weighting.ts';
import { TEXT, understood } from './arguments.ts';
import { withFile } from './open-recording.ts';

export interface RecordingOptions {
  file: string;
  json: boolean;
  weighting: Weighting;
  /** A third of an octave that all levels are of. */
  band: Band | undefined;
  /** Whether the equivalent level of each third of an octave is wanted too. */
  bands: boolean;
  window: { from?: number | undefined; to?: number | undefined };
  /** What a sample of 1 is, dB; undefined while nothing says so. */
  fullScale: number | undefined;
  /** Where a calibrator sounds in the file, s, and its level. */
  tone: { from: number; to: number; level: number } | undefined;
}

function level(option: string, text: string): number {
  const found = text.trim() === '' ? Number.NaN : Number(text);
  if (!Number.isFinite(found))
    throw new FileProblem(`The option --${option} takes a level in dB, not “${text}”.`);
  return found;
}

/** What knows all units is loaded where a time is given: that takes longer than to measure a short file. */
const secondsOf = async (option: string, text: string): Promise<number> =>
  (await import('./seconds.ts')).secondsOf(option, text);

/**
 * Understands the command line of a recording.
 * @throws FileProblem with one sentence for whatever is not understood
 */
export async function recordingOptions(args: readonly string[]): Promise<RecordingOptions> {
  const { values } = understood(args, {
    options: {
      ...{ recording: TEXT, json: { type: 'boolean' }, weighting: TEXT, from: TEXT, to: TEXT },
      ...{ 'full-scale': TEXT, tone: TEXT, 'tone-level': TEXT, band: TEXT, bands: { type: 'boolean' } },
    },
  });
  if (!values.recording) throw new FileProblem('The option --recording takes the WAV file to read.');
  const weighting = WEIGHTINGS.find((name) => name === (values.weighting ?? 'A').toUpperCase());
  if (!weighting)
    throw new FileProblem(`The option --weighting takes A, C or Z, not “${values.weighting ?? ''}”.`);
  const band = BANDS.find((name) => name === values.band);
  if (values.band !== undefined && !band)
    throw new FileProblem(
      `The option --band takes a third of an octave, ${BANDS[0]} to ${String(BANDS.at(-1))}, not “${values.band}”.`,
    );
  if (values.tone !== undefined && values['full-scale'] !== undefined)
    throw new FileProblem('Either --tone or --full-scale says what the levels are, not both.');
  const [toneFrom, toneTo, ...rest] = values.tone?.split('-') ?? [];
  if (values.tone !== undefined && (toneFrom === undefined || toneTo === undefined || rest.length > 0))
    throw new FileProblem(
      `The option --tone takes its two ends, as in 0:00:02-0:00:08, not “${values.tone}”.`,
    );
  return {
    file: values.recording,
    json: values.json ?? false,
    weighting,
    band,
    bands: values.bands ?? false,
    window: {
      from: values.from === undefined ? undefined : await secondsOf('from', values.from),
      to: values.to === undefined ? undefined : await secondsOf('to', values.to),
    },
    fullScale: values['full-scale'] === undefined ? undefined : level('full-scale', values['full-scale']),
    tone:
      toneFrom === undefined || toneTo === undefined
        ? undefined
        : {
            from: await secondsOf('tone', toneFrom),
            to: await secondsOf('tone', toneTo),
            level: level('tone-level', values['tone-level'] ?? '94'),
          },
  };
}

async function measured(file: string, filters: SoundFilters, window: RecordingWindow): Promise<Recording> {
  const found = await withFile(file, (read, size) => measureRecording({ read, size, window }, filters));
  return { ...found, remarks: [...found.remarks, ...weightingRemarks(found.head, filters)] };
}

/** The levels of a recording, in dB relative to full scale until something says what that is. */
export async function recordingAnswers({
  file,
  weighting,
  band,
  bands,
  window,
  fullScale,
  tone,
}: RecordingOptions) {
  const found = await measured(file, { weighting, band }, window);
  const calibration = tone ? await measured(file, { weighting: 'Z' }, tone) : undefined;
  const scaleOf = (channel: number) => {
    const heard = calibration?.channels[channel];
    return tone && heard ? fullScaleOf(heard, tone.level) : fullScale;
  };
  const { sampleRate, bits, float, frames } = found.head;
  const wanted = bands ? BANDS.filter((name) => holdsBand(name, sampleRate)) : [];
  const inBands = [];
  for (const name of wanted) {
    const { channels } = await measured(file, { weighting, band: name }, window);
    inBands.push({
      band: name,
      channels: channels.map(({ equivalent }, channel) => equivalent + (scaleOf(channel) ?? 0)),
    });
  }
  return {
    ...{ sampleRate, bits, float, lengthS: frames / sampleRate, window: found.window, weighting },
    ...(band === undefined ? {} : { band }),
    unit: tone || fullScale !== undefined ? 'dB' : 'dB relative to full scale',
    channels: found.channels.map((levels, channel) => {
      const scale = scaleOf(channel);
      return { fullScale: scale ?? null, ...calibrated(levels, scale ?? 0) };
    }),
    ...(bands ? { bands: inBands } : {}),
    remarks: [...found.remarks, ...channelRemarks(found.channels)],
  };
}

const ROWS: readonly [keyof SoundLevels, string][] = [
  ['equivalent', 'Equivalent level'],
  ['highestFast', 'Highest fast level'],
  ['highestSlow', 'Highest slow level'],
  ['exposure', 'Exposure level'],
  ['l10', 'L10'],
  ['l50', 'L50'],
  ['l90', 'L90'],
  ['weightedPeak', 'Peak, weighted'],
  ['samplePeak', 'Peak of the samples'],
  ['truePeak', 'True peak'],
];

/** What recordingAnswers found, as a table for people. */
export function recordingTable({
  sampleRate,
  bits,
  float,
  lengthS,
  window,
  weighting,
  band,
  unit,
  channels,
  bands,
  remarks,
}: Awaited<ReturnType<typeof recordingAnswers>>): string {
  const shown = (x: number) => (Number.isFinite(x) ? x.toFixed(2) : '–').padStart(10);
  const width = Math.max(...ROWS.map(([, label]) => label.length));
  return [
    `${String(sampleRate)} samples a second, ${String(bits)} bits${float ? ' float' : ''}, ${spanText(lengthS)}.`,
    `Window: ${spanText(window.from)} to ${spanText(window.to)}. ${weighting}-weighted${band === undefined ? '' : `, third of an octave at ${band} Hz`}, in ${unit}.`,
    ...remarks,
    '',
    `${''.padEnd(width)}${channels.map((_, i) => `Channel ${String(i + 1)}`.padStart(12)).join('')}`,
    ...ROWS.map(
      ([name, label]) =>
        `${label.padEnd(width)}${channels.map((levels) => `  ${shown(levels[name])}`).join('')}`,
    ),
    ...(bands?.map(
      ({ band: name, channels: levels }) =>
        `${`${name} Hz`.padEnd(width)}${levels.map((level) => `  ${shown(level)}`).join('')}`,
    ) ?? []),
  ].join('\n');
}

/** Levels of a recording, for people or as JSON; a level of silence is null there. */
export async function printedRecording(args: readonly string[]): Promise<string> {
  const options = await recordingOptions(args);
  const found = await recordingAnswers(options);
  return options.json ? JSON.stringify(found, null, 1) : recordingTable(found);
}
