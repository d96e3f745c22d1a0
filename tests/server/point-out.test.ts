import { eq } from "drizzle-orm";
import { database } from "@/db/connection";
import { item, membership, teamMember } from "@/db/schema";
import { pointOut } from "@/server/item/bulk/point-out";
import type { Viewer } from "@/server/people/viewer";
import { itemIn, refusalOf } from "./setup/board";
import { ARTHUR, INES, IVO, NOOR, TOMAS } from "./setup/people";
import { toldTo } from "./setup/told";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const told = async (viewer: Viewer) =>
  (await toldTo(viewer)).filter(({ words }) => words.includes("the fog"));
const asked = (ids: string[], personIds: string[], teamIds: string[] = []) => ({
  items: { ids },
  personIds,
  teamIds,
  sentence: "These wait for the fog to lift.",
});
const hide = (id: string) =>
  database()
    .update(item)
    .set({ restricted: true, createdBy: "ines", assigneeId: null, reviewerId: null })
    .where(eq(item.id, id));

describe("items that are pointed out", () => {
  test("are one alert with the list, for each who is named or in a team that is, but not for oneself", async () => {
    const ids = [
      await itemIn(NOOR, "Horn"),
      await itemIn(NOOR, "Bell"),
      await itemIn(NOOR, "Lamp"),
    ];
    const [{ teamId }] = await database()
      .select()
      .from(teamMember)
      .where(eq(teamMember.personId, "ivo"));
    const { told: those, untold } = await pointOut(NOOR, "TIX", asked(ids, ["noor"], [teamId]));
    expect(those.map(({ name }) => name)).toContain("Ivo Sandell");
    expect(those.map(({ name }) => name)).not.toContain("Noor Bakri");
    expect(untold).toEqual([]);
    const [alert, ...others] = await told(IVO);
    expect(others).toEqual([]);
    expect(alert).toMatchObject({
      words: "Noor Bakri points out: These wait for the fog to lift.",
      title: "Horn",
      ids,
      standing: "new",
    });
    expect(await told(NOOR)).toEqual([]);
  });

  test("are told of as far as each may see them, also later", async () => {
    const [open, hidden, later] = [
      await itemIn(INES, "Horn"),
      await itemIn(INES, "Bell"),
      await itemIn(INES, "Lamp"),
    ];
    await hide(hidden);
    const { told: those, untold } = await pointOut(
      INES,
      "TIX",
      asked([hidden, open, later], ["noor", "tomas"]),
    );
    expect(those.find(({ name }) => name === "Noor Bakri")?.items).toBe(2);
    expect(untold).toEqual([]);
    await hide(later);
    expect((await told(NOOR))[0]).toMatchObject({ title: "Horn", ids: [open] });
    const none = await pointOut(INES, "TIX", asked([hidden], ["noor"]));
    expect(none).toEqual({ told: [], untold: ["Noor Bakri"] });
    expect(await told(NOOR)).toHaveLength(1);
  });

  test("need somebody to be told, items that are there, and a role that writes", async () => {
    const id = await itemIn(NOOR, "Horn");
    expect(await refusalOf(pointOut(NOOR, "TIX", asked([id], ["nobody"])))).toBe("invalid");
    expect(await refusalOf(pointOut(NOOR, "TIX", asked([], ["ivo"])))).toBe("invalid");
    expect(await refusalOf(pointOut(ARTHUR, "TIX", asked([id], ["ivo"])))).toBe("not allowed");
    const before = (await told(TOMAS)).length;
    await database().delete(membership).where(eq(membership.personId, "tomas"));
    expect(await refusalOf(pointOut(NOOR, "TIX", asked([id], ["tomas"])))).toBe("invalid");
    expect(await told(TOMAS)).toHaveLength(before);
  });
});
