CREATE EXTENSION IF NOT EXISTS pg_trgm;
--> statement-breakpoint
CREATE TABLE "desk_presence" (
	"person_id" text PRIMARY KEY NOT NULL,
	"report_id" uuid NOT NULL,
	"at" timestamp(3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "intake_form" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"slug" text NOT NULL,
	"definition" jsonb NOT NULL,
	"open" boolean NOT NULL,
	"embeddable" boolean NOT NULL,
	"position" integer NOT NULL,
	"version" integer NOT NULL,
	"removed_at" timestamp(3) with time zone
);
--> statement-breakpoint
CREATE TABLE "known_problem" (
	"item_id" uuid PRIMARY KEY NOT NULL,
	"words" text NOT NULL,
	"by_id" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "mail_address" (
	"name" text PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"team_id" text,
	"open" boolean NOT NULL,
	"created_at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "mail_address_name" CHECK ("mail_address"."name" ~ '^[a-z0-9][a-z0-9.-]{0,62}$')
);
--> statement-breakpoint
CREATE TABLE "mail_in" (
	"message_id" text NOT NULL,
	"project_id" text NOT NULL,
	"report_id" uuid,
	"sender" text NOT NULL,
	"subject" text NOT NULL,
	"became" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "mail_in_message_id_project_id_pk" PRIMARY KEY("message_id","project_id")
);
--> statement-breakpoint
CREATE TABLE "mail_out" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"message_id" text NOT NULL,
	"report_id" uuid NOT NULL,
	"recipient" text NOT NULL,
	"subject" text NOT NULL,
	"body" text NOT NULL,
	"verdict_id" uuid,
	"at" timestamp(3) with time zone NOT NULL,
	"due_at" timestamp(3) with time zone NOT NULL,
	"tries" integer DEFAULT 0 NOT NULL,
	"sent_at" timestamp(3) with time zone,
	"failed" text,
	CONSTRAINT "mail_out_message_id_unique" UNIQUE("message_id")
);
--> statement-breakpoint
CREATE TABLE "report_file" (
	"id" uuid PRIMARY KEY NOT NULL,
	"report_id" uuid NOT NULL,
	"name" text NOT NULL,
	"media_type" text NOT NULL,
	"content" "bytea" NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "report_file_name" CHECK (length("report_file"."name") between 1 and 200)
);
--> statement-breakpoint
CREATE TABLE "report_follower" (
	"id" uuid PRIMARY KEY NOT NULL,
	"report_id" uuid NOT NULL,
	"mail" text NOT NULL,
	"token" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "report_follower_token_unique" UNIQUE("token")
);
--> statement-breakpoint
CREATE TABLE "reproduction" (
	"id" uuid PRIMARY KEY NOT NULL,
	"report_id" uuid NOT NULL,
	"by_id" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	"tried" text NOT NULL,
	"version" text NOT NULL,
	"result" text NOT NULL,
	"note" text NOT NULL,
	"taken_back_at" timestamp(3) with time zone,
	CONSTRAINT "reproduction_result" CHECK ("reproduction"."result" in ('happened', 'happened sometimes', 'did not happen'))
);
--> statement-breakpoint
ALTER TABLE "report" DROP CONSTRAINT "report_parked";--> statement-breakpoint
ALTER TABLE "report_message" DROP CONSTRAINT "report_message_kind";--> statement-breakpoint
ALTER TABLE "report_verdict" ALTER COLUMN "by_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "report" ADD COLUMN "form_id" uuid;--> statement-breakpoint
ALTER TABLE "report" ADD COLUMN "answers" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "report" ADD COLUMN "team_id" text;--> statement-breakpoint
ALTER TABLE "report" ADD COLUMN "parked_item_id" uuid;--> statement-breakpoint
ALTER TABLE "report_verdict" ADD COLUMN "took_ms" integer;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "restricted" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "intake_rules" ADD COLUMN "triage" jsonb;--> statement-breakpoint
UPDATE "intake_rules" SET "triage" = '{"grid": {"one person": {"can wait": "low", "this month": "low", "this week": "normal", "today": "normal"}, "some people": {"can wait": "low", "this month": "normal", "this week": "normal", "today": "high"}, "many people": {"can wait": "normal", "this month": "normal", "this week": "high", "today": "urgent"}, "everybody": {"can wait": "normal", "this month": "high", "this week": "urgent", "today": "urgent"}}, "questions": [{"id": "steps", "name": "Steps", "text": "Could you tell us step by step what you did, so that we can make it happen here?"}, {"id": "where", "name": "Where and with what", "text": "Where were you, with which device, and which version does it show?"}, {"id": "when", "name": "When", "text": "On which day and at about what time did it happen? Did it happen again since?"}], "declineReasons": ["This is how it is meant to work.", "We understand the wish, but it does not fit what we can do.", "This is not in our hands."], "personLimit": 2, "remindAfterDays": 4, "endAfterDays": 14, "endWords": "We have not heard from you, so we end this here. If it still happens, answer on this page or send it again: we will look at it."}';--> statement-breakpoint
ALTER TABLE "intake_rules" ALTER COLUMN "triage" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "desk_presence" ADD CONSTRAINT "desk_presence_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "desk_presence" ADD CONSTRAINT "desk_presence_report_id_report_id_fk" FOREIGN KEY ("report_id") REFERENCES "public"."report"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "intake_form" ADD CONSTRAINT "intake_form_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "known_problem" ADD CONSTRAINT "known_problem_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "known_problem" ADD CONSTRAINT "known_problem_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mail_address" ADD CONSTRAINT "mail_address_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mail_address" ADD CONSTRAINT "mail_address_team_id_team_id_fk" FOREIGN KEY ("team_id") REFERENCES "public"."team"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mail_in" ADD CONSTRAINT "mail_in_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mail_in" ADD CONSTRAINT "mail_in_report_id_report_id_fk" FOREIGN KEY ("report_id") REFERENCES "public"."report"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mail_out" ADD CONSTRAINT "mail_out_report_id_report_id_fk" FOREIGN KEY ("report_id") REFERENCES "public"."report"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "report_file" ADD CONSTRAINT "report_file_report_id_report_id_fk" FOREIGN KEY ("report_id") REFERENCES "public"."report"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "report_follower" ADD CONSTRAINT "report_follower_report_id_report_id_fk" FOREIGN KEY ("report_id") REFERENCES "public"."report"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reproduction" ADD CONSTRAINT "reproduction_report_id_report_id_fk" FOREIGN KEY ("report_id") REFERENCES "public"."report"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reproduction" ADD CONSTRAINT "reproduction_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "intake_form_slug" ON "intake_form" USING btree ("project_id","slug") WHERE "intake_form"."removed_at" is null;--> statement-breakpoint
CREATE INDEX "mail_in_project" ON "mail_in" USING btree ("project_id","at");--> statement-breakpoint
CREATE INDEX "mail_out_waiting" ON "mail_out" USING btree ("due_at") WHERE "mail_out"."sent_at" is null and "mail_out"."failed" is null;--> statement-breakpoint
CREATE INDEX "mail_out_report" ON "mail_out" USING btree ("report_id");--> statement-breakpoint
CREATE INDEX "report_file_report" ON "report_file" USING btree ("report_id");--> statement-breakpoint
CREATE UNIQUE INDEX "report_follower_mail" ON "report_follower" USING btree ("report_id","mail");--> statement-breakpoint
CREATE INDEX "reproduction_report" ON "reproduction" USING btree ("report_id");--> statement-breakpoint
ALTER TABLE "report" ADD CONSTRAINT "report_form_id_intake_form_id_fk" FOREIGN KEY ("form_id") REFERENCES "public"."intake_form"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "report" ADD CONSTRAINT "report_team_id_team_id_fk" FOREIGN KEY ("team_id") REFERENCES "public"."team"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "report" ADD CONSTRAINT "report_parked_item_id_item_id_fk" FOREIGN KEY ("parked_item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "report_parked_item" ON "report" USING btree ("parked_item_id");--> statement-breakpoint
CREATE INDEX "item_title_trigrams" ON "item" USING gin ("title" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "item_restricted" ON "item" USING btree ("project_id") WHERE "item"."restricted";--> statement-breakpoint
ALTER TABLE "report" ADD CONSTRAINT "report_parked" CHECK (("report"."status" = 'parked') = ("report"."parked_until" is not null or "report"."parked_item_id" is not null));--> statement-breakpoint
ALTER TABLE "report_message" ADD CONSTRAINT "report_message_kind" CHECK ("report_message"."kind" in ('question', 'reminder', 'answer', 'progress'));