import { cutText } from "@/core/formats/cut-text";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { WEEK } from "@/core/calendar/instant";
import { newAcceptance, type Acceptance } from "@/core/intake/acceptance";
import type { DeskView, ReportView, SimilarItem } from "@/core/intake/desk-view";
import type { Verdict, VerdictKind } from "@/core/intake/verdict";
import { soundsLikeHole, textOfReport } from "@/core/intake/security-words";
import { ALIKE, VERY_ALIKE } from "@/core/intake/very-alike";
import type { PickedItem } from "@/ui/item/item-picker";
import { standsAt } from "./stands-at";

/** A verdict whose form is open. */
export interface VerdictBegun {
  kind: VerdictKind;
  /** The item to merge into. */
  itemId?: string;
  /** Words that a question or a decline begins with. */
  reason?: string;
  /** Whether a parked report is watched for. */
  watched?: boolean;
}

/** What is typed into the form, whatever the verdict. */
export interface TypedVerdict {
  acceptance: Acceptance;
  /** The item to merge into. */
  target: PickedItem | null;
  /** The question, or the reason for declining. */
  text: string;
  /** The day, or the item, until which it is parked. */
  until: string;
  /** Null until a day; otherwise the item, once one is chosen. */
  awaited: { item: PickedItem | null } | null;
  /** Whether it ends on its day, if nothing new comes. */
  watched: boolean;
  /** One item for several reports. */
  together: boolean;
}

/** So long is watched for what could not be made to happen, unless another day is said. */
const WATCHED = 4 * WEEK;

/** An item that looks like the report, as it is chosen. */
export const pickedOf = (item: SimilarItem): PickedItem => ({
  id: item.id,
  key: item.key,
  title: item.title,
  about: standsAt(item),
});

/** What a merge begins with: what was pressed, or the likeliest where it is alike enough. */
function firstTarget(
  { report, similar }: ReportView,
  itemId: string | undefined,
): PickedItem | null {
  // What may be a hole in security is put to nothing that is only somewhat like it.
  const enough = soundsLikeHole(textOfReport(report)) === null ? ALIKE : VERY_ALIKE;
  const first = itemId
    ? similar.find((s) => s.id === itemId)
    : similar.find((s) => s.score >= enough);
  return first ? pickedOf(first) : null;
}

/** What a form begins with where nothing was typed into it yet. */
export function firstTyped(
  desk: DeskView,
  view: ReportView,
  { itemId, reason = "", watched = false }: VerdictBegun,
  several: boolean,
): TypedVerdict {
  return {
    acceptance: firstAcceptance(desk, view, several),
    target: firstTarget(view, itemId),
    text: reason,
    until: isoDate(dayNumber(desk.now + (watched ? WATCHED : WEEK), desk.project.zone)),
    awaited: null,
    watched,
    together: false,
  };
}

/** Whether a verdict names an item, and none is chosen yet. */
export const lacksItem = (kind: VerdictKind, { target, awaited }: TypedVerdict): boolean =>
  (kind === "merge" && target === null) || (kind === "park" && awaited?.item === null);

export function verdictOf(kind: VerdictKind, typed: TypedVerdict): Verdict {
  const { acceptance, target, text, until, awaited, watched } = typed;
  if (kind === "accept") return { kind, acceptance };
  if (kind === "merge") return { kind, itemId: target?.id ?? "" };
  if (kind === "ask") return { kind, question: text };
  if (kind === "decline") return { kind, reason: text };
  return awaited === null
    ? { kind, until, itemId: null, watched }
    : { kind, until: null, itemId: awaited.item?.id ?? "" };
}

/** What is known of a report fills in its acceptance; of several, each keeps its own area. */
function firstAcceptance(
  desk: DeskView,
  { report, typeId, parts }: ReportView,
  several: boolean,
): Acceptance {
  const type =
    desk.types.find((t) => t.id === typeId) ??
    desk.types.find((t) => t.id === "bug") ??
    desk.types[0];
  const area =
    desk.areas.find((a) => a.toLowerCase() === report.place.toLowerCase()) ??
    (cutText(report.place, 200) || null);
  return {
    ...newAcceptance(report.title, type?.id ?? "bug"),
    teamId: report.teamId ?? desk.teams[0]?.id ?? null,
    area: several ? null : area,
    parts: several ? null : parts,
    restricted: !several && soundsLikeHole(textOfReport(report)) !== null,
  };
}
