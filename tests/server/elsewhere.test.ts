import { randomUUID } from "node:crypto";
import { and, asc, eq } from "drizzle-orm";
import { v7 as newId } from "uuid";
import { database } from "@/db/connection";
import { domainEvent, flowPassage, item, itemKey, ownField, state, stay } from "@/db/schema";
import { PLAIN_FIELD } from "@/core/item/own-field";
import { WAITS } from "@/core/item/blocker";
import { NO_LIMIT, type ColumnLimit } from "@/core/board/limit";
import { setLimit } from "@/server/board/limits";
import { readBoard } from "@/server/board/read";
import { readInState } from "@/server/flow/facts";
import { readBand } from "@/server/flow/read";
import { readElsewhere } from "@/server/item/change-project";
import { checkItems } from "@/server/item/check";
import { createItem } from "@/server/item/create";
import { readItem } from "@/server/item/read";
import { editTerms } from "@/server/item/terms/edit";
import { hiddenItems } from "@/server/people/access";
import type { Viewer } from "@/server/people/viewer";
import { ANSWERS, itemIn, refusalOf, send, stateId, TO_LIVE } from "./setup/board";
import { GRETA, INES, NOOR, OSKAR, TOMAS } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const rowOf = async (id: string) =>
  (await database().select().from(item).where(eq(item.id, id)))[0];
const keysOf = async (id: string) =>
  (await database().select().from(itemKey).where(eq(itemKey.itemId, id)))
    .map(({ prefix, number }) => `${prefix}-${number}`)
    .sort();
const stayRows = (id: string) =>
  database().select().from(stay).where(eq(stay.itemId, id)).orderBy(asc(stay.enteredSeq));
const stateNamed = async (workflowId: string, name: string) =>
  (
    await database()
      .select({ id: state.id })
      .from(state)
      .where(and(eq(state.workflowId, workflowId), eq(state.name, name)))
  )[0].id;
const goTo = (
  by: Viewer,
  id: string,
  projectKey: string,
  more: object = {},
  commandId = randomUUID(),
) =>
  send(
    by,
    id,
    { kind: "change project", projectKey, typeId: null, stateId: null, own: {}, ...more },
    commandId,
  );
const findings = async () => (await checkItems()).findings;

async function built(title: string): Promise<string> {
  const id = await itemIn(NOOR, title, "Ready", "Building");
  return id;
}

