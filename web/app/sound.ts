import { preferences } from './preferences.ts';

/** Frequencies in Hz, one after the other, that say what happened. */
const SOUNDS = {
  recorded: [660],
  question: [392, 330],
  'wait over': [523, 659, 784],
} as const;

const NOTE_S = 0.09;
const LOUDNESS = 0.08;

let context: AudioContext | undefined;

/** A short sound made in the browser; none where sounds are turned off or the browser cannot. */
export function sound(what: keyof typeof SOUNDS): void {
  if (!preferences().sounds) return;
  try {
    context ??= new AudioContext();
    // Browsers hold sound back until something was pressed; the bench makes it after a press only.
    void context.resume().catch(() => undefined);
    const start = context.currentTime;
    for (const [i, frequency] of SOUNDS[what].entries()) {
      const tone = context.createOscillator();
      const loudness = context.createGain();
      const from = start + i * NOTE_S;
      tone.frequency.value = frequency;
      loudness.gain.setValueAtTime(LOUDNESS, from);
      loudness.gain.exponentialRampToValueAtTime(0.0001, from + NOTE_S);
      tone.connect(loudness).connect(context.destination);
      tone.start(from);
      tone.stop(from + NOTE_S);
    }
  } catch {
    context = undefined;
  }
}
