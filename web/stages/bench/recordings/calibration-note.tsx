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

/** By what levels of a recording are in dB: a calibrator’s tone in it, or a figure that is known. */
export function CalibrationNote({
  measurand,
  files,
  file,
  calibrations,
  calibration,
  channel,
  chosen,
  onChosen,
}: {
  measurand: Measurand;
  files: readonly FilePart[];
  file: FilePart;
  calibrations: readonly Calibration[];
  /** The one that holds. */
  calibration: Calibration | undefined;
  channel: number;
  /** The sound that is looked at. */
  chosen: SoundRow | undefined;
  onChosen: (calibrationId: string) => void;
}) {
  const [toneLevel, setToneLevel] = useState('94.0');
  const [fullScale, setFullScale] = useState('');
  const [problem, setProblem] = useState<{ of: 'tone' | 'typed'; words: string }>();
  const [remarks, setRemarks] = useState<string[]>([]);
  const [again, setAgain] = useState(false);
  const keep = async (
    scale: number,
    tone: Pick<Calibration, 'fileId' | 'channel' | 'toneFrom' | 'toneTo' | 'toneLevel'>,
  ) => {
    const made = await createPart(measurand.studyId, 'calibrations', {
      instrument: measurand.instrument.name,
      calibratedAt: new Date().toISOString(),
      fullScale: Number(scale.toFixed(4)),
      note: '',
      ...tone,
    });
    onChosen(made.id);
    setAgain(false);
  };
  const bySound = async () => {
    const read = readLevel(toneLevel);
    if (!chosen) return;
    if ('problem' in read) {
      setProblem({ of: 'tone', words: read.problem });
      return;
    }
    const { from, to } = steadyPart(chosen.window);
    try {
      const tone = await toneOf(file.file, channel, { from, to }, read.level);
      await keep(tone.fullScale, {
        ...{ fileId: file.id, channel, toneFrom: from, toneTo: to },
        toneLevel: read.level,
      });
      setRemarks(tone.remarks);
      setProblem(undefined);
    } catch (error) {
      setProblem({ of: 'tone', words: problemText(error) });
    }
  };
  const typed = async () => {
    const read = readLevel(fullScale);
    if ('problem' in read) {
      setProblem({ of: 'typed', words: read.problem });
      return;
    }
    try {
      await keep(read.level, { fileId: null, channel: null, toneFrom: null, toneTo: null, toneLevel: null });
      setFullScale('');
      setProblem(undefined);
    } catch (error) {
      setProblem({ of: 'typed', words: problemText(error) });
    }
  };
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
          <>
            <Row>
              <TextField
                label="Level of the calibrator, dB"
                value={toneLevel}
                onChange={setToneLevel}
                onEnter={() => void bySound()}
                problem={problem?.of === 'tone' ? problem.words : undefined}
              />
              <Button size="small" isDisabled={!chosen} onPress={() => void bySound()}>
                {chosen ? `Sound ${String(chosen.number)} is its tone` : 'Choose its tone first'}
              </Button>
            </Row>
            <Row>
              <TextField
                label="Or full scale, dB"
                value={fullScale}
                onChange={setFullScale}
                onEnter={() => void typed()}
                problem={problem?.of === 'typed' ? problem.words : undefined}
              />
              <Button size="small" isDisabled={fullScale.trim() === ''} onPress={() => void typed()}>
                Keep it
              </Button>
            </Row>
          </>
        )
      }
    >
      {calibration ? (
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
