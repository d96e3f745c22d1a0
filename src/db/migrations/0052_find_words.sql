CREATE INDEX "report_title_trigrams" ON "report" USING gin ("title" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "comment_words" ON "comment" USING gin (to_tsvector('english', "body"));