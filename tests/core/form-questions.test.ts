import { PART_QUESTIONS, type FormQuestion } from "@/core/intake/form";
import { withQuestion, withQuestionAt } from "@/core/intake/form-questions";

const own = (id: string): FormQuestion => ({ ...PART_QUESTIONS.happened, id, fills: null });
const { title, mail, files } = PART_QUESTIONS;
const ids = (questions: readonly FormQuestion[]) => questions.map((q) => q.id);

describe("a question that is added", () => {
  it("of one's own stands before the one for the address", () => {
    const { id, questions } = withQuestion([title, mail], own("own"));
    expect([id, ids(questions)]).toEqual(["own", [title.id, "own", mail.id]]);
  });

  it("comes first where nobody is asked for an address", () =>
    expect(ids(withQuestion([title], own("own")).questions)).toEqual(["own", title.id]));

  it("that is a part of the report stands last", () =>
    expect(ids(withQuestion([title, mail], files).questions)).toEqual([
      title.id,
      mail.id,
      files.id,
    ]));

  it("gets an id that none has yet", () => {
    const { id, questions } = withQuestion([own("own"), own("own-2"), mail], own("own"));
    expect(id).toBe("own-3");
    expect(ids(questions)).toEqual(["own", "own-2", "own-3", mail.id]);
  });
});

describe("a question that is moved", () => {
  const four = ["a", "b", "c", "d"].map(own);

  it.each([
    ["a", 2, "bcad"],
    ["d", 0, "dabc"],
    ["b", 1, "abcd"],
    ["b", 99, "acdb"],
    ["c", -1, "cabd"],
    ["none", 1, "abcd"],
  ])("%s to %d", (id, to, order) => expect(ids(withQuestionAt(four, id, to)).join("")).toBe(order));
});
