import type { Instant } from "@/core/calendar/instant";

/** So many files an item has at most. */
export const MOST_ITEM_FILES = 100;
/** And each so many bytes. */
export const LARGEST_ITEM_FILE = 25 * 1024 * 1024;

/** A file that hangs on an item. */
export interface ItemFileView {
  id: string;
  name: string;
  /** By its bytes; “application/octet-stream” where they are of no kind that is known. */
  mediaType: string;
  size: number;
  /** Of a picture that may be drawn in the page. */
  picture: { width: number; height: number } | null;
  by: string;
  at: Instant;
}

/** Where a file of an item is read. */
export const itemFileAddress = (itemKey: string, fileId: string): string =>
  `/api/items/${itemKey}/files/${fileId}`;

/** Whether an address is that of a file of an item: only such pictures are drawn in texts. */
export const isItemFileAddress = (address: string): boolean =>
  /^\/api\/items\/[A-Z][A-Z0-9]{0,11}-\d{1,9}\/files\/[0-9a-f-]{36}$/.test(address);

/** A file of an item as it stands in Markdown: a picture that may be drawn, or else a link. */
export function fileInWords(
  itemKey: string,
  { id, name, picture }: Pick<ItemFileView, "id" | "name" | "picture">,
): string {
  const link = `[${name.replace(/[[\]\\]/g, " ")}](${itemFileAddress(itemKey, id)})`;
  return picture ? `!${link}` : link;
}
