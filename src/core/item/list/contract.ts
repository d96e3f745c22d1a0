import { answered, contract } from "@/core/contract/contract";
import type { LanesTold } from "@/core/board/lane";
import { lanesBody } from "./lanes";
import { cardFactsBody, type CardsTold } from "./card-facts";
import { countedBody, type CountedView } from "./counted-values";
import {
  exportBody,
  matchingBody,
  tableBody,
  type ExportView,
  type MatchingView,
  type TableView,
} from "./table";

export const listContract = {
  /** Rows of a table. A query with a body, because a condition can be long. */
  table: contract({
    method: "POST",
    path: "/api/projects/:key/table",
    body: tableBody,
    answer: answered<TableView>(),
    kept: "table",
  }),
  /** Which items of a board a condition is true of. */
  matching: contract({
    method: "POST",
    path: "/api/projects/:key/table/matching",
    body: matchingBody,
    answer: answered<MatchingView>(),
    kept: "matching",
  }),
  /** The values of some fields with how many items have each. */
  counted: contract({
    method: "POST",
    path: "/api/projects/:key/table/counted",
    body: countedBody,
    answer: answered<CountedView>(),
    kept: "counted values",
  }),
  /** In which lane each item of a board stands, where its card does not say it. */
  lanes: contract({
    method: "POST",
    path: "/api/projects/:key/table/lanes",
    body: lanesBody,
    answer: answered<LanesTold>(),
    kept: "lanes",
  }),
  /** What the cards of a board say that they do not have themselves. */
  cards: contract({
    method: "POST",
    path: "/api/projects/:key/table/cards",
    body: cardFactsBody,
    answer: answered<CardsTold>(),
    kept: "cards",
  }),
  /** A part of the same list as a file. */
  export: contract({
    method: "POST",
    path: "/api/projects/:key/table/export",
    body: exportBody,
    answer: answered<ExportView>(),
  }),
};
