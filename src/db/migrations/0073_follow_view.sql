ALTER TABLE "follow" DROP CONSTRAINT "follow_kind";--> statement-breakpoint
ALTER TABLE "follow" ADD CONSTRAINT "follow_kind" CHECK ("follow"."kind" in ('item', 'below', 'label', 'part', 'view'));