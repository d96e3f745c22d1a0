CREATE TABLE "named_condition" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"name" text NOT NULL,
	"condition" jsonb NOT NULL,
	"position" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "short_look" (
	"id" text PRIMARY KEY NOT NULL,
	"search" jsonb NOT NULL,
	"made_at" timestamp(3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "view" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"name" text NOT NULL,
	"owner_id" text,
	"shown" boolean NOT NULL,
	"look" jsonb NOT NULL,
	"place" integer,
	"version" integer NOT NULL,
	"made_at" timestamp(3) with time zone NOT NULL,
	"put_away_at" timestamp(3) with time zone,
	"put_away_by" text,
	CONSTRAINT "view_framed" CHECK ("view"."place" is null or "view"."owner_id" is null or "view"."shown")
);
--> statement-breakpoint
CREATE TABLE "view_change" (
	"view_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"changed_by" text NOT NULL,
	"changed_at" timestamp(3) with time zone NOT NULL,
	"before" jsonb NOT NULL,
	CONSTRAINT "view_change_view_id_version_pk" PRIMARY KEY("view_id","version")
);
--> statement-breakpoint
CREATE TABLE "view_use" (
	"view_id" uuid NOT NULL,
	"person_id" text NOT NULL,
	"favourite" boolean DEFAULT false NOT NULL,
	"opened_at" timestamp(3) with time zone,
	CONSTRAINT "view_use_view_id_person_id_pk" PRIMARY KEY("view_id","person_id")
);
--> statement-breakpoint
ALTER TABLE "named_condition" ADD CONSTRAINT "named_condition_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "view" ADD CONSTRAINT "view_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "view" ADD CONSTRAINT "view_owner_id_person_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "view" ADD CONSTRAINT "view_put_away_by_person_id_fk" FOREIGN KEY ("put_away_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "view_change" ADD CONSTRAINT "view_change_view_id_view_id_fk" FOREIGN KEY ("view_id") REFERENCES "public"."view"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "view_change" ADD CONSTRAINT "view_change_changed_by_person_id_fk" FOREIGN KEY ("changed_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "view_use" ADD CONSTRAINT "view_use_view_id_view_id_fk" FOREIGN KEY ("view_id") REFERENCES "public"."view"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "view_use" ADD CONSTRAINT "view_use_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "named_condition_project" ON "named_condition" USING btree ("project_id");--> statement-breakpoint
CREATE INDEX "view_project" ON "view" USING btree ("project_id");--> statement-breakpoint
CREATE INDEX "view_use_person" ON "view_use" USING btree ("person_id");