CREATE TABLE "view_fold" (
	"person_id" text NOT NULL,
	"project_id" text NOT NULL,
	"place" text NOT NULL,
	"folds" jsonb NOT NULL,
	CONSTRAINT "view_fold_person_id_project_id_place_pk" PRIMARY KEY("person_id","project_id","place")
);
--> statement-breakpoint
ALTER TABLE "view_fold" ADD CONSTRAINT "view_fold_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "view_fold" ADD CONSTRAINT "view_fold_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;