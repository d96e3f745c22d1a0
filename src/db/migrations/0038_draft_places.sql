CREATE TABLE "draft_place" (
	"person_id" text PRIMARY KEY NOT NULL,
	"workflow_id" text NOT NULL,
	"chosen_id" text,
	"at" timestamp(3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "workflow" ADD COLUMN "removed_at" timestamp(3) with time zone;--> statement-breakpoint
ALTER TABLE "workflow_version" ADD COLUMN "note" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "draft_place" ADD CONSTRAINT "draft_place_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "draft_place" ADD CONSTRAINT "draft_place_workflow_id_workflow_id_fk" FOREIGN KEY ("workflow_id") REFERENCES "public"."workflow"("id") ON DELETE no action ON UPDATE no action;