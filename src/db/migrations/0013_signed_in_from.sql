CREATE TABLE "signed_in_from" (
	"person_id" text NOT NULL,
	"address" text NOT NULL,
	"last_at" timestamp with time zone NOT NULL,
	CONSTRAINT "signed_in_from_person_id_address_pk" PRIMARY KEY("person_id","address")
);
--> statement-breakpoint
ALTER TABLE "signed_in_from" ADD CONSTRAINT "signed_in_from_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;