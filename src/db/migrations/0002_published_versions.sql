-- What runs is the definition of a workflow's current version; a workflow whose running version was never written down
-- is written down from its states and transitions before the table of transitions goes.
INSERT INTO "workflow_version" ("workflow_id", "version", "definition", "at", "by_id", "summary")
SELECT w."id", w."version",
  jsonb_build_object('id', w."id", 'name', w."name", 'version', w."version",
    'states', (SELECT coalesce(jsonb_agg(jsonb_build_object('id', s."id", 'name', s."name", 'kind', s."kind", 'stage', s."stage", 'position', s."position") ORDER BY s."position"), '[]') FROM "state" s WHERE s."workflow_id" = w."id"),
    'transitions', (SELECT coalesce(jsonb_agg(jsonb_build_object('id', t."id", 'from', t."from_state_id", 'to', t."to_state_id", 'verb', t."verb", 'requirements', t."requirements")), '[]') FROM "transition" t WHERE t."workflow_id" = w."id")),
  now(), NULL, 'as it ran before versions were kept'
FROM "workflow" w
WHERE NOT EXISTS (SELECT 1 FROM "workflow_version" v WHERE v."workflow_id" = w."id" AND v."version" = w."version");
--> statement-breakpoint
DROP TABLE "transition" CASCADE;
