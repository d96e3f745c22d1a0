CREATE TABLE "mail_stopped" (
	"person_id" text NOT NULL,
	"item_id" uuid NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "mail_stopped_person_id_item_id_pk" PRIMARY KEY("person_id","item_id")
);
--> statement-breakpoint
CREATE TABLE "person_feed" (
	"person_id" text PRIMARY KEY NOT NULL,
	"digest" text NOT NULL,
	"since" timestamp(3) with time zone NOT NULL,
	"read_at" timestamp(3) with time zone,
	CONSTRAINT "person_feed_digest_unique" UNIQUE("digest")
);
--> statement-breakpoint
ALTER TABLE "mail_in" ADD COLUMN "item_id" uuid;--> statement-breakpoint
ALTER TABLE "mail_in" ADD COLUMN "why" text;--> statement-breakpoint
ALTER TABLE "mail_in" ADD COLUMN "words" text;--> statement-breakpoint
ALTER TABLE "mail_waiting" ADD COLUMN "alert_id" uuid;--> statement-breakpoint
ALTER TABLE "mail_stopped" ADD CONSTRAINT "mail_stopped_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mail_stopped" ADD CONSTRAINT "mail_stopped_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "person_feed" ADD CONSTRAINT "person_feed_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mail_in" ADD CONSTRAINT "mail_in_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;