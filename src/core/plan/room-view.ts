import { z } from "zod";
import type { Day } from "@/core/calendar/month";
import type { Focus } from "./room";

/** How much falls into a week of somebody. */
export interface WeekRoom {
  /** Its Monday. */
  monday: Day;
  /** Hours that they give to what is planned; 0 where they do not work. */
  room: number;
  load: number;
  /** Whether they are away, or nobody works, on each day of it on which they usually would. */
  away: boolean;
  /** Days of it on which they are away. */
  off: number;
  /** Of what falls into it those that whoever looks may see, and how many more. */
  ids: string[];
  unseen: number;
}

/** An open item that somebody has. */
export interface HeldItem {
  id: string;
  key: string;
  title: string;
  typeId: string;
  version: number;
  /** Still to be done, or about it by its size; null where nobody knows. */
  hours: number | null;
  about: boolean;
  begun: boolean;
  /** Whether it is planned on days, by a sprint or by hand. */
  planned: boolean;
  /** Whether it is of the project that is looked at: only there its people can be chosen. */
  own: boolean;
}

export interface PersonRoom {
  id: string;
  name: string;
  trades: readonly string[];
  focus: Focus;
  hoursADay: number;
  weeks: WeekRoom[];
  /** As far as whoever looks may see them: what is begun first, then by rank. */
  items: HeldItem[];
  unseen: number;
}

/** Weeks of the people of a project, with all that they have, whatever project it is of. */
export interface RoomView {
  project: { key: string; name: string };
  today: Day;
  /** The Mondays of the weeks. */
  mondays: Day[];
  people: PersonRoom[];
  rights: { edit: boolean };
}

export const ROOM_WEEKS = 8;

/** Somebody who could take an item, with why. */
export interface TakerView {
  id: string;
  name: string;
  /** Free hours in the weeks that count. */
  free: number;
  fits: boolean;
  /** What of the like they have finished, as far as whoever asks may see it. */
  similar: string[];
  /** "finished 4 of the part Gates, 12 h free in two weeks" */
  why: string;
}

export interface TakersView {
  takers: TakerView[];
  /** Hours that the item takes, or about; null where nobody knows. */
  hours: number | null;
}

export const takersQuery = z.object({ item: z.uuid() });
