import fc from "fast-check";
import type { CommentNow } from "@/core/item/command";
import { decideTalk } from "@/core/talk/decide-talk";
import { namedIn, stretchesNaming, MOST_NAMED, type Nameable } from "@/core/talk/named";
import { namesFor, namingAt, withName } from "@/core/talk/naming-now";
import type { TalkComment } from "@/core/talk/talk-view";
import { threadOf, threadsOf } from "@/core/talk/threads";
import { isRefusal } from "@/core/workflow/refusal";

const KNOWN: Nameable[] = [
  { kind: "person", id: "mei", name: "Mei Olander" },
  { kind: "person", id: "mei2", name: "Mei Olander-Reed" },
  { kind: "person", id: "ivo", name: "Ivo Sandell" },
  { kind: "team", id: "quay", name: "Quayside" },
];
const NOBODY = { people: [], teams: [] };

describe("whom a text names", () => {
  test.each([
    ["by the whole name", "@Mei Olander look", { people: ["mei"], teams: [] }],
    ["the longer name", "@mei olander-reed", { people: ["mei2"], teams: [] }],
    ["a team and a first name", "@Quayside and @ivo", { people: ["ivo"], teams: ["quay"] }],
    ["each once", "@ivo, @Ivo Sandell", { people: ["ivo"], teams: [] }],
    ["not by a first name that two have", "@Mei look", NOBODY],
    ["not in an address", "ivo@Ivo Sandell", NOBODY],
    ["not by the beginning of a longer word", "@Ivory", NOBODY],
    ["not in code", "`@ivo` and\n```\n@Quayside\n```", NOBODY],
    ["behind code that is closed", "`x` @ivo", { people: ["ivo"], teams: [] }],
  ])("%s", (_name, text, named) => expect(namedIn(text, KNOWN)).toEqual(named));

  test("what is found is what stands there, and no more than so many", () => {
    const part = fc.constantFrom("@", "Mei Olander", "ivo", " ", "`", "x", "\n", "Quayside");
    fc.assert(
      fc.property(fc.array(part, { maxLength: 60 }), (parts) => {
        const text = parts.join("");
        let end = 0;
        for (const { from, to, whom } of stretchesNaming(text, KNOWN)) {
          expect(from).toBeGreaterThanOrEqual(end);
          const said = text.slice(from + 1, to).toLowerCase();
          expect(whom.name.toLowerCase().startsWith(said)).toBe(true);
          end = to;
        }
      }),
    );
    expect(stretchesNaming("@ivo ".repeat(5_000), KNOWN)).toHaveLength(MOST_NAMED);
  });

  test("whoever writes an @ is offered names, and takes one", () => {
    const text = "ask @mei o now";
    const naming = namingAt(text, 10)!;
    expect(naming).toEqual({ from: 4, words: "mei o" });
    expect(namesFor("olander", KNOWN).map(({ id }) => id)).toEqual(["mei", "mei2"]);
    expect(namesFor("qu", KNOWN).map(({ id }) => id)).toEqual(["quay"]);
    const put = withName(text, naming, { caret: 10, name: "Mei Olander" });
    expect(put).toEqual({ text: "ask @Mei Olander now", caret: 17 });
    expect(namingAt("mail me@home", 12)).toBeNull();
    expect(namingAt("@ivo\nmore", 9)).toBeNull();
  });
});

describe("threads", () => {
  const comment = (id: string, threadId: string | null = null) =>
    ({ id, threadId }) as unknown as TalkComment;

  test("an answer to an answer stands in the thread that both are of", () => {
    const answers: Record<string, string | null> = { a: null, b: "a", c: "b", x: "y", y: "x" };
    expect(threadOf("a", (id) => answers[id])).toBeNull();
    expect(threadOf("c", (id) => answers[id])).toBe("a");
    // A circle that cannot be stored ends all the same.
    expect(["x", "y"]).toContain(threadOf("x", (id) => answers[id]));
  });

  test("no comment is lost, whatever it answers", () => {
    const all = [comment("a"), comment("b", "a"), comment("c"), comment("d", "gone")];
    const threads = threadsOf(all);
    expect(threads.map(({ first }) => first.id)).toEqual(["a", "c", "d"]);
    expect(threads[0].answers.map(({ id }) => id)).toEqual(["b"]);
  });
});

describe("what may be said and taken back", () => {
  const was = (more: Partial<CommentNow> = {}): CommentNow => ({
    commentId: "k",
    authorId: "ada",
    body: "Before.",
    sentOut: false,
    gone: false,
    ...more,
  });
  const code = (decided: ReturnType<typeof decideTalk>) =>
    isRefusal(decided) ? decided.code : decided.map(({ kind }) => kind);
  const edit = (before: CommentNow, body: string, actor: string | null) =>
    code(decideTalk({ kind: "edit comment", was: before, body, named: NOBODY }, actor));
  const takeBack = (before: CommentNow, actor: string, byLead: boolean, why = "") =>
    code(decideTalk({ kind: "take back comment", was: before, byLead, why }, actor));

  test("only whoever wrote it changes it; unchanged it is nothing", () => {
    expect(edit(was(), "After.", "ada")).toEqual(["comment edited"]);
    expect(edit(was(), " Before. ", "ada")).toEqual([]);
    expect(edit(was(), "After.", "bo")).toBe("not for you");
    expect(edit(was({ authorId: null }), "After.", null)).toBe("not for you");
    expect(edit(was({ gone: true }), "After.", "ada")).toBe("invalid");
    expect(edit(was({ sentOut: true }), "After.", "ada")).toBe("invalid");
  });

  test("one takes back one's own, a lead anyone's with a reason, nobody what went out", () => {
    expect(takeBack(was(), "ada", false)).toEqual(["comment taken back"]);
    expect(takeBack(was(), "bo", false, "why")).toBe("not for you");
    expect(takeBack(was(), "bo", true)).toBe("invalid");
    expect(takeBack(was(), "bo", true, "why")).toEqual(["comment taken back"]);
    expect(takeBack(was({ gone: true }), "ada", false)).toEqual([]);
    expect(takeBack(was({ sentOut: true }), "bo", true, "why")).toBe("invalid");
  });

  test("a closed talk takes nothing from those it is closed to", () => {
    const say = (closed: "members" | "nobody" | undefined, more: object = {}) =>
      code(decideTalk({ kind: "comment", commentId: "k", body: "x", closed, ...more }, "ada"));
    expect(say(undefined)).toEqual(["commented"]);
    expect(say("members")).toEqual(["commented"]);
    expect(say("members", { audience: "reporters" })).toBe("talk closed");
    expect(say("members", { fromOutside: true })).toBe("talk closed");
    expect(say("nobody")).toBe("talk closed");
    expect(code(decideTalk({ kind: "close talk", was: null, closing: null }, "ada"))).toEqual([]);
  });
});
