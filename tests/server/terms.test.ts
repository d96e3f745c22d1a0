import { randomUUID } from "node:crypto";
import { and, asc, eq } from "drizzle-orm";
import type { Condition } from "@/core/condition/condition";
import { PLAIN_LOOK, storedLook } from "@/core/view/look";
import { NEW_OWN_RULE } from "@/core/alerts/own-rule";
import type { TermEdit } from "@/core/item/terms/edit";
import type { TermKind } from "@/core/item/terms/term";
import type { Workflow } from "@/core/workflow/workflow";
import { database } from "@/db/connection";
import {
  alertRule,
  follow,
  item,
  itemEvent,
  namedCondition,
  reportEvent,
  view,
  workflowDraft,
  workflowVersion,
} from "@/db/schema";
import { saveOwnRule } from "@/server/alerts/own-rules";
import { setFollow } from "@/server/alerts/follow";
import { checkItems } from "@/server/item/check";
import { copyItem } from "@/server/item/copy";
import { checkReports } from "@/server/intake/check";
import { readDesk } from "@/server/intake/desk";
import { readReport } from "@/server/intake/read-report";
import { sayParts } from "@/server/intake/say-parts";
import { editTerms } from "@/server/item/terms/edit";
import { enterList, narrowed } from "@/server/item/list/enter";
import { readIds } from "@/server/item/list/read";
import { readPart } from "@/server/item/terms/part";
import { readTerms } from "@/server/item/terms/read";
import type { Viewer } from "@/server/people/viewer";
import { readDesignHistory } from "@/server/workflow/design-history";
import { discardDraft } from "@/server/workflow/draft";
import { editViews } from "@/server/view/edit";
import { itemIn, refusalOf, send } from "./setup/board";
import { publishChange, runningWorkflow, storeDraft } from "./setup/process";
import { settle } from "./setup/events";
import { ARTHUR, INES, IVO, NOOR, OSKAR, TOMAS } from "./setup/people";
import { accepting, sent, verdictOn } from "./setup/reports";
import { givenTestDatabase } from "./setup/test-database";
import { toldTo } from "./setup/told";

givenTestDatabase();
const db = () => database();
const rowOf = async (id: string) => (await db().select().from(item).where(eq(item.id, id)))[0];
const edit = async (by: Viewer, id: string, changes: object) =>
  send(by, id, { kind: "edit", seenVersion: (await rowOf(id)).version, changes });
const labelled = async (labels: string[], more: object = {}) => {
  const id = await itemIn(NOOR, "A lamp on the pier");
  await edit(NOOR, id, { labels, ...more });
  return id;
};
const labelsOf = async (id: string) => (await rowOf(id)).labels;
const change = (asked: TermEdit, by: Viewer = INES) => editTerms(by, "TIX", asked);
const rename = (name: string, to: string, of: TermKind = "label") =>
  change({ kind: "rename", of, name, to });
const termsOf = async (viewer: Viewer = INES) => (await readTerms(viewer, "TIX")).terms;
const termOf = async (name: string, viewer: Viewer = INES, kind: TermKind = "label") =>
  (await termsOf(viewer)).find((term) => term.kind === kind && term.name === name);
const agrees = async () => expect((await checkItems()).findings).toEqual([]);
const contains = (value: string): Condition => ({
  kind: "compare",
  fact: "labels",
  op: "contains",
  value,
});