describe("an item that moves to another project", () => {
  test("has a key there, is found by the old one, and stands as it did", async () => {
    const id = await built("Gate says why it refuses");
    const was = `TIX-${(await rowOf(id)).number}`;
    const { card } = await goTo(TOMAS, id, "GATE");
    expect(card.key).toMatch(/^GATE-\d+$/);
    expect(await keysOf(id)).toEqual([card.key, was].sort());
    const view = await readItem(TOMAS, was);
    expect(view.key).toBe(card.key);
    expect(view.project.key).toBe("GATE");
    expect(view.state.name).toBe("Building");
    // Noor does not belong to Quay gates.
    expect(view.item.assigneeId).toBeNull();
    expect(view.history.map(({ words }) => words)).toEqual(
      expect.arrayContaining([
        `moved it to another project: it was ${was} and is ${card.key} now`,
        "moved it from Ready to Building",
      ]),
    );
    expect((await readBoard(TOMAS, "TIX", null)).cards.some((one) => one.id === id)).toBe(false);
    expect((await readBoard(TOMAS, "GATE", null)).cards.some((one) => one.id === id)).toBe(true);
    expect(await findings()).toEqual([]);
  });

  test("its clock goes on, and each project has the time that it was there", async () => {
    const id = await built("Light above gate 3");
    const before = await rowOf(id);
    await goTo(TOMAS, id, "GATE");
    expect((await rowOf(id)).clock).toEqual(before.clock);
    const rows = await stayRows(id);
    expect(rows.map(({ projectId, leftAt }) => [projectId, leftAt === null])).toEqual([
      ["tix", false],
      ["tix", false],
      ["tix", false],
      ["gate", true],
    ]);
    expect(rows[3].enteredAt).toBe(rows[2].leftAt);
    const scope = (of: string) => ({ project: { id: of, zone: "Europe/Oslo" } });
    const building = await stateId("Building");
    const inTix = await readInState(database(), scope("tix"), building, rows[2].leftAt!);
    expect(inTix).toContain(id);
    const passages = await database().select().from(flowPassage).where(eq(flowPassage.itemId, id));
    expect(passages.map(({ projectId, kind }) => [projectId, kind])).toEqual([["tix", "start"]]);
  });

  test("both projects are told, each in its own way", async () => {
    const id = await built("Told in two places");
    await goTo(TOMAS, id, "GATE");
    const told = await database()
      .select({ projectId: domainEvent.projectId, kind: domainEvent.kind })
      .from(domainEvent)
      .where(eq(domainEvent.itemId, id))
      .orderBy(asc(domainEvent.id));
    expect(
      told
        .slice(-2)
        .map(({ projectId, kind }) => `${projectId}: ${kind}`)
        .sort(),
    ).toEqual(["gate: item changed", "tix: item left"]);
  });

  test("comes back with the key that it had, by an undo and by another move", async () => {
    const id = await built("There and back");
    const before = await rowOf(id);
    const commandId = randomUUID();
    const { card } = await goTo(TOMAS, id, "GATE", {}, commandId);
    await send(TOMAS, id, { kind: "undo", commandId });
    const back = await rowOf(id);
    for (const field of ["projectId", "number", "typeId", "stateId", "assigneeId"] as const)
      expect([field, back[field]]).toEqual([field, before[field]]);
    expect((await stayRows(id)).map(({ projectId }) => projectId)).toEqual(["tix", "tix", "tix"]);
    expect((await goTo(TOMAS, id, "GATE")).card.key).toBe(card.key);
    expect((await goTo(TOMAS, id, "TIX")).card.key).toBe(`TIX-${before.number}`);
    expect(await findings()).toEqual([]);
  });

  test("takes along what stands under it, and leaves what it stood under", async () => {
    const id = await built("With its tasks");
    const under = async (title: string) =>
      (
        await createItem(NOOR, {
          commandId: randomUUID(),
          projectKey: "TIX",
          parentId: id,
          fields: { title, typeId: "task" },
        })
      ).card.id;
    const [first, gone] = [await under("Wire it"), await under("Draw it")];
    await send(NOOR, gone, { kind: "withdraw", why: "Not needed.", below: false });
    const commandId = randomUUID();
    await goTo(TOMAS, id, "GATE", {}, commandId);
    expect(await rowOf(first)).toMatchObject({ projectId: "gate", parentId: id });
    // What was withdrawn stays, and stands on its own when it comes back.
    expect(await rowOf(gone)).toMatchObject({ projectId: "tix", parentId: id });
    await send(NOOR, gone, { kind: "bring back" });
    expect(await rowOf(gone)).toMatchObject({ projectId: "tix", parentId: null });
    await goTo(TOMAS, first, "TIX");
    expect(await rowOf(first)).toMatchObject({ projectId: "tix", parentId: null });
    expect(await findings()).toEqual([]);
  });

  test("an undo takes back what went along", async () => {
    const id = await built("With one task");
    const { card } = await createItem(NOOR, {
      commandId: randomUUID(),
      projectKey: "TIX",
      parentId: id,
      fields: { title: "Wire it", typeId: "task" },
    });
    const commandId = randomUUID();
    await goTo(TOMAS, id, "GATE", {}, commandId);
    await send(TOMAS, id, { kind: "undo", commandId });
    expect(await rowOf(card.id)).toMatchObject({ projectId: "tix", parentId: id });
    expect(await findings()).toEqual([]);
  });

  test("says what it keeps by the names of the other project, and asks for what it lacks", async () => {
    const field = (projectId: string, name: string, more: object = {}) => ({
      ...PLAIN_FIELD,
      id: newId(),
      projectId,
      name,
      kind: "text" as const,
      position: 50,
      ...more,
    });
    const options = (...names: string[]) =>
      names.map((name) => ({ id: newId(), name, offered: true }));
    const here = {
      quay: field("tix", "Quay", { kind: "one of", options: options("North", "South") }),
      note: field("tix", "Note of the crew"),
    };
    const there = {
      quay: field("gate", "quay", { kind: "one of", options: options("south", "west") }),
      serial: field("gate", "Serial number", { requiredAtStart: true }),
    };
    await database().insert(ownField).values([here.quay, here.note, there.quay, there.serial]);
    const id = await built("With own fields");
    const south = here.quay.options[1].id;
    const own = { [here.quay.id]: south, [here.note.id]: "Ring first" };
    const { version } = await rowOf(id);
    await send(NOOR, id, { kind: "edit", seenVersion: version, changes: {}, own });
    const { key } = await readItem(TOMAS, `TIX-${(await rowOf(id)).number}`);
    const { projects, change } = await readElsewhere(TOMAS, key, { to: "GATE" });
    expect(projects.map((one) => one.key)).toEqual(["GATE", "TIDE"]);
    expect(change).toMatchObject({
      lost: ["its assignee, who does not belong there", "Note of the crew"],
      asked: [{ name: "Serial number" }],
      below: 0,
    });
    expect(await refusalOf(goTo(TOMAS, id, "GATE"))).toBe("invalid");
    await goTo(TOMAS, id, "GATE", { own: { [there.serial.id]: "G-3" } });
    expect((await rowOf(id)).own).toEqual({
      [there.quay.id]: there.quay.options[0].id,
      [there.serial.id]: "G-3",
    });
    expect((await readItem(TOMAS, key)).history.map(({ words }) => words)).toEqual(
      expect.arrayContaining(["cleared Note of the crew (was Ring first)"]),
    );
    expect(await findings()).toEqual([]);
    await database().update(ownField).set({ removedAt: 1 }).where(eq(ownField.id, there.serial.id));
  });

  test("a label that was renamed before it left stays the word that it is", async () => {
    const id = await built("Labelled");
    const { version } = await rowOf(id);
    await send(NOOR, id, { kind: "edit", seenVersion: version, changes: { labels: ["fog"] } });
    await editTerms(INES, "TIX", { kind: "rename", of: "label", name: "fog", to: "sea fog" });
    const commandId = randomUUID();
    await goTo(TOMAS, id, "GATE", {}, commandId);
    expect((await rowOf(id)).labels).toEqual(["sea fog"]);
    await editTerms(INES, "GATE", { kind: "rename", of: "label", name: "sea fog", to: "mist" });
    expect((await rowOf(id)).labels).toEqual(["mist"]);
    expect(await findings()).toEqual([]);
  });

  test("keeps to a firm limit of the state that it comes to", async () => {
    const id = await built("One too many");
    const building = await stateNamed("gate-main", "Building");
    const owner = { projectId: "gate", kind: "state", id: building } as const;
    const limit = (change: Partial<ColumnLimit>) =>
      database().transaction((tx) => setLimit(tx, owner, { ...NO_LIMIT, ...change }));
    await limit({ max: 1, maxFirm: true });
    expect(await refusalOf(goTo(TOMAS, id, "GATE"))).toBe("limit");
    expect((await rowOf(id)).projectId).toBe("tix");
    await limit({ max: null });
  });
});

