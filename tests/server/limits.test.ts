import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import fc from "fast-check";
import { isAllowance, LIMITED_FIELDS, weightIn, type CountingBy } from "@/core/board/limited";
import { bulkAct } from "@/core/item/bulk/act";
import type { EditableFields } from "@/core/item/fields";
import { database } from "@/db/connection";
import { item, itemEvent, itemType, state, wipLimit } from "@/db/schema";
import { projectLimits } from "@/server/board/board-limits";
import { countLimits } from "@/server/board/count-limits";
import { limitsTouching } from "@/server/board/covering-limits";
import { editLimit, editPersonLimit } from "@/server/board/edit-limits";
import { editBoards } from "@/server/board/boards";
import { readBoard } from "@/server/board/read";
import { changeBulk } from "@/server/item/bulk/start";
import { doBulkChunk } from "@/server/item/bulk/chunk";
import { createItem } from "@/server/item/create";
import { checkItems } from "@/server/item/check";
import { triageReport } from "@/server/intake/triage-report";
import type { Viewer } from "@/server/people/viewer";
import type { Refused } from "@/server/refused";
import { readDesign } from "@/server/workflow/read";
import { runs } from "../core/setup/runs";
import {
  ANSWERS,
  columnOf,
  countIn,
  itemIn,
  limitFirmly,
  move,
  refusalOf,
  send,
  stateId,
} from "./setup/board";
import { accepting, sent } from "./setup/reports";
import { GRETA, INES, IVO, NOOR, TOMAS } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const PROJECT = { id: "tix", zone: "Europe/London", defaultSize: 1 };
const plain = {
  min: null as number | null,
  max: null as number | null,
  minFirm: false,
  maxFirm: false,
  unit: "items" as "items" | "size",
  level: null as number | null,
};
type Said = Partial<typeof plain> & { fixedDatePasses?: boolean };
type Of = { field: (typeof LIMITED_FIELDS)[number]; value: string } | null;

const mainBoard = async () => (await readDesign(INES, "TIX")).boards[0];

/** Sets a limit of the first board of TIX: of a column by its state, or of all in progress. */
async function limit(where: string | null, said: Said, of: Of = null, by: Viewer = INES) {
  const { id: boardId, version } = await mainBoard();
  const on =
    where === null
      ? ({ kind: "board" } as const)
      : ({ kind: "column", columnId: (await columnOf(where)).id } as const);
  const body = { boardId, seenVersion: version, on, of, fixedDatePasses: false };
  await editLimit(by, "TIX", { ...body, ...plain, ...said });
}
const personLimit = (personId: string, said: Said & { workedOnly?: boolean }, by = INES) =>
  editPersonLimit(by, "TIX", { personId, workedOnly: false, ...plain, ...said });

/** What counts against a limit now. */
async function held(where: string | null, of: Of = null): Promise<number> {
  const limits = await projectLimits({ reader: database(), project: PROJECT, now: Date.now() });
  const column = where === null ? null : await columnOf(where);
  const stateOf = where === null ? null : await stateId(where);
  const found = limits.find(
    (l) =>
      l.field === (of?.field ?? null) &&
      l.value === (of?.value ?? null) &&
      (column === null
        ? l.ownerKind === "board"
        : l.ownerId === (of === null ? stateOf : column.id)),
  );
  return found!.count;
}
const inHand = async (personId: string) =>
  (await projectLimits({ reader: database(), project: PROJECT, now: Date.now() })).find(
    (l) => l.ownerKind === "person" && l.ownerId === personId,
  )!.count;

/** Somebody may have as much in their hands as they have, and no more. */
async function full(personId: string): Promise<number> {
  await personLimit(personId, { max: 10_000 });
  const now = await inHand(personId);
  await personLimit(personId, { max: now, maxFirm: true });
  return now;
}

const rowOf = async (id: string) =>
  (await database().select().from(item).where(eq(item.id, id)))[0];
