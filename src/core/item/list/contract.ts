import { answered, contract } from "@/core/contract/contract";
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
  /** A part of the same list as a file. */
  export: contract({
    method: "POST",
    path: "/api/projects/:key/table/export",
    body: exportBody,
    answer: answered<ExportView>(),
  }),
};
