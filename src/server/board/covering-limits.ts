import { columnWords } from "@/core/board/column";
import { PLAIN_COUNTING } from "@/core/board/limit-counting";
import { usualLevel, type CoveringLimit, type Limit } from "@/core/board/limited";
import type { Instant } from "@/core/calendar/instant";
import { limitSentence } from "@/core/board/limit";
import type { LimitChangeView } from "@/core/board/board-limits";
import type { Condition } from "@/core/condition/condition";
import type { StateId } from "@/core/workflow/state";
import type { Reader } from "@/db/connection";
import { givenArray, namedSql } from "@/db/statement";

/** A limit in force with what it covers, and by which items its board counts. */
export interface LoadedLimit extends CoveringLimit {
  /** The condition of its board; null where it counts whatever is there. */
  scope: Condition | null;
}

interface Row extends Omit<Limit, "id" | "level"> {
  id: string;
  level: number | null;
  boardId: string | null;
  scope: Condition | null;
  name: string;
  partName: string | null;
  /** What the value is called that it counts only. */
  valueName: string | null;
  stateIds: StateId[] | null;
  levels: number[] | null;
  expeditePasses: boolean;
  /** From when on it has been so, and who said it. */
  at: Instant;
  by: string | null;
}

/** The states that a limit covers, whatever it is on. */
const COVERED = `case l.owner_kind
  when 'state' then array[l.owner_id]
  when 'column' then array(
    select cs.state_id from column_state cs where cs.column_id = l.owner_id)
  when 'board' then array(
    select cs.state_id from column_state cs join state open on open.id = cs.state_id
    where cs.board_id = l.owner_id and open.kind <> 'finished') end`;

/** The levels of the types whose items can be there, where a limit does not say which counts. */
const LEVELS = `case when l.level is null then array(
  select distinct t.level from item_type t where t.workflow_id in (
    select xs.workflow_id from state xs where xs.id = any(covered.state_ids))) end`;

/** Expedite items go past a limit where a board that shows what it covers has an allowance for them. */
const EXPEDITE_PASSES = `
  l.owner_kind <> 'person' and l.field is distinct from 'classOfService' and exists (
    select 1 from wip_limit a
    where a.valid_to is null and a.owner_kind = 'board' and a.field = 'classOfService'
      and a.value = 'expedite' and a.max is not null
      and (a.owner_id = b.id or (l.owner_kind = 'state' and a.owner_id in (
        select cs.board_id from column_state cs where cs.state_id = l.owner_id))))`;

/** What the value of a limit is called. */
const VALUE_NAME = `case l.field
  when 'teamId' then (select t.name from team t where t.id = l.value)
  when 'assigneeId' then (select a.name from person a where a.id = l.value)
  when 'typeId' then (
    select t.name from item_type t where t.id = l.value and t.project_id = l.project_id)
  else l.value end`;

const SELECT = `
  select l.id, l.owner_kind as "ownerKind", l.owner_id as "ownerId", l.field, l.value, l.min, l.max,
    l.min_firm as "minFirm", l.max_firm as "maxFirm", l.unit, l.level,
    l.fixed_date_passes as "fixedDatePasses", l.worked_only as "workedOnly",
    b.id as "boardId", case when l.owner_kind in ('column', 'board') then b.scope end as scope,
    coalesce(c.stage, s.name, p.name, b.name) as name, c.name as "partName",
    (${VALUE_NAME}) as "valueName",
    covered.state_ids as "stateIds", (${LEVELS}) as levels, (${EXPEDITE_PASSES}) as "expeditePasses",
    (date_part('epoch', l.valid_from) * 1000)::float8 as at, who.name as by
  from wip_limit l
  left join board_column c on l.owner_kind = 'column' and c.id = l.owner_id
  left join board b on b.id = case l.owner_kind when 'column' then c.board_id when 'board' then l.owner_id end
  left join state s on l.owner_kind = 'state' and s.id = l.owner_id
  left join person p on l.owner_kind = 'person' and p.id = l.owner_id
  left join person who on who.id = l.by_id
  cross join lateral (select ${COVERED} as state_ids) covered`;

