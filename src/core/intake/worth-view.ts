import type { Votes } from "@/core/item/vote";
import type { Scored, ScoreParts, ScoringModel } from "./scoring";

export interface WorthRow {
  itemId: string;
  key: string;
  title: string;
  typeId: string;
  /** Its place in the backlog, from 1. */
  place: number;
  votes: Votes;
  request: Scored;
  parts: ScoreParts;
}

export interface WorthView {
  project: { id: string; key: string; name: string };
  model: ScoringModel;
  version: number;
  rows: WorthRow[];
  /** Own fields that hold a number, for the value of a week and the weeks of delay. */
  numbers: { id: string; name: string }[];
  maySetModel: boolean;
  mayScore: boolean;
}
