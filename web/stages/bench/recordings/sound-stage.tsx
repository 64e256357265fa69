import { Maximize2, Play, Scan, Square, ZoomIn, ZoomOut } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { counted } from '../../../../core/quantity/format.ts';
import type { FilePart } from '../../../../core/model/parts.ts';
import type { TimeWindow } from '../../../../core/trace/series.ts';
import { usePreferences } from '../../../app/preferences.ts';
import { useOverview } from '../../../app/api/recordings.ts';
import {
  SOUND_LEFT,
  SOUND_RIGHT,
  type ShownWindow,
  SoundPicture,
  soundColumns,
} from '../../../strip/sound-picture.tsx';
import { around, panned, zoomed } from '../../../strip/sound-view.ts';
import { Button } from '../../../ui/button.tsx';
import { IconButton } from '../../../ui/icon-button.tsx';
import { Key } from '../../../ui/key.tsx';
import { Row } from '../../../ui/page.tsx';
import { Problem } from '../../../ui/problem.tsx';
import type { SoundHead } from '../../../workers/recording.worker.ts';
import { LetterKey } from '../letter-key.tsx';
import { WindowSlider } from '../from-files/window-fields.tsx';
import { usePlayer } from './player.ts';
import { useKeys } from './use-keys.ts';
import type { SoundRow, Sounds } from './use-sounds.ts';
import { useView } from './use-view.ts';

/** What one press of an arrow moves the picture by, of what is seen. */
const PAN = 0.2;
const ZOOM = 1.6;
/** Columns of the picture that are worked out; it is drawn as wide as there is room. */
const COLUMNS = soundColumns(1000);
/** How fine a window is moved by keys, s. */
const FINE_S = 0.01;
/** A window that is added is this part of what is seen. */
const ADDED = 0.1;

const shownWindows = (
  rows: readonly SoundRow[],
  dragged: TimeWindow | undefined,
  chosen: SoundRow | undefined,
): ShownWindow[] =>
  rows.map(({ key, number, window: cut, extra, taken, run }) => ({
    ...(key === chosen?.key && dragged ? dragged : cut),
    key,
    words: extra ? '–' : String(number),
    tone: taken ? 'taken' : extra || !run ? 'none' : 'reading',
  }));

/** How far the reading of a recording has come; nothing once it is done. */
function Progress({ overview, sounds: { track, share, error } }: { overview: number; sounds: Sounds }) {
  if (error) return <Problem>{error.message}</Problem>;
  if (overview < 1) return <p role="status">Reading it: {Math.floor(100 * overview)} %</p>;
  if (!track) return <p role="status">Listening for what sounds: {Math.floor(100 * share)} %</p>;
  return null;
}

/** A label with its key, unless letters are no keys. */
const useHinted = () => {
  const { letterKeys } = usePreferences();
  return (label: string, letter: string) => (letterKeys ? `${label} (${letter})` : label);
};

export interface SoundStageProps {
  file: FilePart;
  head: SoundHead;
  sounds: Sounds;
  chosen: SoundRow | undefined;
  /** Which recording and which channel. */
  choosing: ReactNode;
  onChoose: (key: string) => void;
  onWindow: (row: SoundRow, window: TimeWindow) => void;
  onExtra: (row: SoundRow, extra: boolean) => void;
  onMissed: (row: SoundRow, count: number) => void;
  onAdd: (window: TimeWindow) => void;
}

