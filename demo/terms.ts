import { DAY, HOUR, type Instant } from "@/core/calendar/instant";
import { PLAIN_TERM, type Term } from "@/core/item/terms/term";
import type { DesignChange } from "@/core/workflow/design-change";
import type { DemoProject } from "./projects";

type Key = DemoProject["key"];

/** A part of a product with the beginnings of words in titles that are about it. */
interface DemoPart extends Pick<Term, "name" | "meaning" | "ownerId"> {
  words: readonly string[];
  places?: readonly string[];
}

const PARTS: Record<string, readonly DemoPart[]> = {
  TIX: [
    {
      name: "Payments and refunds",
      meaning: "Cards, receipts, money that goes back, the basket until it is paid.",
      ownerId: "noor",
      words: ["pay", "refund", "receipt", "basket", "card", "currenc", "price"],
    },
    {
      name: "Fares and vouchers",
      meaning: "What a trip costs for whom: residents, children, groups, schools, seasons.",
      ownerId: "ivo",
      words: ["fare", "voucher", "discount", "season", "group", "child", "resident"],
    },
    {
      name: "Sailings in the app",
      meaning: "Which boat goes when, from where, and how full it is; storm notices.",
      ownerId: "ruth",
      words: ["boat", "sailing", "storm", "map", "search", "departure", "trip", "timetable"],
      places: ["the night boat", "the morning commuter boat"],
    },
    {
      name: "The ticket itself",
      meaning: "The code and what stands around it, on the phone and at the gate.",
      ownerId: "noor",
      words: ["ticket", "code", "booking", "seat", "luggage", "trailer"],
    },
    {
      name: "Accounts and messages",
      meaning: "Signing in, languages, push messages, help for screen readers.",
      ownerId: null,
      words: ["sign", "push", "message", "language", "phone", "reader", "type", "app", "account"],
    },
  ],
  GATE: [
    {
      name: "Scanners",
      meaning: "Glass, heating and beep of what reads the codes on the quays.",
      ownerId: "hanna",
      words: ["scan", "beep", "glass", "code", "reader"],
    },
    {
      name: "Gate wings and lights",
      meaning: "What opens, closes and shines.",
      ownerId: "lukas",
      words: ["gate", "wing", "light", "opens", "wheelchair", "pram"],
    },
    {
      name: "Deck tablets",
      meaning: "What the crew sees and counts on board.",
      ownerId: "hanna",
      words: ["tablet", "crew", "passenger", "count", "deck"],
      places: ["the upper car deck", "the passenger saloon"],
    },
  ],
  TIDE: [
    {
      name: "Timetable feed",
      meaning: "The file that everything else reads, from tide table to published sailing.",
      ownerId: "samir",
      words: ["feed", "tide", "sailing", "timetable", "column", "publish"],
    },
    {
      name: "Departure boards",
      meaning: "What hangs on the quays and counts down.",
      ownerId: "petra",
      words: ["board", "display", "pier", "minutes"],
    },
    {
      name: "Diversions and delays",
      meaning: "Storms, late boats, and who has to be told.",
      ownerId: "samir",
      words: ["delay", "diversion", "storm", "cancel", "announce", "late"],
    },
  ],
};

/** The parts of the product that an item's title is about; of some nobody has said it. */
export function demoPartsOf(key: Key, title: string): string[] {
  const words = title.toLowerCase();
  const named = (PARTS[key] ?? []).filter((part) =>
    part.words.some((word) => words.includes(word)),
  );
  return named.slice(0, 2).map(({ name }) => name);
}

const LABELS: readonly Term[] = [
  {
    ...PLAIN_TERM,
    kind: "label",
    name: "storm",
    meaning: "Comes up when sailings are cancelled or diverted.",
    sign: "cross",
    hue: "madder",
  },
  {
    ...PLAIN_TERM,
    kind: "label",
    name: "quay staff",
    meaning: "Somebody on a quay asked for it or has to know of it.",
    sign: "half",
    hue: "ink blue",
    earlier: ["pier people"],
  },
  {
    ...PLAIN_TERM,
    kind: "label",
    name: "deck tablet",
    meaning: "Has to be tried on a tablet on board.",
    sign: "quarters",
    hue: "spruce",
  },
  {
    ...PLAIN_TERM,
    kind: "label",
    name: "refunds",
    meaning: "Money goes back to somebody: the office reads it before it goes out.",
    sign: "bar",
    hue: "marigold",
  },
];

/** What a project of the demo says of its labels and parts; one label is not described. */
export function demoTerms(key: Key, now: Instant): Term[] {
  const ended: Term = {
    ...PLAIN_TERM,
    kind: "label",
    name: "paper pass",
    meaning: "The passes of paper, which ended in spring.",
    sign: "stripes",
    hue: "brick",
    endedAt: now - 120 * DAY,
  };
  const parts = (PARTS[key] ?? []).map(({ name, meaning, ownerId, places = [] }): Term => ({
    ...PLAIN_TERM,
    kind: "part",
    name,
    meaning,
    ownerId,
    places: [...places],
  }));
  return [...LABELS, ended, ...parts];
}

/** What was changed of the labels and parts of a project lately, with when and by whom. */
export function demoDesignChanges(now: Instant): (DesignChange & { at: Instant; byId: string })[] {
  const at = (days: number) => now - days * DAY - 3 * HOUR;
  const change = (days: number, said: string): DesignChange & { at: Instant; byId: string } => ({
    at: at(days),
    byId: "ines",
    area: "labels and parts",
    said,
    differences: [],
  });
  return [
    change(120, "retired the label “paper pass”"),
    change(61, "renamed the label “pier people” to “quay staff”, on 48 items"),
    {
      ...change(24, "changed the label “refunds”"),
      differences: [
        {
          what: "what it means",
          old: "Money goes back.",
          new: "Money goes back to somebody: the office reads it before it goes out.",
        },
      ],
    },
  ];
}
