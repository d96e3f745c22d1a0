DROP TABLE "outbox" CASCADE;--> statement-breakpoint
DROP FUNCTION announce_outbox();
