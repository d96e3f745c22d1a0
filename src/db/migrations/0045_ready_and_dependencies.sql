ALTER TABLE "block" ADD COLUMN "dependency_id" uuid;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "ready_since" timestamp(3) with time zone;--> statement-breakpoint
ALTER TABLE "stay" ADD COLUMN "ready_ms" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX "block_dependency" ON "block" USING btree ("dependency_id");--> statement-breakpoint
UPDATE "flow_passage" SET "times" = (
	SELECT jsonb_object_agg("key", "value" || '{"readyMs": 0}') FROM jsonb_each("times")
) WHERE "times" IS NOT NULL AND "times" <> '{}';
