ALTER TABLE "own_field" DROP CONSTRAINT "own_field_kind";--> statement-breakpoint
ALTER TABLE "own_field" ADD COLUMN "source" jsonb;--> statement-breakpoint
ALTER TABLE "own_field" ADD CONSTRAINT "own_field_kind" CHECK ("own_field"."kind" in ('text', 'number', 'date', 'one of', 'many of', 'person', 'yes or no', 'link', 'computed', 'shown number', 'shown date', 'shown text'));