describe("words are agreed on", () => {
  test("whatever capitals they are typed with, and by what they were called before", async () => {
    await change({ kind: "describe", of: "label", name: "Ebb", meaning: "When the water goes." });
    const id = await labelled(["EBB", "ebb", "spring tide"]);
    expect(await labelsOf(id)).toEqual(["Ebb", "spring tide"]);
    await rename("Ebb", "low water");
    await edit(IVO, id, { labels: ["ebb", "spring tide", "low water"] });
    expect(await labelsOf(id)).toEqual(["low water", "spring tide"]);
    await agrees();
  });

  test("one that is retired stays where it is and is given to nothing anew; a copy has it", async () => {
    const id = await labelled(["gas lamp"]);
    await change({ kind: "end", of: "label", name: "gas lamp" });
    await edit(NOOR, id, { labels: ["gas lamp", "pier"] });
    const other = await itemIn(NOOR, "Another lamp");
    expect(await refusalOf(edit(NOOR, other, { labels: ["Gas Lamp"] }))).toBe("invalid");
    expect(await labelsOf(other)).toEqual([]);
    const { card } = await copyItem(NOOR, `TIX-${(await rowOf(id)).number}`, {
      commandId: randomUUID(),
      title: "A copied lamp",
      parts: ["facts"],
    });
    expect(card.labels).toContain("gas lamp");
    await change({ kind: "bring back", of: "label", name: "gas lamp" });
    await edit(NOOR, other, { labels: ["gas lamp"] });
    expect(await labelsOf(other)).toEqual(["gas lamp"]);
  });

  test("are changed by leads alone, and no two are called the same", async () => {
    for (const by of [NOOR, ARTHUR])
      expect(
        await refusalOf(change({ kind: "describe", of: "label", name: "x", meaning: "" }, by)),
      ).toBe("not allowed");
    await change({ kind: "describe", of: "label", name: "buoy", meaning: "" });
    expect(
      await refusalOf(change({ kind: "describe", of: "label", name: "BUOY", meaning: "" })),
    ).toBe("invalid");
    await change({ kind: "describe", of: "label", name: "beacon", meaning: "" });
    expect(await refusalOf(rename("beacon", "Buoy"))).toBe("invalid");
    await rename("buoy", "mark");
    expect(await refusalOf(rename("beacon", "buoy"))).toBe("invalid");
    // To what it was called itself it goes back.
    await rename("mark", "buoy");
    expect(await termOf("buoy")).toMatchObject({ earlier: ["mark"] });
  });

  test("are counted as far as one may see the items", async () => {
    const open = await labelled(["signal horn"]);
    await labelled(["signal horn"], { restricted: true });
    expect(await termOf("signal horn", INES)).toMatchObject({ items: 2, open: 2 });
    expect(await termOf("signal horn", IVO)).toMatchObject({ items: 1, described: false });
    await send(NOOR, open, { kind: "withdraw", why: "No horn.", below: false });
    expect(await termOf("signal horn", IVO)).toBeUndefined();
    expect(await refusalOf(readTerms(OSKAR, "TIDE"))).toBe("not found");
  });
});

