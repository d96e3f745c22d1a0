CREATE TABLE "board" (
	"id" text PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"name" text NOT NULL,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "board_column" (
	"id" text PRIMARY KEY NOT NULL,
	"board_id" text NOT NULL,
	"stage" text NOT NULL,
	"name" text NOT NULL,
	"part" text NOT NULL,
	"position" integer NOT NULL,
	"min" integer,
	"max" integer,
	"min_firm" boolean DEFAULT false NOT NULL,
	"max_firm" boolean DEFAULT false NOT NULL,
	CONSTRAINT "board_column_part" CHECK ("board_column"."part" in ('waiting', 'working', 'finished')),
	CONSTRAINT "board_column_limits" CHECK (("board_column"."min" is null or "board_column"."min" >= 0) and ("board_column"."max" is null or "board_column"."max" >= coalesce("board_column"."min", 0)))
);
--> statement-breakpoint
CREATE TABLE "column_state" (
	"board_id" text NOT NULL,
	"column_id" text NOT NULL,
	"state_id" text NOT NULL,
	CONSTRAINT "column_state_board_id_state_id_pk" PRIMARY KEY("board_id","state_id")
);
--> statement-breakpoint
CREATE TABLE "rate_count" (
	"key" text NOT NULL,
	"window_start" timestamp(3) with time zone NOT NULL,
	"count" integer NOT NULL,
	CONSTRAINT "rate_count_key_window_start_pk" PRIMARY KEY("key","window_start")
);
--> statement-breakpoint
CREATE TABLE "report" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"reference" text NOT NULL,
	"token" text NOT NULL,
	"title" text NOT NULL,
	"happened" text NOT NULL,
	"reproduce" text NOT NULL,
	"place" text NOT NULL,
	"mail" text NOT NULL,
	"status" text NOT NULL,
	"item_id" uuid,
	"parked_until" date,
	"decline_reason" text,
	"received_at" timestamp(3) with time zone NOT NULL,
	"returned_at" timestamp(3) with time zone,
	"version" integer NOT NULL,
	CONSTRAINT "report_reference_unique" UNIQUE("reference"),
	CONSTRAINT "report_token_unique" UNIQUE("token"),
	CONSTRAINT "report_status" CHECK ("report"."status" in ('unjudged', 'asked', 'parked', 'accepted', 'merged', 'declined')),
	CONSTRAINT "report_item_given" CHECK (("report"."status" in ('accepted', 'merged')) = ("report"."item_id" is not null)),
	CONSTRAINT "report_parked" CHECK (("report"."status" = 'parked') = ("report"."parked_until" is not null)),
	CONSTRAINT "report_sizes" CHECK (length("report"."title") between 1 and 200 and length("report"."happened") <= 10000 and length("report"."reproduce") <= 10000)
);
--> statement-breakpoint
CREATE TABLE "report_message" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"report_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"body" text NOT NULL,
	"author_id" text,
	"at" timestamp(3) with time zone NOT NULL,
	"taken_back_at" timestamp(3) with time zone,
	CONSTRAINT "report_message_kind" CHECK ("report_message"."kind" in ('question', 'answer', 'progress'))
);
--> statement-breakpoint
CREATE TABLE "report_picture" (
	"report_id" uuid PRIMARY KEY NOT NULL,
	"media_type" text NOT NULL,
	"content" "bytea" NOT NULL
);
--> statement-breakpoint
CREATE TABLE "report_verdict" (
	"id" uuid PRIMARY KEY NOT NULL,
	"report_id" uuid NOT NULL,
	"verdict" jsonb NOT NULL,
	"before" jsonb NOT NULL,
	"after" jsonb NOT NULL,
	"by_id" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	"undone_at" timestamp(3) with time zone,
	"undone_by_id" text
);
--> statement-breakpoint
CREATE TABLE "worker_pulse" (
	"id" integer PRIMARY KEY NOT NULL,
	"at" timestamp(3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "block" (
	"id" uuid PRIMARY KEY NOT NULL,
	"item_id" uuid NOT NULL,
	"cause" text NOT NULL,
	"waiting_for" text,
	"by_id" text,
	"from_at" timestamp(3) with time zone NOT NULL,
	"lifted_at" timestamp(3) with time zone,
	CONSTRAINT "block_order" CHECK ("block"."lifted_at" >= "block"."from_at")
);
--> statement-breakpoint
CREATE TABLE "command_record" (
	"id" uuid PRIMARY KEY NOT NULL,
	"actor_id" text,
	"at" timestamp(3) with time zone NOT NULL,
	"item_id" uuid,
	"version" integer
);
--> statement-breakpoint
CREATE TABLE "comment" (
	"id" uuid PRIMARY KEY NOT NULL,
	"item_id" uuid NOT NULL,
	"author_id" text,
	"body" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "item" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"number" integer NOT NULL,
	"type_id" text NOT NULL,
	"title" text NOT NULL,
	"description" text NOT NULL,
	"severity" text,
	"priority" text NOT NULL,
	"class_of_service" text NOT NULL,
	"origin" text NOT NULL,
	"estimate" double precision,
	"team_id" text,
	"assignee_id" text,
	"reviewer_id" text,
	"place" text,
	"how_to_test" text,
	"due_on" date,
	"parent_id" uuid,
	"state_id" text NOT NULL,
	"state_kind" text NOT NULL,
	"entered_state_at" timestamp(3) with time zone NOT NULL,
	"rank" text COLLATE "C" NOT NULL,
	"outcome" text,
	"clock" jsonb NOT NULL,
	"returns" integer NOT NULL,
	"blocked_since" timestamp(3) with time zone,
	"open_blockers" jsonb NOT NULL,
	"withdrawn_at" timestamp(3) with time zone,
	"created_at" timestamp(3) with time zone NOT NULL,
	"created_by" text,
	"updated_at" timestamp(3) with time zone NOT NULL,
	"version" integer NOT NULL,
	CONSTRAINT "item_title" CHECK (length("item"."title") between 1 and 300),
	CONSTRAINT "item_severity" CHECK ("item"."severity" in ('minor', 'moderate', 'major', 'critical')),
	CONSTRAINT "item_priority" CHECK ("item"."priority" in ('low', 'normal', 'high', 'urgent')),
	CONSTRAINT "item_class" CHECK ("item"."class_of_service" in ('expedite', 'fixed date', 'standard', 'intangible')),
	CONSTRAINT "item_origin" CHECK ("item"."origin" in ('planned', 'unplanned')),
	CONSTRAINT "item_state_kind" CHECK ("item"."state_kind" in ('unstarted', 'waiting', 'working', 'finished')),
	CONSTRAINT "item_outcome" CHECK ("item"."outcome" in ('delivered', 'duplicate', 'cannot reproduce', 'declined', 'obsolete')),
	CONSTRAINT "item_estimate" CHECK ("item"."estimate" >= 0)
);
--> statement-breakpoint
CREATE TABLE "item_event" (
	"item_id" uuid NOT NULL,
	"seq" integer NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	"actor_id" text,
	"cause" text NOT NULL,
	"command_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"field" text,
	"old" jsonb,
	"new" jsonb,
	"note" text,
	CONSTRAINT "item_event_item_id_seq_pk" PRIMARY KEY("item_id","seq"),
	CONSTRAINT "item_event_seq" CHECK ("item_event"."seq" > 0)
);
--> statement-breakpoint
CREATE TABLE "item_link" (
	"id" uuid PRIMARY KEY NOT NULL,
	"from_item_id" uuid NOT NULL,
	"to_item_id" uuid NOT NULL,
	"kind" text NOT NULL,
	CONSTRAINT "item_link_other" CHECK ("item_link"."from_item_id" <> "item_link"."to_item_id"),
	CONSTRAINT "item_link_kind" CHECK ("item_link"."kind" in ('duplicates', 'relates to', 'came from'))
);
--> statement-breakpoint
CREATE TABLE "outbox" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	"kind" text NOT NULL,
	"item_id" uuid,
	"report_id" uuid,
	"version" integer,
	"done_at" timestamp(3) with time zone,
	CONSTRAINT "outbox_kind" CHECK ("outbox"."kind" in ('item', 'intake', 'design'))
);
--> statement-breakpoint
CREATE TABLE "stay" (
	"item_id" uuid NOT NULL,
	"entered_seq" integer NOT NULL,
	"state_id" text NOT NULL,
	"kind" text NOT NULL,
	"entered_at" timestamp(3) with time zone NOT NULL,
	"left_at" timestamp(3) with time zone,
	CONSTRAINT "stay_item_id_entered_seq_pk" PRIMARY KEY("item_id","entered_seq"),
	CONSTRAINT "stay_order" CHECK ("stay"."left_at" >= "stay"."entered_at")
);
--> statement-breakpoint
CREATE TABLE "account" (
	"id" text PRIMARY KEY NOT NULL,
	"account_id" text NOT NULL,
	"provider_id" text NOT NULL,
	"user_id" text NOT NULL,
	"access_token" text,
	"refresh_token" text,
	"id_token" text,
	"access_token_expires_at" timestamp with time zone,
	"refresh_token_expires_at" timestamp with time zone,
	"scope" text,
	"password" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "membership" (
	"project_id" text NOT NULL,
	"person_id" text NOT NULL,
	"role" text NOT NULL,
	CONSTRAINT "membership_project_id_person_id_pk" PRIMARY KEY("project_id","person_id"),
	CONSTRAINT "membership_role" CHECK ("membership"."role" in ('lead', 'member', 'observer'))
);
--> statement-breakpoint
CREATE TABLE "person" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"email" text NOT NULL,
	"email_verified" boolean DEFAULT false NOT NULL,
	"image" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"administrator" boolean DEFAULT false NOT NULL,
	"calling" text,
	CONSTRAINT "person_email_unique" UNIQUE("email")
);
--> statement-breakpoint
CREATE TABLE "session" (
	"id" text PRIMARY KEY NOT NULL,
	"token" text NOT NULL,
	"user_id" text NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"ip_address" text,
	"user_agent" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "session_token_unique" UNIQUE("token")
);
--> statement-breakpoint
CREATE TABLE "team" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	CONSTRAINT "team_name_unique" UNIQUE("name")
);
--> statement-breakpoint
CREATE TABLE "team_member" (
	"team_id" text NOT NULL,
	"person_id" text NOT NULL,
	CONSTRAINT "team_member_team_id_person_id_pk" PRIMARY KEY("team_id","person_id")
);
--> statement-breakpoint
CREATE TABLE "verification" (
	"id" text PRIMARY KEY NOT NULL,
	"identifier" text NOT NULL,
	"value" text NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "project" (
	"id" text PRIMARY KEY NOT NULL,
	"key" text NOT NULL,
	"name" text NOT NULL,
	"visibility" text NOT NULL,
	"zone" text NOT NULL,
	"next_item_number" integer DEFAULT 1 NOT NULL,
	"expectation_days" integer NOT NULL,
	"expectation_share" double precision NOT NULL,
	CONSTRAINT "project_key_unique" UNIQUE("key"),
	CONSTRAINT "project_key" CHECK ("project"."key" ~ '^[A-Z][A-Z0-9]{1,9}$'),
	CONSTRAINT "project_visibility" CHECK ("project"."visibility" in ('everyone', 'members')),
	CONSTRAINT "project_expectation" CHECK ("project"."expectation_days" > 0 and "project"."expectation_share" > 0 and "project"."expectation_share" < 1)
);
--> statement-breakpoint
CREATE TABLE "item_type" (
	"project_id" text NOT NULL,
	"id" text NOT NULL,
	"name" text NOT NULL,
	"level" integer NOT NULL,
	"workflow_id" text NOT NULL,
	CONSTRAINT "item_type_project_id_id_pk" PRIMARY KEY("project_id","id"),
	CONSTRAINT "item_type_level" CHECK ("item_type"."level" between 0 and 3)
);
--> statement-breakpoint
CREATE TABLE "state" (
	"id" text PRIMARY KEY NOT NULL,
	"workflow_id" text NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"stage" text,
	"position" integer NOT NULL,
	CONSTRAINT "state_kind" CHECK ("state"."kind" in ('unstarted', 'waiting', 'working', 'finished')),
	CONSTRAINT "state_name" CHECK (length("state"."name") between 1 and 60)
);
--> statement-breakpoint
CREATE TABLE "transition" (
	"id" text PRIMARY KEY NOT NULL,
	"workflow_id" text NOT NULL,
	"from_state_id" text,
	"to_state_id" text NOT NULL,
	"verb" text NOT NULL,
	"requirements" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "workflow" (
	"id" text PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"name" text NOT NULL,
	"version" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "workflow_version" (
	"workflow_id" text NOT NULL,
	"version" integer NOT NULL,
	"definition" jsonb NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	"by_id" text,
	"summary" text NOT NULL,
	CONSTRAINT "workflow_version_workflow_id_version_pk" PRIMARY KEY("workflow_id","version")
);
--> statement-breakpoint
ALTER TABLE "board" ADD CONSTRAINT "board_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "board_column" ADD CONSTRAINT "board_column_board_id_board_id_fk" FOREIGN KEY ("board_id") REFERENCES "public"."board"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "column_state" ADD CONSTRAINT "column_state_board_id_board_id_fk" FOREIGN KEY ("board_id") REFERENCES "public"."board"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "column_state" ADD CONSTRAINT "column_state_column_id_board_column_id_fk" FOREIGN KEY ("column_id") REFERENCES "public"."board_column"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "column_state" ADD CONSTRAINT "column_state_state_id_state_id_fk" FOREIGN KEY ("state_id") REFERENCES "public"."state"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "report" ADD CONSTRAINT "report_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "report" ADD CONSTRAINT "report_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "report_message" ADD CONSTRAINT "report_message_report_id_report_id_fk" FOREIGN KEY ("report_id") REFERENCES "public"."report"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "report_message" ADD CONSTRAINT "report_message_author_id_person_id_fk" FOREIGN KEY ("author_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "report_picture" ADD CONSTRAINT "report_picture_report_id_report_id_fk" FOREIGN KEY ("report_id") REFERENCES "public"."report"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "report_verdict" ADD CONSTRAINT "report_verdict_report_id_report_id_fk" FOREIGN KEY ("report_id") REFERENCES "public"."report"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "report_verdict" ADD CONSTRAINT "report_verdict_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "report_verdict" ADD CONSTRAINT "report_verdict_undone_by_id_person_id_fk" FOREIGN KEY ("undone_by_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "block" ADD CONSTRAINT "block_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "block" ADD CONSTRAINT "block_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "command_record" ADD CONSTRAINT "command_record_actor_id_person_id_fk" FOREIGN KEY ("actor_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "comment" ADD CONSTRAINT "comment_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "comment" ADD CONSTRAINT "comment_author_id_person_id_fk" FOREIGN KEY ("author_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_team_id_team_id_fk" FOREIGN KEY ("team_id") REFERENCES "public"."team"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_assignee_id_person_id_fk" FOREIGN KEY ("assignee_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_reviewer_id_person_id_fk" FOREIGN KEY ("reviewer_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_state_id_state_id_fk" FOREIGN KEY ("state_id") REFERENCES "public"."state"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_parent_fk" FOREIGN KEY ("parent_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_type_fk" FOREIGN KEY ("project_id","type_id") REFERENCES "public"."item_type"("project_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_event" ADD CONSTRAINT "item_event_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_event" ADD CONSTRAINT "item_event_actor_id_person_id_fk" FOREIGN KEY ("actor_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_link" ADD CONSTRAINT "item_link_from_item_id_item_id_fk" FOREIGN KEY ("from_item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_link" ADD CONSTRAINT "item_link_to_item_id_item_id_fk" FOREIGN KEY ("to_item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "outbox" ADD CONSTRAINT "outbox_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "stay" ADD CONSTRAINT "stay_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "stay" ADD CONSTRAINT "stay_state_id_state_id_fk" FOREIGN KEY ("state_id") REFERENCES "public"."state"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "account" ADD CONSTRAINT "account_user_id_person_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "membership" ADD CONSTRAINT "membership_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "membership" ADD CONSTRAINT "membership_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_user_id_person_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "team_member" ADD CONSTRAINT "team_member_team_id_team_id_fk" FOREIGN KEY ("team_id") REFERENCES "public"."team"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "team_member" ADD CONSTRAINT "team_member_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_type" ADD CONSTRAINT "item_type_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_type" ADD CONSTRAINT "item_type_workflow_id_workflow_id_fk" FOREIGN KEY ("workflow_id") REFERENCES "public"."workflow"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "state" ADD CONSTRAINT "state_workflow_id_workflow_id_fk" FOREIGN KEY ("workflow_id") REFERENCES "public"."workflow"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "transition" ADD CONSTRAINT "transition_workflow_id_workflow_id_fk" FOREIGN KEY ("workflow_id") REFERENCES "public"."workflow"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "transition" ADD CONSTRAINT "transition_from_state_id_state_id_fk" FOREIGN KEY ("from_state_id") REFERENCES "public"."state"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "transition" ADD CONSTRAINT "transition_to_state_id_state_id_fk" FOREIGN KEY ("to_state_id") REFERENCES "public"."state"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "workflow" ADD CONSTRAINT "workflow_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "workflow_version" ADD CONSTRAINT "workflow_version_workflow_id_workflow_id_fk" FOREIGN KEY ("workflow_id") REFERENCES "public"."workflow"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "workflow_version" ADD CONSTRAINT "workflow_version_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "board_column_board" ON "board_column" USING btree ("board_id");--> statement-breakpoint
CREATE INDEX "column_state_column" ON "column_state" USING btree ("column_id");--> statement-breakpoint
CREATE INDEX "report_queue" ON "report" USING btree ("project_id","status","received_at");--> statement-breakpoint
CREATE INDEX "report_item" ON "report" USING btree ("item_id");--> statement-breakpoint
CREATE INDEX "report_words" ON "report" USING gin (to_tsvector('english', "title" || ' ' || "happened"));--> statement-breakpoint
CREATE INDEX "report_message_report" ON "report_message" USING btree ("report_id");--> statement-breakpoint
CREATE INDEX "report_verdict_report" ON "report_verdict" USING btree ("report_id");--> statement-breakpoint
CREATE INDEX "block_item" ON "block" USING btree ("item_id");--> statement-breakpoint
CREATE INDEX "comment_item" ON "comment" USING btree ("item_id");--> statement-breakpoint
CREATE UNIQUE INDEX "item_number" ON "item" USING btree ("project_id","number");--> statement-breakpoint
CREATE INDEX "item_state" ON "item" USING btree ("state_id","rank") WHERE "item"."withdrawn_at" is null;--> statement-breakpoint
CREATE INDEX "item_parent" ON "item" USING btree ("parent_id");--> statement-breakpoint
CREATE INDEX "item_words" ON "item" USING gin (to_tsvector('english', "title" || ' ' || "description"));--> statement-breakpoint
CREATE UNIQUE INDEX "item_link_once" ON "item_link" USING btree ("from_item_id","to_item_id","kind");--> statement-breakpoint
CREATE INDEX "item_link_to" ON "item_link" USING btree ("to_item_id");--> statement-breakpoint
CREATE INDEX "outbox_project" ON "outbox" USING btree ("project_id","id");--> statement-breakpoint
CREATE INDEX "outbox_open" ON "outbox" USING btree ("id") WHERE "outbox"."done_at" is null;--> statement-breakpoint
CREATE UNIQUE INDEX "stay_open" ON "stay" USING btree ("item_id") WHERE "stay"."left_at" is null;--> statement-breakpoint
CREATE INDEX "account_user" ON "account" USING btree ("user_id");--> statement-breakpoint
CREATE INDEX "session_user" ON "session" USING btree ("user_id");--> statement-breakpoint
CREATE INDEX "state_workflow" ON "state" USING btree ("workflow_id");--> statement-breakpoint
CREATE INDEX "transition_workflow" ON "transition" USING btree ("workflow_id");