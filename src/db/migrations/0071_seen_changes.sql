CREATE TABLE "agreed_seen" (
	"item_id" uuid NOT NULL,
	"person_id" text NOT NULL,
	"seq" integer NOT NULL,
	CONSTRAINT "agreed_seen_item_id_person_id_pk" PRIMARY KEY("item_id","person_id")
);
--> statement-breakpoint
ALTER TABLE "agreed_seen" ADD CONSTRAINT "agreed_seen_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agreed_seen" ADD CONSTRAINT "agreed_seen_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;