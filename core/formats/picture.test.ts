import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { jpeg, le32, png, restartingJpeg, segment, text, u16, webp } from '../testing-pictures.ts';
import { PictureProblem, jpegOrientation, pictureHead, withoutPlace } from './picture.ts';

const has = (bytes: Uint8Array, word: string) => String.fromCharCode(...bytes).includes(word);

// ITU-T T.81, ISO/IEC 15948, RFC 9649 and EXIF 2.3 for the bytes; the files are written here by hand.
describe('a photo', () => {
  it.each([
    ['jpg', jpeg(640, 480)],
    ['png', png(640, 480)],
    ['webp', webp(640, 480)],
  ] as const)('is told by its content: %s', (kind, bytes) => {
    expect(pictureHead(bytes)).toEqual({ kind, width: 640, height: 480 });
  });
  it('has the size that its WebP says, in each of the three ways', () => {
    const riff = (body: number[]) =>
      Uint8Array.from([...text('RIFF'), ...le32(body.length + 4), ...text('WEBP'), ...body]);
    const le16 = (n: number) => [n & 255, n >> 8];
    // RFC 9649, 2.5: the frame tag, the start code 9d 01 2a, then 14 bits each, with two bits of scale above them.
    const lossy = riff([
      ...[...text('VP8 '), ...le32(10), 0, 0, 0, 0x9d, 0x01, 0x2a],
      ...[...le16(640 | 0x4000), ...le16(480 | 0x8000)],
    ]);
    // RFC 9649, 3.4: the signature 2f, then 14 bits each, less one.
    const lossless = (width: number, height: number) =>
      riff([...text('VP8L'), ...le32(10), 0x2f, ...le32((width - 1) | ((height - 1) << 14)), 0, 0, 0, 0, 0]);
    expect(pictureHead(lossy)).toEqual({ kind: 'webp', width: 640, height: 480 });
    expect(pictureHead(lossless(640, 480))).toEqual({ kind: 'webp', width: 640, height: 480 });
    expect(pictureHead(lossless(1, 16383))).toEqual({ kind: 'webp', width: 1, height: 16383 });
    expect(pictureHead(webp(300, 70))).toEqual({ kind: 'webp', width: 300, height: 70 });
    const strange = riff([...text('VP9 '), ...Array.from({ length: 20 }, () => 1)]);
    expect(() => pictureHead(strange)).toThrow('The picture is damaged.');
    expect(() => pictureHead(lossless(640, 480).subarray(0, 29))).toThrow('The picture ends too early.');
  });
  it('may have fill bytes in front of a marker', () => {
    const plain = [...jpeg(640, 480)];
    // ITU-T T.81, B.1.1.2: any number of ff may stand in front.
    const filled = Uint8Array.from([...plain.slice(0, 2), 0xff, 0xff, ...plain.slice(2)]);
    expect(pictureHead(filled)).toEqual({ kind: 'jpg', width: 640, height: 480 });
    expect(withoutPlace(filled, { kind: 'jpg' })).toEqual(
      withoutPlace(Uint8Array.from(plain), { kind: 'jpg' }),
    );
    // Behind the first segment, which is 18 bytes long.
    const damaged = Uint8Array.from([...plain.slice(0, 20), 0x12, ...plain.slice(20)]);
    expect(() => pictureHead(damaged)).toThrow('The picture is damaged.');
  });
  it('has the size that its frame says, whichever way it is coded', () => {
    const coded = (marker: number) =>
      Uint8Array.from([
        ...[0xff, 0xd8],
        ...segment(marker, [8, ...u16(480), ...u16(640), 1, 1, 0x11, 0]),
        ...segment(0xda, [1, 1, 0, 0, 63, 0]),
        ...[1, 0xff, 0xd9],
      ]);
    // ITU-T T.81, table B.1: frames are c0 to cf, but for tables of codes (c4), what is reserved (c8) and conditions (cc).
    for (let marker = 0xc0; marker <= 0xcf; marker += 1) {
      if ([0xc4, 0xc8, 0xcc].includes(marker))
        expect(() => pictureHead(coded(marker))).toThrow('The picture is damaged.');
      else expect(pictureHead(coded(marker))).toEqual({ kind: 'jpg', width: 640, height: 480 });
    }
    for (const other of [0xbf, 0xd0, 0xdb, 0xe1])
      expect(() => pictureHead(coded(other))).toThrow('The picture is damaged.');
    // One that ends before any frame, whatever stands behind its end.
    const ended = Uint8Array.from([0xff, 0xd8, 0xff, 0xd9, ...coded(0xc0).slice(2)]);
    expect(() => pictureHead(ended)).toThrow('The picture is damaged.');
  });
  it('has a size where its frame is long enough to say one', () => {
    const framed = (...payload: number[]) =>
      Uint8Array.from([...[0xff, 0xd8], ...segment(0xc0, payload), ...segment(0xda, [1]), 0xff, 0xd9]);
    expect(pictureHead(framed(8, ...u16(480), ...u16(640)))).toMatchObject({ width: 640, height: 480 });
    expect(() => pictureHead(framed(8, ...u16(480), 2))).toThrow('The picture is damaged.');
  });
  it('is known by its first bytes, however few there are', () => {
    expect(pictureHead(png(640, 480).subarray(0, 33))).toMatchObject({ kind: 'png', width: 640 });
    expect(() => pictureHead(png(640, 480).subarray(0, 32))).toThrow('This is no photo.');
    expect(() => pictureHead(Uint8Array.of(0xff, 0xd8, 0xff))).toThrow('This is no photo.');
    expect(() => pictureHead(Uint8Array.of(0xff, 0xd8, 0xff, 0xe0))).toThrow('The picture ends too early.');
    expect(() => pictureHead(webp(640, 480).subarray(0, 15))).toThrow('This is no photo.');
    expect(() => pictureHead(webp(640, 480).subarray(0, 16))).toThrow('The picture ends too early.');
  });
  it('ends behind its end marker, over restarts, fill bytes and stuffed ones', () => {
    const whole = [...restartingJpeg()];
    const behind = Uint8Array.from([...whole, ...text('GPS home')]);
    expect(withoutPlace(behind, { kind: 'jpg' }).slice(-18)).toEqual(Uint8Array.from(whole.slice(-18)));
  });
  it.each([
    ['an executable', Uint8Array.from([0x7f, ...text('ELF'), ...Array.from({ length: 60 }, () => 0)])],
    [
      'an executable of another kind',
      Uint8Array.from([...text('MZ'), ...Array.from({ length: 60 }, () => 0)]),
    ],
    [
      'a drawing with a script',
      Uint8Array.from(text('<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>')),
    ],
    ['a page', Uint8Array.from(text('<!doctype html><title>photo.jpg</title><body>hello there</body>'))],
    ['nothing', new Uint8Array()],
  ])('is not %s', (_what, bytes) => {
    expect(() => pictureHead(bytes)).toThrow('This is no photo.');
  });
  it('of 200 million pixels is refused with the number, before anything is unpacked', () => {
    expect(() => pictureHead(png(20000, 10000))).toThrow('200 million pixels');
    expect(() => pictureHead(png(0, 10))).toThrow('empty');
    expect(() => pictureHead(new Uint8Array(26e6))).toThrow('25 MB; this has 26.0');
  });
  it('loses the place where it was taken and nothing of its picture', () => {
    for (const bytes of [jpeg(64, 48), png(64, 48), webp(64, 48)]) {
      const head = pictureHead(bytes);
      const clean = withoutPlace(bytes, head);
      expect(has(bytes, 'GPS')).toBe(true);
      for (const word of ['GPS', 'home', 'owner']) expect(has(clean, word)).toBe(false);
      expect(pictureHead(clean)).toEqual(head);
      // Once more takes nothing more away.
      expect(withoutPlace(clean, head)).toEqual(clean);
    }
    expect(has(withoutPlace(jpeg(64, 48), { kind: 'jpg' }), '\u0001\u0002\u0003\u00ff\u00d9')).toBe(true);
  });
  it('loses what stands behind its end, a second picture among it', () => {
    for (const bytes of [jpeg(64, 48), png(64, 48), webp(64, 48)]) {
      const head = pictureHead(bytes);
      const second = Uint8Array.from([...bytes, ...jpeg(8, 8), ...text('GPS home')]);
      expect(withoutPlace(second, head)).toEqual(withoutPlace(bytes, head));
    }
  });
  it('loses segments and chunks that nobody knows', () => {
    const foreign = [0xff, 0xe2, 0, 10, ...text('MPF'), 0, ...text('GPS'), 0];
    const plain = jpeg(64, 48);
    const marked = Uint8Array.from([...plain.slice(0, 2), ...foreign, ...plain.slice(2)]);
    expect(withoutPlace(marked, { kind: 'jpg' })).toEqual(withoutPlace(plain, { kind: 'jpg' }));
  });
  it('of one pixel by millions is refused', () => {
    expect(() => pictureHead(png(1, 50e6))).toThrow('1 by 50000000 pixels; at most 20000 on a side');
  });
  it('stays the right way up', () => {
    for (const orientation of [1, 3, 6, 8]) {
      const bytes = jpeg(64, 48, orientation);
      expect(jpegOrientation(bytes)).toBe(orientation);
      expect(jpegOrientation(withoutPlace(bytes, { kind: 'jpg' }))).toBe(orientation);
    }
    for (const none of [0, 9, 77]) expect(jpegOrientation(jpeg(64, 48, none))).toBe(1);
  });
  it('says which way up it is as EXIF 2.3 has it, and nothing else', () => {
    // TIFF 6.0: byte order, 42, where the directory stands, one entry (tag, SHORT, 1, value), no directory more.
    const tiff = [
      ...text('II'),
      42,
      0,
      ...le32(8),
      1,
      0,
      0x12,
      0x01,
      3,
      0,
      ...le32(1),
      8,
      0,
      0,
      0,
      ...le32(0),
    ];
    const expected = segment(0xe1, [...text('Exif'), 0, 0, ...tiff]);
    const stripped = Array.from(withoutPlace(jpeg(64, 48, 8), { kind: 'jpg' }));
    const place = stripped.findIndex((byte, i) => byte === 0xff && stripped[i + 1] === 0xe1);
    expect(stripped.slice(place, place + expected.length)).toEqual(expected);
  });
  it('is the right way up where its EXIF is cut short', () => {
    const [entry, other] = [
      [0x12, 0x01, 3, 0, ...le32(1), 6, 0, 0, 0],
      [0x0f, 0x01, 3, 0, ...le32(1), 6, 0, 0, 0],
    ];
    /** With a directory that says it has so many entries, and nothing behind those that are there. */
    const said = (count: number, ...entries: number[][]) =>
      jpegOrientation(
        Uint8Array.from([
          ...[0xff, 0xd8],
          ...segment(0xe1, [
            ...[...text('Exif'), 0, 0, ...text('II'), 42, 0, ...le32(8), count, 0],
            ...entries.flat(),
          ]),
          ...segment(0xda, [1]),
          ...[0xff, 0xd9],
        ]),
      );
    expect([said(1, entry), said(2, other, entry), said(2, other), said(0), said(1)]).toEqual([
      6, 6, 1, 1, 1,
    ]);
    expect(said(2, entry.with(8, 0), entry)).toBe(1);
    // No directory at all, and a header that is cut off.
    for (const length of [14, 13]) {
      const exif = [...text('Exif'), 0, 0, ...text('II'), 42, 0, ...le32(8)].slice(0, length);
      const bytes = Uint8Array.from([0xff, 0xd8, ...segment(0xe1, exif), ...segment(0xda, [1]), 0xff, 0xd9]);
      expect(jpegOrientation(bytes)).toBe(1);
    }
  });
  it('has nothing put in where it stands upright', () => {
    const upright = withoutPlace(jpeg(64, 48, 1), { kind: 'jpg' });
    expect(has(upright, 'Exif')).toBe(false);
    expect(has(withoutPlace(jpeg(64, 48, 3), { kind: 'jpg' }), 'Exif')).toBe(true);
  });
  it('that is cut off or garbled is refused, and never crashes', () => {
    for (const bytes of [jpeg(64, 48), png(64, 48), webp(64, 48)]) {
      fc.assert(
        fc.property(fc.nat(bytes.length), fc.nat(bytes.length - 1), fc.nat(255), (cut, place, value) => {
          const broken = bytes.slice(0, cut);
          if (place < broken.length) broken[place] = value;
          try {
            withoutPlace(broken, pictureHead(broken));
          } catch (error) {
            expect(error).toBeInstanceOf(PictureProblem);
          }
        }),
        { numRuns: 300 },
      );
    }
  });
});
