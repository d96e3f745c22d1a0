-- What people were told goes on as alerts, and who has to do with an item follows it.
ALTER TABLE "notice" ADD COLUMN "alert_id" uuid DEFAULT gen_random_uuid() NOT NULL;--> statement-breakpoint
INSERT INTO "alert" ("id", "person_id", "item_id", "first_at", "last_at", "read_at")
SELECT "alert_id", "person_id", "item_id", "at", "at", "read_at" FROM "notice";--> statement-breakpoint
INSERT INTO "alert_part" ("alert_id", "id", "at", "rules", "said", "other_ids")
SELECT "alert_id", gen_random_uuid(), "at", '{told}', "text", "other_ids" FROM "notice";--> statement-breakpoint
DROP TABLE "notice" CASCADE;--> statement-breakpoint
INSERT INTO "follow" ("person_id", "kind", "target", "on", "why", "since")
SELECT "assignee_id", 'item', "id"::text, true, 'was given it', "updated_at" FROM "item"
WHERE "assignee_id" IS NOT NULL AND "withdrawn_at" IS NULL
ON CONFLICT DO NOTHING;--> statement-breakpoint
INSERT INTO "follow" ("person_id", "kind", "target", "on", "why", "since")
SELECT "reviewer_id", 'item', "id"::text, true, 'reviews it', "updated_at" FROM "item"
WHERE "reviewer_id" IS NOT NULL AND "withdrawn_at" IS NULL
ON CONFLICT DO NOTHING;--> statement-breakpoint
INSERT INTO "follow" ("person_id", "kind", "target", "on", "why", "since")
SELECT "created_by", 'item', "id"::text, true, 'made it', "created_at" FROM "item"
WHERE "created_by" IS NOT NULL AND "withdrawn_at" IS NULL
ON CONFLICT DO NOTHING;--> statement-breakpoint
INSERT INTO "follow" ("person_id", "kind", "target", "on", "why", "since")
SELECT "author_id", 'item', "item_id"::text, true, 'talked about it', min("at") FROM "comment"
WHERE "author_id" IS NOT NULL GROUP BY "author_id", "item_id"
ON CONFLICT DO NOTHING;--> statement-breakpoint
UPDATE "comment" c SET "audience" = 'reporters' FROM "item_event" e
WHERE e."item_id" = c."item_id" AND e."kind" = 'commented' AND e."cause" = 'requester'
AND e."new" ->> 'commentId' = c."id"::text;--> statement-breakpoint
UPDATE "comment" c SET "audience" = 'reporters' FROM "report_message" m, "report" r
WHERE r."id" = m."report_id" AND r."item_id" = c."item_id" AND m."kind" = 'question'
AND m."author_id" = c."author_id" AND m."body" = c."body";--> statement-breakpoint
INSERT INTO "event_consumer" ("name", "tx", "event_id")
SELECT 'alerts', "tx", "event_id" FROM "event_consumer" WHERE "name" = 'triggers';
