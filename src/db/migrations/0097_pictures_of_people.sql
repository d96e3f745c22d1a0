CREATE TABLE "person_picture" (
	"person_id" text PRIMARY KEY NOT NULL,
	"sha256" text NOT NULL,
	"media_type" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "person_picture" ADD CONSTRAINT "person_picture_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "person_picture" ADD CONSTRAINT "person_picture_sha256_stored_file_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."stored_file"("sha256") ON DELETE no action ON UPDATE no action;