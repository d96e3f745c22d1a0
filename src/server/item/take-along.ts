import type { Transaction } from "@/db/connection";
import { idsUnder } from "./around";
import type { Passed } from "./decide-errand";
import type { Errand } from "./errand";

/** What stands under an item that went to another project goes with it, the larger pieces first. */
export async function takeAlongBelow(
  tx: Transaction,
  { errand, entered, after }: Passed,
  projectKey: string,
): Promise<Errand[]> {
  return (await idsUnder(tx, after.id)).map((id) => ({
    on: { itemId: id, access: entered.access },
    commandId: errand.commandId,
    ask: { kind: "change project", projectKey, typeId: null, stateId: null, own: {} },
    made: { cause: "follow-up", setOffBy: errand.made?.setOffBy },
  }));
}
