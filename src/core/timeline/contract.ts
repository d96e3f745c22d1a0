import { z } from "zod";
import { answered, contract } from "@/core/contract/contract";
import { conditionSchema } from "@/core/condition/condition";
import { listQuerySchema } from "@/core/item/list/query";
import { shownBy, type Look } from "@/core/view/look";
import type { TimelineForecast, TimelineView } from "./view";

/** Which items stand on a timeline, and in which groups. */
export const timelineBody = listQuerySchema.pick({ group: true }).extend({
  /** The design whose scope holds; null: all of what is looked at. */
  board: z.string().max(64).nullable().default(null),
  condition: conditionSchema,
});
export type TimelineAsked = z.output<typeof timelineBody>;

export const timelineContract = {
  /** The items of a list with their days. A query with a body, because a condition can be long. */
  read: contract({
    method: "POST",
    path: "/api/projects/:key/timeline",
    body: timelineBody,
    answer: answered<TimelineView>(),
    kept: "timeline",
  }),
  /** When open items will probably be finished. */
  forecast: contract({
    method: "GET",
    path: "/api/projects/:key/timeline/forecast",
    answer: answered<TimelineForecast>(),
    kept: "timeline forecast",
  }),
};

/** What is asked of a timeline to draw what a look wants. */
export const timelineAsked = (look: Look): TimelineAsked => ({
  board: look.board,
  condition: shownBy(look),
  group: look.group,
});
