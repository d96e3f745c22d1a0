import type { TeamLine } from "@/core/today/today-view";
import { ageOf } from "@/core/flow/age";
import type { FlowSummary } from "@/core/flow/summary";
import type { Instant } from "@/core/calendar/instant";
import { countedClock } from "@/core/item/start-finish";
import type { Reader } from "@/db/connection";
import { unjudgedCount } from "../intake/desk";
import { readRows } from "../item/list/read";
import { seenOf } from "../item/list/named";
import type { Viewer } from "../people/viewer";
import type { DayProject } from "./ground";

/** So many items in progress are looked through. */
const MOST = 1_000;

/** How the project that is open stands, as its people look after it. */
export async function readTeam(
  reader: Reader,
  viewer: Viewer,
  { open, summary }: { open: DayProject; summary: FlowSummary },
  now: Instant,
): Promise<TeamLine[]> {
  const { access } = open;
  const { id, key, zone, expectationDays } = access.project;
  const running = await readRows(reader, {
    ids: summary.pulse.inProgress.filter(isId).slice(0, MOST),
  });
  const late = running.filter((row) => ageOf(countedClock(row), zone, now).age > expectationDays);
  const without = running.filter((row) => row.assigneeId === null && row.stateKind === "working");
  const seen = await seenOf(
    viewer,
    [...late, ...without].map((row) => row.id),
  );
  const idsOf = (rows: typeof running) => rows.map((row) => row.id).filter((one) => seen.has(one));
  const reports = access.may("read intake") ? await unjudgedCount(id) : 0;
  const broken = summary.limitsBroken;
  const lines: TeamLine[] = [
    {
      words: `${broken.length === 1 ? "limit" : "limits"} broken: ${broken.map(({ name }) => name).join(", ")}`,
      count: broken.length,
      ids: [],
      href: `/p/${key}/flow`,
      alarm: true,
    },
    {
      words: `older than what is expected`,
      count: late.length,
      ids: idsOf(late),
      href: null,
      alarm: false,
    },
    {
      words: "worked on without an owner",
      count: without.length,
      ids: idsOf(without),
      href: null,
      alarm: false,
    },
    {
      words: `${reports === 1 ? "report waits" : "reports wait"} for a verdict`,
      count: reports,
      ids: [],
      href: `/p/${key}/intake`,
      alarm: false,
    },
  ];
  return lines.filter(({ count }) => count > 0);
}

const isId = (id: string) => /^[0-9a-f-]{36}$/.test(id);
