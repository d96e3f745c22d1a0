import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { database } from "@/db/connection";
import { item } from "@/db/schema";
import { editEnvironments } from "@/server/ship/environments";
import { forecastDeployment } from "@/server/ship/forecast-deployment";
import { readWhatIsWhere } from "@/server/ship/read-what-is-where";
import { readProjectCode } from "@/server/ship/read-project-code";
import { readItem } from "@/server/item/read";
import { itemIn, refusalOf } from "./setup/board";
import { commit, pushed, type SaidCommit } from "./setup/code-host";
import { delivery, post } from "./setup/events";
import { INES, NOOR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";
import { placeConsumersAtTheEnd } from "./setup/unfollowed";

/*
 * What a pipeline says of builds and deployments, and what follows of where items are. Every test has a
 * repository and environments of its own names.
 */

givenTestDatabase();
beforeAll(placeConsumersAtTheEnd);

/** A repository with two environments, and items of which something is on its main. */
async function repository() {
  const name = `app-${randomUUID().slice(0, 8)}`;
  const [test, live] = [`test ${name}`, `live ${name}`];
  await environments([test, live]);
  let last: SaidCommit[] = [];
  let minute = 0;
  const time = () => `2026-11-23T10:${String(++minute).padStart(2, "0")}:00Z`;
  const said = (type: string, id: string, content: object, customData: object) => ({
    ...delivery(type, { id, content: { repository: { id: name }, ...content } }, customData),
    time: time(),
  });
  /** A commit on main with some words, after what is there. */
  const merge = async (words: string, { hold = false } = {}) => {
    const made = commit(words, { after: last });
    last = [made];
    const event = pushed("main", [made], { repository: name, main: true, time: time() });
    if (!hold) await post(event);
    return { ...made, event };
  };
  const deploy = (environment: string, { id }: { id: string }, more: object = {}) =>
    post(
      said("service.deployed", name, { environment: { id: environment } }, { commit: id, ...more }),
    );
  return { name, test, live, merge, deploy, said, time };
}

const environments = (names: string[]) =>
  editEnvironments(INES, "TIX", {
    environments: names.map((name, i) => ({
      ...{ id: randomUUID(), name, address: i === 0 ? "https://test.example/{key}" : "" },
      ...{ live: i === names.length - 1, freezes: [] },
    })),
  });

async function building() {
  const id = await itemIn(NOOR, "On its way", "Ready", "Building");
  const [{ number }] = await database().select().from(item).where(eq(item.id, id));
  return { id, key: `TIX-${number}` };
}

const whereIs = async (key: string) =>
  (await readItem(INES, key)).code.environments.map(({ there }) => there);
const knows = async (id: string) =>
  (await database().select().from(item).where(eq(item.id, id)))[0].outside.deployedTo;

describe("an item is on an environment", () => {
  test("once all that was merged for it is, and with what came before it", async () => {
    const app = await repository();
    const [one, other] = [await building(), await building()];
    await app.merge(`${one.key}: begun`);
    const second = await app.merge(`${one.key}: the rest`);
    const third = await app.merge(`${other.key}: another`);
    await app.deploy(app.test, second);
    expect([await whereIs(one.key), await whereIs(other.key)]).toEqual([
      ["all", "none"],
      ["none", "none"],
    ]);
    await app.deploy(app.live, third);
    expect([await whereIs(one.key), await whereIs(other.key)]).toEqual([
      ["all", "all"],
      ["none", "all"],
    ]);
    expect(await knows(one.id)).toEqual([app.test, app.live]);
  });

  test("is told once, however often one post says so; and of what came and went in it, both", async () => {
    const app = await repository();
    const one = await building();
    const made = await app.merge(`${one.key}: made`);
    const before = await app.merge("Nothing for it");
    const deployed = (build: { id: string }) =>
      app.said(
        "service.deployed",
        app.name,
        { environment: { id: app.test } },
        { commit: build.id },
      );
    await post(deployed(made), deployed(before), deployed(before));
    const heard = async () =>
      (await readItem(INES, one.key)).history
        .filter(({ kind }) => kind === "reported")
        .map(({ words }) => words)
        .filter((words) => words.includes(app.test));
    expect(await heard()).toHaveLength(1);
    expect(await knows(one.id)).toEqual([app.test]);
    const more = await app.merge(`${one.key}: more`, { hold: true });
    await post(more.event, deployed(more));
    expect(await heard()).toHaveLength(3);
    expect(await knows(one.id)).toEqual([app.test]);
  });

  test("in part when more is merged, and again when that is deployed", async () => {
    const app = await repository();
    const one = await building();
    await app.deploy(app.test, await app.merge(`${one.key}: begun`));
    const more = await app.merge(`${one.key}: more`);
    expect(await whereIs(one.key)).toEqual(["some", "none"]);
    expect(await knows(one.id)).toEqual([]);
    await app.deploy(app.test, more);
    expect(await whereIs(one.key)).toEqual(["all", "none"]);
    const { history } = await readItem(INES, one.key);
    const heard = history.filter(({ kind }) => kind === "reported").map(({ words }) => words);
    expect(heard.filter((words) => words.includes("deployed to"))).toHaveLength(2);
    expect(heard.some((words) => words.includes(`not all of it is on ${app.test} any more`))).toBe(
      true,
    );
  });

  test("no more after an older build; and since the deployment that brought it back", async () => {
    const app = await repository();
    const one = await building();
    const before = await app.merge("Nothing yet");
    const made = await app.merge(`${one.key}: made`);
    await app.deploy(app.live, made);
    await post(
      app.said(
        "service.rolledback",
        app.name,
        { environment: { id: app.live } },
        { commit: before.id },
      ),
    );
    expect(await whereIs(one.key)).toEqual(["none", "none"]);
    await app.deploy(app.live, made);
    const [, live] = (await readItem(INES, one.key)).code.environments;
    expect(live).toMatchObject({ there: "all", since: Date.parse("2026-11-23T10:05:00Z") });
  });

  test("not with what failed, and not where an event came late", async () => {
    const app = await repository();
    const one = await building();
    const before = await app.merge("Nothing yet");
    const late = app.said(
      "service.deployed",
      app.name,
      { environment: { id: app.test } },
      { commit: before.id },
    );
    const made = await app.merge(`${one.key}: made`);
    await post(
      app.said(
        "taskrun.finished",
        "deploy-1",
        { outcome: "failure", environment: { id: app.test } },
        { commit: made.id },
      ),
    );
    expect(await whereIs(one.key)).toEqual(["none", "none"]);
    await app.deploy(app.test, made);
    await post(late);
    expect(await whereIs(one.key)).toEqual(["all", "none"]);
  });

  test("even when the pipeline tells before the code host does, by the name of a build", async () => {
    const app = await repository();
    const one = await building();
    const [first, second] = [
      await app.merge(`${one.key}: first`, { hold: true }),
      await app.merge("second", { hold: true }),
    ];
    await post(
      app.said("service.deployed", app.name, { environment: { id: app.test } }, { build: "412" }),
    );
    await post(app.said("artifact.published", "412", {}, { commit: second.id, build: "412" }));
    await post(second.event);
    expect(await whereIs(one.key)).toEqual([]);
    await post(first.event);
    expect(await whereIs(one.key)).toEqual(["all", "none"]);
  });

  test("by the beginning of a hash, also where its commit is told of later", async () => {
    const app = await repository();
    const one = await building();
    const made = await app.merge(`${one.key}: made`, { hold: true });
    await app.deploy(app.test, { id: made.id.slice(0, 10) });
    await post(made.event);
    expect(await whereIs(one.key)).toEqual(["all", "none"]);
  });

  test("without what was taken back there, and with it where only the old is", async () => {
    const app = await repository();
    const one = await building();
    const made = await app.merge(`${one.key}: made`);
    await app.deploy(app.test, made);
    await app.deploy(app.live, made);
    const back = await app.merge(`Revert "made"\n\nThis reverts commit ${made.id}.`);
    await app.deploy(app.test, back);
    // Nothing of it is to go anywhere, and on live it still is.
    expect(await whereIs(one.key)).toEqual(["none", "all"]);
  });

  test("only when it is there with every part that is deployed by itself", async () => {
    const app = await repository();
    const one = await building();
    const before = await app.merge("Nothing yet");
    const made = await app.merge(`${one.key}: made`);
    const deploy = (part: string, { id }: { id: string }) =>
      post(app.said("service.deployed", part, { environment: { id: app.test } }, { commit: id }));
    await deploy("pages", made);
    await deploy("prices", before);
    expect(await whereIs(one.key)).toEqual(["some", "none"]);
    await deploy("prices", made);
    expect(await whereIs(one.key)).toEqual(["all", "none"]);
  });
});

describe("what is where", () => {
  test("shows what is merged and not live, with the builds that are there", async () => {
    const app = await repository();
    const [one, other] = [await building(), await building()];
    const made = await app.merge(`${one.key}: made`);
    await post(app.said("artifact.published", "7", {}, { commit: made.id }));
    await app.deploy(app.test, made, { build: "7", by: { name: "Mei", mail: INES_MAIL } });
    await app.merge(`${other.key}: made`);
    const { rows, environments, mains } = await readWhatIsWhere(INES, "TIX");
    const of = (key: string) => rows.find((row) => row.key === key);
    expect(of(one.key)!.presences.map(({ whole }) => whole)).toEqual([true]);
    expect(of(other.key)!.presences).toEqual([]);
    expect(environments[0].now).toMatchObject([
      { repository: app.name, build: "7", by: { name: "Ines Dahl" } },
    ]);
    expect(environments[1].now).toEqual([]);
    expect(mains.find(({ repository }) => repository === app.name)!.builds).toMatchObject([
      { name: "7" },
    ]);
  });

  test("says before a deployment what it would bring, and take away", async () => {
    const app = await repository();
    const [one, other] = [await building(), await building()];
    const first = await app.merge(`${one.key}: made`);
    await post(app.said("artifact.published", "1", {}, { commit: first.id }));
    const second = await app.merge(`${other.key}: made`);
    await post(app.said("artifact.published", "2", {}, { commit: second.id }));
    const [{ id: environmentId }] = (await readWhatIsWhere(INES, "TIX")).environments;
    const forecast = async (build: string) => {
      const wanted = { repository: app.name, build, environmentId };
      const { brings, takes, commits } = await forecastDeployment(INES, "TIX", wanted);
      return [brings.map(({ key }) => key).toSorted(), takes.map(({ key }) => key), commits];
    };
    const both = [one.key, other.key].toSorted();
    expect(await forecast("2")).toEqual([both, [], { come: 2, go: 0 }]);
    await app.deploy(app.test, second, { build: "2" });
    expect(await forecast("1")).toEqual([[], [other.key], { come: 0, go: 1 }]);
  });

  test("main is broken by the change that it failed with first, and clean again", async () => {
    const app = await repository();
    const ran = async (outcome: string, { id }: { id: string }) =>
      post(
        app.said("pipelinerun.finished", randomUUID(), { outcome }, { commit: id, branch: "main" }),
      );
    const main = async () =>
      (await readProjectCode(INES, "TIX")).mains.find(({ repository }) => repository === app.name);
    await ran("success", await app.merge("Good"));
    await ran("failure", await app.merge("The price of nothing"));
    await ran("failure", await app.merge("Not the cause"));
    expect(await main()).toMatchObject({ clean: false, title: "The price of nothing" });
    await ran("success", await app.merge("Mended"));
    expect(await main()).toMatchObject({ clean: true, title: "Mended" });
  });
});

const INES_MAIL = "ines.dahl@saltmarsh.example";

describe("environments", () => {
  test("are retired, not forgotten; two may change their names; nobody else's are taken", async () => {
    const [a, b] = [randomUUID(), randomUUID()];
    const one = (id: string, name: string) => ({ id, name, address: "", live: false, freezes: [] });
    const set = (...all: ReturnType<typeof one>[]) =>
      editEnvironments(INES, "TIX", { environments: all });
    const names = async () =>
      (await readWhatIsWhere(INES, "TIX")).environments.map(({ name }) => name);
    await set(one(a, "north"), one(b, "south"));
    await set(one(b, "north"), one(a, "south"));
    expect(await names()).toEqual(["north", "south"]);
    await set(one(a, "south"));
    await set(one(b, "north"), one(a, "south"));
    expect(await names()).toEqual(["north", "south"]);
    const stolen = editEnvironments(INES, "GATE", { environments: [one(a, "ours")] });
    expect(await refusalOf(stolen)).toBe("not found");
    const member = editEnvironments(NOOR, "TIX", { environments: [] });
    expect(await refusalOf(member)).toBe("not allowed");
  });
});
