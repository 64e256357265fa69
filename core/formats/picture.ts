/** A picture that can be kept with a note. */
export type PictureKind = 'jpg' | 'png' | 'webp';

export interface PictureHead {
  kind: PictureKind;
  /** Pixels. */
  width: number;
  height: number;
}

/** More than this is no photo of a bench: it would only fill memory, pixels. */
export const MOST_PIXELS = 60e6;
/** A picture of one pixel by millions is none either, and takes long to draw; pixels. */
export const MOST_SIDE = 20000;
/** Longest file, bytes. */
export const MOST_BYTES = 25e6;

export class PictureProblem extends Error {}

const ascii = (bytes: Uint8Array, place: number, length: number): string =>
  String.fromCharCode(...bytes.subarray(place, place + length));
const view = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

interface Segment {
  marker: number;
  /** From the marker's 0xFF on. */
  from: number;
  to: number;
}

/** The segments of a JPEG up to its picture data (ITU-T T.81, annex B). */
function jpegSegments(bytes: Uint8Array): { segments: Segment[]; rest: number } {
  const segments: Segment[] = [];
  let place = 2;
  while (place + 4 <= bytes.length) {
    if (bytes[place] !== 0xff) throw new PictureProblem('The picture is damaged.');
    const marker = bytes[place + 1] as number;
    if (marker === 0xff) {
      place += 1;
      continue;
    }
    const to = place + 2 + view(bytes).getUint16(place + 2);
    if (marker === 0xda || marker === 0xd9) return { segments, rest: place };
    if (to > bytes.length) break;
    segments.push({ marker, from: place, to });
    place = to;
  }
  throw new PictureProblem('The picture ends too early.');
}

const isFrame = (marker: number) =>
  marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc;

function jpegHead(bytes: Uint8Array): PictureHead {
  const frame = jpegSegments(bytes).segments.find(({ marker }) => isFrame(marker));
  if (!frame || frame.to - frame.from < 9) throw new PictureProblem('The picture is damaged.');
  const data = view(bytes);
  return { kind: 'jpg', height: data.getUint16(frame.from + 5), width: data.getUint16(frame.from + 7) };
}

function webpHead(bytes: Uint8Array): PictureHead {
  const data = view(bytes);
  const chunk = ascii(bytes, 12, 4);
  const uint24 = (place: number) => data.getUint16(place, true) + ((bytes[place + 2] as number) << 16);
  if (bytes.length < 30) throw new PictureProblem('The picture ends too early.');
  if (chunk === 'VP8X') return { kind: 'webp', width: uint24(24) + 1, height: uint24(27) + 1 };
  if (chunk === 'VP8 ') {
    return {
      kind: 'webp',
      width: data.getUint16(26, true) & 0x3fff,
      height: data.getUint16(28, true) & 0x3fff,
    };
  }
  if (chunk === 'VP8L') {
    const bits = data.getUint32(21, true);
    return { kind: 'webp', width: (bits & 0x3fff) + 1, height: ((bits >> 14) & 0x3fff) + 1 };
  }
  throw new PictureProblem('The picture is damaged.');
}

/**
 * What kind of picture the bytes are, told from what is in them and not from a name.
 * @throws PictureProblem for anything but a JPEG, PNG or WebP of a bearable size
 * @source ITU-T T.81 (JPEG); ISO/IEC 15948 (PNG); RFC 9649 (WebP)
 */
export function pictureHead(bytes: Uint8Array): PictureHead {
  if (bytes.length > MOST_BYTES) {
    throw new PictureProblem(
      `A photo may have ${String(MOST_BYTES / 1e6)} MB; this has ${(bytes.length / 1e6).toFixed(1)}.`,
    );
  }
  let head: PictureHead | undefined;
  if (bytes.length >= 4 && bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff)
    head = jpegHead(bytes);
  else if (
    bytes.length >= 33 &&
    ascii(bytes, 1, 3) === 'PNG' &&
    bytes[0] === 0x89 &&
    ascii(bytes, 12, 4) === 'IHDR'
  ) {
    head = { kind: 'png', width: view(bytes).getUint32(16), height: view(bytes).getUint32(20) };
  } else if (bytes.length >= 16 && ascii(bytes, 0, 4) === 'RIFF' && ascii(bytes, 8, 4) === 'WEBP') {
    head = webpHead(bytes);
  }
  if (!head) throw new PictureProblem('This is no photo. JPEG, PNG and WebP can be kept.');
  const pixels = head.width * head.height;
  if (pixels === 0) throw new PictureProblem('The picture is empty.');
  if (pixels > MOST_PIXELS) {
    throw new PictureProblem(
      `The picture has ${(pixels / 1e6).toFixed(0)} million pixels; ${String(MOST_PIXELS / 1e6)} million are enough.`,
    );
  }
  if (Math.max(head.width, head.height) > MOST_SIDE) {
    throw new PictureProblem(
      `The picture is ${String(head.width)} by ${String(head.height)} pixels; at most ${String(MOST_SIDE)} on a side can be kept.`,
    );
  }
  return head;
}

const joined = (parts: readonly Uint8Array[]): Uint8Array => {
  const whole = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
  let place = 0;
  for (const part of parts) {
    whole.set(part, place);
    place += part.length;
  }
  return whole;
};

/**
 * Where a JPEG's picture data end, behind its end marker: what stands behind it may be a second picture, with the place
 * in it.
 */
