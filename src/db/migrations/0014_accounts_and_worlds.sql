CREATE TABLE "installation" (
	"id" integer PRIMARY KEY NOT NULL,
	"world" text NOT NULL,
	"begun_at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "installation_one" CHECK ("installation"."id" = 1),
	CONSTRAINT "installation_world" CHECK ("installation"."world" in ('demo', 'own'))
);
--> statement-breakpoint
CREATE TABLE "password_link" (
	"digest" text PRIMARY KEY NOT NULL,
	"person_id" text NOT NULL,
	"made_by_id" text,
	"made_at" timestamp(3) with time zone NOT NULL,
	"until" timestamp(3) with time zone NOT NULL,
	"used_at" timestamp(3) with time zone
);
--> statement-breakpoint
ALTER TABLE "command_record" ADD COLUMN "what" text;--> statement-breakpoint
ALTER TABLE "password_link" ADD CONSTRAINT "password_link_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "password_link" ADD CONSTRAINT "password_link_made_by_id_person_id_fk" FOREIGN KEY ("made_by_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "password_link_person" ON "password_link" USING btree ("person_id");--> statement-breakpoint
INSERT INTO "installation" ("id", "world", "begun_at")
SELECT 1, CASE WHEN EXISTS (SELECT 1 FROM "person" WHERE "id" = 'ines' AND "email" = 'ines.dahl@saltmarsh.example') THEN 'demo' ELSE 'own' END, now()
WHERE EXISTS (SELECT 1 FROM "person");
