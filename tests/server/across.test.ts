import { v7 as newId } from "uuid";
import { eq } from "drizzle-orm";
import { ACROSS_BOARDS } from "@/core/across/boards";
import { projectKeyOf } from "@/core/item/key";
import { tableAsked } from "@/core/item/list/table";
import { filterOf } from "@/core/view/filter";
import { PLAIN_LOOK, type Look } from "@/core/view/look";
import { database } from "@/db/connection";
import { item } from "@/db/schema";
import { changeGroups } from "@/server/across/groups";
import { readPlaces } from "@/server/across/places";
import { readBoard } from "@/server/board/read";
import { readBoardChanges } from "@/server/board/changes";
import { readBelow } from "@/server/item/below";
import { readCounted } from "@/server/item/list/counted";
import { readLanes } from "@/server/item/list/lanes";
import { readTable } from "@/server/item/list/table";
import { changeBulk } from "@/server/item/bulk/start";
import { editViews } from "@/server/view/edit";
import { readViews } from "@/server/view/read";
import { itemIn, refusalOf, send } from "./setup/board";
import { ARTHUR, INES, NOOR, TOMAS } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const table = (look: Partial<Look> = {}) =>
  tableAsked({ ...PLAIN_LOOK, arrangement: "table", sum: null, ...look });

async function groupOf(...projectIds: string[]): Promise<string> {
  const id = newId();
  await changeGroups(INES, { kind: "make", id, name: `Of ${projectIds.join()}`, projectIds });
  return `group-${id}`;
}

describe("items of several projects", () => {
  test("a group shows what its projects show together, grouped and counted by project", async () => {
    const key = await groupOf("tix", "gate");
    const counts = async (of: string) => (await readTable(INES, of, table())).head!.total.count;
    const [tix, gate] = [await counts("TIX"), await counts("GATE")];
    const { head } = await readTable(INES, key, table({ group: "projectId" }));
    expect(head!.groups.map(({ label, count }) => [label, count])).toEqual([
      ["Quay gates", gate],
      ["Ticket app", tix],
    ]);
    const fields = [{ fact: "projectId" as const, condition: filterOf([]) }];
    const asked = { board: null, standing: false, named: [], sum: null, condition: filterOf([]) };
    const counted = await readCounted(INES, key, { ...asked, fields });
    expect(counted.fields[0].values.map(({ count }) => count).sort()).toEqual([gate, tix].sort());
    expect(counted.total.count).toBe(tix + gate);
  });

  test("a team's place has its items of every project and the large pieces above them, no others", async () => {
    const { rows } = await readTable(INES, "team-platform", { ...table(), limit: 200 });
    const stored = await database().select().from(item);
    const byId = new Map(stored.map((row) => [row.id, row]));
    const large = (typeId: string) => typeId === "voyage" || typeId === "charter";
    const holds = (id: string): boolean =>
      stored.some((row) => row.parentId === id && (row.teamId === "platform" || holds(row.id)));
    expect(new Set(rows.map(({ card }) => projectKeyOf(card.key))).size).toBeGreaterThan(1);
    for (const { card } of rows) {
      const { teamId, typeId } = byId.get(card.id)!;
      expect(teamId === "platform" || (large(typeId) && holds(card.id))).toBe(true);
    }
    const { head } = await readTable(INES, "team-platform", table());
    const meant = stored.filter(
      ({ id, teamId, typeId, withdrawnAt }) =>
        withdrawnAt === null && (teamId === "platform" || (large(typeId) && holds(id))),
    );
    expect(head!.total.count).toBe(meant.length);
  });

  test("sizes of several projects are not added up; hours are", async () => {
    const fields = [
      { fact: "estimate" as const, width: null },
      { fact: "remainingHours" as const, width: null },
    ];
    const { head } = await readTable(INES, await groupOf("tix", "gate"), table({ fields }));
    expect(head!.total.sums.map((sum) => sum !== null)).toEqual([false, true]);
    const { head: one } = await readTable(INES, "TIX", table({ fields }));
    expect(one!.total.sums.map((sum) => sum !== null)).toEqual([true, true]);
  });

  test.each(ACROSS_BOARDS.map(({ id }) => id))(
    "every open item stands in one column: %s",
    async (id) => {
      const key = await groupOf("tix", "gate");
      const view = await readBoard(INES, key, id);
      const open = view.cards.filter(
        ({ stateKind }) => stateKind !== "unstarted" || id !== "kinds",
      );
      const { standsIn } = await import("@/core/board/columns-by");
      for (const card of open) {
        const columns = view.columns.filter((column) => standsIn(view.board, column, card));
        if (card.stateKind === "unstarted" && view.board.columnsBy === "state")
          expect(columns).toHaveLength(0);
        else expect([card.key, columns.length]).toEqual([card.key, 1]);
      }
      expect(new Set(view.cards.map(({ key: of }) => projectKeyOf(of)))).toEqual(
        new Set(["TIX", "GATE"]),
      );
    },
  );

  test("a change is told to who looks at a place it belongs to", async () => {
    const id = await itemIn(NOOR, "Seen from above", "Ready");
    await send(INES, id, { kind: "edit", seenVersion: 2, changes: { teamId: "platform" } });
    const asked = { board: "kinds", ids: [id], finished: false, sum: null };
    const at = async (key: string) => (await readBoardChanges(INES, key, asked)).cards.length;
    expect([await at("team-platform"), await at("team-quayside")]).toEqual([1, 0]);
  });

  test("lanes by project are told", async () => {
    const key = await groupOf("tix", "gate");
    const by = { kind: "field" as const, fact: "projectId" as const };
    const lanes = { by, teamId: null, rest: "below" as const, empty: false };
    const { keys } = await readLanes(INES, key, { board: null, lanes, of: null });
    expect(new Set(Object.values(keys))).toEqual(new Set(["tix", "gate"]));
  });
});

