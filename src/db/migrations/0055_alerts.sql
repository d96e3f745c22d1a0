CREATE TABLE "alert" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" text NOT NULL,
	"item_id" uuid NOT NULL,
	"first_at" timestamp(3) with time zone NOT NULL,
	"last_at" timestamp(3) with time zone NOT NULL,
	"urgent" boolean DEFAULT false NOT NULL,
	"read_at" timestamp(3) with time zone,
	"later_until" timestamp(3) with time zone,
	"done_at" timestamp(3) with time zone,
	"mail_due_at" timestamp(3) with time zone,
	"mailed_at" timestamp(3) with time zone,
	"digest" text,
	"digested_at" timestamp(3) with time zone,
	"unsent" text,
	"tries" integer DEFAULT 0 NOT NULL,
	"in_feed" boolean DEFAULT false NOT NULL,
	CONSTRAINT "alert_order" CHECK ("alert"."last_at" >= "alert"."first_at"),
	CONSTRAINT "alert_digest" CHECK ("alert"."digest" in ('morning', 'weekly'))
);
--> statement-breakpoint
CREATE TABLE "alert_choice" (
	"person_id" text NOT NULL,
	"rule" text NOT NULL,
	"off" boolean NOT NULL,
	"mail" text NOT NULL,
	"feed" boolean NOT NULL,
	CONSTRAINT "alert_choice_person_id_rule_pk" PRIMARY KEY("person_id","rule"),
	CONSTRAINT "alert_choice_mail" CHECK ("alert_choice"."mail" in ('at once', 'morning', 'weekly', 'none'))
);
--> statement-breakpoint
CREATE TABLE "alert_part" (
	"alert_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	"seqs" integer[] DEFAULT '{}' NOT NULL,
	"rules" text[] NOT NULL,
	"said" text,
	"other_ids" uuid[] DEFAULT '{}' NOT NULL,
	CONSTRAINT "alert_part_alert_id_id_pk" PRIMARY KEY("alert_id","id")
);
--> statement-breakpoint
CREATE TABLE "day_off" (
	"person_id" text NOT NULL,
	"from_day" date NOT NULL,
	"to_day" date NOT NULL,
	CONSTRAINT "day_off_person_id_from_day_pk" PRIMARY KEY("person_id","from_day"),
	CONSTRAINT "day_off_order" CHECK ("day_off"."to_day" >= "day_off"."from_day")
);
--> statement-breakpoint
CREATE TABLE "follow" (
	"person_id" text NOT NULL,
	"kind" text NOT NULL,
	"target" text NOT NULL,
	"on" boolean NOT NULL,
	"why" text NOT NULL,
	"since" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "follow_person_id_kind_target_pk" PRIMARY KEY("person_id","kind","target"),
	CONSTRAINT "follow_kind" CHECK ("follow"."kind" in ('item', 'below', 'label'))
);
--> statement-breakpoint
CREATE TABLE "person_hours" (
	"person_id" text PRIMARY KEY NOT NULL,
	"zone" text NOT NULL,
	"work_days" integer[] NOT NULL,
	"quiet_from" integer,
	"quiet_to" integer,
	"morning_at" integer NOT NULL,
	"weekly_on" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "comment_sign" (
	"item_id" uuid NOT NULL,
	"comment_id" uuid NOT NULL,
	"person_id" text NOT NULL,
	"sign" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "comment_sign_item_id_comment_id_person_id_sign_pk" PRIMARY KEY("item_id","comment_id","person_id","sign")
);
--> statement-breakpoint
CREATE TABLE "item_look" (
	"person_id" text NOT NULL,
	"item_id" uuid NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "item_look_person_id_item_id_pk" PRIMARY KEY("person_id","item_id")
);
--> statement-breakpoint
CREATE TABLE "talk_closed" (
	"item_id" uuid PRIMARY KEY NOT NULL,
	"closing" text NOT NULL,
	CONSTRAINT "talk_closed_closing" CHECK ("talk_closed"."closing" in ('members', 'nobody'))
);
--> statement-breakpoint
ALTER TABLE "comment" ADD COLUMN "answers_id" uuid;--> statement-breakpoint
ALTER TABLE "comment" ADD COLUMN "named" jsonb DEFAULT '{"people":[],"teams":[]}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "comment" ADD COLUMN "asks" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "comment" ADD COLUMN "audience" text DEFAULT 'team' NOT NULL;--> statement-breakpoint
ALTER TABLE "comment" ADD COLUMN "edited_at" timestamp(3) with time zone;--> statement-breakpoint
ALTER TABLE "comment" ADD COLUMN "gone_at" timestamp(3) with time zone;--> statement-breakpoint
ALTER TABLE "comment" ADD COLUMN "gone_by" text;--> statement-breakpoint
ALTER TABLE "comment" ADD COLUMN "why_gone" text;--> statement-breakpoint
ALTER TABLE "alert" ADD CONSTRAINT "alert_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "alert" ADD CONSTRAINT "alert_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "alert_choice" ADD CONSTRAINT "alert_choice_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "alert_part" ADD CONSTRAINT "alert_part_alert_id_alert_id_fk" FOREIGN KEY ("alert_id") REFERENCES "public"."alert"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "day_off" ADD CONSTRAINT "day_off_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "follow" ADD CONSTRAINT "follow_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "person_hours" ADD CONSTRAINT "person_hours_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "comment_sign" ADD CONSTRAINT "comment_sign_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "comment_sign" ADD CONSTRAINT "comment_sign_item_id_comment_id_comment_item_id_id_fk" FOREIGN KEY ("item_id","comment_id") REFERENCES "public"."comment"("item_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_look" ADD CONSTRAINT "item_look_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_look" ADD CONSTRAINT "item_look_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "talk_closed" ADD CONSTRAINT "talk_closed_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "alert_person" ON "alert" USING btree ("person_id","last_at" DESC NULLS LAST);--> statement-breakpoint
CREATE INDEX "alert_item" ON "alert" USING btree ("item_id","person_id");--> statement-breakpoint
CREATE INDEX "alert_new" ON "alert" USING btree ("person_id") WHERE "alert"."read_at" is null and "alert"."done_at" is null;--> statement-breakpoint
CREATE INDEX "alert_mail_due" ON "alert" USING btree ("mail_due_at") WHERE "alert"."mail_due_at" is not null and "alert"."mailed_at" is null and "alert"."unsent" is null;--> statement-breakpoint
CREATE INDEX "alert_digest_due" ON "alert" USING btree ("person_id") WHERE "alert"."digest" is not null and "alert"."digested_at" is null;--> statement-breakpoint
CREATE INDEX "follow_target" ON "follow" USING btree ("kind","target");--> statement-breakpoint
ALTER TABLE "comment" ADD CONSTRAINT "comment_gone_by_person_id_fk" FOREIGN KEY ("gone_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "comment" ADD CONSTRAINT "comment_audience" CHECK ("comment"."audience" in ('team', 'reporters'));