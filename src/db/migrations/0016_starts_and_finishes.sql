ALTER TABLE "item" ADD COLUMN "first_started_at" timestamp(3) with time zone;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "delivered_at" timestamp(3) with time zone;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "finished_at" timestamp(3) with time zone;--> statement-breakpoint
ALTER TABLE "stay" ADD COLUMN "outcome" text;--> statement-breakpoint
CREATE INDEX "item_delivered" ON "item" USING btree ("project_id","delivered_at");--> statement-breakpoint
UPDATE "stay" s SET "outcome" = (
  SELECT e."new" #>> '{}' FROM "item_event" e
  WHERE e."item_id" = s."item_id" AND e."kind" = 'changed' AND e."field" = 'outcome'
    AND (e."seq" < s."entered_seq" OR (e."at" = s."entered_at" AND e."new" <> 'null'::jsonb))
    AND NOT EXISTS (
      SELECT 1 FROM "item_event" u
      WHERE u."item_id" = e."item_id" AND u."kind" = 'undone' AND e."seq" BETWEEN (u."old" ->> 'fromSeq')::int AND (u."old" ->> 'toSeq')::int
        AND NOT EXISTS (
          SELECT 1 FROM "item_event" v
          WHERE v."item_id" = u."item_id" AND v."kind" = 'undone' AND u."seq" BETWEEN (v."old" ->> 'fromSeq')::int AND (v."old" ->> 'toSeq')::int))
  ORDER BY e."seq" DESC LIMIT 1)
WHERE s."kind" = 'finished';--> statement-breakpoint
WITH steps AS (
  SELECT "item_id", "kind", "outcome", "entered_at", "entered_seq",
    "kind" IN ('waiting', 'working') AS running,
    "kind" = 'finished' AND lag("kind") OVER (PARTITION BY "item_id" ORDER BY "entered_seq") IN ('waiting', 'working') AS finish,
    max("entered_seq") FILTER (WHERE "kind" <> 'finished') OVER (PARTITION BY "item_id") AS last_open
  FROM "stay"
), milestones AS (
  SELECT "item_id",
    min("entered_at") FILTER (WHERE running) AS first_started_at,
    min("entered_at") FILTER (WHERE finish AND coalesce("outcome", 'delivered') = 'delivered') AS delivered_at,
    max("entered_at") FILTER (WHERE finish AND "entered_seq" > last_open) AS finished_at
  FROM steps GROUP BY "item_id"
)
UPDATE "item" SET "first_started_at" = m.first_started_at, "delivered_at" = m.delivered_at, "finished_at" = m.finished_at
FROM milestones m WHERE m."item_id" = "item"."id";
