CREATE TABLE "time_entry" (
	"id" uuid NOT NULL,
	"item_id" uuid NOT NULL,
	"person_id" text NOT NULL,
	"on_day" date NOT NULL,
	"minutes" integer NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	"gone_at" timestamp(3) with time zone,
	CONSTRAINT "time_entry_item_id_id_pk" PRIMARY KEY("item_id","id"),
	CONSTRAINT "time_entry_minutes" CHECK ("time_entry"."minutes" > 0)
);
--> statement-breakpoint
ALTER TABLE "person_hours" ADD COLUMN "hours_a_day" double precision DEFAULT 8 NOT NULL;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "first_estimate" double precision;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "spent_minutes" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "planned_from" date;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "planned_to" date;--> statement-breakpoint
ALTER TABLE "time_entry" ADD CONSTRAINT "time_entry_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "time_entry" ADD CONSTRAINT "time_entry_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "time_entry_person" ON "time_entry" USING btree ("person_id","on_day");