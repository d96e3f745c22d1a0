import Link from "next/link";
import { acrossKey } from "@/core/across/place";
import type { FactName } from "@/core/condition/facts";
import { lookPath } from "@/core/view/look-path";

/** All that is mine, over all projects, in tables with every filter of views. */
export function MineLinks() {
  return (
    <section aria-label="Mine">
      <h2>Mine</h2>
      <p className="flex flex-wrap gap-x-4">
        <Link className="link" prefetch={false} href={addressOf("assigneeId")}>
          assigned to me
        </Link>
        <Link className="link" prefetch={false} href={addressOf("createdBy")}>
          made by me
        </Link>
        <Link className="link" prefetch={false} href={addressOf("followed")}>
          followed by me
        </Link>
      </p>
    </section>
  );
}

/** The table of what is not finished and of which a fact names whoever looks. */
function addressOf(fact: FactName): string {
  return lookPath(acrossKey({ kind: "mine" }), {
    arrangement: "table",
    filter: {
      kind: "all",
      of: [
        fact === "followed"
          ? { kind: "compare", fact, op: "is", value: true }
          : { kind: "compare", fact, op: "is", value: { who: "me" } },
        { kind: "compare", fact: "stateKind", op: "is not", value: "finished" },
      ],
    },
    counts: ["stateId"],
  });
}
