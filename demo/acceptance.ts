import { DAY, HOUR, type Instant } from "@/core/calendar/instant";
import { seededRandom } from "@/core/forecast/random";
import type { ItemEvent } from "@/core/item/event";
import type { OutsideFact } from "@/core/item/outside";
import { closesOn } from "@/core/ship/acceptance/showing";
import type { Workflow } from "@/core/workflow/workflow";
import type { Transaction } from "@/db/connection";
import * as table from "@/db/schema";
import { newToken } from "@/server/people/link-token";
import { testsShown } from "@/server/ship/acceptance/drafts";
import { deployedCommits } from "@/server/ship/acceptance/rows";
import { pictureSize } from "@/core/formats/picture-size";
import { keepFile } from "@/server/files/store";
import { Drawing } from "./picture";
import { withHeard } from "./heard";
import type { DemoItem } from "./history";
import { uuidSource } from "./ids";

/** Somebody of the demo whom work is shown to. */
interface DemoAcceptor {
  personId: string | null;
  name: string;
  mail: string;
  words: string;
  /** Days ago. */
  asked: number;
}

const HARBOUR: DemoAcceptor = {
  ...{ personId: null, name: "Harbour office, Skerrin", mail: "harbour@skerrin.example", asked: 5 },
  words: "You asked for these in autumn. Please look whether they are what you need at the quay.",
};
const ARTHUR: DemoAcceptor = {
  ...{ personId: "arthur", name: "Arthur Quill", mail: "", asked: 3 },
  words: "For the routes: is it right so?",
};
const SCHOOLS: DemoAcceptor = {
  ...{ personId: null, name: "School transport, Fennick", mail: "transport@fennick.example" },
  ...{ words: "", asked: 36 },
};

/** What one of them said of an item. */
interface DemoAnswer {
  by: DemoAcceptor;
  accepted: boolean;
  words: string;
  at: Instant;
}

/** What the crew shows, to whom, and what they said. */
export interface DemoAcceptance {
  shown: { to: DemoAcceptor; items: DemoItem[] }[];
  answers: Map<string, DemoAnswer[]>;
}

/**
 * What a crew shows of what is ready to go out, and of what is out; the histories hear what was said of it.
 */
export function withAcceptance(
  items: readonly DemoItem[],
  workflow: Workflow,
  { passed, now }: { passed: ReadonlySet<string>; now: Instant },
): { items: DemoItem[]; acceptance: DemoAcceptance } {
  const inState = (name: string) => {
    const state = workflow.states.find((one) => one.name === name);
    return items
      .filter(({ snapshot: { stateId, typeId, restricted, withdrawnAt } }) =>
        [stateId === state?.id, typeId === "story", !restricted, withdrawnAt === null].every(
          Boolean,
        ),
      )
      .toSorted(
        (a, b) =>
          Number(passed.has(b.snapshot.id)) - Number(passed.has(a.snapshot.id)) ||
          b.snapshot.enteredStateAt - a.snapshot.enteredStateAt,
      );
  };
  const [first, second, third] = inState("Ready to deploy");
  const out = inState("Live")[0];
  const answers = new Map<string, DemoAnswer[]>();
  const heard = new Map<string, ItemEvent[]>();
  const nextId = uuidSource(seededRandom(9700));
  const say = (
    item: DemoItem | undefined,
    said: Omit<DemoAnswer, "at">,
    of: number,
    hours: number,
  ) => {
    if (!item) return;
    const { id } = item.snapshot;
    const at = Math.max(now - hours * HOUR, item.snapshot.enteredStateAt + hours * 1_000);
    const own = [...(answers.get(id) ?? []), { ...said, at }];
    answers.set(id, own);
    const fact: OutsideFact = said.accepted
      ? { kind: "accepted", given: own.length, asked: of }
      : { kind: "something missing" };
    const event = {
      ...{ kind: "reported", new: fact, note: "Acceptance", itemId: id, at, seq: 0 },
      ...{ actorId: null, cause: "outside", commandId: nextId() },
    } as ItemEvent;
    heard.set(id, [...(heard.get(id) ?? []), event]);
  };
  say(first, { by: HARBOUR, accepted: true, words: "Just what we needed." }, 2, 52);
  say(first, { by: ARTHUR, accepted: true, words: "" }, 2, 27);
  say(
    out,
    {
      ...{ by: HARBOUR, accepted: false },
      words: "On the small screen at pier 2 the last line is cut off, so nobody sees the price.",
    },
    1,
    6,
  );
  const there = (...all: (DemoItem | undefined)[]) => all.filter((one) => one !== undefined);
  return {
    items: withHeard(items, heard),
    acceptance: {
      shown: [
        { to: HARBOUR, items: there(first, second, out) },
        { to: ARTHUR, items: there(first, third) },
        { to: SCHOOLS, items: there(third) },
      ].filter((one) => one.items.length > 0),
      answers,
    },
  };
}

