import { membershipsOf } from "@/core/plan/membership";
import type { EditableFields } from "@/core/item/fields";
import { Subject } from "./setup/make";

/** The memberships of an item, in short: where, from and to in seconds, sizes, why. */
const short = (subject: Subject) =>
  membershipsOf(subject.events).map((m) => [
    m.boxId,
    m.from / 1_000,
    m.to === null ? null : m.to / 1_000,
    m.sizeAtStart,
    m.sizeAtEnd,
    m.why,
    m.whyEnded,
  ]);

const edit = (subject: Subject, changes: Partial<EditableFields>) =>
  subject.do({ kind: "edit", seenVersion: subject.item!.version, changes });

test("an item that is made in a sprint and a release is in both, with the size it has", () => {
  const subject = new Subject({ sprintId: "s1", releaseId: "r1", estimate: 5 });
  expect(short(subject)).toEqual([
    ["s1", 1, null, 5, null, "person", null],
    ["r1", 1, null, 5, null, "person", null],
  ]);
});

test("each change of the sprint ends one membership and begins another, with the sizes of then", () => {
  const subject = new Subject({ estimate: 3 });
  edit(subject, { sprintId: "s1" }); // 2 s
  edit(subject, { estimate: 8 }); // 3 s
  edit(subject, { sprintId: "s2" }); // 4 s
  edit(subject, { sprintId: null }); // 5 s
  edit(subject, { estimate: null }); // 6 s
  edit(subject, { sprintId: "s1" }); // 7 s: again, and unsized
  expect(short(subject)).toEqual([
    ["s1", 2, 4, 3, 8, "person", "person"],
    ["s2", 4, 5, 8, 8, "person", "person"],
    ["s1", 7, null, null, null, "person", null],
  ]);
});

test("an undone step had no membership, and one undone twice has it again", () => {
  const subject = new Subject({ sprintId: "s1", estimate: 2 });
  edit(subject, { sprintId: "s2" });
  subject.undo();
  expect(short(subject)).toEqual([["s1", 1, null, 2, null, "person", null]]);
  subject.undo();
  expect(short(subject)).toEqual([
    ["s1", 1, 2, 2, 2, "person", "person"],
    ["s2", 2, null, 2, null, "person", null],
  ]);
});

test("what is withdrawn is in no sprint any more, and says why", () => {
  const subject = new Subject({ sprintId: "s1", estimate: 1 });
  subject.do({ kind: "withdraw", note: "taken back" }, { cause: "undo" });
  expect(short(subject)).toEqual([["s1", 1, 2, 1, 1, "person", "undo"]]);
});