describe("who may move an item, and who sees it then", () => {
  test("whoever may make items there; others are refused, and nothing has happened", async () => {
    const id = await built("Not for everybody");
    expect(await refusalOf(goTo(NOOR, id, "TIDE"))).toBe("not found");
    expect(await refusalOf(goTo(NOOR, id, "GATE"))).toBe("not allowed");
    expect((await readElsewhere(NOOR, `TIX-${(await rowOf(id)).number}`, {})).projects).toEqual([]);
    expect(await refusalOf(goTo(TOMAS, id, "TIX"))).toBe("invalid");
    expect((await rowOf(id)).projectId).toBe("tix");
  });

  test("an undo needs the right to change it where it goes back to", async () => {
    const id = await built("Only where one may");
    const commandId = randomUUID();
    await goTo(GRETA, id, "TIDE", {}, commandId);
    expect(await refusalOf(send(NOOR, id, { kind: "undo", commandId }))).toBe("not found");
    await send(GRETA, id, { kind: "undo", commandId });
    expect((await rowOf(id)).projectId).toBe("tix");
  });

  test("where somebody may not see the other project, figures count it and name it no more", async () => {
    const id = await built("Behind closed doors");
    const key = `TIX-${(await rowOf(id)).number}`;
    await goTo(INES, id, "TIDE");
    expect(await refusalOf(readItem(OSKAR, key))).toBe("not found");
    expect(await refusalOf(readItem(NOOR, key))).toBe("not found");
    expect(await hiddenItems(database(), NOOR, "tix")).toContain(id);
    expect(await hiddenItems(database(), INES, "tix")).not.toContain(id);
    const band = await readBand(NOOR, "TIX", {
      state: await stateId("Backlog"),
      day: Math.floor(Date.now() / 86_400_000) - 1,
      period: "12 weeks",
    } as Parameters<typeof readBand>[2]);
    expect(band).not.toContain(id);
  });
});

