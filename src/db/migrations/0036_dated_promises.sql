ALTER TABLE "dated_setting" DROP CONSTRAINT "dated_setting_name";--> statement-breakpoint
ALTER TABLE "dated_setting" ADD CONSTRAINT "dated_setting_name" CHECK ("dated_setting"."setting" in ('zone', 'expectation', 'calendar', 'promises'));--> statement-breakpoint
-- What is promised today was promised about everything that came in before.
INSERT INTO "dated_setting" ("project_id", "setting", "valid_from", "value")
SELECT "project_id", 'promises', timestamptz 'epoch', "targets"
FROM "intake_rules"
WHERE jsonb_array_length("targets"::jsonb) > 0
ON CONFLICT DO NOTHING;
