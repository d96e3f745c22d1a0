import { z } from "zod";
import { checksOf } from "@/core/item/outside";
import { refuse } from "../refusal";
import { requirementKind } from "./kind";

/** Its changes are merged, none is open any more; with `checks`, and their checks passed. */
export const changeMerged = requirementKind({
  title: "its changes are merged",
  refused: "a change was not merged",
  parameters: { checks: z.boolean() },
  begins: { checks: true },
  editors: { checks: { kind: "flag", label: "and its checks passed" } },
  words: ({ checks }) =>
    checks ? "its changes are merged and their checks passed" : "its changes are merged",
  unmet: ({ checks: wantsChecks }, { before: { outside } }) => {
    const open = outside.changes.filter((c) => c.status === "open");
    if (open.length > 0)
      return refuse(
        "change open",
        open.length === 1
          ? `Change ${open[0].id} is not merged yet.`
          : `${open.length} of its changes are not merged yet.`,
        "Merge it first, or give it up where the code is kept.",
      );
    if (!outside.changes.some((c) => c.status === "merged"))
      return refuse(
        "change open",
        "No merged change belongs to it.",
        "Name this item in the change that does the work, and merge it.",
      );
    if (!wantsChecks) return null;
    const checks = checksOf(outside.changes);
    if (checks === "passed") return null;
    return checks === "failed"
      ? refuse(
          "change open",
          "A check of its changes failed.",
          "Mend what failed; the move is free once the checks pass.",
        )
      : refuse(
          "change open",
          "The checks of its changes have not passed yet.",
          "Wait for them, or start them where the code is kept.",
        );
  },
});
