import { z } from "zod";
import { answered, contract, DONE } from "@/core/contract/contract";
import { SMALL_THINGS } from "./housekeeping";
import type { TodayView } from "./today-view";

export const restBody = z.object({
  itemId: z.uuid(),
  thing: z.enum(SMALL_THINGS),
  why: z.string().trim().min(1, "Say why it may stay so.").max(300),
});

export const todayContract = {
  /** Somebody's day over all projects, and beside it what concerns the project that is open. */
  read: contract({
    method: "GET",
    path: "/api/projects/:key/today",
    answer: answered<TodayView>(),
    kept: "today",
  }),
  /** How much of somebody's day waits for them. */
  count: contract({
    method: "GET",
    path: "/api/projects/:key/today/count",
    answer: z.object({ waiting: z.number() }),
    kept: "today count",
  }),
  /** Puts a small thing to rest, until its item changes. */
  rest: contract({ method: "POST", path: "/api/rests", body: restBody, answer: DONE }),
};
