import { sql, type SQL } from "drizzle-orm";
import type { AnyPgColumn } from "drizzle-orm/pg-core";

/** A list of words with one of them called otherwise: at the first place that either had, each once. */
export const renamedIn = (column: AnyPgColumn, from: string, to: string): SQL => sql`(
  select coalesce(jsonb_agg(each.name order by each.first), '[]'::jsonb) from (
    select case when said.name = ${from}::text then ${to}::text else said.name end as name,
      min(said.place) as first
    from jsonb_array_elements_text(${column}) with ordinality as said (name, place)
    group by 1
  ) as each)`;