describe("links between projects", () => {
  const link = (by: Viewer, id: string, otherKey: string, more: object = {}) =>
    send(by, id, { kind: "link", linkKind: "waits for", otherKey, ...more });
  const inTide = async (title: string) =>
    (
      await createItem(INES, {
        commandId: randomUUID(),
        projectKey: "TIDE",
        parentId: null,
        fields: { title, typeId: "story" },
      })
    ).card;

  test("say the other item by its key, with its state, from both ends", async () => {
    const id = await built("Ticket shows the quay");
    const tide = await inTide("Quays by sailing");
    await link(TOMAS, id, tide.key);
    const here = await readItem(TOMAS, `TIX-${(await rowOf(id)).number}`);
    expect(here.links).toMatchObject([
      { words: "waits for", key: tide.key, title: "Quays by sailing", wait: "open" },
    ]);
    const there = await readItem(TOMAS, tide.key);
    expect(there.links).toMatchObject([{ words: "is waited for by", key: here.key, wait: null }]);
    const around = (await readBoard(TOMAS, "TIX", null)).around[id];
    expect(around.waitsFor.map(({ key }) => key)).toEqual([tide.key]);
  });

  test("of a project that somebody may not see nothing is said but that it waits", async () => {
    const id = await built("Waits for a timetable");
    const tide = await inTide("A table of its own");
    await link(TOMAS, id, tide.key);
    const seen = await readItem(NOOR, `TIX-${(await rowOf(id)).number}`);
    expect(seen.links).toEqual([]);
    expect(seen.waitsUnseen).toBe(1);
    expect(JSON.stringify(seen)).not.toContain(tide.key);
    expect((await readBoard(NOOR, "TIX", null)).around[id]).toMatchObject({
      waitsFor: [],
      waitsForUnseen: 1,
    });
    expect(await refusalOf(link(NOOR, id, tide.key, { linkKind: "relates to" }))).toBe("not found");
  });

  test("can be said of the other item, and make no circle through two projects", async () => {
    const id = await built("First");
    const tide = await inTide("Second");
    await link(TOMAS, id, tide.key, { turned: true });
    const { links } = await readItem(TOMAS, tide.key);
    expect(links.map(({ words }) => words)).toEqual(["waits for"]);
    expect(await refusalOf(link(TOMAS, id, tide.key))).toBe("invalid");
  });

  test("a delivery in one project lifts the blocker in the other", async () => {
    const id = await built("Blocked from outside");
    const tide = await inTide("Comes first");
    await link(TOMAS, id, tide.key);
    await send(TOMAS, id, { kind: "block", cause: WAITS, waitingFor: null, dependencyId: tide.id });
    expect((await rowOf(id)).openBlockers).toHaveLength(1);
    const states = await database()
      .select({ id: state.id, name: state.name })
      .from(state)
      .where(eq(state.workflowId, "tide-main"));
    const named = (name: string) => states.find((one) => one.name === name)!.id;
    let from = named("Backlog");
    for (const name of TO_LIVE) {
      const to = named(name);
      const answers = {
        ...ANSWERS,
        assigneeId: "ines",
        reviewerId: "tomas",
        outcome: "delivered",
      } as const;
      await send(INES, tide.id, { kind: "move", from, to, answers });
      from = to;
    }
    expect((await rowOf(id)).openBlockers).toEqual([]);
  });
});
