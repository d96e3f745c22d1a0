import { isDrawable, pictureSize } from "@/core/formats/picture-size";
import { PICTURE_SIDE } from "@/core/people/picture";

/** The beginning of a file, in which a picture says how large it is. */
const HEAD = 256 * 1024;

/**
 * The middle of a chosen picture as a small square, without what the file tells besides its pixels.
 * @returns null where it is no picture that can be drawn
 */
export async function smallSquare(file: Blob): Promise<Blob | null> {
  const head = new Uint8Array(await file.slice(0, HEAD).arrayBuffer());
  return isDrawable(pictureSize(head)) ? squareOf(file) : null;
}

/** The same of a picture that is drawn, or can be for certain. */
export async function squareOf(source: ImageBitmapSource): Promise<Blob | null> {
  const drawn = await createImageBitmap(source).catch(() => null);
  if (!drawn) return null;
  const side = Math.min(drawn.width, drawn.height);
  const [left, top] = [(drawn.width - side) / 2, (drawn.height - side) / 2];
  const canvas = document.createElement("canvas");
  canvas.width = canvas.height = Math.min(side, PICTURE_SIDE);
  const context = canvas.getContext("2d");
  if (!context) return null;
  context.imageSmoothingQuality = "high";
  context.drawImage(drawn, left, top, side, side, 0, 0, canvas.width, canvas.height);
  drawn.close();
  return new Promise((made) => canvas.toBlob(made, "image/webp", 0.9));
}