describe("a word that is renamed", () => {
  const viewWith = async (key: string, filter: Condition) => {
    const id = randomUUID();
    await editViews(INES, key, {
      kind: "make",
      id,
      name: `Fog ${id.slice(0, 8)}`,
      look: { ...PLAIN_LOOK, filter },
      sharing: "mine",
    } as Parameters<typeof editViews>[2]);
    return async () =>
      storedLook((await db().select().from(view).where(eq(view.id, id)))[0].look).filter;
  };
  const ruleWith = async () => {
    const id = randomUUID();
    const rule = { ...NEW_OWN_RULE, projectKey: "TIX", condition: contains("fog") };
    await saveOwnRule(TOMAS, { id, rule });
    return async () =>
      (await db().select().from(alertRule).where(eq(alertRule.id, id)))[0].condition;
  };

  test("is called so on items, in views, conditions and rules, and whoever follows it follows on", async () => {
    const id = await labelled(["fog", "pier"]);
    const kept = await viewWith("TIX", { kind: "not", of: contains("fog") });
    const elsewhere = await viewWith("GATE", contains("fog"));
    const own = await ruleWith();
    await setFollow(TOMAS, { kind: "label", target: "tix/fog", on: true });
    await editViews(INES, "TIX", {
      kind: "name condition",
      id: randomUUID(),
      name: "In the fog",
      condition: contains("fog"),
    } as Parameters<typeof editViews>[2]);

    await rename("fog", "mist");
    expect(await labelsOf(id)).toEqual(["mist", "pier"]);
    expect(await kept()).toEqual({ kind: "not", of: contains("mist") });
    expect(await own()).toEqual(contains("mist"));
    // What is looked at in another project may be called as it was there.
    expect(await elsewhere()).toEqual({ kind: "any", of: [contains("fog"), contains("mist")] });
    const [named] = await db()
      .select()
      .from(namedCondition)
      .where(eq(namedCondition.name, "In the fog"));
    expect(named.condition).toEqual(contains("mist"));
    expect(await termOf("mist", TOMAS)).toMatchObject({ followed: true, earlier: ["fog"] });
    await settle();
    await edit(NOOR, id, { title: "A brighter lamp" });
    await settle();
    const key = `TIX-${(await rowOf(id)).number}`;
    expect((await toldTo(TOMAS)).some((one) => one.itemKey === key)).toBe(true);
    await agrees();
  });

  test("is found by a link that was kept from before, which names what it was called", async () => {
    const id = await labelled(["jetty lamp"]);
    await rename("jetty lamp", "quay lamp");
    const found = async (condition: Condition) => {
      const entered = await enterList(NOOR, "TIX", Date.now());
      return readIds(await narrowed(entered, condition, { board: null }), 5_000);
    };
    expect(await found(contains("jetty lamp"))).toEqual([id]);
    expect(await found(contains("quay lamp"))).toEqual([id]);
    expect(await found({ ...contains("jetty lamp"), op: "lacks" } as Condition)).not.toContain(id);
  });

  test("keeps what histories said; what is undone after it comes back by its new name", async () => {
    const id = await labelled(["wooden"]);
    const commandId = randomUUID();
    await send(
      NOOR,
      id,
      { kind: "edit", seenVersion: (await rowOf(id)).version, changes: { labels: [] } },
      commandId,
    );
    await rename("wooden", "of wood");
    const said = await db()
      .select({ new: itemEvent.new })
      .from(itemEvent)
      .where(and(eq(itemEvent.itemId, id), eq(itemEvent.field, "labels")))
      .orderBy(itemEvent.seq);
    expect(said.map((one) => one.new)).toEqual([["wooden"], []]);
    await send(NOOR, id, { kind: "undo", commandId });
    expect(await labelsOf(id)).toEqual(["of wood"]);
    await agrees();
  });

  test("is called so in the rules of the process too, as a version of its own, and in its draft", async () => {
    const asks =
      (value: string) =>
      (workflow: Workflow): Workflow => {
        const [first, ...others] = workflow.transitions;
        const requirement = { kind: "condition" as const, condition: contains(value) };
        const requirements = [...first.requirements, requirement];
        return { ...workflow, transitions: [{ ...first, requirements }, ...others] };
      };
    const ruleOf = ({ transitions: [{ requirements }] }: Workflow) => requirements.at(-1);
    const { version } = await publishChange(asks("slack"));
    const revision = await storeDraft(INES, {
      ...asks("slack")(await runningWorkflow()),
      name: "Slack in a draft",
    });
    await rename("slack", "slack water");
    const running = await runningWorkflow();
    expect(running.version).toBe(version + 1);
    expect(ruleOf(running)).toMatchObject({ condition: contains("slack water") });
    const versions = await db()
      .select()
      .from(workflowVersion)
      .where(eq(workflowVersion.workflowId, "tix-main"))
      .orderBy(workflowVersion.version);
    // The version before stays as it was published.
    expect(ruleOf(versions.at(-2)!.definition)).toMatchObject({ condition: contains("slack") });
    expect(versions.at(-1)!.summary).toContain("“slack” is called “slack water”");
    const [draft] = await db().select().from(workflowDraft);
    expect(ruleOf(draft.definition)).toMatchObject({ condition: contains("slack water") });
    expect(draft).toMatchObject({ baseVersion: version + 1, revision: revision + 1 });
    await discardDraft(INES, "tix-main", revision + 1);
  });

  test("is said by nobody any more, whoever says it while it is renamed", async () => {
    const ids = await Promise.all(
      Array.from({ length: 12 }, (_, i) => itemIn(NOOR, `Plank ${i} of the pier`)),
    );
    const say = ids.map((id) => edit(IVO, id, { labels: ["plank"] }));
    await Promise.all([...say, rename("plank", "board")]);
    await Promise.all(ids.map((id) => edit(TOMAS, id, { priority: "low" })));
    expect(await Promise.all(ids.map(labelsOf))).toEqual(ids.map(() => ["board"]));
    await agrees();
  });
});

