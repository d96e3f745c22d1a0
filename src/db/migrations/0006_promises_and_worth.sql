CREATE TABLE "intake_rules" (
	"project_id" text PRIMARY KEY NOT NULL,
	"calendar" jsonb NOT NULL,
	"targets" jsonb NOT NULL,
	"scoring" jsonb NOT NULL,
	"version" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "item_score" (
	"item_id" uuid PRIMARY KEY NOT NULL,
	"scores" jsonb NOT NULL,
	"by_id" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "item_vote" (
	"item_id" uuid NOT NULL,
	"person_id" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "item_vote_item_id_person_id_pk" PRIMARY KEY("item_id","person_id")
);
--> statement-breakpoint
ALTER TABLE "intake_rules" ADD CONSTRAINT "intake_rules_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_score" ADD CONSTRAINT "item_score_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_score" ADD CONSTRAINT "item_score_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_vote" ADD CONSTRAINT "item_vote_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_vote" ADD CONSTRAINT "item_vote_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;