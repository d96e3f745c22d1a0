import type { PoolClient } from "pg";
import { v7 as newId } from "uuid";

/**
 * The rows that a move writes, as plain SQL, without a question asked: what every move is measured
 * against. The limit's row is taken first where it is asked for, as a firm limit makes a move do.
 */
export async function writeMove(
  client: PoolClient,
  itemId: string,
  stateId: string,
  limitOf: string | null = null,
): Promise<void> {
  await client.query("begin");
  if (limitOf)
    await client.query(
      "select max from wip_limit where owner_kind = 'column' and owner_id = $1 and valid_to is null for update",
      [limitOf],
    );
  await writeRows(client, itemId, stateId);
  await client.query("commit");
}

/** The rows themselves, within a transaction of somebody else's. */
export async function writeRows(
  client: PoolClient,
  itemId: string,
  stateId: string,
): Promise<void> {
  await client.query(
    "insert into command_record (id, actor_id, at, item_id) values ($1, 'p0', now(), $2)",
    [newId(), itemId],
  );
  await client.query(
    "update item set state_id = $2, state_kind = 'working', entered_state_at = now(), updated_at = now(), version = version + 1 where id = $1",
    [itemId, stateId],
  );
  await client.query(
    "insert into item_event (item_id, seq, at, actor_id, cause, command_id, kind, old, new) select id, version, now(), 'p0', 'person', $2, 'moved', '{}', '{}' from item where id = $1",
    [itemId, newId()],
  );
  await client.query(
    "update stay set left_at = greatest(now(), entered_at) where item_id = $1 and left_at is null",
    [itemId],
  );
  await client.query(
    "insert into stay (item_id, project_id, entered_seq, state_id, kind, entered_at) select id, project_id, version + 100, $2, 'working', now() from item where id = $1",
    [itemId, stateId],
  );
  await client.query(
    "insert into domain_event (project_id, at, kind, version, data, item_id) select project_id, now(), 'item changed', 1, jsonb_build_object('itemId', id, 'fromVersion', version - 1, 'version', version, 'kinds', '[\"moved\"]'::jsonb, 'counts', true, 'depth', 0), id from item where id = $1",
    [itemId],
  );
}
