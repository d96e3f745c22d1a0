CREATE TABLE "scope_reason" (
	"item_id" uuid NOT NULL,
	"seq" integer NOT NULL,
	"words" text NOT NULL,
	"by_id" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "scope_reason_item_id_seq_pk" PRIMARY KEY("item_id","seq")
);
--> statement-breakpoint
ALTER TABLE "scope_reason" ADD CONSTRAINT "scope_reason_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "scope_reason" ADD CONSTRAINT "scope_reason_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;