import { and, eq, isNotNull } from "drizzle-orm";
import { plainLook, readLook, type Search } from "@/core/view/address";
import type { AskedLook } from "@/core/view/asked-look";
import { countedAsked } from "@/core/view/counted-look";
import { goneFields } from "@/core/view/gone";
import { storedLook, type Look } from "@/core/view/look";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { database } from "@/db/connection";
import { view } from "@/db/schema";
import { enterGround } from "../across/ground";
import { readCounted } from "../item/list/counted";
import type { Viewer } from "../people/viewer";
import { readViews, seesView } from "./read";
import { readShortLook } from "./short-look";
import { noteOpened } from "./uses";

const UUID = /^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

/** What an address asks to look at, and what of it cannot be done. */
export async function readAskedLook(
  viewer: Viewer,
  projectKey: string,
  search: Search,
): Promise<AskedLook> {
  const views = await readViews(viewer, projectKey);
  const { whole, missing } = await wholeSearch(search);
  const notes = missing ? ["What this short link stood for is not there any more."] : [];
  const asked = whole.view;
  const found = views.views.find(({ id }) => id === asked) ?? null;
  const away = asked && !found ? await putAwayLook(viewer, projectKey, asked) : null;
  if (asked && !found)
    notes.push(
      away === null
        ? "The view of this link is not there, or its owner keeps it to themselves. This is what everybody sees."
        : `The view “${away.name}” was put away. This is what it showed.`,
    );
  const begun = found?.look ?? away?.look ?? plainLook(whole);
  const { look, unread } = readLook(begun, whole);
  if (unread.length > 0)
    notes.push(`The link says something of ${unread.join(" and ")} that cannot be read.`);
  const known = withOneScale(withKnownBoard(look, views.boards), views.vocabulary);
  if (known.board !== look.board)
    notes.push("The board of this view is gone. This is the project's first one.");
  const gone = goneFields(known, views.vocabulary);
  if (gone.length > 0)
    notes.push(
      `The field ${gone.map((name) => `“${name}”`).join(", ")} was taken out: what asks for it finds nothing.`,
    );
  if (found?.owner?.gone)
    notes.push(`${found.owner.name}, whose view it is, belongs to the project no more.`);
  if (found) await noteOpened(viewer, found.id);
  const kept = withOneScale(withKnownBoard(begun, views.boards), views.vocabulary);
  const counted =
    known.counts.length === 0
      ? null
      : await readCounted(viewer, projectKey, countedAsked(known, views.named));
  return { views, view: found, kept, look: known, counted, notes };
}

/** What an address says, with what stands under its short id. */
async function wholeSearch(search: Search): Promise<{ whole: Search; missing: boolean }> {
  if (!search.look) return { whole: search, missing: false };
  const short = await readShortLook(search.look);
  return { whole: { ...short, ...search }, missing: short === null };
}

/** Sizes of several projects are not added up. */
const withOneScale = (look: Look, vocabulary: Vocabulary): Look =>
  look.sum === "estimate" && vocabulary.projects.length > 1 ? { ...look, sum: null } : look;

const withKnownBoard = (look: Look, boards: readonly { id: string }[]): Look =>
  look.board === null || boards.some(({ id }) => id === look.board)
    ? look
    : { ...look, board: null };

/** A view that was put away and that this person saw. */
async function putAwayLook(
  viewer: Viewer,
  projectKey: string,
  id: string,
): Promise<{ name: string; look: Look } | null> {
  if (!UUID.test(id)) return null;
  const reader = database();
  const ground = await enterGround(reader, viewer, projectKey, "read project");
  const [row] = await reader
    .select({ name: view.name, look: view.look })
    .from(view)
    .where(
      and(
        eq(view.id, id),
        eq(view.groundId, ground.id),
        isNotNull(view.putAwayAt),
        seesView(viewer),
      ),
    );
  return row ? { name: row.name, look: storedLook(row.look) } : null;
}
