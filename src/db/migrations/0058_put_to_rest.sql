CREATE TABLE "put_to_rest" (
	"person_id" text NOT NULL,
	"item_id" uuid NOT NULL,
	"thing" text NOT NULL,
	"why" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "put_to_rest_person_id_item_id_thing_pk" PRIMARY KEY("person_id","item_id","thing")
);
--> statement-breakpoint
ALTER TABLE "put_to_rest" ADD CONSTRAINT "put_to_rest_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "put_to_rest" ADD CONSTRAINT "put_to_rest_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;