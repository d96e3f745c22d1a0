CREATE TABLE "mail_waiting" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"team_id" text,
	"return_path" text NOT NULL,
	"raw" "bytea" NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	"tries" integer DEFAULT 0 NOT NULL,
	"due_at" timestamp(3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "mail_waiting" ADD CONSTRAINT "mail_waiting_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mail_waiting" ADD CONSTRAINT "mail_waiting_team_id_team_id_fk" FOREIGN KEY ("team_id") REFERENCES "public"."team"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "mail_waiting_due" ON "mail_waiting" USING btree ("due_at");