CREATE TABLE "walk" (
	"id" uuid PRIMARY KEY NOT NULL,
	"board_id" text NOT NULL,
	"walk_order" text NOT NULL,
	"minutes" integer NOT NULL,
	"led_by" text NOT NULL,
	"started_at" timestamp(3) with time zone NOT NULL,
	"ended_at" timestamp(3) with time zone,
	"item_id" uuid,
	CONSTRAINT "walk_order_known" CHECK ("walk"."walk_order" in ('from the end', 'by person', 'by story'))
);
--> statement-breakpoint
CREATE TABLE "walk_note" (
	"id" uuid PRIMARY KEY NOT NULL,
	"walk_id" uuid NOT NULL,
	"item_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"text" text,
	"comment_id" uuid,
	"owner_id" text,
	"due_on" date,
	"by_id" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "walk_note_kind" CHECK ("walk_note"."kind" in ('agreed', 'later'))
);
--> statement-breakpoint
CREATE TABLE "walk_seen" (
	"walk_id" uuid NOT NULL,
	"item_id" uuid NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "walk_seen_walk_id_item_id_pk" PRIMARY KEY("walk_id","item_id")
);
--> statement-breakpoint
ALTER TABLE "walk" ADD CONSTRAINT "walk_board_id_board_id_fk" FOREIGN KEY ("board_id") REFERENCES "public"."board"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "walk" ADD CONSTRAINT "walk_led_by_person_id_fk" FOREIGN KEY ("led_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "walk" ADD CONSTRAINT "walk_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "walk_note" ADD CONSTRAINT "walk_note_walk_id_walk_id_fk" FOREIGN KEY ("walk_id") REFERENCES "public"."walk"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "walk_note" ADD CONSTRAINT "walk_note_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "walk_note" ADD CONSTRAINT "walk_note_owner_id_person_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "walk_note" ADD CONSTRAINT "walk_note_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "walk_seen" ADD CONSTRAINT "walk_seen_walk_id_walk_id_fk" FOREIGN KEY ("walk_id") REFERENCES "public"."walk"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "walk_seen" ADD CONSTRAINT "walk_seen_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "walk_running" ON "walk" USING btree ("board_id") WHERE "walk"."ended_at" is null;--> statement-breakpoint
CREATE INDEX "walk_board" ON "walk" USING btree ("board_id","started_at");--> statement-breakpoint
CREATE INDEX "walk_note_walk" ON "walk_note" USING btree ("walk_id");--> statement-breakpoint
CREATE INDEX "walk_note_item" ON "walk_note" USING btree ("item_id");