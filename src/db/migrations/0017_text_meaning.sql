CREATE TABLE "text_meaning" (
	"about" text NOT NULL,
	"id" uuid NOT NULL,
	"project_id" text NOT NULL,
	"version" integer NOT NULL,
	"digest" text NOT NULL,
	"meaning" "bytea" NOT NULL,
	CONSTRAINT "text_meaning_about_id_pk" PRIMARY KEY("about","id")
);
--> statement-breakpoint
ALTER TABLE "text_meaning" ADD CONSTRAINT "text_meaning_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "text_meaning_project" ON "text_meaning" USING btree ("project_id","about");