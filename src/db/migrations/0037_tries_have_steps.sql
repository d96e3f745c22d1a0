ALTER TABLE "reproduction" ADD COLUMN "steps" text DEFAULT '' NOT NULL;--> statement-breakpoint
-- Reports that could not be made to happen wake by what comes in from here on.
INSERT INTO "event_consumer" ("name", "tx", "event_id")
SELECT 'reports alike', "tx", "event_id" FROM "event_consumer" WHERE "name" = 'reports of items'
ON CONFLICT DO NOTHING;
