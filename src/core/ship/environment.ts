import { z } from "zod";
import { isDay, type Day } from "@/core/calendar/month";

/** Where builds of a project run: development, test, acceptance, live. */
export interface Environment {
  id: string;
  name: string;
  /** Where it can be looked at, with a place for an item's key; empty where nowhere. */
  address: string;
  /** Whether it is the one that is used in earnest: delivery is measured by it. */
  live: boolean;
  freezes: FreezeWindow[];
}

/** Days on which nothing is to be deployed to an environment, the last one with them. */
export interface FreezeWindow {
  id: string;
  from: Day;
  until: Day;
  why: string;
}

/** In an address it stands for the key of the item that is looked at. */
export const KEY_PLACE = "{key}";

/** An environment that is frozen, until when and why. */
export interface FrozenEnvironment {
  name: string;
  /** The last day of it. */
  until: Day;
  why: string;
}

export const MOST_ENVIRONMENTS = 12;
const MOST_FREEZES = 40;

const environmentName = z
  .string()
  .trim()
  .min(1, "An environment needs a name.")
  .max(60, "A name has 60 letters at most.");

const address = z
  .string()
  .trim()
  .max(300, "An address has 300 letters at most.")
  .refine((value) => value === "" || isWebAddress(value), "An address begins with https://.");

function isWebAddress(value: string): boolean {
  try {
    return /^https?:$/.test(new URL(value.replaceAll(KEY_PLACE, "key")).protocol);
  } catch {
    return false;
  }
}

const day = z.string().refine(isDay, "This is no day.");

const freezeSchema = z
  .object({ id: z.uuid(), from: day, until: day, why: z.string().trim().max(200) })
  .refine(({ from, until }) => from <= until, {
    error: "A freeze ends after it begins.",
    path: ["until"],
  });

const environmentSchema = z.object({
  id: z.uuid(),
  name: environmentName,
  address,
  live: z.boolean(),
  freezes: z.array(freezeSchema).max(MOST_FREEZES),
});

/** A project's environments, in the order in which a build reaches them. */
export const environmentsBody = z.object({
  environments: z
    .array(environmentSchema)
    .max(MOST_ENVIRONMENTS, `A project has ${MOST_ENVIRONMENTS} environments at most.`)
    .refine(
      (all) => new Set(all.map(({ name }) => environmentKey(name))).size === all.length,
      "Two environments have the same name.",
    )
    .refine((all) => all.filter(({ live }) => live).length <= 1, "Only one environment is live.")
    .refine(
      (all) =>
        new Set(all.flatMap((one) => [one.id, ...one.freezes.map(({ id }) => id)])).size ===
        all.reduce((sum, one) => sum + 1 + one.freezes.length, 0),
      "Two of them are the same one.",
    ),
});

/** By which a name that a pipeline says is found again, whatever its letters. */
export const environmentKey = (name: string): string => name.trim().toLowerCase();

/** Where an item can be looked at on an environment; null where nowhere. */
export const addressFor = (
  { address }: Pick<Environment, "address">,
  key: string,
): string | null =>
  address === "" ? null : address.replaceAll(KEY_PLACE, encodeURIComponent(key));

/** The freeze that a day falls into. */
export const freezeOn = (
  { freezes }: Pick<Environment, "freezes">,
  today: Day,
): FreezeWindow | undefined => freezes.find(({ from, until }) => from <= today && today <= until);

/** The environments that are frozen on a day. */
export const frozenOn = (environments: readonly Environment[], today: Day): FrozenEnvironment[] =>
  environments.flatMap((environment) => {
    const freeze = freezeOn(environment, today);
    return freeze ? [{ name: environment.name, until: freeze.until, why: freeze.why }] : [];
  });

/** The freeze that is, or else comes next. */
export const nextFreeze = (
  { freezes }: Pick<Environment, "freezes">,
  today: Day,
): FreezeWindow | undefined =>
  freezes.filter(({ until }) => until >= today).toSorted((a, b) => (a.from < b.from ? -1 : 1))[0];
