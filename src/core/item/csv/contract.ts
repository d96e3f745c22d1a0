import { answered, contract } from "@/core/contract/contract";
import type { TableGround } from "./ground";
import { importItemsBody, type ImportedPart } from "./request";

export const itemTableContract = {
  /** What names in a table of items can mean in a project. */
  ground: contract({
    method: "GET",
    path: "/api/projects/:key/item-table",
    answer: answered<TableGround>(),
    kept: "item table",
  }),
  /** Makes items of a part of a table, links them, or takes them back. */
  bring: contract({
    method: "POST",
    path: "/api/projects/:key/item-table",
    body: importItemsBody,
    answer: answered<ImportedPart>(),
    largest: 4 * 1024 * 1024,
  }),
  /** All items of a project as a table, with all that they say. */
  file: contract({
    method: "GET",
    path: "/api/projects/:key/item-table/file",
    answer: answered<string>(),
  }),
};
