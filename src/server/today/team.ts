import type { TeamLine } from "@/core/today/today-view";
import { ageOf } from "@/core/flow/age";
import type { FlowSummary } from "@/core/flow/summary";
import type { Instant } from "@/core/calendar/instant";
import { countedClock } from "@/core/item/start-finish";
import type { Reader } from "@/db/connection";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { dayWords } from "@/core/calendar/day-words";
import { loadReleases } from "../plan/timeboxes";
import { openInside, timeboxTotals } from "../plan/timebox-totals";
import { unjudgedCount } from "../intake/desk";
import { readRows } from "../item/list/read";
import { seenOf } from "../item/list/named";
import type { Viewer } from "../people/viewer";
import type { DayProject } from "./ground";
import { isId } from "../is-id";

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
  const release = open.releases ? await nearestRelease(reader, viewer, open, { zone, now }) : null;
  const lines: TeamLine[] = [
    ...(release ? [release] : []),
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
  return lines.filter((line) => line.count > 0 || line === release);
}

/** The release that goes out next, with what is still open in it, for whoever brings it out. */
async function nearestRelease(
  reader: Reader,
  viewer: Viewer,
  { access }: DayProject,
  { zone, now }: { zone: string; now: Instant },
): Promise<TeamLine | null> {
  const { id, key } = access.project;
  const [next] = (await loadReleases(reader, id)).filter(
    ({ past, dueOn }) => !past && dueOn !== null,
  );
  if (!next) return null;
  const [{ ids }, totals] = await Promise.all([
    openInside(viewer, key, { timebox: "release", id: next.id }),
    timeboxTotals(reader, viewer, id),
  ]);
  const today = isoDate(dayNumber(now, zone));
  const late = next.dueOn! < today;
  const when = `${late ? "was to go out" : "goes out"} ${dayWords(next.dueOn!, today)}`;
  return {
    words: `open in ${next.name}, which ${when}`,
    count: totals[next.id]?.items ?? 0,
    ids,
    href: ids.length === 0 ? `/p/${key}/plan` : null,
    alarm: late,
  };
}
