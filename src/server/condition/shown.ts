import { and, eq, inArray, isNull, sql, type SQL } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import { isShown, type OwnField } from "@/core/item/own-field";
import {
  SHOWN_FROM,
  shownField,
  type ShownFrom,
  type ShownKind,
  type ShownSource,
} from "@/core/item/shown-source";
import type { Reader } from "@/db/connection";
import type { ItemColumns } from "../people/access";
import { item, itemLink, person, project, release, sprint, state, team } from "@/db/schema";

/** What an item is linked to. */
const linked = alias(item, "linked");

/** What a shown value is asked with: the project's fields, and what of other items may be seen. */
interface ShownAsker {
  ownFields?: readonly OwnField[];
  sees?: (of: ItemColumns) => SQL | undefined;
}

const TYPES: Record<ShownKind, SQL> = {
  "shown number": sql.raw("float8"),
  "shown date": sql.raw("date"),
  "shown text": sql.raw("text"),
};

/** What a field shows from what the items are linked to, as SQL over the rows of `item`. */
export function shownColumn(id: string, kind: ShownKind, asker: ShownAsker): SQL {
  const fields = asker.ownFields ?? [];
  const source = fields.find((field) => field.id === id)?.source ?? null;
  if (source === null) return sql`null::${TYPES[kind]}`;
  const { of } = SHOWN_FROM[source.from];
  if (of === "sprint")
    return sql`(select ${timeboxValue(sprint, source)} from ${sprint} where ${sprint.id} = ${item.sprintId})`;
  if (of === "release")
    return sql`(select ${timeboxValue(release, source)} from ${release} where ${release.id} = ${item.releaseId})`;
  const seen = and(
    around(source.from),
    isNull(linked.withdrawnAt),
    asker.sees?.(linked) ?? undefined,
  );
  return sql`(select ${combined(source, itemValue(source, fields))} from ${item} as "linked" where ${seen})`;
}

/** Which items are meant. */
function around(from: ShownFrom): SQL | undefined {
  const linkedBy = (kind: string, way: "to" | "from") => {
    const [here, there] =
      way === "to"
        ? [itemLink.fromItemId, itemLink.toItemId]
        : [itemLink.toItemId, itemLink.fromItemId];
    return sql`exists (select 1 from ${itemLink} where ${here} = ${item.id} and ${there} = ${linked.id} and ${itemLink.kind} = ${kind})`;
  };
  switch (from) {
    case "parent":
      return eq(linked.id, item.parentId);
    case "children":
      return eq(linked.parentId, item.id);
    case "waits for":
      return and(linkedBy("waits for", "to"), isNull(linked.deliveredAt));
    case "waited for":
      return linkedBy("waits for", "from");
    case "relates to":
      return sql`(${linkedBy("relates to", "to")} or ${linkedBy("relates to", "from")})`;
    case "led to":
      return linkedBy("came from", "from");
    case "duplicated by":
      return linkedBy("duplicates", "from");
    case "found here":
      return linkedBy("found in", "from");
    case "tests":
      return linkedBy("tested by", "from");
    case "came from":
    case "duplicates":
    case "found in":
    case "tested by":
      return linkedBy(from, "to");
    case "sprint":
    case "release":
      return undefined;
  }
}

function timeboxValue(of: typeof sprint | typeof release, { of: value }: ShownSource): SQL {
  const column = (of as unknown as Record<string, SQL | undefined>)[value];
  return column === undefined
    ? sql`null`
    : value === "goal"
      ? sql`nullif(${column}, '')`
      : sql`${column}`;
}

/** The value of one linked item. */
function itemValue(source: ShownSource, fields: readonly OwnField[]): SQL {
  const own = shownField(source, fields);
  if (own) return ownValue(own);
  switch (source.of) {
    case "key":
      return sql`((select ${project.key} from ${project} where ${project.id} = ${linked.projectId}) || '-' || ${linked.number})`;
    case "state":
      return sql`(select ${state.name} from ${state} where ${state.id} = ${linked.stateId})`;
    case "assignee":
      return nameOf(sql`${linked.assigneeId}`);
    case "team":
      return sql`(select ${team.name} from ${team} where ${team.id} = ${linked.teamId})`;
    case "title":
    case "priority":
    case "classOfService":
    case "dueOn":
      return sql`${linked[source.of]}`;
    case "spentHours":
      return sql`(${linked.spentMinutes} / 60.0::float8)`;
    case "estimate":
    case "firstEstimate":
    case "remainingHours":
    case "returns":
      return sql`${linked[source.of]}::float8`;
    default:
      return sql`null`;
  }
}

const nameOf = (id: SQL): SQL =>
  sql`(select ${person.name} from ${person} where ${person.id} = ${id})`;

/** A field of the project's own: a choice by its name, as a person. */
function ownValue({ id, kind, options }: OwnField): SQL {
  const said = sql`(${linked.own} ->> ${id}::text)`;
  if (kind === "number") return sql`${said}::float8`;
  if (kind === "date") return sql`${said}::date`;
  if (kind === "person") return nameOf(said);
  if (kind !== "one of") return said;
  const names = Object.fromEntries(options.map((option) => [option.id, option.name]));
  return sql`(${JSON.stringify(names)}::jsonb ->> ${said})`;
}

/** What several come to; of one, its value. */
function combined({ by }: ShownSource, value: SQL): SQL {
  switch (by) {
    case null:
      return value;
    case "count":
      return sql`count(*)::float8`;
    case "sum":
      return sql`sum(${value})::float8`;
    case "earliest":
      return sql`min(${value})`;
    case "latest":
      return sql`max(${value})`;
    case "list":
      return sql`nullif(string_agg((${value})::text, ', ' order by ${linked.rank}, ${linked.id}), '')`;
  }
}

/** What the fields of some items show, by item and field; only what says something. */
export async function readShown(
  reader: Reader,
  ids: readonly string[],
  ownFields: readonly OwnField[],
  sees?: ShownAsker["sees"],
): Promise<ReadonlyMap<string, Record<string, string | number>>> {
  const fields = ownFields.filter(({ kind, removedAt }) => isShown(kind) && removedAt === null);
  if (fields.length === 0 || ids.length === 0) return new Map();
  const columns = fields.map(({ id, kind }, i) => {
    const column = shownColumn(id, kind as ShownKind, { ownFields, sees });
    const told = kind === "shown date" ? sql`(${column})::text` : column;
    return sql`${told} as ${sql.identifier(`v${i}`)}`;
  });
  const { rows } = await reader.execute<Record<string, unknown>>(
    sql`select ${item.id} as id, ${sql.join(columns, sql`, `)} from ${item} where ${inArray(item.id, [...ids])}`,
  );
  return new Map(
    rows.map((row) => [
      row.id as string,
      Object.fromEntries(
        fields.flatMap(({ id }, i) => {
          const value = row[`v${i}`];
          return value === null ? [] : [[id, value as string | number]];
        }),
      ),
    ]),
  );
}
