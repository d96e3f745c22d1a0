"use client";
import { useEffect } from "react";

/** One of the things that an act can be done with: to whom, into which state. */
export interface ActChoice {
  id: string;
  words: string;
  /** How much a person has in their hands, when a sprint ends. */
  more?: string;
}

/** Something that can be done here and now. */
export interface OfferedAct {
  id: string;
  words: string;
  /** What it comes to, or what it is done to. */
  more?: string;
  /** The key that does the same without the box. */
  key?: string;
  /** What else people call it. */
  also?: string[];
  /** Without choices it is done at once. */
  choices?: readonly ActChoice[];
  /** What can be written instead of choosing. */
  written?: (text: string) => ActChoice | null;
  /** @param choice the id of what was chosen; undefined where there is nothing to choose */
  act: (choice?: string) => void;
}

/** What the parts of the page that is open offer, by a name of each part. */
const offers = new Map<string, readonly OfferedAct[]>();

/** Offers in the box what can be done with a part of the page, as long as it is there. */
export function useOfferedActs(part: string, acts: readonly OfferedAct[]): void {
  useEffect(() => {
    offers.set(part, acts);
    return () => {
      if (offers.get(part) === acts) offers.delete(part);
    };
  });
}

/** The part of the page that is about several items, once they are chosen. */
export const SEVERAL = "several at once";

/** Whether several items are chosen: then what is done is done to them. */
export const areSeveralChosen = (): boolean => (offers.get(SEVERAL)?.length ?? 0) > 0;

export const offeredActs = (): OfferedAct[] => [...offers.values()].flat();
