/** Small pictures to test with, written byte by byte: ITU-T T.81, ISO/IEC 15948, RFC 9649 and EXIF 2.3. */

export const text = (word: string) => [...word].map((sign) => sign.charCodeAt(0));
export const u16 = (n: number) => [n >> 8, n & 255];
const u32 = (n: number) => [(n >>> 24) & 255, (n >>> 16) & 255, (n >>> 8) & 255, n & 255];
export const le32 = (n: number) => [...u32(n)].reverse();

export const segment = (marker: number, body: number[]) => [0xff, marker, ...u16(body.length + 2), ...body];
/** EXIF with a camera's name, an orientation and a place (EXIF 2.3: tags 0x010f, 0x0112, GPS 0x8825). */
const exif = (orientation: number) =>
  segment(0xe1, [
    ...[...text('Exif'), 0, 0, ...text('MM'), 0, 42, ...u32(8), ...u16(3)],
    ...[...u16(0x010f), ...u16(2), ...u32(4), ...text('Cam'), 0],
    ...[...u16(0x0112), ...u16(3), ...u32(1), ...u16(orientation), 0, 0],
    ...[...u16(0x8825), ...u16(4), ...u32(1), ...u32(50)],
    ...u32(0),
    ...text('GPS 51.5N 0.1W'),
  ]);
export const jpeg = (width: number, height: number, orientation = 6) =>
  Uint8Array.from([
    ...[0xff, 0xd8],
    ...segment(0xe0, [...text('JFIF'), 0, 1, 1, 0, 0, 1, 0, 1, 0, 0]),
    ...exif(orientation),
    ...segment(0xed, text('Photoshop 3.0 owner')),
    ...segment(0xfe, text('taken at home')),
    ...segment(0xc0, [8, ...u16(height), ...u16(width), 1, 1, 0x11, 0]),
    ...segment(0xda, [1, 1, 0, 0, 63, 0]),
    ...[1, 2, 3, 0xff, 0xd9],
  ]);
/** One whose data have stuffed bytes, restarts, fill bytes and a table of codes in them. */
export const restartingJpeg = () => {
  const scan = [1, 0xff, 0, 0xff, 0xd0, 2, 0xff, 0xff, 0xd7, 0xff, 0xc4, 0, 4, 0xff, 0xd9, 3];
  return Uint8Array.from([...jpeg(64, 48).slice(0, -5), ...scan, 0xff, 0xd9]);
};
const chunk = (name: string, body: number[]) => [...u32(body.length), ...text(name), ...body, 0, 0, 0, 0];
export const png = (width: number, height: number) =>
  Uint8Array.from([
    ...[0x89, ...text('PNG'), 13, 10, 26, 10],
    ...chunk('IHDR', [...u32(width), ...u32(height), 8, 2, 0, 0, 0]),
    ...chunk('tEXt', text('Location\u0000at home')),
    ...chunk('eXIf', text('GPS')),
    ...chunk('IDAT', [1, 2, 3]),
    ...chunk('IEND', []),
  ]);
export const webp = (width: number, height: number) => {
  const body = [
    ...[...text('VP8X'), ...le32(10), 0x0c, 0, 0, 0],
    ...le32(width - 1).slice(0, 3),
    ...le32(height - 1).slice(0, 3),
    ...[...text('VP8L'), ...le32(3), 1, 2, 3, 0],
    ...[...text('EXIF'), ...le32(3), ...text('GPS'), 0],
  ];
  return Uint8Array.from([...text('RIFF'), ...le32(body.length + 4), ...text('WEBP'), ...body]);
};
