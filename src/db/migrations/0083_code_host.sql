CREATE TABLE "code_acted" (
	"repository_id" uuid NOT NULL,
	"work" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "code_acted_repository_id_work_pk" PRIMARY KEY("repository_id","work")
);
--> statement-breakpoint
CREATE TABLE "code_address" (
	"mail" text PRIMARY KEY NOT NULL,
	"person_id" text NOT NULL,
	"set_by" text NOT NULL,
	"set_at" timestamp(3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "code_branch" (
	"repository_id" uuid NOT NULL,
	"name" text NOT NULL,
	"main" boolean DEFAULT false NOT NULL,
	"head" text,
	"first_at" timestamp(3) with time zone NOT NULL,
	"pushed_at" timestamp(3) with time zone,
	"pushed_by_name" text,
	"pushed_by_mail" text,
	"gone_at" timestamp(3) with time zone,
	"told_at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "code_branch_repository_id_name_pk" PRIMARY KEY("repository_id","name")
);
--> statement-breakpoint
CREATE TABLE "code_change" (
	"id" uuid PRIMARY KEY NOT NULL,
	"repository_id" uuid NOT NULL,
	"name" text NOT NULL,
	"title" text DEFAULT '' NOT NULL,
	"branch" text,
	"head" text,
	"status" text NOT NULL,
	"author_name" text,
	"author_mail" text,
	"files" integer,
	"insertions" integer,
	"deletions" integer,
	"behind" integer,
	"merges_cleanly" boolean,
	"merged_as" text,
	"url" text,
	"opened_at" timestamp(3) with time zone NOT NULL,
	"ended_at" timestamp(3) with time zone,
	"told_at" timestamp(3) with time zone NOT NULL,
	"checks" text,
	"checks_at" timestamp(3) with time zone,
	CONSTRAINT "code_change_status" CHECK ("code_change"."status" in ('open', 'merged', 'abandoned'))
);
--> statement-breakpoint
CREATE TABLE "code_commit" (
	"repository_id" uuid NOT NULL,
	"hash" text NOT NULL,
	"parents" text[] NOT NULL,
	"author_name" text NOT NULL,
	"author_mail" text NOT NULL,
	"message" text NOT NULL,
	"authored_at" timestamp(3) with time zone NOT NULL,
	"files" integer,
	"insertions" integer,
	"deletions" integer,
	"url" text,
	"branch" text NOT NULL,
	"pushed_at" timestamp(3) with time zone NOT NULL,
	"main_at" timestamp(3) with time zone,
	"left_behind_at" timestamp(3) with time zone,
	"reverted_by" text,
	CONSTRAINT "code_commit_repository_id_hash_pk" PRIMARY KEY("repository_id","hash")
);
--> statement-breakpoint
CREATE TABLE "code_repository" (
	"id" uuid PRIMARY KEY NOT NULL,
	"source_id" text NOT NULL,
	"name" text NOT NULL,
	"first_heard_at" timestamp(3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "code_review" (
	"change_id" uuid NOT NULL,
	"by_mail" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	"by_name" text NOT NULL,
	"verdict" text NOT NULL,
	"head" text,
	CONSTRAINT "code_review_change_id_by_mail_at_pk" PRIMARY KEY("change_id","by_mail","at")
);
--> statement-breakpoint
CREATE TABLE "item_code" (
	"item_id" uuid NOT NULL,
	"repository_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	CONSTRAINT "item_code_item_id_repository_id_kind_name_pk" PRIMARY KEY("item_id","repository_id","kind","name"),
	CONSTRAINT "item_code_kind" CHECK ("item_code"."kind" in ('branch', 'commit', 'change'))
);
--> statement-breakpoint
ALTER TABLE "project" ADD COLUMN "branch_pattern" text DEFAULT '{initials}/{key}-{title}' NOT NULL;--> statement-breakpoint
ALTER TABLE "project" ADD COLUMN "closing_words" jsonb DEFAULT '["close","closes","closed","fix","fixes","fixed","resolve","resolves","resolved"]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "project" ADD COLUMN "branch_days" integer DEFAULT 5 NOT NULL;--> statement-breakpoint
ALTER TABLE "code_acted" ADD CONSTRAINT "code_acted_repository_id_code_repository_id_fk" FOREIGN KEY ("repository_id") REFERENCES "public"."code_repository"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "code_address" ADD CONSTRAINT "code_address_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "code_address" ADD CONSTRAINT "code_address_set_by_person_id_fk" FOREIGN KEY ("set_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "code_branch" ADD CONSTRAINT "code_branch_repository_id_code_repository_id_fk" FOREIGN KEY ("repository_id") REFERENCES "public"."code_repository"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "code_change" ADD CONSTRAINT "code_change_repository_id_code_repository_id_fk" FOREIGN KEY ("repository_id") REFERENCES "public"."code_repository"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "code_commit" ADD CONSTRAINT "code_commit_repository_id_code_repository_id_fk" FOREIGN KEY ("repository_id") REFERENCES "public"."code_repository"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "code_repository" ADD CONSTRAINT "code_repository_source_id_event_source_id_fk" FOREIGN KEY ("source_id") REFERENCES "public"."event_source"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "code_review" ADD CONSTRAINT "code_review_change_id_code_change_id_fk" FOREIGN KEY ("change_id") REFERENCES "public"."code_change"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_code" ADD CONSTRAINT "item_code_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_code" ADD CONSTRAINT "item_code_repository_id_code_repository_id_fk" FOREIGN KEY ("repository_id") REFERENCES "public"."code_repository"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "code_change_named" ON "code_change" USING btree ("repository_id","name");--> statement-breakpoint
CREATE INDEX "code_change_branch" ON "code_change" USING btree ("repository_id","branch");--> statement-breakpoint
CREATE INDEX "code_commit_branch" ON "code_commit" USING btree ("repository_id","branch");--> statement-breakpoint
CREATE UNIQUE INDEX "code_repository_named" ON "code_repository" USING btree ("source_id","name");--> statement-breakpoint
CREATE INDEX "item_code_named" ON "item_code" USING btree ("repository_id","kind","name");--> statement-breakpoint
ALTER TABLE "project" ADD CONSTRAINT "project_branch_days" CHECK ("project"."branch_days" between 1 and 365);