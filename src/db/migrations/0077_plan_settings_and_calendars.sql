CREATE TABLE "calendar_feed" (
	"digest" text PRIMARY KEY NOT NULL,
	"person_id" text NOT NULL,
	"project_id" text,
	"since" timestamp(3) with time zone NOT NULL,
	"read_at" timestamp(3) with time zone,
	CONSTRAINT "calendar_feed_one_each" UNIQUE NULLS NOT DISTINCT("person_id","project_id")
);
--> statement-breakpoint
ALTER TABLE "project" ADD COLUMN "uses_sprints" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "project" ADD COLUMN "sprint_days" integer DEFAULT 14 NOT NULL;--> statement-breakpoint
ALTER TABLE "project" ADD COLUMN "new_into_sprint" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "calendar_feed" ADD CONSTRAINT "calendar_feed_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calendar_feed" ADD CONSTRAINT "calendar_feed_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "calendar_feed_project" ON "calendar_feed" USING btree ("project_id");--> statement-breakpoint
ALTER TABLE "project" ADD CONSTRAINT "project_sprint_days" CHECK ("project"."sprint_days" between 1 and 98);