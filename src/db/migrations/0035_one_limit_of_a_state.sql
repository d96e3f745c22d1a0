-- A column of exactly one state shows that state's limit; its own becomes the state's. Where both had one, the
-- stricter goes on. Of several columns of one state the first board that shows everything says it; a board that shows
-- only some items counted less than its state does, so from there it is advice.
CREATE TEMPORARY TABLE "moved_limit" ON COMMIT DROP AS
SELECT l.*, s."state_id", b."scope" IS NOT NULL AS "scoped",
  row_number() OVER (PARTITION BY s."state_id" ORDER BY (b."scope" IS NOT NULL), b."position", b."id") AS "place"
FROM "wip_limit" l
JOIN (
  SELECT "column_id", min("board_id") AS "board_id", min("state_id") AS "state_id"
  FROM "column_state" GROUP BY "column_id" HAVING count(*) = 1
) s ON l."owner_kind" = 'column' AND l."owner_id" = s."column_id" AND l."valid_to" IS NULL
JOIN "board" b ON b."id" = s."board_id";
--> statement-breakpoint
UPDATE "wip_limit" SET "valid_to" = now() WHERE "id" IN (SELECT "id" FROM "moved_limit");
--> statement-breakpoint
INSERT INTO "wip_limit" ("id", "project_id", "owner_kind", "owner_id", "min", "max", "min_firm", "max_firm", "valid_from", "valid_to")
SELECT gen_random_uuid(), l."project_id", l."owner_kind", l."owner_id", l."min", l."max", l."min_firm", l."max_firm", l."valid_from", now()
FROM "wip_limit" l JOIN "moved_limit" m ON m."place" = 1
WHERE l."owner_kind" = 'state' AND l."owner_id" = m."state_id" AND l."valid_to" IS NULL;
--> statement-breakpoint
UPDATE "wip_limit" l SET
  "max" = least(l."max", m."max"),
  "min" = CASE WHEN m."min" <= least(l."max", m."max") OR least(l."max", m."max") IS NULL THEN coalesce(m."min", l."min") ELSE l."min" END,
  "min_firm" = CASE WHEN m."min" IS NOT NULL THEN m."min_firm" AND NOT m."scoped" ELSE l."min_firm" END,
  "max_firm" = l."max_firm" OR (m."max_firm" AND NOT m."scoped"),
  "valid_from" = now()
FROM "moved_limit" m
WHERE m."place" = 1 AND l."owner_kind" = 'state' AND l."owner_id" = m."state_id" AND l."valid_to" IS NULL;
--> statement-breakpoint
INSERT INTO "wip_limit" ("id", "project_id", "owner_kind", "owner_id", "min", "max", "min_firm", "max_firm", "valid_from", "valid_to")
SELECT gen_random_uuid(), m."project_id", 'state', m."state_id", m."min", m."max",
  m."min_firm" AND NOT m."scoped", m."max_firm" AND NOT m."scoped", now(), NULL
FROM "moved_limit" m
WHERE m."place" = 1 AND NOT EXISTS (
  SELECT 1 FROM "wip_limit" l
  WHERE l."owner_kind" = 'state' AND l."owner_id" = m."state_id" AND l."valid_to" IS NULL
);
--> statement-breakpoint
-- A draft that has not changed a limit goes on with the one that is in force now.
UPDATE "workflow_draft" d SET "revision" = d."revision" + 1, "definition" = jsonb_set(d."definition", '{states}', (
  SELECT jsonb_agg(
    CASE WHEN l."id" IS NOT NULL AND coalesce(s.value -> 'limit', 'null') = coalesce(b."was", 'null')
      THEN jsonb_set(s.value, '{limit}', jsonb_build_object(
        'max', l."max", 'firm', l."max_firm", 'min', l."min", 'minFirm', l."min_firm"))
      ELSE s.value END ORDER BY s.ordinality)
  FROM jsonb_array_elements(d."definition" -> 'states') WITH ORDINALITY s
  LEFT JOIN "wip_limit" l ON l."owner_kind" = 'state' AND l."owner_id" = s.value ->> 'id' AND l."valid_to" IS NULL
    AND (l."min" IS NOT NULL OR l."max" IS NOT NULL)
  LEFT JOIN LATERAL (
    SELECT p -> 'limit' AS "was" FROM "workflow_version" v, jsonb_array_elements(v."definition" -> 'states') p
    WHERE v."workflow_id" = d."workflow_id" AND v."version" = d."base_version" AND p ->> 'id' = s.value ->> 'id'
  ) b ON true
));
