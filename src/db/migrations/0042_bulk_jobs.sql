CREATE TABLE "bulk_item" (
	"job_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"item_id" uuid NOT NULL,
	"command_id" uuid NOT NULL,
	"outcome" text,
	"sentence" text,
	CONSTRAINT "bulk_item_job_id_position_pk" PRIMARY KEY("job_id","position"),
	CONSTRAINT "bulk_item_outcome" CHECK ("bulk_item"."outcome" in ('done', 'same', 'refused'))
);
--> statement-breakpoint
CREATE TABLE "bulk_job" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"person_id" text NOT NULL,
	"doing" jsonb NOT NULL,
	"undo_of" uuid,
	"state" text NOT NULL,
	"made_at" timestamp(3) with time zone NOT NULL,
	"ended_at" timestamp(3) with time zone,
	CONSTRAINT "bulk_job_state" CHECK ("bulk_job"."state" in ('waiting', 'running', 'done', 'cancelled'))
);
--> statement-breakpoint
ALTER TABLE "bulk_item" ADD CONSTRAINT "bulk_item_job_id_bulk_job_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."bulk_job"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bulk_item" ADD CONSTRAINT "bulk_item_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bulk_job" ADD CONSTRAINT "bulk_job_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bulk_job" ADD CONSTRAINT "bulk_job_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "bulk_job_person" ON "bulk_job" USING btree ("person_id","made_at");--> statement-breakpoint
CREATE INDEX "bulk_job_open" ON "bulk_job" USING btree ("made_at") WHERE "bulk_job"."state" in ('waiting', 'running');--> statement-breakpoint
CREATE INDEX "bulk_job_undo" ON "bulk_job" USING btree ("undo_of");