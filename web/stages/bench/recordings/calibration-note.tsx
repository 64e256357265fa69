import { useState } from 'react';
import type { Calibration, FilePart, Measurand } from '../../../../core/model/parts.ts';
import { formatNumber } from '../../../../core/quantity/format.ts';
import { parseQuantity } from '../../../../core/quantity/parse.ts';
import type { TimeWindow } from '../../../../core/trace/series.ts';
import { problemText } from '../../../app/api/client.ts';
import { toneOf } from '../../../app/api/recordings.ts';
import { createPart } from '../../../app/api/studies.ts';
import { Button } from '../../../ui/button.tsx';
import { Choice } from '../../../ui/choice.tsx';
import { Note } from '../../../ui/note.tsx';
import { Row } from '../../../ui/page.tsx';
import { Problem } from '../../../ui/problem.tsx';
import { TextField } from '../../../ui/text-field.tsx';
import { dayAndTime } from '../../../ui/when.ts';
import type { SoundRow } from './use-sounds.ts';

const decibels = (level: number): string => `${formatNumber(level, 1)} dB`;

/** Where a calibration comes from, in a few words. */
export function calibrationWords(
  { calibratedAt, toneLevel, fileId }: Calibration,
  files: readonly FilePart[],
): string {
  const date = dayAndTime(calibratedAt);
  const file = files.find(({ id }) => id === fileId)?.name;
  return toneLevel === null || file === undefined
    ? `typed in, ${date}`
    : `${decibels(toneLevel)} in ${file}, ${date}`;
}

/** How much of a tone is left out at either end, where it comes and goes: s, and of its length. */
const [END_S, END_SHARE] = [0.3, 0.15];
const steadyPart = ({ from, to }: TimeWindow): TimeWindow => {
  const end = Math.min(END_S, END_SHARE * (to - from));
  return { from: Number((from + end).toFixed(3)), to: Number((to - end).toFixed(3)) };
};

/** A level that was typed; undefined with a sentence where it is none. */
function readLevel(text: string): { level: number } | { problem: string } {
  const understood = parseQuantity(text, 'dB');
  if ('problem' in understood) return understood;
  return Math.abs(understood.number) > 200
    ? { problem: 'A level lies between −200 and 200 dB.' }
    : { level: understood.number };
}

/** Where a calibration is made: in a file, by the sound that is looked at. */
interface CalibrationPlace {
  measurand: Measurand;
  file: FilePart;
  channel: number;
  /** The sound that is looked at. */
  chosen: SoundRow | undefined;
}

const TYPED = { fileId: null, channel: null, toneFrom: null, toneTo: null, toneLevel: null };

/** Writes a calibration down. @returns its id */
async function keepCalibration(
  { studyId, instrument }: Measurand,
  fullScale: number,
  tone: Pick<Calibration, 'fileId' | 'channel' | 'toneFrom' | 'toneTo' | 'toneLevel'>,
): Promise<string> {
  const made = await createPart(studyId, 'calibrations', {
    instrument: instrument.name,
    calibratedAt: new Date().toISOString(),
    fullScale: Number(fullScale.toFixed(4)),
    note: '',
    ...tone,
  });
  return made.id;
}

/** Calibrates by a tone of this level in a file. @returns the id of what was kept, and what is said of the tone */
async function calibrateBy(
  { measurand, file, channel }: Omit<CalibrationPlace, 'chosen'>,
  { window }: SoundRow,
  level: number,
) {
  const { from, to } = steadyPart(window);
  const { fullScale, remarks } = await toneOf(file.file, channel, { from, to }, level);
  const tone = { fileId: file.id, channel, toneFrom: from, toneTo: to, toneLevel: level };
  return { id: await keepCalibration(measurand, fullScale, tone), remarks };
}

