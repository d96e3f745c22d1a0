/** How large a picture is drawn, in pixels. */
export interface PictureSize {
  width: number;
  height: number;
}

/** A picture of more pixels is not drawn in a page: so small a file may ask for so much memory. */
const MOST_PIXELS = 50_000_000;

/** So many bytes of a file are looked at: what says the size stands before that. */
const LOOKED_AT = 512 * 1024;

/**
 * The size of a picture by the head of its file: PNG (RFC 2083, section 4.1.1), GIF (GIF89a,
 * section 18), JPEG (ITU-T T.81, section B.2.2) and WebP (RFC 9649, section 2.5 and following).
 * @returns null where the bytes are of no such picture, or do not say it
 */
export function pictureSize(content: Uint8Array): PictureSize | null {
  const bytes = content.subarray(0, LOOKED_AT);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  try {
    return sizeIn(view);
  } catch (error) {
    // The head is shorter than it says.
    if (error instanceof RangeError) return null;
    throw error;
  }
}

/** Whether a picture may be drawn in a page. */
export function isDrawable(size: PictureSize | null): boolean {
  return (
    size !== null && size.width > 0 && size.height > 0 && size.width * size.height <= MOST_PIXELS
  );
}

function sizeIn(view: DataView): PictureSize | null {
  if (view.getUint32(0) === 0x89504e47)
    return { width: view.getUint32(16), height: view.getUint32(20) };
  if (wordAt(view, 0, 3) === "GIF")
    return { width: view.getUint16(6, true), height: view.getUint16(8, true) };
  if (view.getUint16(0) === 0xffd8) return jpegSize(view);
  if (wordAt(view, 0, 4) === "RIFF" && wordAt(view, 8, 4) === "WEBP") return webpSize(view);
  return null;
}

const wordAt = (view: DataView, at: number, length: number): string =>
  Array.from({ length }, (_, i) => String.fromCharCode(view.getUint8(at + i))).join("");

/** Marks that begin a frame, but for those that hold tables. */
const isFrame = (mark: number): boolean =>
  mark >= 0xc0 && mark <= 0xcf && mark !== 0xc4 && mark !== 0xc8 && mark !== 0xcc;

function jpegSize(view: DataView): PictureSize | null {
  let at = 2;
  while (view.getUint8(at) === 0xff) {
    const mark = view.getUint8(at + 1);
    if (isFrame(mark)) return { height: view.getUint16(at + 5), width: view.getUint16(at + 7) };
    // A mark that is filled up is followed by another.
    at += mark === 0xff ? 1 : 2 + view.getUint16(at + 2);
  }
  return null;
}

const uint24 = (view: DataView, at: number): number =>
  view.getUint16(at, true) + view.getUint8(at + 2) * 0x10000;

function webpSize(view: DataView): PictureSize | null {
  switch (wordAt(view, 12, 4)) {
    case "VP8X":
      return { width: uint24(view, 24) + 1, height: uint24(view, 27) + 1 };
    case "VP8L": {
      const packed = view.getUint32(21, true);
      return { width: (packed & 0x3fff) + 1, height: ((packed >> 14) & 0x3fff) + 1 };
    }
    case "VP8 ":
      return {
        width: view.getUint16(26, true) & 0x3fff,
        height: view.getUint16(28, true) & 0x3fff,
      };
    default:
      return null;
  }
}