const STATES = givenArray("$1::text[]");

/** The limits that cover one of some states, or are of people whom a query names. */
const covers = (people: string) => `${SELECT}
  where l.valid_to is null and (l.min is not null or l.max is not null) and l.id in (
    select o.id from wip_limit o
    where o.valid_to is null and o.owner_kind = 'state' and o.owner_id = any(${STATES})
    union all
    select o.id from wip_limit o
    where o.valid_to is null and o.owner_kind = 'column' and o.owner_id in (
      select cs.column_id from column_state cs where cs.state_id = any(${STATES}))
    union all
    select o.id from wip_limit o
    where o.valid_to is null and o.owner_kind = 'board' and o.owner_id in (
      select cs.board_id from column_state cs where cs.state_id = any(${STATES}))
    union all
    select o.id from wip_limit o
    where o.valid_to is null and o.owner_kind = 'person' and o.owner_id in (${people}))
  order by l.id`;

const TOUCHING = namedSql<Row>(
  "limits on some states and people",
  covers("select unnest($2::text[])"),
);

const OF_PROJECT = namedSql<Row>(
  "limits on some states and the people of a project",
  covers("select m.person_id from membership m where m.project_id = $2"),
);

/** The limits in force that cover one of some states, or are one of some people's, by their ids. */
export async function limitsTouching(
  reader: Reader,
  stateIds: readonly StateId[],
  personIds: readonly string[],
): Promise<LoadedLimit[]> {
  const rows = await TOUCHING(reader, [[...stateIds], [...personIds]]);
  return rows.map(covering);
}

/** The same with those of all people of a project. */
export async function limitsOfProject(
  reader: Reader,
  stateIds: readonly StateId[],
  projectId: string,
): Promise<LoadedLimit[]> {
  const rows = await OF_PROJECT(reader, [[...stateIds], projectId]);
  return rows.map(covering);
}

function covering({ levels, stateIds, level, name, ...row }: Row): LoadedLimit {
  const { partName, valueName, at: _at, by: _by, ...limit } = row;
  return {
    ...PLAIN_COUNTING,
    ...limit,
    name: nameOf({ ...row, name }),
    stateIds: stateIds ?? [],
    level: level ?? usualLevel((levels ?? []).filter((known) => known !== null)),
  };
}

/** "Review, reviewing", "Build, Quayside", "Expedite in progress", "Noor Bakri". */
function nameOf(row: Pick<Row, "ownerKind" | "name" | "partName" | "valueName" | "value">): string {
  const { ownerKind, name, partName, valueName, value } = row;
  const only = value === null ? null : (valueName ?? "a former value");
  if (ownerKind === "board")
    return `${only === null ? "Everything" : only[0].toUpperCase() + only.slice(1)} in progress`;
  const words = ownerKind === "column" ? columnWords({ stage: name, name: partName ?? "" }) : name;
  return only === null ? words : `${words}, ${only}`;
}

const CHANGES = namedSql<Row>(
  "what the limits of a project were",
  `${SELECT}
  where l.project_id = $1 or (l.owner_kind = 'person' and l.owner_id in (
    select m.person_id from membership m where m.project_id = $1))
  order by l.valid_from desc, l.id desc limit 60`,
);

/** What the limits of a project, and of its people, were from when on; the latest first. */
export async function limitChanges(reader: Reader, projectId: string): Promise<LimitChangeView[]> {
  const rows = await CHANGES(reader, [projectId]);
  return rows.map((row) => ({
    id: row.id,
    name: row.name === null ? "What is no more" : nameOf(row),
    words: limitSentence(row) === "none" ? "no limit" : limitSentence(row),
    at: row.at,
    by: row.by,
  }));
}
