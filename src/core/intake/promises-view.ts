import type { Vocabulary } from "@/core/condition/vocabulary";
import type { Instant } from "@/core/calendar/instant";
import type { WorkingCalendar } from "@/core/calendar/working-time";
import type { ItemPromise } from "@/core/item/item-view";
import type { KeptPromises } from "./kept-promises";
import type { ScoringModel } from "./scoring";
import type { ServiceTarget, TargetState } from "./service-target";
import type { TriageRules } from "./triage-rules";

/**
 * What a project promises, when it works, how it weighs requests, and what it has agreed on for
 * triage.
 */
export interface IntakeRules {
  calendar: WorkingCalendar;
  targets: ServiceTarget[];
  scoring: ScoringModel;
  triage: TriageRules;
  version: number;
}

export interface PromiseRow extends ItemPromise {
  targetId: string;
  itemId: string;
  key: string;
  title: string;
  typeId: string;
  stateName: string;
  assigneeId: string | null;
}

export interface PromisesView {
  project: { id: string; key: string; name: string; zone: string };
  rules: IntakeRules;
  /** Open items with a promise, those that are due first on top. */
  open: PromiseRow[];
  /**
   * How the promises stand about open items outside this person's view: they count, and nothing
   * else of them is told.
   */
  unseen: TargetState["standing"][][];
  /** Of the last twelve weeks, by promise; also of those that are made no more. */
  kept: {
    targetId: string;
    target: string;
    ended: boolean;
    answered: KeptPromises;
    resolved: KeptPromises;
    both: KeptPromises;
  }[];
  vocabulary: Vocabulary;
  people: { id: string; name: string }[];
  mayEdit: boolean;
  now: Instant;
}
