ALTER TABLE "report_message" DROP CONSTRAINT "report_message_kind";--> statement-breakpoint
ALTER TABLE "report_message" ADD CONSTRAINT "report_message_kind" CHECK ("report_message"."kind" in ('question', 'reminder', 'answer', 'progress', 'news'));--> statement-breakpoint
UPDATE "report_message" SET "kind" = 'news' WHERE "kind" = 'progress' AND ("body" LIKE 'It is out: what you reported is part of %' OR "body" LIKE '%, which what you reported goes out with, comes later: %' OR "body" LIKE '%, which what you reported was part of, was taken back: %');
