CREATE TABLE "alert_rule" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" text NOT NULL,
	"name" text NOT NULL,
	"project_id" text,
	"type_ids" text[] NOT NULL,
	"happens" text[] NOT NULL,
	"fields" text[] NOT NULL,
	"by" jsonb NOT NULL,
	"condition" jsonb,
	"off" boolean NOT NULL,
	"mail" text NOT NULL,
	"feed" boolean NOT NULL,
	"made_at" timestamp(3) with time zone NOT NULL,
	"removed_at" timestamp(3) with time zone,
	CONSTRAINT "alert_rule_mail" CHECK ("alert_rule"."mail" in ('at once', 'morning', 'weekly', 'none')),
	CONSTRAINT "alert_rule_whole_project" CHECK ("alert_rule"."project_id" is not null or ("alert_rule"."condition" is null and "alert_rule"."type_ids" = '{}'))
);
--> statement-breakpoint
ALTER TABLE "alert_rule" ADD CONSTRAINT "alert_rule_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "alert_rule" ADD CONSTRAINT "alert_rule_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "alert_rule_person" ON "alert_rule" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "alert_rule_project" ON "alert_rule" USING btree ("project_id") WHERE not "alert_rule"."off" and "alert_rule"."removed_at" is null;