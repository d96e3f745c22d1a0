ALTER TABLE "sprint" ADD COLUMN "started_at" timestamp(3) with time zone;--> statement-breakpoint
ALTER TABLE "sprint" ADD COLUMN "started_by" text;--> statement-breakpoint
ALTER TABLE "sprint" ADD COLUMN "ended_at" timestamp(3) with time zone;--> statement-breakpoint
ALTER TABLE "sprint" ADD COLUMN "ended_by" text;--> statement-breakpoint
ALTER TABLE "sprint" ADD COLUMN "goal_reached" boolean;--> statement-breakpoint
ALTER TABLE "sprint" ADD COLUMN "end_words" text;--> statement-breakpoint
ALTER TABLE "sprint" ADD CONSTRAINT "sprint_started_by_person_id_fk" FOREIGN KEY ("started_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
-- Sprints that were over before anybody could end them, and hold nothing open, have ended.
UPDATE "sprint" SET "ended_at" = ("ends_on" + 1)::timestamp at time zone "zone", "end_words" = ''
WHERE ("ends_on" + 1)::timestamp at time zone "zone" < now() AND NOT EXISTS (
  SELECT 1 FROM "item" WHERE "item"."sprint_id" = "sprint"."id"
    AND "item"."withdrawn_at" IS NULL AND "item"."state_kind" <> 'finished');
--> statement-breakpoint
ALTER TABLE "sprint" ADD CONSTRAINT "sprint_ended_by_person_id_fk" FOREIGN KEY ("ended_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sprint" ADD CONSTRAINT "sprint_ended" CHECK (("sprint"."ended_at" is null) = ("sprint"."end_words" is null));