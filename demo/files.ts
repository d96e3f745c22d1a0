import { pictureSize } from "@/core/formats/picture-size";
import type { ItemEvent } from "@/core/item/event";
import type { Transaction } from "@/db/connection";
import { itemFile } from "@/db/schema";
import { mediaTypeOf } from "@/server/files/kind";
import { keepFile } from "@/server/files/store";
import { Drawing } from "./picture";

const [NIGHT, GLASS, PAPER, INK, WARN] = [
  [18, 30, 38],
  [40, 66, 74],
  [236, 238, 230],
  [24, 34, 40],
  [178, 44, 48],
] as const;

/** The display of a gate at night that refuses a ticket. */
function gateAtNight(): Buffer {
  const drawing = new Drawing(480, 300, NIGHT).box([90, 30, 300, 240], GLASS);
  drawing.box([120, 60, 240, 130], PAPER);
  // The lines of the code on the ticket.
  for (let at = 0, x = 140; x < 340; at++) {
    const width = [3, 2, 6, 2, 4, 8, 2][at % 7];
    drawing.box([x, 78, width, 94], INK);
    x += width + [4, 3, 6][at % 3];
  }
  return drawing.box([120, 210, 240, 36], WARN).box([0, 286, 480, 14], INK).png();
}

const LOG = `05:58:12 gate 3  light 41 lx  reader ready
06:01:47 gate 3  ticket read in 0.4 s  opened
06:02:05 gate 3  light 12 lx  reader slow
06:02:31 gate 3  ticket read in 3.9 s  opened
06:02:58 gate 3  no code found after 5.0 s  refused
06:03:20 gate 3  no code found after 5.0 s  refused
06:04:02 gate 3  crew opened by hand
`;

/** What people of the demo put to items, by name. */
const DEMO_FILES: Record<string, () => Buffer> = {
  "gate at night.png": gateAtNight,
  "gate 3, Monday morning.txt": () => Buffer.from(LOG),
};
export const DEMO_FILE_NAMES = Object.keys(DEMO_FILES);

interface HasHistory {
  snapshot: { id: string };
  events: readonly ItemEvent[];
}

/** Keeps the files that histories tell of. */
export async function loadItemFiles(tx: Transaction, items: readonly HasHistory[]): Promise<void> {
  for (const { snapshot, events } of items)
    for (const event of events) {
      if (event.kind !== "file added") continue;
      const { new: named, at, actorId } = event;
      const content = DEMO_FILES[named.name]();
      const size = pictureSize(content);
      await tx.insert(itemFile).values({
        id: named.fileId,
        itemId: snapshot.id,
        name: named.name,
        mediaType: mediaTypeOf(content)!,
        sha256: await keepFile(tx, content, at),
        size: content.length,
        width: size?.width ?? null,
        height: size?.height ?? null,
        byId: actorId,
        at,
      });
    }
}
