CREATE EXTENSION IF NOT EXISTS btree_gin;--> statement-breakpoint
DROP INDEX "item_words";--> statement-breakpoint
DROP INDEX "item_title_trigrams";--> statement-breakpoint
CREATE INDEX "item_words" ON "item" USING gin ("project_id",to_tsvector('english', "title" || ' ' || "description"));--> statement-breakpoint
CREATE INDEX "item_title_trigrams" ON "item" USING gin ("project_id","title" gin_trgm_ops);