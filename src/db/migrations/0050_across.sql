CREATE TABLE "project_group" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"made_by" text NOT NULL,
	"made_at" timestamp(3) with time zone NOT NULL,
	"put_away_at" timestamp(3) with time zone
);
--> statement-breakpoint
CREATE TABLE "project_group_project" (
	"group_id" uuid NOT NULL,
	"project_id" text NOT NULL,
	CONSTRAINT "project_group_project_group_id_project_id_pk" PRIMARY KEY("group_id","project_id")
);
--> statement-breakpoint
ALTER TABLE "named_condition" DROP CONSTRAINT "named_condition_project_id_project_id_fk";
--> statement-breakpoint
ALTER TABLE "view" DROP CONSTRAINT "view_project_id_project_id_fk";
--> statement-breakpoint
ALTER TABLE "view_fold" DROP CONSTRAINT "view_fold_project_id_project_id_fk";
--> statement-breakpoint
ALTER TABLE "project_group_project" ADD CONSTRAINT "project_group_project_group_id_project_group_id_fk" FOREIGN KEY ("group_id") REFERENCES "public"."project_group"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "project_group_project" ADD CONSTRAINT "project_group_project_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;