ALTER TABLE "wip_limit" DROP CONSTRAINT "wip_limit_owner";--> statement-breakpoint
DROP INDEX "wip_limit_in_force";--> statement-breakpoint
ALTER TABLE "wip_limit" ALTER COLUMN "project_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "wip_limit" ADD COLUMN "field" text;--> statement-breakpoint
ALTER TABLE "wip_limit" ADD COLUMN "value" text;--> statement-breakpoint
ALTER TABLE "wip_limit" ADD COLUMN "unit" text DEFAULT 'items' NOT NULL;--> statement-breakpoint
ALTER TABLE "wip_limit" ADD COLUMN "level" integer;--> statement-breakpoint
ALTER TABLE "wip_limit" ADD COLUMN "fixed_date_passes" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "wip_limit" ADD COLUMN "worked_only" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "wip_limit" ADD COLUMN "by_id" text;--> statement-breakpoint
ALTER TABLE "project" ADD COLUMN "default_size" double precision DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "state" ADD COLUMN "by_reviewer" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "wip_limit" ADD CONSTRAINT "wip_limit_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "item_in_hand" ON "item" USING btree ("assignee_id") WHERE "item"."withdrawn_at" is null and "item"."state_kind" in ('waiting', 'working');--> statement-breakpoint
CREATE INDEX "item_in_review" ON "item" USING btree ("reviewer_id") WHERE "item"."withdrawn_at" is null and "item"."state_kind" in ('waiting', 'working');--> statement-breakpoint
CREATE INDEX "item_event_overrode" ON "item_event" USING btree ("at") WHERE "item_event"."kind" = 'overrode';--> statement-breakpoint
CREATE UNIQUE INDEX "wip_limit_in_force" ON "wip_limit" USING btree ("owner_kind","owner_id",coalesce("field", ''),coalesce("value", '')) WHERE "wip_limit"."valid_to" is null;--> statement-breakpoint
ALTER TABLE "wip_limit" ADD CONSTRAINT "wip_limit_of" CHECK (("wip_limit"."field" is null) = ("wip_limit"."value" is null));--> statement-breakpoint
ALTER TABLE "wip_limit" ADD CONSTRAINT "wip_limit_unit" CHECK ("wip_limit"."unit" in ('items', 'size'));--> statement-breakpoint
ALTER TABLE "wip_limit" ADD CONSTRAINT "wip_limit_owner" CHECK ("wip_limit"."owner_kind" in ('state', 'column', 'board', 'person'));--> statement-breakpoint
ALTER TABLE "project" ADD CONSTRAINT "project_default_size" CHECK ("project"."default_size" > 0);