CREATE TABLE "attached_source" (
	"source_id" text NOT NULL,
	"project_id" text NOT NULL,
	"attached_by" text NOT NULL,
	"attached_at" timestamp(3) with time zone NOT NULL,
	"detached_at" timestamp(3) with time zone,
	CONSTRAINT "attached_source_source_id_project_id_pk" PRIMARY KEY("source_id","project_id")
);
--> statement-breakpoint
ALTER TABLE "attached_source" ADD CONSTRAINT "attached_source_source_id_event_source_id_fk" FOREIGN KEY ("source_id") REFERENCES "public"."event_source"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attached_source" ADD CONSTRAINT "attached_source_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attached_source" ADD CONSTRAINT "attached_source_attached_by_person_id_fk" FOREIGN KEY ("attached_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "attached_source_project" ON "attached_source" USING btree ("project_id");