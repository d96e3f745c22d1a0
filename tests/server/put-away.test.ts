import { eq } from "drizzle-orm";
import { database } from "@/db/connection";
import { item, project } from "@/db/schema";
import { readPlaces } from "@/server/across/places";
import { findItems } from "@/server/find/items";
import { readLearn } from "@/server/flow/read";
import { admitMail } from "@/server/mail/keep";
import { publicForm, readForms, submitForm } from "@/server/intake/forms";
import { moveByTrigger } from "@/server/item/trigger";
import { readItem } from "@/server/item/read";
import { projectsPutAway, visibleProjects } from "@/server/people/access";
import type { Viewer } from "@/server/people/viewer";
import { readToday } from "@/server/today/read";
import { readDesignHistory } from "@/server/workflow/design-history";
import { putProjectAway } from "@/server/workflow/put-away";
import { itemIn, move, refusalOf, send } from "./setup/board";
import { ARTHUR, GRETA, INES, NOOR, OSKAR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const away = (by: Viewer = INES) => putProjectAway(by, "TIX", true);
const back = (by: Viewer = INES) => putProjectAway(by, "TIX", false);
const listed = async (viewer: Viewer) =>
  (await visibleProjects(database(), viewer)).map(({ key }) => key);
const row = async (id: string) => (await database().select().from(item).where(eq(item.id, id)))[0];

describe("a project that was put away", () => {
  let id: string;
  beforeAll(async () => {
    id = await itemIn(NOOR, "Left on the quay", "Ready", "Building");
    await away();
  });
  afterAll(() => back());

  test("stands in no list, and is found among those that were put away", async () => {
    expect(await listed(INES)).toEqual(["GATE", "TIDE"]);
    expect((await projectsPutAway(database(), INES)).map(({ key }) => key)).toEqual(["TIX"]);
    const { key } = await readItem(NOOR, `TIX-${(await row(id)).number}`);
    expect((await findItems(NOOR, { q: "Left on the quay" })).rows).toEqual([]);
    expect(JSON.stringify(await readToday(NOOR, "TIX"))).not.toContain(key);
    expect((await readPlaces(INES)).projects.map((one) => one.key)).not.toContain("TIX");
  });

  test("can be read by whoever could, with its figures", async () => {
    for (const viewer of [NOOR, ARTHUR]) {
      const view = await readItem(viewer, `TIX-${(await row(id)).number}`);
      expect(view.item.title).toBe("Left on the quay");
      expect(Object.entries(view.rights).filter(([, may]) => may)).toEqual([]);
    }
    const learn = await readLearn(NOOR, "TIX", { period: "12 weeks" } as never);
    expect(learn.report.throughput.length).toBeGreaterThan(0);
  });

  test("does not change, whoever asks, by hand or by a rule", async () => {
    const before = await row(id);
    for (const viewer of [NOOR, INES, GRETA]) {
      expect(await refusalOf(move(viewer, id, "Waiting for review"))).toBe("put away");
      expect(await refusalOf(send(viewer, id, { kind: "comment", body: "?" }))).toBe("put away");
    }
    const chain = { depth: 1, setOffBy: null };
    expect(await moveByTrigger(id, { kind: "sub-tasks finished" }, chain, "away")).toBe(false);
    expect(await row(id)).toEqual(before);
  });

  test("takes no report in, by its form or by mail", async () => {
    const [{ slug }] = (await readForms(INES, "TIX")).forms;
    expect((await publicForm("TIX", slug)).open).toBe(false);
    const sent = { projectKey: "TIX", name: slug, raw: new Map(), sent: [] } as never;
    expect(await refusalOf(submitForm(sent))).toBe("invalid");
    process.env.MAIL_DOMAIN = "in.saltmarsh.example";
    expect(await admitMail("tickets@in.saltmarsh.example", null)).toBe("unknown");
  });
});

test("leads put a project away and bring it back, and its history says so", async () => {
  for (const viewer of [NOOR, ARTHUR]) expect(await refusalOf(away(viewer))).toBe("not allowed");
  const hidden = putProjectAway(OSKAR, "TIDE", true);
  expect(await refusalOf(hidden)).toBe("not found");
  await away();
  const [kept] = await database().select().from(project).where(eq(project.key, "TIX"));
  expect(kept.putAwayBy).toBe("ines");
  await away(GRETA);
  await back(GRETA);
  expect(await listed(NOOR)).toContain("TIX");
  expect(await admitMail("tickets@in.saltmarsh.example", null)).toBe("welcome");
  const id = await itemIn(NOOR, "Back again", "Ready");
  expect((await row(id)).stateKind).toBe("waiting");
  const { changes } = await readDesignHistory(INES, "TIX");
  expect(changes.slice(0, 2).map(({ by, said }) => `${by} ${said}`)).toEqual([
    "Greta Falk brought the project back",
    "Ines Dahl put the project away",
  ]);
});