const edit = async (id: string, changes: Partial<EditableFields>, by: Viewer = NOOR) =>
  send(by, id, { kind: "edit", seenVersion: (await rowOf(id)).version, changes });
const refuses = async (work: Promise<unknown>) => expect(await refusalOf(work)).toBe("limit");

const asksOf = (work: Promise<unknown>): Promise<string[]> =>
  work.then(
    () => ["nothing"],
    (error: Refused) => error.refusal.asks.map(({ field }) => field),
  );

/** A story that somebody builds; whose it is. */
async function built(title: string, assigneeId = "noor"): Promise<string> {
  const id = await itemIn(NOOR, title, "Ready");
  await move(NOOR, id, "Building", { ...ANSWERS, assigneeId });
  return id;
}

describe("what counts against a limit", () => {
  test("is counted by the database as the core weighs it, whatever the limit is of", async () => {
    const states = await database().select().from(state).where(eq(state.workflowId, "tix-main"));
    const values: Record<string, string[]> = {
      classOfService: ["expedite", "standard", "fixed date"],
      typeId: ["story", "bug", "task"],
      teamId: ["ticketing", "quayside"],
      assigneeId: ["noor", "ivo", "ruth"],
      priority: ["high", "normal"],
      origin: ["planned", "unplanned"],
    };
    const board = await mainBoard();
    const columns = board.columns.map((c) => c.id);
    const owner = fc.oneof(
      fc.record({
        ownerKind: fc.constant("state" as const),
        ownerId: fc.constantFrom(...states.map((s) => s.id)),
      }),
      fc.record({
        ownerKind: fc.constant("column" as const),
        ownerId: fc.constantFrom(...columns),
      }),
      fc.constant({ ownerKind: "board" as const, ownerId: board.id }),
      fc.record({
        ownerKind: fc.constant("person" as const),
        ownerId: fc.constantFrom("noor", "ivo", "ruth"),
      }),
    );
    const of = fc.option(
      fc
        .constantFrom(...LIMITED_FIELDS)
        .chain((field) =>
          fc.record({ field: fc.constant(field), value: fc.constantFrom(...values[field]) }),
        ),
      { nil: null },
    );
    const counting = fc.record({
      unit: fc.constantFrom("items" as const, "size" as const),
      level: fc.constantFrom(null, 0, 1),
      workedOnly: fc.boolean(),
    });
    const rows = await database().select().from(item);
    const types = await database().select().from(itemType);
    const reviewed = await database().select().from(state).where(eq(state.byReviewer, true));
    expect(reviewed.length).toBeGreaterThan(0);
    let counted = 0;
    await fc.assert(
      fc.asyncProperty(owner, of, counting, fc.boolean(), async (whose, only, how, allowance) => {
        await database()
          .transaction(async (tx) => {
            await tx.delete(wipLimit);
            const given = { projectId: "tix", minFirm: false, maxFirm: false, validFrom: 0 };
            const made = { ...given, ...whose, ...only, ...how, max: 5, id: randomUUID() };
            await tx.insert(wipLimit).values(made);
            const expedite = { field: "classOfService", value: "expedite" } as const;
            const over = { ownerKind: "board", ownerId: board.id } as const;
            if (allowance)
              await tx
                .insert(wipLimit)
                .values({ ...given, ...over, ...expedite, max: 1, id: randomUUID() })
                .onConflictDoNothing();
            const all = await limitsTouching(
              tx,
              states.map((s) => s.id),
              ["noor", "ivo", "ruth"],
            );
            const loaded = all.find((l) => l.id === made.id)!;
            const counts = await countLimits({
              reader: tx,
              project: PROJECT,
              limits: [loaded],
              now: Date.now(),
            });
            const inProject = (projectId: string): CountingBy => ({
              levelOf: (id) => types.find((t) => t.projectId === projectId && t.id === id)?.level,
              byReviewer: new Set(reviewed.map((s) => s.id)),
              defaultSize: 1,
            });
            const sum = rows
              .filter((row) => row.withdrawnAt === null)
              .reduce((n, row) => n + weightIn(loaded, row, inProject(row.projectId)), 0);
            expect(counts.get(made.id)!.count).toBeCloseTo(sum, 6);
            counted += sum;
            throw new NothingStays();
          })
          .catch((error) => {
            if (!(error instanceof NothingStays)) throw error;
          });
      }),
      { numRuns: runs(60) },
    );
    // Else it had been of nothing all along.
    expect(counted).toBeGreaterThan(50);
  });
});

