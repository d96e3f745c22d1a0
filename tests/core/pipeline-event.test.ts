import type { CloudEvent } from "@/core/formats/cloud-event";
import { readPipelineEvent } from "@/core/ship/pipeline-event";

/*
 * Events of pipelines in the words of CDEvents 0.4 (cdevents.dev), written down from memory of its
 * specification: no package of this registry ships its schemas.
 */

const NOW = Date.parse("2026-11-29T12:00:00Z");
const COMMIT = "1f2e3d4c5b6a79881f2e3d4c5b6a79881f2e3d4c";

const event = (
  type: string,
  subject: { id: string; content?: object },
  customData: object = {},
): CloudEvent => ({
  ...{ specversion: "1.0", id: "e1", source: "/pipeline", type: `dev.cdevents.${type}.0.2.0` },
  time: "2026-11-29T11:00:00Z",
  data: { subject: { content: {}, ...subject }, customData },
});
const repository = { repository: { id: "ticket-app" } };
const read = (...of: Parameters<typeof event>) => readPipelineEvent(event(...of), NOW);

describe("a run", () => {
  const content = { ...repository, pipelineName: "check" };
  const said = { commit: COMMIT.toUpperCase(), branch: "main" };

  test("runs, then ends well or not", () => {
    const outcome = (word: string) =>
      read("pipelinerun.finished", { id: "run-7", content: { ...content, outcome: word } }, said);
    expect(read("pipelinerun.started", { id: "run-7", content }, said)).toEqual({
      ...{ kind: "run", repository: "ticket-app", at: Date.parse("2026-11-29T11:00:00Z") },
      ...{ url: null, run: "run-7", commit: COMMIT, branch: "main", passed: null },
    });
    expect(outcome("success")).toMatchObject({ passed: true });
    expect(outcome("failure")).toMatchObject({ passed: false });
    expect(outcome("error")).toMatchObject({ passed: false });
  });

  test("without its commit or its repository says nothing here", () => {
    expect(read("pipelinerun.finished", { id: "run-7", content }, {})).toBeNull();
    expect(read("pipelinerun.finished", { id: "run-7" }, said)).toBeNull();
    expect(read("pipelinerun.queued", { id: "run-7", content }, said)).toBeNull();
  });
});

describe("a deployment", () => {
  const at = { ...repository, environment: { id: "test" }, artifactId: "pkg:412" };

  test("names its build by itself, else by what was published", () => {
    const of = (customData: object) =>
      read("service.deployed", { id: "app", content: at }, customData);
    expect(of({ build: "412", commit: COMMIT })).toMatchObject({
      ...{ kind: "deployment", part: "app", environment: "test", outcome: "deployed" },
      ...{ build: "412", commit: COMMIT },
    });
    expect(of({})).toMatchObject({ build: "pkg:412", commit: null, by: null });
  });

  test.each([
    ["service.upgraded", "deployed"],
    ["service.rolledback", "rolled back"],
    ["service.removed", "removed"],
  ])("%s", (type, outcome) =>
    expect(read(type, { id: "app", content: at })).toMatchObject({ outcome }),
  );

  test("that failed is a task that did not end well; one that did is told of by its service", () => {
    const task = (outcome: string) =>
      read("taskrun.finished", { id: "t1", content: { ...at, outcome } }, { build: "412" });
    expect(task("failure")).toMatchObject({ outcome: "failed", part: "ticket-app", build: "412" });
    expect(task("success")).toBeNull();
    const elsewhere = { ...repository, outcome: "failure" };
    expect(read("taskrun.finished", { id: "lint", content: elsewhere })).toBeNull();
  });
});

test("what is published is a build of a commit", () => {
  const published = (customData: object) =>
    read("artifact.published", { id: "412", content: repository }, customData);
  expect(published({ commit: COMMIT, url: "https://ci.example/412" })).toMatchObject({
    ...{ kind: "build", build: "412", commit: COMMIT, url: "https://ci.example/412" },
  });
  expect(published({ commit: COMMIT, url: "javascript:alert(1)" })).toMatchObject({ url: null });
  expect(published({})).toBeNull();
  expect(() => published({ commit: "no hash" })).toThrow("hash of a commit");
});