describe("words that are merged", () => {
  test("are one on every item, for everybody who follows them, and in what is typed later", async () => {
    const [both, one] = [await labelled(["rope", "line", "x"]), await labelled(["line"])];
    for (const target of ["tix/rope", "tix/line"])
      await setFollow(IVO, { kind: "label", target, on: true });
    await setFollow(TOMAS, { kind: "label", target: "tix/line", on: true });
    await change({ kind: "merge", of: "label", name: "line", into: "rope" });
    expect(await labelsOf(both)).toEqual(["rope", "x"]);
    expect(await labelsOf(one)).toEqual(["rope"]);
    expect(await labelsOf(await labelled(["Line"]))).toEqual(["rope"]);
    const following = await db().select().from(follow).where(eq(follow.target, "tix/rope"));
    expect(following.map(({ personId }) => personId).sort()).toEqual(["ivo", "tomas"]);
    expect(await termOf("line")).toBeUndefined();
    await agrees();
  });

  test("are not merged into themselves, nor into one that is retired", async () => {
    await labelled(["tar"]);
    expect(await refusalOf(change({ kind: "merge", of: "label", name: "tar", into: "tar" }))).toBe(
      "invalid",
    );
    await change({ kind: "end", of: "label", name: "tar" });
    await labelled(["pitch"]);
    expect(
      await refusalOf(change({ kind: "merge", of: "label", name: "pitch", into: "tar" })),
    ).toBe("invalid");
  });
});

test("what leads changed of words is a history that leads alone read", async () => {
  await change({ kind: "describe", of: "label", name: "kelp", meaning: "Grows on posts." });
  await change({ kind: "describe", of: "label", name: "kelp", meaning: "Grows on all posts." });
  await change({ kind: "describe", of: "label", name: "kelp", meaning: "Grows on all posts." });
  const { changes } = await readDesignHistory(INES, "TIX");
  const about = changes.filter(({ said }) => said.includes("kelp"));
  expect(about).toMatchObject([
    {
      by: "Ines Dahl",
      said: "changed the label “kelp”",
      differences: [{ what: "what it means", old: "Grows on posts.", new: "Grows on all posts." }],
    },
    { said: "described the label “kelp”" },
  ]);
  expect(await refusalOf(readDesignHistory(NOOR, "TIX"))).toBe("not allowed");
  const { changes: later, next } = await readDesignHistory(INES, "TIX", about[0].id);
  expect(later.every(({ id }) => id < about[0].id)).toBe(true);
  expect(next).toBeNull();
});

test("a part of the product shows what is open, new and finished about it, and reports that speak of it", async () => {
  await change({
    kind: "describe",
    of: "part",
    name: "Life rafts",
    meaning: "What inflates when a boat sinks.",
    ownerId: "noor",
  });
  const id = await itemIn(NOOR, "Raft without a rope");
  await edit(NOOR, id, { parts: ["life rafts"] });
  const hidden = await itemIn(NOOR, "Raft that nobody may know of");
  await edit(NOOR, hidden, { parts: ["Life rafts"], restricted: true });
  const seen = await readPart(IVO, "TIX", "Life rafts");
  expect(seen).toMatchObject({
    owner: "Noor Bakri",
    open: { count: 1, items: [{ title: "Raft without a rope", assignee: null }] },
    came: { count: 1 },
    finished: { count: 0, items: [] },
  });
  expect((await readPart(INES, "TIX", "Life rafts")).open.count).toBe(2);
  expect(await refusalOf(readPart(IVO, "TIX", "Life boats"))).toBe("not found");
  expect(
    await refusalOf(
      change({ kind: "describe", of: "part", name: "Life rafts", ownerId: "nobody" }),
    ),
  ).toBe("invalid");
});