/** Stores what a crew shows to whom, and what they said. */
export async function loadAcceptance(
  tx: Transaction,
  projectId: string,
  { shown, answers }: DemoAcceptance,
  now: Instant,
): Promise<void> {
  const nextId = uuidSource(seededRandom(9800));
  const itemIds = [...new Set(shown.flatMap(({ items }) => items.map((one) => one.snapshot.id)))];
  const [tested, deployed] = await Promise.all([
    testsShown(tx, itemIds),
    deployedCommits(tx, itemIds),
  ]);
  for (const { to, items } of shown) {
    const { personId, name, mail, words } = to;
    const askedAt = now - to.asked * DAY;
    const showingId = nextId();
    await tx.insert(table.showing).values({
      ...{ id: showingId, projectId, personId, name, mail, words, askedBy: "ines", askedAt },
      ...{ token: personId === null ? newToken() : null, until: closesOn(askedAt) },
      ...(to === HARBOUR ? { reminders: 1, remindedAt: now - DAY } : {}),
    });
    for (const [position, { snapshot }] of items.entries()) {
      const { id: itemId, number, title, howToTest } = snapshot;
      await tx.insert(table.shownItem).values({
        ...{ showingId, itemId, position, title, how: howToTest ?? "" },
        address: `https://acceptance.tickets.saltmarsh.example/?item=TIX-${number}`,
        tested: tested.get(itemId) ?? [],
      });
      if (position === 0 && to === HARBOUR) await showPicture(tx, { showingId, itemId, now });
      for (const answer of answers.get(itemId) ?? [])
        if (answer.by === to)
          await tx.insert(table.acceptanceAnswer).values({
            ...{ id: nextId(), showingId, itemId, accepted: answer.accepted, at: answer.at },
            ...{ name: personId === null ? "Ottilie Brandt" : name, words: answer.words },
            ...{ environment: "acceptance", build: null, seen: deployed.get(itemId) ?? [] },
          });
    }
  }
}

const [NIGHT, SHEET, SEAT, TAKEN, CHOSEN] = [
  [18, 30, 38],
  [236, 238, 230],
  [150, 176, 168],
  [206, 208, 200],
  [0, 104, 88],
] as const;

/** A phone that shows the seats of a boat, one of them chosen. */
function seats(): Buffer {
  const drawing = new Drawing(300, 420, NIGHT).box([20, 24, 260, 372], SHEET);
  for (let row = 0; row < 7; row++)
    for (let at = 0; at < 5; at++) {
      // The aisle.
      if (at === 2) continue;
      const colour = row === 3 && at === 3 ? CHOSEN : (row * 3 + at) % 4 === 0 ? TAKEN : SEAT;
      drawing.box([44 + at * 44, 56 + row * 40, 34, 30], colour);
    }
  return drawing.box([44, 346, 210, 34], CHOSEN).png();
}

async function showPicture(
  tx: Transaction,
  { showingId, itemId, now }: { showingId: string; itemId: string; now: Instant },
): Promise<void> {
  const content = seats();
  const size = pictureSize(content);
  await tx.insert(table.shownPicture).values({
    ...{
      id: uuidSource(seededRandom(9900))(),
      showingId,
      itemId,
      name: "On the phone.png",
    },
    ...{ mediaType: "image/png", sha256: await keepFile(tx, content, now) },
    ...{ width: size?.width ?? null, height: size?.height ?? null },
  });
}
