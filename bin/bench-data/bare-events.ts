import type { PoolClient } from "pg";
import { v7 as newId } from "uuid";
import { pool } from "@/db/connection";
import { isSigned } from "@/server/events/signature";
import { writeRows } from "./bare-move";

/*
 * What events are measured against: a handler that verifies the same signature and writes the rows that
 * each event is worth, without a question asked. It is built for measuring only (next.config.ts).
 */

interface Said {
  id: string;
  type: string;
  data: {
    subject: { id: string };
    customData: { commit?: string; head?: string; number: number; moves?: boolean };
  };
}

/** The rows of each event of a signed batch; which item it is about stands in it by number. */
export async function takeBarely(request: Request): Promise<Response> {
  const body = await request.text();
  const { searchParams } = new URL(request.url);
  const of = (name: string) => searchParams.get(name)!;
  const { rows } = await pool().query<{ secret: string }>(
    "select secret from event_source where id = $1",
    [of("source")],
  );
  const header = (name: string) => request.headers.get(`webhook-${name}`) ?? "";
  const headers = {
    id: header("id"),
    timestamp: header("timestamp"),
    signature: header("signature"),
  };
  if (!isSigned(rows[0].secret, headers, body, Date.now()))
    return new Response(null, { status: 401 });
  const client = await pool().connect();
  try {
    for (const event of JSON.parse(body) as Said[])
      await takeOne(client, event, {
        source: of("source"),
        project: of("project"),
        repository: of("repository"),
      });
  } finally {
    client.release();
  }
  return Response.json({ done: true });
}

interface Place {
  source: string;
  project: string;
  repository: string;
}

async function takeOne(client: PoolClient, event: Said, { source, project, repository }: Place) {
  const { id: subject } = event.data.subject;
  const { number, head, commit, moves } = event.data.customData;
  await client.query("begin");
  await client.query(
    "insert into received_event (source_id, event_id, at) values ($1, $2, now())",
    [source, event.id],
  );
  const {
    rows: [{ id: itemId }],
  } = await client.query<{ id: string }>(
    "select id from item where project_id = $1 and number = $2",
    [project, number],
  );
  if (event.type.includes("pushed")) {
    await client.query(
      "insert into code_commit (repository_id, hash, parents, author_name, author_mail, message, authored_at, branch, pushed_at, main_at) values ($1, $2, '{}', 'Person 0', 'p0@saltmarsh.example', 'words', now(), 'main', now(), now())",
      [repository, head],
    );
    await client.query(
      "insert into code_branch (repository_id, name, main, head, first_at, told_at) values ($1, $2, true, $3, now(), now()) on conflict (repository_id, name) do update set head = excluded.head, told_at = now()",
      [repository, subject, head],
    );
    await link(client, itemId, { repository, kind: "commit", name: head! });
  } else if (event.type.includes("change.created")) {
    await client.query(
      "insert into code_change (id, repository_id, name, head, status, opened_at, told_at) values ($1, $2, $3, $4, 'open', now(), now())",
      [newId(), repository, subject, head],
    );
    await link(client, itemId, { repository, kind: "change", name: subject });
  } else if (event.type.includes("pipelinerun")) {
    await client.query(
      'insert into pipeline_run (repository_id, name, "commit", ended_at, passed) values ($1, $2, $3, now(), true)',
      [repository, subject, commit],
    );
    await client.query(
      "update code_change set checks = 'passed', checks_at = now() where repository_id = $1 and head = $2",
      [repository, commit],
    );
  } else {
    await client.query(
      "insert into deployment (id, repository_id, environment, part, called, outcome, build, \"commit\", at, complete) values ($1, $2, $3, 'app', $3, 'deployed', '1', $4, now(), true)",
      [newId(), repository, "test", commit],
    );
    await client.query(
      "insert into commit_standing (repository_id, environment, part, hash, since, first_at) values ($1, 'test', 'app', $2, now(), now())",
      [repository, commit],
    );
  }
  await client.query(
    "insert into domain_event (project_id, at, kind, version, data, item_id) values ($1, now(), 'code changed', 1, jsonb_build_object('itemId', $2::text), $2::uuid)",
    [project, itemId],
  );
  await client.query(
    "insert into command_record (id, actor_id, at, item_id) values ($1, null, now(), $2)",
    [newId(), itemId],
  );
  await client.query("update item set version = version + 1, updated_at = now() where id = $1", [
    itemId,
  ]);
  await client.query(
    "insert into item_event (item_id, seq, at, actor_id, cause, command_id, kind, old, new) select id, version, now(), null, 'outside', $2, 'reported', '{}', '{}' from item where id = $1",
    [itemId, newId()],
  );
  await client.query(
    "insert into domain_event (project_id, at, kind, version, data, item_id) values ($1, now(), 'item changed', 1, '{}', $2)",
    [project, itemId],
  );
  if (moves) await writeRows(client, itemId, `${project}-3`);
  await client.query("commit");
}

const link = (
  client: PoolClient,
  itemId: string,
  { repository, kind, name }: { repository: string; kind: string; name: string },
) =>
  client.query(
    "insert into item_code (item_id, repository_id, kind, name) values ($1, $2, $3, $4)",
    [itemId, repository, kind, name],
  );
