CREATE TABLE "backlog_look" (
	"person_id" text NOT NULL,
	"project_id" text NOT NULL,
	"look" jsonb NOT NULL,
	CONSTRAINT "backlog_look_person_id_project_id_pk" PRIMARY KEY("person_id","project_id")
);
--> statement-breakpoint
ALTER TABLE "backlog_look" ADD CONSTRAINT "backlog_look_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "backlog_look" ADD CONSTRAINT "backlog_look_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;