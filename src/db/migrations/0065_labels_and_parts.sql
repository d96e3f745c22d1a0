CREATE TABLE "design_change" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	"by_id" text,
	"area" text NOT NULL,
	"said" text NOT NULL,
	"differences" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "project_term" (
	"project_id" text NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"meaning" text NOT NULL,
	"sign" text NOT NULL,
	"hue" text NOT NULL,
	"owner_id" text,
	"earlier" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"places" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"ended_at" timestamp(3) with time zone,
	CONSTRAINT "project_term_project_id_kind_name_pk" PRIMARY KEY("project_id","kind","name"),
	CONSTRAINT "project_term_kind" CHECK ("project_term"."kind" in ('label', 'part')),
	CONSTRAINT "project_term_name" CHECK (length("project_term"."name") between 1 and 40)
);
--> statement-breakpoint
ALTER TABLE "follow" DROP CONSTRAINT "follow_kind";--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "parts" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "design_change" ADD CONSTRAINT "design_change_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "design_change" ADD CONSTRAINT "design_change_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "project_term" ADD CONSTRAINT "project_term_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "project_term" ADD CONSTRAINT "project_term_owner_id_person_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "design_change_project" ON "design_change" USING btree ("project_id","id" DESC NULLS LAST);--> statement-breakpoint
ALTER TABLE "follow" ADD CONSTRAINT "follow_kind" CHECK ("follow"."kind" in ('item', 'below', 'label', 'part'));