describe("the parts of a report", () => {
  const PARTS = { kind: "describe", of: "part" } as const;
  const title = ["Rope ladder is short"];
  const partsOf = async (id: string) => {
    const { saidParts, parts } = await readReport(TOMAS, id);
    return { saidParts, parts };
  };
  const onPage = async (name: string) =>
    (await readPart(INES, "TIX", name)).reports.map(({ reference }) => reference);
  beforeAll(async () => {
    await change({ ...PARTS, name: "Rope ladders", places: ["Heron island"] });
    await change({ ...PARTS, name: "Handrails" });
  });

  test("are those of its place until they are said, and go with it to its item", async () => {
    const row = await sent({ title });
    expect(await partsOf(row.id)).toEqual({ saidParts: null, parts: ["Rope ladders"] });
    expect(await onPage("Rope ladders")).toContain(row.reference);
    await sayParts(TOMAS, row.id, { parts: ["handrails"] });
    expect(await partsOf(row.id)).toEqual({ saidParts: ["Handrails"], parts: ["Handrails"] });
    expect(await onPage("Rope ladders")).not.toContain(row.reference);
    expect(await onPage("Handrails")).toContain(row.reference);
    const onDesk = (await readDesk(TOMAS, "TIX")).queue.find(({ id }) => id === row.id);
    expect(onDesk!.parts).toEqual(["Handrails"]);
    const { itemId } = await verdictOn(row.id, accepting());
    expect((await rowOf(itemId!)).parts).toEqual(["Handrails"]);
  });

  test("are said by whoever accepts it instead, also as none", async () => {
    const row = await sent({ title });
    const { itemId } = await verdictOn(row.id, accepting({ parts: [] }));
    expect((await rowOf(itemId!)).parts).toEqual([]);
    const { itemId: another } = await verdictOn((await sent({ title })).id, accepting());
    expect((await rowOf(another!)).parts).toEqual(["Rope ladders"]);
  });

  test("are taken back, and said twice are one line of its history, which goes on to be true", async () => {
    const row = await sent({ title });
    await sayParts(TOMAS, row.id, { parts: [] });
    await sayParts(TOMAS, row.id, { parts: [] });
    expect(await partsOf(row.id)).toEqual({ saidParts: [], parts: [] });
    await sayParts(TOMAS, row.id, { parts: null });
    expect((await partsOf(row.id)).parts).toEqual(["Rope ladders"]);
    const history = await db()
      .select()
      .from(reportEvent)
      .where(eq(reportEvent.reportId, row.id))
      .orderBy(asc(reportEvent.seq));
    expect(history.filter(({ kind }) => kind === "parts said").map(({ data }) => data)).toEqual([
      { old: null, new: [] },
      { old: [], new: null },
    ]);
    expect((await checkReports()).findings).toEqual([]);
  });

  test("are called as the part is called later; one that is retired is said of nothing anew", async () => {
    const row = await sent({ title });
    await sayParts(TOMAS, row.id, { parts: ["Handrails", "Rope ladders"] });
    await rename("Handrails", "Guard rails", "part");
    expect((await partsOf(row.id)).saidParts).toEqual(["Guard rails", "Rope ladders"]);
    await change({ kind: "end", of: "part", name: "Guard rails" });
    const other = await sent({ title });
    expect(await refusalOf(sayParts(TOMAS, other.id, { parts: ["Guard rails"] }))).toBe("invalid");
    // What it says already it may go on saying.
    await sayParts(TOMAS, row.id, { parts: ["Guard rails"] });
    expect((await partsOf(row.id)).saidParts).toEqual(["Guard rails"]);
    expect(await refusalOf(sayParts(ARTHUR, row.id, { parts: [] }))).toBe("not allowed");
  });
});
