import { cloudEventSchema } from "@/core/formats/cloud-event";
import { readCodeEvent } from "@/core/ship/code-event";

const NOW = Date.UTC(2026, 10, 20);
const HASH = "a41f09c3d2e1b0a9f8e7d6c5b4a3928170615243";

const event = (type: string, subject: object, customData: object = {}, more: object = {}) =>
  cloudEventSchema.parse({
    specversion: "1.0",
    id: "1",
    source: "/host",
    type,
    data: { subject, customData },
    ...more,
  });
const IN = { content: { repository: { id: "ticket-prices" } } };

describe("what a code host says", () => {
  test("a push, with its commits as they were written", () => {
    const pushed = readCodeEvent(
      event(
        "dev.cdeventsx.zigzag-commits.pushed.0.1.0",
        { id: "id/tix-606", ...IN },
        {
          head: HASH.toUpperCase(),
          by: { name: "Ines Dahl", mail: "Ines.Dahl@saltmarsh.example" },
          commits: [
            {
              id: HASH,
              parents: ["b".repeat(40)],
              author: { name: "Ines Dahl", mail: "INES@saltmarsh.example" },
              authoredAt: "2026-11-19T10:00:00+01:00",
              message: "TIX-606: keep the ticket",
              files: 2,
              insertions: 14,
              url: "javascript:alert(1)",
            },
          ],
        },
        { time: "2026-11-19T11:00:00Z" },
      ),
      NOW,
    );
    expect(pushed).toEqual({
      kind: "push",
      repository: "ticket-prices",
      at: Date.UTC(2026, 10, 19, 11),
      branch: "id/tix-606",
      main: false,
      head: HASH,
      forced: false,
      url: null,
      by: { name: "Ines Dahl", mail: "ines.dahl@saltmarsh.example" },
      commits: [
        {
          hash: HASH,
          parents: ["b".repeat(40)],
          author: { name: "Ines Dahl", mail: "ines@saltmarsh.example" },
          authoredAt: Date.UTC(2026, 10, 19, 9),
          message: "TIX-606: keep the ticket",
          size: { files: 2, insertions: 14, deletions: 0 },
          url: null,
        },
      ],
    });
  });

  test.each([
    ["created", "open"],
    ["updated", null],
    ["merged", "merged"],
    ["abandoned", "abandoned"],
  ])("a change that is %s", (predicate, status) => {
    const said = { title: "Offline", branch: "b", url: "https://host.example/41", behind: 3 };
    expect(
      readCodeEvent(
        event(`dev.cdevents.change.${predicate}.0.3.0`, { id: "41", ...IN }, said),
        NOW,
      ),
    ).toMatchObject({
      ...{ kind: "change", change: "41", status, title: "Offline", behind: 3, at: NOW },
      ...{ url: "https://host.example/41", mergesCleanly: null, size: null },
    });
  });

  test("a review says by whom and which way; without either it is none", () => {
    const type = "dev.cdevents.change.reviewed.0.3.0";
    const by = { name: "Mei", mail: "mei@saltmarsh.example" };
    const read = (said: object) => readCodeEvent(event(type, { id: "41", ...IN }, said), NOW);
    expect(read({ by, verdict: "sent back", head: HASH })).toMatchObject({
      ...{ kind: "review", verdict: "sent back", by, head: HASH },
    });
    expect(read({ by, verdict: "looks fine" })).toBeNull();
    expect(read({ verdict: "approved" })).toBeNull();
  });

  test("branches come and go", () => {
    const read = (predicate: string) =>
      readCodeEvent(event(`dev.cdevents.branch.${predicate}.0.2.0`, { id: "b", ...IN }), NOW);
    expect(read("created")).toMatchObject({ kind: "branch", branch: "b", gone: false });
    expect(read("deleted")).toMatchObject({ kind: "branch", branch: "b", gone: true });
    expect(read("renamed")).toBeNull();
  });

  test("what names no repository, or is of another kind, is left to others", () => {
    expect(readCodeEvent(event("dev.cdevents.change.merged.0.3.0", { id: "41" }), NOW)).toBeNull();
    expect(
      readCodeEvent(event("dev.cdevents.service.deployed.0.3.0", { id: "a" }), NOW),
    ).toBeNull();
    expect(readCodeEvent(event("com.example.change.merged", { id: "41", ...IN }), NOW)).toBeNull();
  });

  test.each([
    ["no head", { commits: [] }],
    ["no commits", { head: HASH }],
    [
      "a commit of the year 0",
      {
        head: HASH,
        commits: [
          {
            ...{ id: HASH, author: { mail: "a@b.example" }, message: "" },
            authoredAt: "0001-01-01T00:00:00+14:00",
          },
        ],
      },
    ],
    ["a hash that is none", { head: "main", commits: [] }],
    [
      "too many commits at once",
      {
        head: HASH,
        commits: Array.from({ length: 501 }, () => ({
          id: HASH,
          author: { mail: "a@b.example" },
          authoredAt: "2026-11-19T10:00:00Z",
          message: "",
        })),
      },
    ],
    ["a branch of no name", { head: HASH, commits: [] }, { id: "" }],
    ["a branch of 501 letters", { head: HASH, commits: [] }, { id: "b".repeat(501) }],
  ])("a push with %s is refused", (_what, said, subject = { id: "b" }) => {
    const type = "dev.cdeventsx.zigzag-commits.pushed.0.1.0";
    expect(() => readCodeEvent(event(type, { ...IN, ...subject }, said), NOW)).toThrow();
  });
});
