ALTER TABLE "project" ADD COLUMN "put_away_at" timestamp(3) with time zone;--> statement-breakpoint
ALTER TABLE "project" ADD COLUMN "put_away_by" text;--> statement-breakpoint
ALTER TABLE "project" ADD CONSTRAINT "project_put_away" CHECK (("project"."put_away_at" is null) = ("project"."put_away_by" is null));