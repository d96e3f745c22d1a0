CREATE TABLE "duty" (
	"project_id" text NOT NULL,
	"duty" text NOT NULL,
	"holder_kind" text NOT NULL,
	"holder_id" text NOT NULL,
	CONSTRAINT "duty_project_id_duty_holder_kind_holder_id_pk" PRIMARY KEY("project_id","duty","holder_kind","holder_id"),
	CONSTRAINT "duty_name" CHECK ("duty"."duty" in ('triages', 'reviews', 'tests', 'releases', 'accepts', 'plans')),
	CONSTRAINT "duty_holder" CHECK ("duty"."holder_kind" in ('person', 'team'))
);
--> statement-breakpoint
CREATE TABLE "box_project" (
	"box" text NOT NULL,
	"box_id" text NOT NULL,
	"project_id" text NOT NULL,
	CONSTRAINT "box_project_box_box_id_project_id_pk" PRIMARY KEY("box","box_id","project_id"),
	CONSTRAINT "box_project_box" CHECK ("box_project"."box" in ('sprint', 'release'))
);
--> statement-breakpoint
CREATE TABLE "dated_setting" (
	"project_id" text NOT NULL,
	"setting" text NOT NULL,
	"valid_from" timestamp(3) with time zone NOT NULL,
	"value" jsonb NOT NULL,
	CONSTRAINT "dated_setting_project_id_setting_valid_from_pk" PRIMARY KEY("project_id","setting","valid_from"),
	CONSTRAINT "dated_setting_name" CHECK ("dated_setting"."setting" in ('zone', 'expectation', 'calendar'))
);
--> statement-breakpoint
ALTER TABLE "sprint" DROP CONSTRAINT "sprint_length";--> statement-breakpoint
ALTER TABLE "release" ALTER COLUMN "project_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "sprint" ALTER COLUMN "project_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "ended_at" timestamp(3) with time zone;--> statement-breakpoint
ALTER TABLE "release" ADD COLUMN "owner_kind" text DEFAULT 'project' NOT NULL;--> statement-breakpoint
ALTER TABLE "release" ADD COLUMN "owner_id" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "release" ADD COLUMN "zone" text DEFAULT 'UTC' NOT NULL;--> statement-breakpoint
ALTER TABLE "sprint" ADD COLUMN "owner_kind" text DEFAULT 'project' NOT NULL;--> statement-breakpoint
ALTER TABLE "sprint" ADD COLUMN "owner_id" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "sprint" ADD COLUMN "zone" text DEFAULT 'UTC' NOT NULL;--> statement-breakpoint
ALTER TABLE "duty" ADD CONSTRAINT "duty_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "box_project" ADD CONSTRAINT "box_project_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "dated_setting" ADD CONSTRAINT "dated_setting_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "box_project_project" ON "box_project" USING btree ("project_id");--> statement-breakpoint
ALTER TABLE "release" ADD CONSTRAINT "release_owner" CHECK ("release"."owner_kind" in ('project', 'team'));--> statement-breakpoint
ALTER TABLE "sprint" ADD CONSTRAINT "sprint_owner" CHECK ("sprint"."owner_kind" in ('project', 'team'));--> statement-breakpoint
ALTER TABLE "sprint" ADD CONSTRAINT "sprint_length" CHECK ("sprint"."ends_on" >= "sprint"."starts_on" and "sprint"."ends_on" < "sprint"."starts_on" + 98);--> statement-breakpoint
UPDATE sprint s SET owner_id = s.project_id, zone = p.zone FROM project p WHERE p.id = s.project_id;
--> statement-breakpoint
UPDATE release r SET owner_id = r.project_id, zone = p.zone FROM project p WHERE p.id = r.project_id;
--> statement-breakpoint
INSERT INTO box_project (box, box_id, project_id)
SELECT 'sprint', id, project_id FROM sprint UNION ALL SELECT 'release', id, project_id FROM release;
--> statement-breakpoint
-- What a project was set to holds for all of its past: nobody wrote down since when.
INSERT INTO dated_setting (project_id, setting, valid_from, value)
SELECT p.id, s.setting, coalesce((SELECT min(i.created_at) FROM item i WHERE i.project_id = p.id), now()), s.value
FROM project p LEFT JOIN intake_rules r ON r.project_id = p.id
CROSS JOIN LATERAL (VALUES
  ('zone', to_jsonb(p.zone)),
  ('expectation', jsonb_build_object('days', p.expectation_days, 'share', p.expectation_share)),
  ('calendar', r.calendar)) s (setting, value)
WHERE s.value IS NOT NULL;
