import type { Transaction } from "@/db/connection";
import { personPicture } from "@/db/schema";
import { mediaTypeOf } from "@/server/files/kind";
import { keepFile } from "@/server/files/store";
import { Drawing } from "./picture";

const SIDE = 128;
const [SKY, SEA, SAND, RED, WHITE, NIGHT, LAMP] = [
  [196, 224, 226],
  [22, 92, 104],
  [222, 205, 164],
  [182, 58, 48],
  [246, 244, 236],
  [26, 38, 52],
  [246, 200, 92],
] as const;

/** A buoy in the water. */
const buoy = () =>
  new Drawing(SIDE, SIDE, SKY)
    .box([0, 82, SIDE, 46], SEA)
    .box([40, 74, 48, 18], RED)
    .box([52, 40, 24, 34], RED)
    .box([52, 52, 24, 10], WHITE)
    .box([60, 26, 8, 14], NIGHT);

/** A lighthouse at night. */
const lighthouse = () =>
  new Drawing(SIDE, SIDE, NIGHT)
    .box([0, 104, SIDE, 24], SAND)
    .box([52, 44, 24, 62], WHITE)
    .box([52, 58, 24, 12], RED)
    .box([52, 82, 24, 12], RED)
    .box([48, 30, 32, 14], LAMP)
    .box([80, 34, 48, 6], LAMP)
    .box([54, 22, 20, 8], RED);

/** What people of the demo chose for themselves, by their ids. */
const EMBLEMS: Record<string, () => Drawing> = { noor: buoy, lukas: lighthouse };

/** Gives people of the demo the pictures that they chose. */
export async function loadEmblems(tx: Transaction, now: number): Promise<void> {
  for (const [personId, draw] of Object.entries(EMBLEMS)) {
    const content = draw().png();
    const sha256 = await keepFile(tx, content, now);
    const mediaType = mediaTypeOf(content)!;
    await tx.insert(personPicture).values({ personId, sha256, mediaType, at: now });
  }
}
