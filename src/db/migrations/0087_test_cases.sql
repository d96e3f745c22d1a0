CREATE TABLE "item_test_case" (
	"item_id" uuid NOT NULL,
	"case_id" uuid NOT NULL,
	"linked_by" text NOT NULL,
	"linked_at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "item_test_case_item_id_case_id_pk" PRIMARY KEY("item_id","case_id")
);
--> statement-breakpoint
CREATE TABLE "machine_result" (
	"test_id" uuid NOT NULL,
	"commit" text NOT NULL,
	"run" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	"result" text NOT NULL,
	"took" integer,
	"message" text DEFAULT '' NOT NULL,
	CONSTRAINT "machine_result_test_id_commit_run_pk" PRIMARY KEY("test_id","commit","run"),
	CONSTRAINT "machine_result_said" CHECK ("machine_result"."result" in ('passed', 'failed', 'skipped'))
);
--> statement-breakpoint
CREATE TABLE "machine_test" (
	"id" uuid PRIMARY KEY NOT NULL,
	"repository_id" uuid NOT NULL,
	"suite" text NOT NULL,
	"name" text NOT NULL,
	"case_id" uuid,
	"first_at" timestamp(3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "test_case" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"number" integer NOT NULL,
	"suite_id" uuid,
	"part" text,
	"version" integer NOT NULL,
	"created_by" text NOT NULL,
	"created_at" timestamp(3) with time zone NOT NULL,
	"put_away_at" timestamp(3) with time zone
);
--> statement-breakpoint
CREATE TABLE "test_case_version" (
	"case_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"title" text NOT NULL,
	"before" text NOT NULL,
	"steps" jsonb NOT NULL,
	"by_id" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "test_case_version_case_id_version_pk" PRIMARY KEY("case_id","version")
);
--> statement-breakpoint
CREATE TABLE "test_picture" (
	"id" uuid PRIMARY KEY NOT NULL,
	"run_id" uuid NOT NULL,
	"case_id" uuid NOT NULL,
	"step_id" text NOT NULL,
	"name" text NOT NULL,
	"media_type" text NOT NULL,
	"sha256" text NOT NULL,
	"size" integer NOT NULL,
	"width" integer,
	"height" integer,
	"by_id" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	"removed_at" timestamp(3) with time zone
);
--> statement-breakpoint
CREATE TABLE "test_run" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"number" integer NOT NULL,
	"item_id" uuid,
	"suite_id" uuid,
	"environment" text,
	"repository_id" uuid,
	"build" text,
	"commit" text,
	"tester_id" text NOT NULL,
	"started_at" timestamp(3) with time zone NOT NULL,
	"ended_at" timestamp(3) with time zone,
	"given_up_at" timestamp(3) with time zone,
	"verdict" text,
	CONSTRAINT "test_run_verdict" CHECK ("test_run"."verdict" in ('passed', 'failed', 'blocked'))
);
--> statement-breakpoint
CREATE TABLE "test_run_case" (
	"run_id" uuid NOT NULL,
	"case_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"position" integer NOT NULL,
	"item_id" uuid,
	"verdict" text,
	CONSTRAINT "test_run_case_run_id_case_id_pk" PRIMARY KEY("run_id","case_id")
);
--> statement-breakpoint
CREATE TABLE "test_step_result" (
	"run_id" uuid NOT NULL,
	"case_id" uuid NOT NULL,
	"step_id" text NOT NULL,
	"result" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	"course" text,
	"given_to" text,
	"became_id" uuid,
	CONSTRAINT "test_step_result_run_id_case_id_step_id_pk" PRIMARY KEY("run_id","case_id","step_id"),
	CONSTRAINT "test_step_result_said" CHECK ("test_step_result"."result" in ('passed', 'failed', 'blocked'))
);
--> statement-breakpoint
CREATE TABLE "test_suite" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"name" text NOT NULL,
	"put_away_at" timestamp(3) with time zone
);
--> statement-breakpoint
ALTER TABLE "item_test_case" ADD CONSTRAINT "item_test_case_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_test_case" ADD CONSTRAINT "item_test_case_case_id_test_case_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."test_case"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_test_case" ADD CONSTRAINT "item_test_case_linked_by_person_id_fk" FOREIGN KEY ("linked_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "machine_result" ADD CONSTRAINT "machine_result_test_id_machine_test_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."machine_test"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "machine_test" ADD CONSTRAINT "machine_test_repository_id_code_repository_id_fk" FOREIGN KEY ("repository_id") REFERENCES "public"."code_repository"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "machine_test" ADD CONSTRAINT "machine_test_case_id_test_case_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."test_case"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_case" ADD CONSTRAINT "test_case_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_case" ADD CONSTRAINT "test_case_suite_id_test_suite_id_fk" FOREIGN KEY ("suite_id") REFERENCES "public"."test_suite"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_case" ADD CONSTRAINT "test_case_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_case_version" ADD CONSTRAINT "test_case_version_case_id_test_case_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."test_case"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_case_version" ADD CONSTRAINT "test_case_version_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_picture" ADD CONSTRAINT "test_picture_run_id_test_run_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."test_run"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_picture" ADD CONSTRAINT "test_picture_sha256_stored_file_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."stored_file"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_picture" ADD CONSTRAINT "test_picture_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_run" ADD CONSTRAINT "test_run_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_run" ADD CONSTRAINT "test_run_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_run" ADD CONSTRAINT "test_run_suite_id_test_suite_id_fk" FOREIGN KEY ("suite_id") REFERENCES "public"."test_suite"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_run" ADD CONSTRAINT "test_run_repository_id_code_repository_id_fk" FOREIGN KEY ("repository_id") REFERENCES "public"."code_repository"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_run" ADD CONSTRAINT "test_run_tester_id_person_id_fk" FOREIGN KEY ("tester_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_run_case" ADD CONSTRAINT "test_run_case_run_id_test_run_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."test_run"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_run_case" ADD CONSTRAINT "test_run_case_case_id_test_case_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."test_case"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_run_case" ADD CONSTRAINT "test_run_case_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_step_result" ADD CONSTRAINT "test_step_result_run_id_test_run_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."test_run"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_step_result" ADD CONSTRAINT "test_step_result_given_to_person_id_fk" FOREIGN KEY ("given_to") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_step_result" ADD CONSTRAINT "test_step_result_became_id_item_id_fk" FOREIGN KEY ("became_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_suite" ADD CONSTRAINT "test_suite_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "item_test_case_case" ON "item_test_case" USING btree ("case_id");--> statement-breakpoint
CREATE INDEX "machine_result_commit" ON "machine_result" USING btree ("commit");--> statement-breakpoint
CREATE UNIQUE INDEX "machine_test_named" ON "machine_test" USING btree ("repository_id","suite","name");--> statement-breakpoint
CREATE INDEX "machine_test_case" ON "machine_test" USING btree ("case_id");--> statement-breakpoint
CREATE UNIQUE INDEX "test_case_number" ON "test_case" USING btree ("project_id","number");--> statement-breakpoint
CREATE INDEX "test_picture_run" ON "test_picture" USING btree ("run_id");--> statement-breakpoint
CREATE INDEX "test_picture_content" ON "test_picture" USING btree ("sha256");--> statement-breakpoint
CREATE UNIQUE INDEX "test_run_number" ON "test_run" USING btree ("project_id","number");--> statement-breakpoint
CREATE INDEX "test_run_item" ON "test_run" USING btree ("item_id","started_at");--> statement-breakpoint
CREATE INDEX "test_run_case_case" ON "test_run_case" USING btree ("case_id");--> statement-breakpoint
CREATE INDEX "test_run_case_item" ON "test_run_case" USING btree ("item_id");--> statement-breakpoint
CREATE INDEX "test_step_result_became" ON "test_step_result" USING btree ("became_id");--> statement-breakpoint
CREATE UNIQUE INDEX "test_suite_named" ON "test_suite" USING btree ("project_id",lower("name")) WHERE "test_suite"."put_away_at" is null;