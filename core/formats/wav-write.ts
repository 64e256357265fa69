/** What the head of a WAV file says: PCM of 16 bits. */
export interface WrittenHead {
  sampleRate: number;
  channels: number;
  /** Size of the samples, bytes; 0 while it is not known, which a reader takes for all to the end of the file. */
  dataBytes: number;
  /** What a broadcast file says beside it. */
  about?: {
    /** What it is, in 256 signs of ASCII at most. */
    description: string;
    /** Whose it is, in 32 signs of ASCII at most. */
    reference: string;
    /** When it was begun, by the clock of the place and without a zone: 2026-09-19T13:02:11. */
    begunAt: string;
  };
}

/** Length of a broadcast chunk of version 1 without a coding history, bytes. */
const BEXT_BYTES = 602;

/** Where a broadcast chunk has its texts, and how long they may be, bytes. */
const PLACES = { description: [0, 256], reference: [288, 32], day: [320, 10], time: [330, 8] } as const;

/**
 * The head of a WAV file, in front of its samples.
 * @source RIFF WAVE as Microsoft published it, EBU Tech 3285 for bext (from memory)
 */
export function writtenHead({ sampleRate, channels, dataBytes, about }: WrittenHead): Uint8Array {
  const extra = about ? 8 + BEXT_BYTES : 0;
  const bytes = new Uint8Array(44 + extra);
  const data = new DataView(bytes.buffer);
  const text = (place: number, words: string) => {
    bytes.set(new TextEncoder().encode(words), place);
  };
  text(0, 'RIFF');
  data.setUint32(4, dataBytes === 0 ? 0 : bytes.length - 8 + dataBytes, true);
  text(8, 'WAVEfmt ');
  data.setUint32(16, 16, true);
  data.setUint16(20, 1, true);
  data.setUint16(22, channels, true);
  data.setUint32(24, sampleRate, true);
  data.setUint32(28, 2 * channels * sampleRate, true);
  data.setUint16(32, 2 * channels, true);
  data.setUint16(34, 16, true);
  if (about) {
    const [day = '', time = ''] = about.begunAt.split('T');
    text(36, 'bext');
    data.setUint32(40, BEXT_BYTES, true);
    data.setUint16(44 + 346, 1, true);
    const texts = { description: about.description, reference: about.reference, day, time };
    for (const [name, [place, length]] of Object.entries(PLACES)) {
      text(44 + place, texts[name as keyof typeof texts].replace(/[^\x20-\x7e]/g, '?').slice(0, length));
    }
  }
  text(36 + extra, 'data');
  data.setUint32(40 + extra, dataBytes, true);
  return bytes;
}

/** What a broadcast chunk at the beginning of a file says of it; undefined where there is none. */
export function writtenAbout(bytes: Uint8Array): { description: string; reference: string } | undefined {
  const text = (place: number, length: number) =>
    String.fromCharCode(...bytes.subarray(place, place + length)).split('\0', 1)[0] ?? '';
  if (bytes.length < 44 + BEXT_BYTES || text(36, 4) !== 'bext') return undefined;
  const [description, reference] = (['description', 'reference'] as const).map((name) => {
    const [place, length] = PLACES[name];
    return text(44 + place, length);
  }) as [string, string];
  return { description, reference };
}

/** Samples from −1 to 1 as 16 bits each, clipped where they are too loud. */
export function pcm16(samples: Float64Array): Uint8Array {
  const bytes = new Uint8Array(2 * samples.length);
  const data = new DataView(bytes.buffer);
  samples.forEach((sample, k) => {
    data.setInt16(2 * k, Math.max(-32768, Math.min(32767, Math.round(32768 * sample))), true);
  });
  return bytes;
}
