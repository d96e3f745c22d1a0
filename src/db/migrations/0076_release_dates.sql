CREATE TABLE "release_date" (
	"release_id" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	"by_id" text NOT NULL,
	"from_day" date,
	"to_day" date,
	"why" text NOT NULL,
	CONSTRAINT "release_date_release_id_at_pk" PRIMARY KEY("release_id","at")
);
--> statement-breakpoint
ALTER TABLE "release_date" ADD CONSTRAINT "release_date_release_id_release_id_fk" FOREIGN KEY ("release_id") REFERENCES "public"."release"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "release_date" ADD CONSTRAINT "release_date_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;