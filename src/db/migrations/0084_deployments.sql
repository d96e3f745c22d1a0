CREATE TABLE "code_build" (
	"repository_id" uuid NOT NULL,
	"name" text NOT NULL,
	"commit" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	"url" text,
	CONSTRAINT "code_build_repository_id_name_pk" PRIMARY KEY("repository_id","name")
);
--> statement-breakpoint
CREATE TABLE "commit_standing" (
	"repository_id" uuid NOT NULL,
	"environment" text NOT NULL,
	"part" text NOT NULL,
	"hash" text NOT NULL,
	"since" timestamp(3) with time zone NOT NULL,
	"first_at" timestamp(3) with time zone NOT NULL,
	"gone_at" timestamp(3) with time zone,
	CONSTRAINT "commit_standing_repository_id_environment_part_hash_pk" PRIMARY KEY("repository_id","environment","part","hash")
);
--> statement-breakpoint
CREATE TABLE "deployment" (
	"id" uuid PRIMARY KEY NOT NULL,
	"repository_id" uuid NOT NULL,
	"part" text NOT NULL,
	"environment" text NOT NULL,
	"called" text NOT NULL,
	"outcome" text NOT NULL,
	"build" text,
	"commit" text,
	"at" timestamp(3) with time zone NOT NULL,
	"by_name" text,
	"by_mail" text,
	"url" text,
	"complete" boolean NOT NULL,
	CONSTRAINT "deployment_outcome" CHECK ("deployment"."outcome" in ('deployed', 'rolled back', 'failed', 'removed'))
);
--> statement-breakpoint
CREATE TABLE "deployment_request" (
	"id" uuid PRIMARY KEY NOT NULL,
	"repository_id" uuid NOT NULL,
	"environment_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"build" text NOT NULL,
	"asked_by" text NOT NULL,
	"asked_at" timestamp(3) with time zone NOT NULL,
	"answered_at" timestamp(3) with time zone,
	"refused" text,
	CONSTRAINT "deployment_request_kind" CHECK ("deployment_request"."kind" in ('deploy', 'roll back'))
);
--> statement-breakpoint
CREATE TABLE "environment" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"name" text NOT NULL,
	"position" integer NOT NULL,
	"address" text DEFAULT '' NOT NULL,
	"live" boolean DEFAULT false NOT NULL,
	"retired_at" timestamp(3) with time zone
);
--> statement-breakpoint
CREATE TABLE "freeze_window" (
	"id" uuid PRIMARY KEY NOT NULL,
	"environment_id" uuid NOT NULL,
	"first_day" date NOT NULL,
	"last_day" date NOT NULL,
	"why" text DEFAULT '' NOT NULL,
	"set_by" text NOT NULL,
	"set_at" timestamp(3) with time zone NOT NULL,
	"removed_at" timestamp(3) with time zone,
	CONSTRAINT "freeze_window_order" CHECK ("freeze_window"."first_day" <= "freeze_window"."last_day")
);
--> statement-breakpoint
CREATE TABLE "pipeline_run" (
	"repository_id" uuid NOT NULL,
	"name" text NOT NULL,
	"commit" text NOT NULL,
	"branch" text,
	"started_at" timestamp(3) with time zone,
	"ended_at" timestamp(3) with time zone,
	"passed" boolean,
	"url" text,
	CONSTRAINT "pipeline_run_repository_id_name_pk" PRIMARY KEY("repository_id","name")
);
--> statement-breakpoint
ALTER TABLE "event_source" ADD COLUMN "asks_at" text;--> statement-breakpoint
ALTER TABLE "code_build" ADD CONSTRAINT "code_build_repository_id_code_repository_id_fk" FOREIGN KEY ("repository_id") REFERENCES "public"."code_repository"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "commit_standing" ADD CONSTRAINT "commit_standing_repository_id_code_repository_id_fk" FOREIGN KEY ("repository_id") REFERENCES "public"."code_repository"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deployment" ADD CONSTRAINT "deployment_repository_id_code_repository_id_fk" FOREIGN KEY ("repository_id") REFERENCES "public"."code_repository"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deployment_request" ADD CONSTRAINT "deployment_request_repository_id_code_repository_id_fk" FOREIGN KEY ("repository_id") REFERENCES "public"."code_repository"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deployment_request" ADD CONSTRAINT "deployment_request_environment_id_environment_id_fk" FOREIGN KEY ("environment_id") REFERENCES "public"."environment"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deployment_request" ADD CONSTRAINT "deployment_request_asked_by_person_id_fk" FOREIGN KEY ("asked_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "environment" ADD CONSTRAINT "environment_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "freeze_window" ADD CONSTRAINT "freeze_window_environment_id_environment_id_fk" FOREIGN KEY ("environment_id") REFERENCES "public"."environment"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "freeze_window" ADD CONSTRAINT "freeze_window_set_by_person_id_fk" FOREIGN KEY ("set_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pipeline_run" ADD CONSTRAINT "pipeline_run_repository_id_code_repository_id_fk" FOREIGN KEY ("repository_id") REFERENCES "public"."code_repository"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "commit_standing_commit" ON "commit_standing" USING btree ("repository_id","hash");--> statement-breakpoint
CREATE INDEX "deployment_there" ON "deployment" USING btree ("repository_id","environment","part","at");--> statement-breakpoint
CREATE INDEX "deployment_request_environment" ON "deployment_request" USING btree ("environment_id","asked_at");--> statement-breakpoint
CREATE UNIQUE INDEX "environment_named" ON "environment" USING btree ("project_id",lower("name")) WHERE "environment"."retired_at" is null;--> statement-breakpoint
CREATE INDEX "freeze_window_environment" ON "freeze_window" USING btree ("environment_id");--> statement-breakpoint
CREATE INDEX "pipeline_run_branch" ON "pipeline_run" USING btree ("repository_id","branch","ended_at");