describe("who sees what above the projects", () => {
  test("nobody sees more by a group than without it", async () => {
    const key = await groupOf("tix", "tide");
    const { places } = await readPlaces(ARTHUR);
    const seen = new Set((await readPlaces(ARTHUR)).projects.map(({ id }) => id));
    const group = places.find((place) => place.key === key);
    expect(seen.has("tide")).toBe(false);
    expect(group?.projectIds).toEqual(["tix"]);
    const { rows } = await readTable(ARTHUR, key, { ...table(), limit: 200 });
    expect(new Set(rows.map(({ card }) => projectKeyOf(card.key)))).toEqual(new Set(["TIX"]));
    expect(await refusalOf(readTable(ARTHUR, await groupOf("tide"), table()))).toBe("not found");
    expect(
      await refusalOf(
        changeGroups(ARTHUR, { kind: "make", id: newId(), name: "Mine", projectIds: ["tide"] }),
      ),
    ).toBe("not found");
  });

  test("a group is changed by whoever made it; put away it is nowhere, and comes back", async () => {
    const key = await groupOf("tix");
    const id = key.slice("group-".length);
    const change = { kind: "change" as const, id, name: "Both", projectIds: ["tix", "gate"] };
    expect(await refusalOf(changeGroups(NOOR, change))).toBe("not allowed");
    await changeGroups(INES, change);
    const named = async () => (await readPlaces(INES)).places.find((place) => place.key === key);
    expect(await named()).toMatchObject({ name: "Both", projectIds: ["gate", "tix"] });
    await changeGroups(INES, { kind: "put away", id });
    expect(await named()).toBeUndefined();
    expect(await refusalOf(readTable(INES, key, table()))).toBe("not found");
    expect((await readPlaces(INES)).away.map((of) => of.id)).toContain(id);
    await changeGroups(INES, { kind: "bring back", id });
    expect(await named()).toBeDefined();
  });

  test("a restricted item is above the projects what it is in them: seen by few", async () => {
    const id = await itemIn(NOOR, "Only for leads, from above", "Ready");
    await send(INES, id, { kind: "edit", seenVersion: 2, changes: { restricted: true } });
    const key = await groupOf("tix", "gate");
    const sees = async (viewer: typeof INES) =>
      (await readBoard(viewer, key, "kinds")).cards.some((card) => card.id === id);
    expect([await sees(INES), await sees(ARTHUR)]).toEqual([true, false]);
  });

  test("views are kept with a place, and several at once are changed within a project", async () => {
    const id = newId();
    const look = { ...PLAIN_LOOK, board: "people", sum: null };
    const make = {
      kind: "make" as const,
      id,
      name: "Who has what",
      sharing: "mine" as const,
      look,
    };
    await editViews(TOMAS, "mine", make);
    expect((await readViews(TOMAS, "mine")).views.map(({ name }) => name)).toEqual([
      "Who has what",
    ]);
    expect((await readViews(NOOR, "mine")).views).toEqual([]);
    expect((await readViews(TOMAS, "TIX")).views.map((view) => view.id)).not.toContain(id);
    const shown = { ...make, id: newId(), sharing: "shown" as const };
    expect(await refusalOf(editViews(TOMAS, "mine", shown))).toBe("not allowed");
    const doing = { kind: "label" as const, add: ["x"], remove: [] };
    const job = { kind: "start" as const, id: newId(), doing, items: { ids: [newId()] } };
    expect(await refusalOf(changeBulk(INES, "mine", job as never))).toBe("not allowed");
  });
});

describe("what is below a large piece", () => {
  test("is counted by type, however deep, and listed, as far as one may see it", async () => {
    const { cards, around } = await readBoard(INES, await groupOf("tix"), "levels");
    const charter = cards.find(({ typeId }) => typeId === "charter")!;
    const { below } = around[charter.id];
    const { ids } = await readBelow(INES, charter.key);
    const stored = await database().select().from(item).where(eq(item.projectId, "tix"));
    const under = (id: string): string[] =>
      stored
        .filter((row) => row.parentId === id && row.withdrawnAt === null)
        .flatMap((row) => [row.id, ...under(row.id)]);
    expect(new Set(ids)).toEqual(new Set(under(charter.id)));
    expect(below!.reduce((sum, { count }) => sum + count, 0)).toBe(ids.length);
    const stories = below!.find(({ typeId }) => typeId === "story")!;
    const finished = stored.filter(
      (row) => ids.includes(row.id) && row.typeId === "story" && row.stateKind === "finished",
    );
    expect(stories.finished).toBe(finished.length);
    const [hidden] = ids.filter((id) => stored.find((row) => row.id === id)!.typeId === "story");
    const [{ version }] = stored.filter(({ id }) => id === hidden);
    await send(INES, hidden, { kind: "edit", seenVersion: version, changes: { restricted: true } });
    expect((await readBelow(ARTHUR, charter.key)).ids).not.toContain(hidden);
    expect(
      (await readBoard(ARTHUR, "TIX", "tix-voyages")).around[charter.id].below!.reduce(
        (sum, { count }) => sum + count,
        0,
      ),
    ).toBeLessThan(ids.length);
  });
});
