import { decideMove } from "@/core/workflow/decide-move";
import { isRefusal } from "@/core/workflow/refusal";
import { isReturn, transitionsFrom } from "@/core/workflow/workflow";
import { context, Subject, workflow } from "./setup/make";

const inReview = () =>
  new Subject().move("Ready").move("Building", { assigneeId: "noor" }).move("Waiting for review");
const tryMove = (
  subject: Subject,
  to: string,
  answers = {},
  change = {},
  overrideReason?: string,
) =>
  decideMove(
    subject.item!,
    { from: subject.item!.stateId, to, answers, overrideReason },
    context(change),
  );

describe("rules of a move", () => {
  test("the whole way from the backlog to live, with what each step asks for", () => {
    const subject = inReview()
      .move("In review", { reviewerId: "ivo" })
      .move("Waiting for test", { howToTest: "Buy a ticket at noon." })
      .move("In test")
      .move("Ready to deploy")
      .move("Live", { outcome: "delivered" });
    expect(subject.item).toMatchObject({
      stateId: "Live",
      outcome: "delivered",
      reviewerId: "ivo",
      howToTest: "Buy a ticket at noon.",
      returns: 0,
    });
  });

  test.each([
    [
      "a move that is not listed",
      () => tryMove(new Subject(), "In test"),
      "no such move",
      "This workflow has no move from Backlog to In test.",
      "From Backlog it can go to Ready.",
      [],
    ],
    [
      "review without a reviewer",
      () => tryMove(inReview(), "In review"),
      "field missing",
      "Review needs a reviewer.",
      "Choose somebody other than the assignee.",
      ["reviewerId"],
    ],
    [
      "review by the assignee",
      () => tryMove(inReview(), "In review", { reviewerId: "noor" }),
      "same person",
      "Review needs a second person.",
      "Ask someone other than Noor.",
      ["reviewerId"],
    ],
    [
      "passing on without how to test",
      () =>
        tryMove(inReview().move("In review", { reviewerId: "ivo" }), "Waiting for test", {
          howToTest: "  ",
        }),
      "field missing",
      "It needs a note on how to test it.",
      "Write in a line or two how a tester can see that it works.",
      ["howToTest"],
    ],
    [
      "a return without a reason",
      () =>
        tryMove(inReview().move("In review", { reviewerId: "ivo" }), "Building", { reason: " " }),
      "reason missing",
      "This move says why.",
      "Write a sentence that helps the next person.",
      ["reason"],
    ],
    [
      "finishing without an outcome",
      () => tryMove(new Subject(), "Closed"),
      "outcome missing",
      "Finishing names an outcome.",
      "Choose duplicate, cannot reproduce, declined or obsolete.",
      ["outcome"],
    ],
    [
      "finishing with an outcome of another end",
      () => tryMove(new Subject(), "Closed", { outcome: "delivered" }),
      "outcome missing",
      "Finishing names an outcome.",
      "Choose duplicate, cannot reproduce, declined or obsolete.",
      ["outcome"],
    ],
  ])(
    "%s is refused with the rule and what would satisfy it",
    (_name, attempt, code, sentence, help, asks) => {
      const refusal = attempt();
      if (!isRefusal(refusal)) throw new Error("was allowed");
      expect(refusal).toMatchObject({ code, sentence, help });
      expect(refusal.asks.map((a) => a.field)).toEqual(asks);
    },
  );

  test("a move from where the item no longer is says where it went", () => {
    const subject = new Subject().move("Ready");
    const refusal = decideMove(
      subject.item!,
      { from: "Backlog", to: "Ready", answers: {} },
      context(),
    );
    expect(refusal).toMatchObject({
      refused: true,
      code: "moved meanwhile",
      sentence: "Somebody has moved it to Ready meanwhile.",
    });
  });

  test("a failed test sends the item back, counts as rework, and keeps the answers", () => {
    const subject = inReview()
      .move("In review", { reviewerId: "ivo" })
      .move("Waiting for test", { howToTest: "x" })
      .move("In test");
    subject.move("Building", { reason: "The price is cut off." });
    expect(subject.item).toMatchObject({ returns: 1, howToTest: "x", stateId: "Building" });
    expect(subject.events.at(-1)).toMatchObject({ kind: "moved", note: "The price is cut off." });
  });

  test("rework is a move to an earlier stage, not one within a stage or forwards", () => {
    expect(isReturn(workflow, "In test", "Building")).toBe(true);
    expect(isReturn(workflow, "Live", "Backlog")).toBe(true);
    expect(isReturn(workflow, "Waiting for review", "In review")).toBe(false);
    expect(isReturn(workflow, "Building", "Closed")).toBe(false);
  });

  test("from any state leads one move to Closed, but none from Closed to itself", () => {
    for (const state of workflow.states) {
      const closing = transitionsFrom(workflow, state.id).filter((t) => t.to === "Closed");
      expect(closing).toHaveLength(state.id === "Closed" ? 0 : 1);
    }
  });
});
