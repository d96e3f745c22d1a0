import type { Random } from "@/core/forecast/random";
import { PLAIN_FIELD, type OwnField, type OwnValue } from "@/core/item/own-field";
import type { DemoProject } from "./projects";

const ROUTES = ["North run", "Isle run", "Harbour loop", "Night mail"];
const QUAYS = ["Town Quay", "North Jetty", "Gull Island", "Outer Pier"];

/** What the leads of Saltmarsh Ferries want to know of an item beside what every item says. */
export function demoFields(project: DemoProject): OwnField[] {
  const id = (name: string) => `${project.key.toLowerCase()}-${name}`;
  const options = (names: readonly string[]) =>
    names.map((name) => ({ id: name.toLowerCase().replaceAll(" ", "-"), name, offered: true }));
  const fields: Omit<OwnField, "position">[] = [
    {
      ...PLAIN_FIELD,
      id: id("value"),
      name: "Value lost per week",
      kind: "number",
      unit: "pounds",
      typeIds: ["story", "request"],
      onNewItem: true,
    },
    {
      ...PLAIN_FIELD,
      id: id("weeks"),
      name: "Weeks of delay",
      kind: "number",
      unit: "weeks",
      typeIds: ["story", "request"],
    },
    {
      ...PLAIN_FIELD,
      id: id("delay"),
      name: "Cost of delay",
      kind: "computed",
      unit: "pounds",
      typeIds: ["story", "request"],
      onCard: true,
      formula: {
        kind: "*",
        left: { kind: "field", field: `own.${id("value")}` },
        right: { kind: "field", field: `own.${id("weeks")}` },
      },
    },
    {
      ...PLAIN_FIELD,
      id: id("goes-out"),
      name: "Goes out on",
      kind: "shown date",
      typeIds: ["story", "request", "bug"],
      source: { from: "release", of: "dueOn", by: null },
    },
    {
      ...PLAIN_FIELD,
      id: id("below"),
      name: "Size of its stories",
      kind: "shown number",
      typeIds: ["voyage", "charter"],
      source: { from: "children", of: "estimate", by: "sum" },
    },
    { ...PLAIN_FIELD, id: id("route"), name: "Route", kind: "one of", options: options(ROUTES) },
    {
      ...PLAIN_FIELD,
      id: id("quays"),
      name: "Quays affected",
      kind: "many of",
      options: options(QUAYS),
      typeIds: ["bug"],
    },
  ];
  return fields.map((f, position) => ({ ...f, position }));
}

/** What a demo item says in them. */
export function demoOwn(
  project: DemoProject,
  type: string,
  random: Random,
): Record<string, OwnValue> {
  const id = (name: string) => `${project.key.toLowerCase()}-${name}`;
  const own: Record<string, OwnValue> = {};
  if (type !== "bug" && random.chance(0.6)) {
    own[id("value")] = random.pick([200, 400, 750, 1_200, 2_500, 5_000]);
    if (random.chance(0.85)) own[id("weeks")] = random.pick([1, 2, 3, 4, 6, 8]);
  }
  if (random.chance(0.5)) own[id("route")] = random.pick(ROUTES).toLowerCase().replaceAll(" ", "-");
  if (type === "bug" && random.chance(0.5))
    own[id("quays")] = [random.pick(QUAYS).toLowerCase().replaceAll(" ", "-")];
  return own;
}