function jpegEnd(bytes: Uint8Array, rest: number): number {
  let place = rest;
  while (place + 2 <= bytes.length) {
    if (bytes[place] !== 0xff) {
      place += 1;
      continue;
    }
    const marker = bytes[place + 1] as number;
    if (marker === 0xd9) return place + 2;
    // A stuffed byte or a restart within the data; all other markers begin a segment with its length.
    if (marker === 0 || marker === 0xff || (marker >= 0xd0 && marker <= 0xd7))
      place += marker === 0xff ? 1 : 2;
    else if (place + 4 <= bytes.length) place += 2 + view(bytes).getUint16(place + 2);
    else break;
  }
  return bytes.length;
}

/** Application segments that the colours need, by their names: all else may say where and by whom. */
const KEPT_APPLICATION: Readonly<Record<number, string>> = {
  0xe0: 'JFIF',
  0xe2: 'ICC_PROFILE',
  0xee: 'Adobe',
};

/** Which way up a JPEG is to be shown, from 1 to 8 (EXIF 2.3, tag 0x0112); 1 where nothing is said. */
export function jpegOrientation(bytes: Uint8Array): number {
  for (const { marker, from, to } of jpegSegments(bytes).segments) {
    if (marker !== 0xe1 || ascii(bytes, from + 4, 4) !== 'Exif' || to - from < 18) continue;
    const tiff = from + 10;
    const data = view(bytes.subarray(0, to));
    const little = ascii(bytes, tiff, 2) === 'II';
    const directory = tiff + data.getUint32(tiff + 4, little);
    if (directory + 2 > to) return 1;
    const count = data.getUint16(directory, little);
    for (let i = 0; i < count; i += 1) {
      const entry = directory + 2 + 12 * i;
      if (entry + 12 > to) return 1;
      if (data.getUint16(entry, little) !== 0x0112) continue;
      const value = data.getUint16(entry + 8, little);
      return value >= 1 && value <= 8 ? value : 1;
    }
  }
  return 1;
}

/** A segment that says nothing but which way up the picture is. */
const orientationSegment = (orientation: number): Uint8Array =>
  Uint8Array.from([
    ...[0xff, 0xe1, 0x00, 0x22, 0x45, 0x78, 0x69, 0x66, 0x00, 0x00],
    // TIFF, little-endian, one directory with one entry of type SHORT.
    ...[0x49, 0x49, 0x2a, 0x00, 0x08, 0x00, 0x00, 0x00, 0x01, 0x00],
    ...[0x12, 0x01, 0x03, 0x00, 0x01, 0x00, 0x00, 0x00, orientation, 0x00, 0x00, 0x00],
    ...[0x00, 0x00, 0x00, 0x00],
  ]);

/** Chunks of a PNG that hold nothing about where or by whom it was taken. */
const KEPT_PNG = /^(IHDR|PLTE|IDAT|IEND|tRNS|gAMA|cHRM|sRGB|iCCP|sBIT|pHYs|bKGD|acTL|fcTL|fdAT)$/;

const KEPT_WEBP = /^(VP8 |VP8L|VP8X|ALPH|ANIM|ANMF|ICCP)$/;

/**
 * The same picture, pixel for pixel, without what a camera writes about place, time and owner: EXIF, XMP, IPTC and
 * comments are taken out, and whatever stands behind the end of the picture; which way up it is stays.
 */
export function withoutPlace(bytes: Uint8Array, { kind }: Pick<PictureHead, 'kind'>): Uint8Array {
  if (kind === 'jpg') {
    const { segments, rest } = jpegSegments(bytes);
    const orientation = jpegOrientation(bytes);
    const kept = segments.filter(({ marker, from, to }) => {
      if (marker === 0xfe) return false;
      if (marker < 0xe0 || marker > 0xef) return true;
      const name = KEPT_APPLICATION[marker];
      return (
        name !== undefined && to - from > 4 + name.length && ascii(bytes, from + 4, name.length) === name
      );
    });
    return joined([
      bytes.subarray(0, 2),
      ...(orientation === 1 ? [] : [orientationSegment(orientation)]),
      ...kept.map(({ from, to }) => bytes.subarray(from, to)),
      bytes.subarray(rest, jpegEnd(bytes, rest)),
    ]);
  }
  const data = view(bytes);
  const parts: Uint8Array[] = [];
  if (kind === 'png') {
    let chunk = 8;
    while (chunk + 12 <= bytes.length) {
      const to = chunk + 12 + data.getUint32(chunk);
      if (to > bytes.length) throw new PictureProblem('The picture ends too early.');
      const name = ascii(bytes, chunk + 4, 4);
      if (KEPT_PNG.test(name)) parts.push(bytes.subarray(chunk, to));
      // Nothing behind the end belongs to the picture.
      if (name === 'IEND') break;
      chunk = to;
    }
    return joined([bytes.subarray(0, 8), ...parts]);
  }
  let place = 12;
  const end = Math.min(bytes.length, 8 + data.getUint32(4, true));
  while (place + 8 <= end) {
    const length = data.getUint32(place + 4, true);
    const to = place + 8 + length + (length % 2);
    if (place + 8 + length > bytes.length) throw new PictureProblem('The picture ends too early.');
    const name = ascii(bytes, place, 4);
    if (KEPT_WEBP.test(name)) {
      const chunk = bytes.slice(place, to);
      // The flags say that there is EXIF (8) and XMP (4).
      if (name === 'VP8X') chunk[8] = (chunk[8] as number) & ~0x0c;
      parts.push(chunk);
    }
    place = to;
  }
  const body = joined(parts);
  const head = bytes.slice(0, 12);
  view(head).setUint32(4, body.length + 4, true);
  return joined([head, body]);
}
