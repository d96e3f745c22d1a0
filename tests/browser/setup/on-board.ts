import { itemIn, send } from "../../server/setup/board";
import { NOOR } from "../../server/setup/people";
import type { Person } from "./person";

/** An item in Building, best of all, with the board open on it; its key and the place of its card. */
export async function onBoard(person: Person, title: string) {
  const id = await itemIn(NOOR, title, "Ready", "Building");
  await send(NOOR, id, { kind: "place", below: null });
  await person.open("/p/TIX/flow");
  const at = `[data-card="${id}"]`;
  await person.page.waitForSelector(at);
  const key = await person.page.$eval(at, (card) => card.getAttribute("data-key")!);
  return { id, at, key };
}
