CREATE TABLE "pin" (
	"person_id" text NOT NULL,
	"item_id" uuid NOT NULL,
	"place" integer NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "pin_person_id_item_id_pk" PRIMARY KEY("person_id","item_id")
);
--> statement-breakpoint
ALTER TABLE "pin" ADD CONSTRAINT "pin_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pin" ADD CONSTRAINT "pin_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;