class NothingStays extends Error {}

describe("a firm limit holds whatever the command", () => {
  test("also what must be fixed now, unless a lead says why", async () => {
    const expedite = { field: "classOfService", value: "expedite" } as const;
    await limit(null, { max: 1_000 }, expedite);
    const now = await held(null, expedite);
    await limit(null, { max: now, maxFirm: true }, expedite);
    const row = await sent();
    const judge = (by: Viewer, overrideReason?: string) =>
      triageReport(by, row.id, {
        commandId: randomUUID(),
        seenVersion: row.version,
        verdict: accepting({ found: { where: "fix now" }, severity: "major", teamId: "ticketing" }),
        overrideReason,
      });
    await refuses(judge(TOMAS, "The gate is open"));
    expect(await asksOf(judge(INES))).toEqual(["overrideReason"]);
    expect((await judge(INES, "The gate is open")).status).toBe("accepted");
    expect(await held(null, expedite)).toBe(now + 1);
    await limit(null, { max: 2 }, expedite);
  });

  test("of a person: by assigning, by a move, by a change of class or kind, and by undoing", async () => {
    const mine = await built("Rope", "tomas");
    const [second, third] = [await built("Sail"), await built("Mast")];
    const now = await full("tomas");
    await refuses(edit(second, { assigneeId: "tomas" }));
    await edit(mine, { assigneeId: "ivo" });
    const commandId = randomUUID();
    await send(NOOR, second, {
      kind: "edit",
      seenVersion: (await rowOf(second)).version,
      changes: { assigneeId: "tomas" },
    });
    // What was given away does not come back by an undo while somebody else's stands in its place.
    await send(
      NOOR,
      second,
      {
        kind: "edit",
        seenVersion: (await rowOf(second)).version,
        changes: { assigneeId: "noor" },
      },
      commandId,
    );
    await edit(third, { assigneeId: "tomas" });
    await refuses(send(NOOR, second, { kind: "undo", commandId }));
    expect(await inHand("tomas")).toBe(now);
    await personLimit("tomas", {});
  });

  test("a lead goes beyond it with a reason, by a change as by a move, one by one and at once; a member does not", async () => {
    const ids = [await built("Oar"), await built("Keel"), await built("Tiller")];
    const now = await full("tomas");
    const give = async (by: Viewer, id: string, overrideReason?: string) =>
      send(by, id, {
        kind: "edit",
        seenVersion: (await rowOf(id)).version,
        changes: { assigneeId: "tomas" },
        overrideReason,
      });
    expect(await asksOf(give(INES, ids[0]))).toEqual(["overrideReason"]);
    expect(await asksOf(give(NOOR, ids[0]))).toEqual([]);
    await refuses(give(NOOR, ids[0], "I say so"));
    await refuses(give(INES, ids[0], "  "));
    await give(INES, ids[0], "Only he knows the gate");
    expect(await inHand("tomas")).toBe(now + 1);
    const [broken] = await database()
      .select()
      .from(itemEvent)
      .where(
        and(
          eq(itemEvent.itemId, ids[0]),
          eq(itemEvent.kind, "overrode"),
          eq(itemEvent.actorId, "ines"),
        ),
      );
    expect(broken.new).toMatchObject({ columnName: "Tomas Kerr", firm: true });
    const set = { kind: "set", changes: { assigneeId: "tomas" } };
    const start = async (act: object) => {
      const id = randomUUID();
      const given = { id, items: { ids: ids.slice(1) }, act: bulkAct.parse(act) };
      await changeBulk(INES, "TIX", { kind: "start", ...given });
      while ((await doBulkChunk()) > 0);
    };
    await start(set);
    expect(await inHand("tomas")).toBe(now + 1);
    await start({ ...set, overrideReason: "The tide is at six" });
    expect(await inHand("tomas")).toBe(now + 3);
    await personLimit("tomas", {});
  });

  test("also where an item is made that is over it at once", async () => {
    await limitFirmly("Backlog", await countIn("Backlog"));
    const make = (by: Viewer, overrideReason?: string) =>
      createItem(by, {
        commandId: randomUUID(),
        projectKey: "TIX",
        parentId: null,
        fields: { title: "Gangway", typeId: "story" },
        overrideReason,
      });
    await refuses(make(NOOR, "me"));
    await refuses(make(INES));
    expect((await make(INES, "Nobody gets off")).card.title).toBe("Gangway");
    await limitFirmly("Backlog", 10_000);
  });

  test("of a person: what is in review is in the reviewer's hands", async () => {
    const id = await built("Anchor", "ruth");
    const now = await full("hanna");
    await refuses(edit(id, { assigneeId: "hanna" }));
    await move(NOOR, id, "Waiting for review", ANSWERS);
    // From here on it is in the hands of the reviewer, whoever has built it.
    await edit(id, { assigneeId: "hanna" });
    expect(await inHand("hanna")).toBe(now);
    await refuses(edit(id, { reviewerId: "hanna", assigneeId: "ruth" }));
    await edit(id, { assigneeId: "ruth" });
    await refuses(move(NOOR, id, "In review", { ...ANSWERS, reviewerId: "hanna" }));
    await personLimit("hanna", {});
  });

  test("of a person over all projects, and only for leads of one that they belong to", async () => {
    expect(await refusalOf(personLimit("noor", { max: 3 }, NOOR))).toBe("not allowed");
    expect(await refusalOf(personLimit("nobody", { max: 3 }))).toBe("not found");
    await personLimit("noor", { max: 3 }, GRETA);
    const kept = await database().select().from(wipLimit).where(eq(wipLimit.ownerId, "noor"));
    expect(kept).toMatchObject([{ projectId: null, max: 3, byId: "greta" }]);
    await personLimit("noor", {});
  });

  test("by summed size: what grows is refused, what shrinks is not", async () => {
    const id = await built("Hull");
    await edit(id, { estimate: 3 });
    const now = async () => {
      await limit("Building", { max: 10_000, unit: "size" });
      return held("Building");
    };
    await limit("Building", { max: Math.floor(await now()) + 2, maxFirm: true, unit: "size" });
    await refuses(edit(id, { estimate: 8 }));
    await edit(id, { estimate: 5 });
    await refuses(edit(id, { estimate: null }).then(() => edit(id, { estimate: 8 })));
    await edit(id, { estimate: 1 });
    await limit("Building", { max: 6 });
  });

  test("of a cell: by its type, its team, its class", async () => {
    const bugs: Of = { field: "typeId", value: "bug" };
    const id = await built("Gangway");
    await limit("Building", { max: 0, maxFirm: true }, bugs);
    await refuses(edit(id, { typeId: "bug" }));
    await limit("Building", { max: 2 }, bugs);
    const teams: Of = { field: "teamId", value: "platform" };
    await limit(null, { max: 0, maxFirm: true }, teams);
    await refuses(edit(id, { teamId: "platform" }));
    const another = await itemIn(NOOR, "Bell");
    await edit(another, { teamId: "platform" });
    await refuses(move(NOOR, another, "Ready"));
    await limit(null, {}, teams);
    await move(NOOR, another, "Ready");
  });

  test("expedite passes through its allowance, and no further; intangible never", async () => {
    const allowance: Of = { field: "classOfService", value: "expedite" };
    await limit(null, { max: 10_000 }, allowance);
    const now = await held(null, allowance);
    await limit(null, { max: now + 1, maxFirm: true }, allowance);
    const full = await held("Building");
    await limit("Building", { max: full, maxFirm: true });
    const [urgent, more, vague] = [
      await itemIn(NOOR, "Leak", "Ready"),
      await itemIn(NOOR, "Second leak"),
      await itemIn(NOOR, "Paint", "Ready"),
    ];
    await edit(vague, { classOfService: "intangible" });
    await refuses(move(NOOR, vague, "Building"));
    await refuses(move(NOOR, urgent, "Building"));
    await edit(urgent, { classOfService: "expedite" });
    await move(NOOR, urgent, "Building");
    expect(await held("Building")).toBe(full);
    // Losing its class, it would count there.
    await refuses(edit(urgent, { classOfService: "standard" }));
    await edit(more, { classOfService: "expedite" });
    await refuses(move(NOOR, more, "Ready"));
    await limit(null, { max: 1, maxFirm: true }, allowance);
    await limit("Building", { max: 30 });
  });

  test("a fixed date passes where the limit says so", async () => {
    const full = await held("Building");
    await limit("Building", { max: full, maxFirm: true, fixedDatePasses: true });
    const id = await itemIn(NOOR, "Regatta", "Ready");
    await edit(id, { classOfService: "fixed date", dueOn: "2027-06-01" });
    await move(NOOR, id, "Building");
    expect(await held("Building")).toBe(full + 1);
    await limit("Building", { max: 30 });
  });

  test("cannot be firm where the items of a board come and go by themselves", async () => {
    const { columns, columnsBy } = await mainBoard();
    const scope = { kind: "compare", fact: "daysInState", op: "less than", value: 400 } as const;
    const saved = { id: randomUUID(), name: "Fresh", columnsBy, scope };
    const board = { ...saved, columns: [{ ...columns[1], id: randomUUID() }] };
    await editBoards(INES, "TIX", { kind: "save", board, seenVersion: 0 });
    const on = { kind: "board" } as const;
    const { boards } = await readDesign(INES, "TIX");
    const { version: seenVersion } = boards.find((b) => b.id === saved.id)!;
    const body = { boardId: saved.id, seenVersion, on, of: null, fixedDatePasses: false };
    const said = (maxFirm: boolean) =>
      editLimit(INES, "TIX", { ...body, ...plain, max: 3, maxFirm });
    expect(await refusalOf(said(true))).toBe("invalid");
    await said(false);
    await editBoards(INES, "TIX", { kind: "remove", boardId: saved.id });
  });
});

