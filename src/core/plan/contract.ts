import { z } from "zod";
import { answered, contract, DONE } from "@/core/contract/contract";
import type { CountedView } from "@/core/item/list/counted-values";
import type { BacklogRows, BacklogView } from "./backlog-view";
import { BACKLOG_ORDERS, backlogColumns, backlogCounts, backlogLookSchema } from "./backlog-look";
import { backlogFilter } from "./backlog-filter";
import { calendarFeedBody, calendarQuery, type CalendarView } from "./calendar-view";
import { TIMEBOXES } from "./membership";
import { planSettingsBody } from "./plan-settings";
import type { PieceDetail, PieceTreeView } from "./piece-view";
import type { PlanningView } from "./planning-view";
import { USUAL_REACH_WEEKS, type ReachView } from "./reach-view";
import type { ReleasesView, ReleaseView } from "./release-view";
import { sprintActBody, timeboxBody } from "./request";
import { takersQuery, type RoomView, type TakersView } from "./room-view";
import { alikeQuery, sizingBody, type AlikeSized, type SizingView } from "./sizing-view";
import { scopeReasonBody } from "./scope-reason";
import type { SprintView } from "./sprint-view";
import type { WaitingView } from "./waiting-view";

export const planContract = {
  /** What is around the backlog of a project: how much is in it, and its sprints and releases. */
  backlog: contract({
    method: "GET",
    path: "/api/projects/:key/backlog",
    answer: answered<BacklogView>(),
    kept: "backlog",
  }),
  /** A page of its rows, from a place in it or from the top. */
  rows: contract({
    method: "GET",
    path: "/api/projects/:key/backlog/rows",
    query: z.object({
      after: z.string().max(2_000).optional(),
      filter: backlogFilter,
      section: z.string().max(200).optional(),
      order: z.enum(BACKLOG_ORDERS).optional(),
      columns: backlogColumns,
    }),
    answer: answered<BacklogRows>(),
    kept: "backlog rows",
  }),
  /** The values of some fields with how many items of it have each. */
  counts: contract({
    method: "GET",
    path: "/api/projects/:key/backlog/counts",
    query: z.object({
      filter: backlogFilter,
      order: z.enum(BACKLOG_ORDERS),
      counts: backlogCounts,
    }),
    answer: answered<CountedView>(),
    kept: "backlog counts",
  }),
  /** Keeps how somebody looks at it. */
  keepLook: contract({
    method: "POST",
    path: "/api/projects/:key/backlog/look",
    body: backlogLookSchema,
    answer: DONE,
  }),
  /** How far down it a project will probably get, drawn from so many past weeks. */
  reach: contract({
    method: "GET",
    path: "/api/projects/:key/backlog/reach",
    query: z.object({
      weeks: z.coerce.number().int().min(4).max(104).default(USUAL_REACH_WEEKS),
      filter: backlogFilter,
    }),
    answer: answered<ReachView>(),
    kept: "reach",
  }),
  /** The open items of a sprint or release, by their ids. */
  inside: contract({
    method: "GET",
    path: "/api/projects/:key/plan/inside",
    query: z.object({ timebox: z.enum(TIMEBOXES), id: z.string().max(64) }),
    answer: answered<{ ids: string[] }>(),
  }),
  /** The next sprints with what is planned into them, and the backlog beside them. */
  planning: contract({
    method: "GET",
    path: "/api/projects/:key/plan/planning",
    answer: answered<PlanningView>(),
    kept: "planning",
  }),
  /** A sprint with its figures. */
  sprint: contract({
    method: "GET",
    path: "/api/projects/:key/plan/sprints/:sprint",
    answer: answered<SprintView>(),
    kept: "sprint",
  }),
  /** The releases of a project. */
  releases: contract({
    method: "GET",
    path: "/api/projects/:key/plan/releases",
    answer: answered<ReleasesView>(),
    kept: "releases",
  }),
  /** A release with what is in it and how it got ready. */
  release: contract({
    method: "GET",
    path: "/api/projects/:key/plan/releases/:release",
    answer: answered<ReleaseView>(),
    kept: "release",
  }),
  /** Starts a sprint, ends it or brings it back. */
  actOnSprint: contract({
    method: "POST",
    path: "/api/projects/:key/plan/sprints/:sprint",
    body: sprintActBody,
    answer: answered<SprintView>(),
  }),
  /** Says why something came into a sprint that ran, or was taken out of it. */
  sayWhy: contract({
    method: "POST",
    path: "/api/projects/:key/plan/sprints/:sprint/why",
    body: scopeReasonBody,
    answer: DONE,
  }),
  /** The days of a month: sprints, releases, what is due, and who is away. */
  calendar: contract({
    method: "GET",
    path: "/api/projects/:key/plan/calendar",
    query: calendarQuery,
    answer: answered<CalendarView>(),
    kept: "plan calendar",
  }),
  /** Makes a private address for a calendar program; the one before leads nowhere from then on. */
  makeCalendarFeed: contract({
    method: "POST",
    path: "/api/projects/:key/plan/calendar/feed",
    body: calendarFeedBody,
    answer: z.object({ address: z.url() }),
  }),
  /** Ends a private address. */
  endCalendarFeed: contract({
    method: "DELETE",
    path: "/api/projects/:key/plan/calendar/feed",
    query: calendarFeedBody,
    answer: DONE,
  }),
  /** What a calendar program reads at a private address (RFC 5545). */
  calendarFile: contract({
    method: "GET",
    path: "/api/public/calendar/:token",
    answer: answered<string>(),
  }),
  /** What waits for what over the next sprints. */
  waiting: contract({
    method: "GET",
    path: "/api/projects/:key/plan/waiting",
    answer: answered<WaitingView>(),
    kept: "waiting",
  }),
  /** The next weeks of its people, with all that they have. */
  room: contract({
    method: "GET",
    path: "/api/projects/:key/plan/room",
    answer: answered<RoomView>(),
    kept: "room",
  }),
  /** Who could take an item, and why. */
  takers: contract({
    method: "GET",
    path: "/api/projects/:key/plan/room/takers",
    query: takersQuery,
    answer: answered<TakersView>(),
    kept: "takers",
  }),
  /** The large pieces of a project as a tree, with how far each is. */
  pieces: contract({
    method: "GET",
    path: "/api/projects/:key/plan/pieces",
    answer: answered<PieceTreeView>(),
    kept: "pieces",
  }),
  /** A large piece with what stands directly under it, and how it got on. */
  piece: contract({
    method: "GET",
    path: "/api/projects/:key/plan/pieces/:piece",
    answer: answered<PieceDetail>(),
    kept: "piece",
  }),
  /** Rounds in which several people say how large items are. */
  sizing: contract({
    method: "GET",
    path: "/api/projects/:key/plan/sizing",
    answer: answered<SizingView>(),
    kept: "sizing",
  }),
  /** Begins a round, says a size in it, shows what was said, settles on one. */
  size: contract({
    method: "POST",
    path: "/api/projects/:key/plan/sizing",
    body: sizingBody,
    answer: answered<SizingView>(),
  }),
  /** Finished items that are much like one, with how large they were and how long they took. */
  alike: contract({
    method: "GET",
    path: "/api/projects/:key/plan/sizing/alike",
    query: alikeQuery,
    answer: answered<{ alike: AlikeSized[] }>(),
    kept: "alike",
  }),
  /** How a project plans. */
  settings: contract({
    method: "POST",
    path: "/api/projects/:key/plan/settings",
    body: planSettingsBody,
    answer: DONE,
  }),
  /** Makes, changes or takes out a sprint or a release. */
  change: contract({
    method: "POST",
    path: "/api/projects/:key/plan",
    body: timeboxBody,
    answer: DONE,
  }),
};