/** What can be seen of a recording: nearer, further, one sound, all of it. */
function useLook(
  { rows, onChoose }: { rows: readonly SoundRow[]; onChoose: (key: string) => void },
  chosen: SoundRow | undefined,
  lengthS: number,
  { view, setView }: { view: TimeWindow; setView: (view: TimeWindow) => void },
) {
  return {
    zoom: (factor: number) => {
      const { from, to } = chosen?.window ?? view;
      const middle = (from + to) / 2;
      const seen = middle > view.from && middle < view.to ? middle : (view.from + view.to) / 2;
      setView(zoomed(view, factor, seen, lengthS));
    },
    pan: (share: number) => {
      setView(panned(view, share * (view.to - view.from), lengthS));
    },
    seeWhole: () => {
      setView({ from: 0, to: lengthS });
    },
    seeChosen: () => {
      if (chosen) setView(around(chosen.window, lengthS));
    },
    /** Chooses another sound, which then is in sight. */
    move: (step: number) => {
      const place = rows.findIndex((row) => row === chosen) + step;
      const next = rows[Math.min(rows.length - 1, Math.max(0, place))];
      if (!next) return;
      onChoose(next.key);
      const { from, to } = next.window;
      if (from < view.from || to > view.to)
        setView(panned(view, (from + to - view.from - view.to) / 2, lengthS));
    },
  };
}

/** A window in the middle of what is seen; undefined where that is too short for one. */
function windowWithin(view: TimeWindow): TimeWindow | undefined {
  const [middle, room] = [(view.from + view.to) / 2, (ADDED / 2) * (view.to - view.from)];
  const window = { from: Number((middle - room).toFixed(3)), to: Number((middle + room).toFixed(3)) };
  return window.from < window.to ? window : undefined;
}

/** The buttons over the picture. */
function SoundTools({
  choosing,
  plays,
  chosen,
  look: { zoom, seeChosen, seeWhole },
  onPlay,
  onPlaySeen,
  onAdd,
}: {
  choosing: ReactNode;
  plays: boolean;
  chosen: SoundRow | undefined;
  look: ReturnType<typeof useLook>;
  onPlay: () => void;
  onPlaySeen: () => void;
  onAdd: () => void;
}) {
  const hinted = useHinted();
  return (
    <Row>
      {choosing}
      <Button onPress={onPlay}>
        {plays ? <Square size={17} aria-hidden /> : <Play size={17} aria-hidden />}
        {plays ? 'Stop' : 'Play'} <Key>Space</Key>
      </Button>
      <IconButton label={hinted('Nearer', '+')} onPress={() => zoom(ZOOM)}>
        <ZoomIn size={19} aria-hidden />
      </IconButton>
      <IconButton label={hinted('Further away', '-')} onPress={() => zoom(1 / ZOOM)}>
        <ZoomOut size={19} aria-hidden />
      </IconButton>
      <IconButton label={hinted('This sound', 'Z')} isDisabled={!chosen} onPress={seeChosen}>
        <Scan size={19} aria-hidden />
      </IconButton>
      <IconButton label={hinted('All of it', 'W')} onPress={seeWhole}>
        <Maximize2 size={19} aria-hidden />
      </IconButton>
      <Button tone="quiet" onPress={onPlaySeen}>
        Play what is seen <LetterKey>P</LetterKey>
      </Button>
      <Button tone="quiet" onPress={onAdd}>
        Add a window <LetterKey>N</LetterKey>
      </Button>
    </Row>
  );
}

/** The keys of the picture, of the sound, and of the one that is chosen. */
function useSoundKeys(
  { onChoose, onExtra, onMissed }: SoundStageProps,
  /** The chosen one, where it waits to be taken. */
  waits: SoundRow | undefined,
  look: ReturnType<typeof useLook>,
  does: { playOrStop: () => void; playSeen: () => void; add: () => void },
): void {
  useKeys({
    ArrowDown: () => look.move(1),
    ArrowUp: () => look.move(-1),
    ArrowRight: () => look.pan(PAN),
    ArrowLeft: () => look.pan(-PAN),
    ' ': does.playOrStop,
    '+': () => look.zoom(ZOOM),
    '-': () => look.zoom(1 / ZOOM),
    p: does.playSeen,
    z: look.seeChosen,
    w: look.seeWhole,
    n: does.add,
    x: () => {
      if (!waits) return;
      // It stays chosen, though another one would be looked at first now.
      onChoose(waits.key);
      onExtra(waits, !waits.extra);
    },
    m: () => {
      if (waits) onMissed(waits, waits.missed + 1);
    },
  });
}

