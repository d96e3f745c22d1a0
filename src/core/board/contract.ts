import { z } from "zod";
import { answered, contract, DONE } from "@/core/contract/contract";
import type { BoardChanges, BoardView } from "./board-view";
import type { Card } from "./card";
import { boardBody, changesBody, limitBody, personLimitBody, summed } from "./request";

export const boardContract = {
  /** A board with everything drawn on it; the project's first where none is named. */
  read: contract({
    method: "GET",
    path: "/api/projects/:key/board",
    query: z.object({ board: z.string().max(64).optional(), sum: summed.optional() }),
    answer: answered<BoardView>(),
    kept: "board",
  }),
  /** What became of some items on a board, and of its counts. */
  changes: contract({
    method: "POST",
    path: "/api/projects/:key/board/changes",
    body: changesBody,
    answer: answered<BoardChanges>(),
  }),
  /** The cards of everything finished that stands on a board of the process. */
  finished: contract({
    method: "GET",
    path: "/api/projects/:key/board/finished",
    query: z.object({ board: z.string().max(64) }),
    answer: answered<{ cards: Card[] }>(),
  }),
  /** Changes the boards of a project, or puts an item on a free one. */
  change: contract({
    method: "POST",
    path: "/api/projects/:key/boards",
    body: boardBody,
    answer: DONE,
  }),
  /** Changes a limit of one of the project's boards. */
  limit: contract({
    method: "POST",
    path: "/api/projects/:key/limits",
    body: limitBody,
    answer: DONE,
  }),
  /** Changes how much somebody of the project may have in their hands. */
  personLimit: contract({
    method: "POST",
    path: "/api/projects/:key/limits/people",
    body: personLimitBody,
    answer: DONE,
  }),
};
