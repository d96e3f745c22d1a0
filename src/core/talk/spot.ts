/** A place on a picture or on a page of a file, that a remark is about. */
export interface FileSpot {
  fileId: string;
  /** From 1; null where the file is a picture. */
  page: number | null;
  /** From its left edge, as part of its width: 0 to 1. */
  x: number;
  /** From its upper edge, as part of its height: 0 to 1. */
  y: number;
}

/** A place as a reader of the talk sees it. */
export interface SeenSpot extends FileSpot {
  /** Which of the places on its file it is, from 1, in the order in which they were made. */
  number: number;
  /** Null where the file is no longer there. */
  fileName: string | null;
}

/** No page lies further back. */
export const LAST_PAGE = 9_999;

/**
 * Numbers places by file, in the order in which they are given.
 * @param nameOf what a file is called; null where it is no longer there
 */
export function numberedSpots<T extends { spot: FileSpot | null }>(
  inOrder: readonly T[],
  nameOf: (fileId: string) => string | null,
): Map<T, SeenSpot> {
  const last = new Map<string, number>();
  const seen = new Map<T, SeenSpot>();
  for (const one of inOrder) {
    if (one.spot === null) continue;
    const { fileId } = one.spot;
    const number = (last.get(fileId) ?? 0) + 1;
    last.set(fileId, number);
    seen.set(one, { ...one.spot, number, fileName: nameOf(fileId) });
  }
  return seen;
}

/** Where a place stands that is moved by a step, within its page. */
export function spotMoved(
  { x, y }: Pick<FileSpot, "x" | "y">,
  { right = 0, down = 0 }: { right?: number; down?: number },
): Pick<FileSpot, "x" | "y"> {
  const within = (part: number) => Math.min(1, Math.max(0, part));
  return { x: within(x + right), y: within(y + down) };
}