/** The picture of a recording, whose threshold and windows are moved by hand. */
function Sounding({
  file,
  head,
  sounds,
  chosen,
  onChoose,
  view,
  columns,
  setView,
  dragged,
  waits,
  playing,
  onDrag,
  onMoved,
}: Pick<SoundStageProps, 'file' | 'head' | 'sounds' | 'chosen' | 'onChoose'> &
  Pick<ReturnType<typeof useView>, 'view' | 'columns' | 'setView'> & {
    /** The window while it is being dragged. */
    dragged: TimeWindow | undefined;
    /** The chosen sound, where it is not taken. */
    waits: SoundStageProps['chosen'];
    playing: number | undefined;
    onDrag: (window: TimeWindow) => void;
    onMoved: (window: TimeWindow) => void;
  }) {
  const { change, rows, calibration, calibrated, track, threshold, through } = sounds;
  // It is worked out once it is let go.
  const [threshed, setThreshed] = useState<number>();
  return (
    <SoundPicture
      label={`${file.name} over time, with ${counted(rows.length, 'sound')}. The table below has them.`}
      caption="Drag the threshold, the ends of a window, or the picture itself; Ctrl and the wheel come nearer."
      lengthS={head.lengthS}
      view={view}
      columns={columns}
      track={track}
      scale={{
        addDb: calibrated ? (calibration?.fullScale ?? 0) : 0,
        unit: calibrated && calibration ? 'dB' : 'dB FS',
      }}
      threshold={threshed ?? threshold}
      windows={shownWindows(rows, dragged, chosen)}
      chosenKey={chosen?.key}
      playing={playing}
      onView={setView}
      onChoose={onChoose}
      onThreshold={(level, done) => {
        setThreshed(done ? undefined : level);
        if (done)
          change((before) => ({ ...before, threshold: { level: Number(level.toFixed(1)), through } }));
      }}
      onWindow={(window, done) => {
        if (done) onMoved(window);
        else if (waits) onDrag(window);
      }}
    />
  );
}

/** What is seen and heard of a recording: its picture, its sound, and the keys of both. */
export function SoundStage(props: SoundStageProps) {
  const { file, head, sounds, chosen, choosing, onChoose, onWindow, onAdd } = props;
  const { choices, rows } = sounds;
  const { lengthS, sampleRate } = head;
  const overview = useOverview(file.file);
  const { view, setView, columns } = useView(file.file, choices.channel, lengthS, COLUMNS, overview);
  const { moment, play, stop } = usePlayer(file.file, sampleRate);
  // What is being dragged is worked out once it is let go.
  const [dragged, setDragged] = useState<TimeWindow>();
  const look = useLook({ rows, onChoose }, chosen, lengthS, { view, setView });
  const playOrStop = () => {
    if (moment === undefined) play(chosen?.window ?? view);
    else stop();
  };
  const playSeen = () => {
    play(view);
  };
  /** Adds a window for what was not found. */
  const add = () => {
    const window = windowWithin(view);
    if (window) onAdd(window);
  };
  const waits = chosen && !chosen.taken && !chosen.tone ? chosen : undefined;
  useSoundKeys(props, waits, look, { playOrStop, playSeen, add });
  const moveChosen = (window: TimeWindow) => {
    setDragged(undefined);
    if (waits) onWindow(waits, window);
  };
  return (
    <>
      <SoundTools
        choosing={choosing}
        plays={moment !== undefined}
        {...{ chosen, look }}
        onPlay={playOrStop}
        onPlaySeen={playSeen}
        onAdd={add}
      />
      <Sounding
        {...{ file, head, sounds, chosen, onChoose, view, columns, setView, dragged, waits }}
        playing={moment}
        onDrag={setDragged}
        onMoved={moveChosen}
      />
      <Progress overview={overview} sounds={sounds} />
      {waits && (
        <WindowSlider
          window={dragged ?? waits.window}
          {...{ view, lengthS }}
          stepS={FINE_S}
          left={SOUND_LEFT}
          right={SOUND_RIGHT}
          onDrag={setDragged}
          onChange={moveChosen}
        />
      )}
    </>
  );
}
