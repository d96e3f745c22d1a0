CREATE TABLE "acceptance_answer" (
	"id" uuid PRIMARY KEY NOT NULL,
	"showing_id" uuid NOT NULL,
	"item_id" uuid NOT NULL,
	"accepted" boolean NOT NULL,
	"name" text NOT NULL,
	"words" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	"environment" text,
	"build" text,
	"seen" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "showing" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"person_id" text,
	"name" text NOT NULL,
	"mail" text DEFAULT '' NOT NULL,
	"token" text,
	"words" text DEFAULT '' NOT NULL,
	"asked_by" text NOT NULL,
	"asked_at" timestamp(3) with time zone NOT NULL,
	"until" timestamp(3) with time zone NOT NULL,
	"revoked_at" timestamp(3) with time zone,
	"reminders" integer DEFAULT 0 NOT NULL,
	"reminded_at" timestamp(3) with time zone
);
--> statement-breakpoint
CREATE TABLE "shown_item" (
	"showing_id" uuid NOT NULL,
	"item_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"title" text NOT NULL,
	"how" text DEFAULT '' NOT NULL,
	"address" text DEFAULT '' NOT NULL,
	"tested" jsonb NOT NULL,
	CONSTRAINT "shown_item_showing_id_item_id_pk" PRIMARY KEY("showing_id","item_id")
);
--> statement-breakpoint
CREATE TABLE "shown_picture" (
	"id" uuid PRIMARY KEY NOT NULL,
	"showing_id" uuid NOT NULL,
	"item_id" uuid NOT NULL,
	"name" text NOT NULL,
	"media_type" text NOT NULL,
	"sha256" text NOT NULL,
	"width" integer,
	"height" integer
);
--> statement-breakpoint
ALTER TABLE "acceptance_answer" ADD CONSTRAINT "acceptance_answer_showing_id_showing_id_fk" FOREIGN KEY ("showing_id") REFERENCES "public"."showing"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "acceptance_answer" ADD CONSTRAINT "acceptance_answer_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "showing" ADD CONSTRAINT "showing_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "showing" ADD CONSTRAINT "showing_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "showing" ADD CONSTRAINT "showing_asked_by_person_id_fk" FOREIGN KEY ("asked_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shown_item" ADD CONSTRAINT "shown_item_showing_id_showing_id_fk" FOREIGN KEY ("showing_id") REFERENCES "public"."showing"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shown_item" ADD CONSTRAINT "shown_item_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shown_picture" ADD CONSTRAINT "shown_picture_showing_id_showing_id_fk" FOREIGN KEY ("showing_id") REFERENCES "public"."showing"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shown_picture" ADD CONSTRAINT "shown_picture_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shown_picture" ADD CONSTRAINT "shown_picture_sha256_stored_file_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."stored_file"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "acceptance_answer_item" ON "acceptance_answer" USING btree ("item_id","showing_id","at");--> statement-breakpoint
CREATE UNIQUE INDEX "showing_token" ON "showing" USING btree ("token") WHERE "showing"."token" is not null;--> statement-breakpoint
CREATE INDEX "showing_project" ON "showing" USING btree ("project_id","asked_at");--> statement-breakpoint
CREATE INDEX "showing_person" ON "showing" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "shown_item_item" ON "shown_item" USING btree ("item_id");--> statement-breakpoint
CREATE INDEX "shown_picture_showing" ON "shown_picture" USING btree ("showing_id");--> statement-breakpoint
CREATE INDEX "shown_picture_content" ON "shown_picture" USING btree ("sha256");