import { z } from "zod";
import type { Card } from "@/core/board/card";
import type { Instant } from "@/core/calendar/instant";
import type { Option } from "@/core/condition/vocabulary";
import { factsOffered, factLabel, type Vocabulary } from "@/core/condition/vocabulary";
import type { FactName } from "@/core/condition/facts";
import { isGroupable, isSortable, listQuerySchema, type ListQuery } from "./query";
import type { Summary } from "./sums";

/** So many rows of the items behind a figure are sent at a time. */
export const BEHIND_PAGE = 100;
/** So many items a figure may stand for. */
const MOST_BEHIND = 5_000;

/** The items behind a figure: which, in which order and groups, and from where on. */
export const behindBody = listQuerySchema.pick({ sort: true, group: true }).extend({
  ids: z.array(z.uuid()).max(MOST_BEHIND),
  /** Where the page before ended, and when that was read: days are counted from then on. */
  after: z.string().max(20_000).nullable().default(null),
  at: z.number().int().positive().nullable().default(null),
});
export type BehindAsked = z.output<typeof behindBody>;

/** What each group of the items behind a figure comes to. */
export const BEHIND_SUMS: ListQuery["sums"] = ["estimate"];

/** An item behind a figure: its card, where it is, and what it is sorted by, in words. */
export type BehindRow = Card & { stateName: string; sortedBy: string | null };

export interface BehindGroup {
  label: string;
  count: number;
  sums: Summary[];
}

export interface BehindView {
  rows: BehindRow[];
  /**
   * Over all rows, in their order, with the first page; one of everything where they are not
   * grouped.
   */
  groups: BehindGroup[];
  next: string | null;
  at: Instant;
  /** What they can be sorted and grouped by. */
  sorts: Option[];
  groupings: Option[];
}

/** The facts that fit, as a list offers them. */
function offered(vocabulary: Vocabulary, fits: (fact: FactName) => boolean): Option[] {
  return factsOffered(vocabulary)
    .filter(fits)
    .map((fact) => ({ id: fact, label: factLabel(fact, vocabulary) }));
}

/** What a list of a project's items can be sorted and grouped by. */
export const listOffers = (vocabulary: Vocabulary) => ({
  sorts: offered(vocabulary, isSortable),
  groupings: offered(vocabulary, isGroupable),
});