/** A level in a field, and what is done with it. */
function LevelLine({
  label,
  text,
  onText,
  isDisabled,
  onLevel,
  action,
}: {
  label: string;
  text: string;
  onText: (text: string) => void;
  isDisabled: boolean;
  /** @throws what is then said under the field */
  onLevel: (level: number) => Promise<void>;
  action: string;
}) {
  const [problem, setProblem] = useState<string>();
  const take = async () => {
    if (isDisabled) return;
    const read = readLevel(text);
    if ('problem' in read) {
      setProblem(read.problem);
      return;
    }
    try {
      await onLevel(read.level);
      setProblem(undefined);
    } catch (error) {
      setProblem(problemText(error));
    }
  };
  return (
    <Row>
      <TextField label={label} value={text} onChange={onText} onEnter={() => void take()} problem={problem} />
      <Button size="small" isDisabled={isDisabled || text.trim() === ''} onPress={() => void take()}>
        {action}
      </Button>
    </Row>
  );
}

/** Makes a calibration: by a tone that sounds in the file, or of a figure that is known. */
function NewCalibration({
  measurand,
  file,
  channel,
  chosen,
  toneLevel,
  onToneLevel,
  onMade,
}: CalibrationPlace & {
  /** As typed. */
  toneLevel: string;
  onToneLevel: (text: string) => void;
  onMade: (id: string, remarks: readonly string[]) => void;
}) {
  const [fullScale, setFullScale] = useState('');
  return (
    <>
      <LevelLine
        label="Level of the calibrator, dB"
        text={toneLevel}
        onText={onToneLevel}
        isDisabled={!chosen}
        action={chosen ? `Sound ${String(chosen.number)} is its tone` : 'Choose its tone first'}
        onLevel={async (level) => {
          if (!chosen) return;
          const made = await calibrateBy({ measurand, file, channel }, chosen, level);
          onMade(made.id, made.remarks);
        }}
      />
      <LevelLine
        label="Or full scale, dB"
        text={fullScale}
        onText={setFullScale}
        isDisabled={false}
        action="Keep it"
        onLevel={async (level) => {
          onMade(await keepCalibration(measurand, level, TYPED), []);
        }}
      />
    </>
  );
}

/** The calibration that holds, and the others that could. */
function Holding({
  calibration,
  calibrations,
  files,
  onChosen,
}: {
  calibration: Calibration;
  calibrations: readonly Calibration[];
  files: readonly FilePart[];
  onChosen: (calibrationId: string) => void;
}) {
  return (
    <>
      <p>{calibrationWords(calibration, files)}.</p>
      {calibrations.length > 1 && (
        <Choice
          label="Calibration"
          labelHidden
          options={calibrations.map((known) => ({
            value: known.id,
            label: `${decibels(known.fullScale)}: ${calibrationWords(known, files)}`,
          }))}
          value={calibration.id}
          onChange={onChosen}
        />
      )}
    </>
  );
}

/** By what levels of a recording are in dB: a calibrator’s tone in it, or a figure that is known. */
export function CalibrationNote({
  files,
  calibrations,
  calibration,
  onChosen,
  ...place
}: CalibrationPlace & {
  files: readonly FilePart[];
  calibrations: readonly Calibration[];
  /** The one that holds. */
  calibration: Calibration | undefined;
  onChosen: (calibrationId: string) => void;
}) {
  // It is the same the next time.
  const [toneLevel, setToneLevel] = useState('94.0');
  const [remarks, setRemarks] = useState<readonly string[]>([]);
  const [again, setAgain] = useState(false);
  return (
    <Note
      tone={calibration ? 'plain' : 'attention'}
      title={calibration ? `Full scale is ${decibels(calibration.fullScale)}` : 'Not calibrated'}
      actions={
        calibration && !again ? (
          <Button
            size="small"
            onPress={() => {
              setAgain(true);
            }}
          >
            Calibrate again
          </Button>
        ) : (
          <NewCalibration
            {...{ ...place, toneLevel }}
            onToneLevel={setToneLevel}
            onMade={(id, said) => {
              onChosen(id);
              setRemarks(said);
              setAgain(false);
            }}
          />
        )
      }
    >
      {calibration ? (
        <Holding {...{ calibration, calibrations, files, onChosen }} />
      ) : (
        <p>
          Levels are in dB once a calibrator sounds in a recording, or it is known what the recorder’s full
          scale is.
        </p>
      )}
      {remarks.map((sentence) => (
        <Problem key={sentence}>{sentence}</Problem>
      ))}
    </Note>
  );
}
