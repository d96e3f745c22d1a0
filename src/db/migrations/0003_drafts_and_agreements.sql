CREATE TABLE "workflow_draft" (
	"workflow_id" text PRIMARY KEY NOT NULL,
	"definition" jsonb NOT NULL,
	"base_version" integer NOT NULL,
	"revision" integer NOT NULL,
	"by_id" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "ticks" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "approvals" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "state" ADD COLUMN "removed_in" integer;--> statement-breakpoint
ALTER TABLE "workflow_draft" ADD CONSTRAINT "workflow_draft_workflow_id_workflow_id_fk" FOREIGN KEY ("workflow_id") REFERENCES "public"."workflow"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "workflow_draft" ADD CONSTRAINT "workflow_draft_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;