CREATE TABLE "release_note" (
	"release_id" text NOT NULL,
	"item_id" uuid NOT NULL,
	"words" text NOT NULL,
	"internal" boolean NOT NULL,
	"by_id" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "release_note_release_id_item_id_pk" PRIMARY KEY("release_id","item_id")
);
--> statement-breakpoint
ALTER TABLE "release" ADD COLUMN "out_notes" text;--> statement-breakpoint
ALTER TABLE "release_note" ADD CONSTRAINT "release_note_release_id_release_id_fk" FOREIGN KEY ("release_id") REFERENCES "public"."release"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "release_note" ADD CONSTRAINT "release_note_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "release_note" ADD CONSTRAINT "release_note_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;