test("going beyond advice is kept, and each page of a board has the same sum for everybody", async () => {
  const full = await held("Building");
  await limit("Building", { max: full });
  const id = await built("One more");
  const events = await database().select().from(itemEvent).where(eq(itemEvent.itemId, id));
  expect(events.filter((e) => e.kind === "overrode")).toMatchObject([
    {
      new: { columnName: "Building", limit: full, wouldHold: full + 1, firm: false },
      noteId: null,
    },
  ]);
  await edit(id, { restricted: true }, INES);
  const here = await stateId("Building");
  for (const viewer of [INES, TOMAS]) {
    const { cards, limits, types } = await readBoard(viewer, "TIX");
    const beside = limits.find((l) => l.ownerKind === "state" && l.ownerId === here)!;
    const by: CountingBy = {
      levelOf: (typeId) => types.find((t) => t.id === typeId)?.level,
      byReviewer: new Set(),
      defaultSize: 1,
    };
    const seen = cards.reduce((sum, card) => sum + weightIn(beside, card, by), 0);
    expect(seen + beside.count).toBe(await held("Building"));
  }
  await limit("Building", { max: 30 });
});

test("sixteen people at once, whatever they do, exceed no firm limit, and everything adds up", async () => {
  const people = ["noor", "ivo", "ruth", "hanna"];
  const ids: string[] = [];
  for (let i = 0; i < 24; i++) {
    const id = await itemIn(NOOR, `Crate ${i}`, "Ready");
    await edit(id, { estimate: i % 4 === 0 ? null : i % 5, howToTest: "Look." });
    ids.push(id);
  }
  const before = { building: await held("Building"), all: await held(null) };
  await limit("Building", { max: before.building + 4, maxFirm: true });
  await limit(null, { max: Math.ceil(before.all) + 12, maxFirm: true, unit: "size" });
  const room = new Map<string, number>();
  for (const person of people) {
    await personLimit(person, { max: 10_000 });
    room.set(person, (await inHand(person)) + 2);
    await personLimit(person, { max: room.get(person)!, maxFirm: true });
  }
  const bugs: Of = { field: "typeId", value: "bug" };
  await limit("Building", { max: 10_000 }, bugs);
  const bugsMost = (await held("Building", bugs)) + 2;
  await limit("Building", { max: bugsMost, maxFirm: true }, bugs);
  const [ready, building] = [await stateId("Ready"), await stateId("Building")];

  let seed = 7;
  const next = (n: number) => (seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648) % n;
  const viewers = [NOOR, IVO, TOMAS, INES];
  let done = 0;
  const refused = new Map<string, number>();
  const attempt = async (work: () => Promise<unknown>) => {
    try {
      await work();
      done += 1;
    } catch (error) {
      const code = (error as { refusal?: { code: string } }).refusal?.code;
      if (code === undefined) throw error;
      refused.set(code, (refused.get(code) ?? 0) + 1);
    }
  };
  const person = async (n: number) => {
    const by = viewers[n % viewers.length];
    let last: { id: string; commandId: ReturnType<typeof randomUUID> } | null = null;
    for (let turn = 0; turn < 12; turn++) {
      const id = ids[next(ids.length)];
      const row = await rowOf(id);
      const commandId = randomUUID();
      const assigneeId = people[next(people.length)];
      const what = next(6);
      if (what < 2)
        await attempt(() =>
          send(
            by,
            id,
            {
              kind: "move",
              from: row.stateId,
              to: row.stateId === ready ? building : ready,
              answers: { ...ANSWERS, assigneeId },
            },
            commandId,
          ),
        );
      else if (what === 2 && last) {
        const { id: lastId, commandId: lastCommand } = last;
        await attempt(() => send(by, lastId, { kind: "undo", commandId: lastCommand }));
      } else if (what === 3) {
        const some = [ids[next(ids.length)], ids[next(ids.length)]];
        const act = bulkAct.parse({ kind: "set", changes: { assigneeId } });
        await attempt(() =>
          changeBulk(by, "TIX", { kind: "start", id: randomUUID(), items: { ids: some }, act }),
        );
      } else {
        const changes: Partial<EditableFields> =
          what === 4
            ? { estimate: next(9), typeId: next(2) ? "bug" : "story" }
            : { assigneeId, classOfService: next(3) ? "standard" : "intangible" };
        await attempt(() =>
          send(by, id, { kind: "edit", seenVersion: row.version, changes }, commandId),
        );
      }
      last = { id, commandId };
    }
  };
  let working = true;
  const worker = (async () => {
    while (working) if ((await doBulkChunk()) === 0) await new Promise((r) => setTimeout(r, 20));
  })();
  await Promise.all(Array.from({ length: 16 }, (_, n) => person(n)));
  working = false;
  await worker;
  while ((await doBulkChunk()) > 0);

  expect(done).toBeGreaterThan(40);
  expect(refused.get("limit") ?? 0).toBeGreaterThan(5);
  expect(await held("Building")).toBeLessThanOrEqual(before.building + 4);
  expect(await held("Building", bugs)).toBeLessThanOrEqual(bugsMost);
  expect(await held(null)).toBeLessThanOrEqual(Math.ceil(before.all) + 12);
  for (const one of people) expect(await inHand(one)).toBeLessThanOrEqual(room.get(one)!);
  expect((await checkItems()).findings).toEqual([]);
  const limits = await projectLimits({ reader: database(), project: PROJECT, now: Date.now() });
  expect(limits.some(isAllowance)).toBe(true);
});
