CREATE TABLE "event_source" (
	"id" text PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"name" text NOT NULL,
	"secret" text NOT NULL,
	"created_by" text NOT NULL,
	"created_at" timestamp(3) with time zone NOT NULL,
	"last_heard_at" timestamp(3) with time zone,
	"removed_at" timestamp(3) with time zone
);
--> statement-breakpoint
CREATE TABLE "notice" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"person_id" text NOT NULL,
	"item_id" uuid NOT NULL,
	"text" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	"read_at" timestamp(3) with time zone
);
--> statement-breakpoint
CREATE TABLE "received_event" (
	"source_id" text NOT NULL,
	"event_id" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "received_event_source_id_event_id_pk" PRIMARY KEY("source_id","event_id")
);
--> statement-breakpoint
CREATE TABLE "board_place" (
	"board_id" text NOT NULL,
	"item_id" uuid NOT NULL,
	"column_id" text NOT NULL,
	"rank" text COLLATE "C" NOT NULL,
	CONSTRAINT "board_place_board_id_item_id_pk" PRIMARY KEY("board_id","item_id")
);
--> statement-breakpoint
CREATE TABLE "own_field" (
	"id" text PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"unit" text,
	"options" jsonb NOT NULL,
	"formula" jsonb,
	"initial" jsonb,
	"type_ids" jsonb NOT NULL,
	"required_at_start" boolean NOT NULL,
	"on_card" boolean NOT NULL,
	"on_new_item" boolean NOT NULL,
	"position" integer NOT NULL,
	"removed_at" timestamp(3) with time zone,
	CONSTRAINT "own_field_kind" CHECK ("own_field"."kind" in ('text', 'number', 'date', 'one of', 'many of', 'person', 'yes or no', 'link', 'computed')),
	CONSTRAINT "own_field_name" CHECK (length("own_field"."name") between 1 and 60)
);
--> statement-breakpoint
CREATE TABLE "release" (
	"id" text PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"name" text NOT NULL,
	"due_on" date,
	"released_at" timestamp(3) with time zone,
	"removed_at" timestamp(3) with time zone
);
--> statement-breakpoint
CREATE TABLE "sprint" (
	"id" text PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"name" text NOT NULL,
	"goal" text NOT NULL,
	"starts_on" date NOT NULL,
	"ends_on" date NOT NULL,
	"removed_at" timestamp(3) with time zone,
	CONSTRAINT "sprint_length" CHECK ("sprint"."ends_on" >= "sprint"."starts_on" and "sprint"."ends_on" <= "sprint"."starts_on" + 30)
);
--> statement-breakpoint
ALTER TABLE "board" ADD COLUMN "position" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "board" ADD COLUMN "columns_by" text DEFAULT 'state' NOT NULL;--> statement-breakpoint
ALTER TABLE "board" ADD COLUMN "scope" jsonb;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "sprint_id" text;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "release_id" text;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "labels" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "own" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "outside" jsonb DEFAULT '{"changes":[],"deployedTo":[],"testResult":null}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "outbox" ADD COLUMN "from_version" integer;--> statement-breakpoint
ALTER TABLE "outbox" ADD COLUMN "depth" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "item_type" ADD COLUMN "glyph" text DEFAULT 'square' NOT NULL;--> statement-breakpoint
ALTER TABLE "item_type" ADD COLUMN "template" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "item_type" ADD COLUMN "position" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "item_type" ADD COLUMN "removed_at" timestamp(3) with time zone;--> statement-breakpoint
ALTER TABLE "event_source" ADD CONSTRAINT "event_source_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "event_source" ADD CONSTRAINT "event_source_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notice" ADD CONSTRAINT "notice_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notice" ADD CONSTRAINT "notice_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "received_event" ADD CONSTRAINT "received_event_source_id_event_source_id_fk" FOREIGN KEY ("source_id") REFERENCES "public"."event_source"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "board_place" ADD CONSTRAINT "board_place_board_id_board_id_fk" FOREIGN KEY ("board_id") REFERENCES "public"."board"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "board_place" ADD CONSTRAINT "board_place_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "board_place" ADD CONSTRAINT "board_place_column_id_board_column_id_fk" FOREIGN KEY ("column_id") REFERENCES "public"."board_column"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "own_field" ADD CONSTRAINT "own_field_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "release" ADD CONSTRAINT "release_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sprint" ADD CONSTRAINT "sprint_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "event_source_project" ON "event_source" USING btree ("project_id");--> statement-breakpoint
CREATE INDEX "notice_person" ON "notice" USING btree ("person_id","read_at","at");--> statement-breakpoint
CREATE INDEX "received_event_at" ON "received_event" USING btree ("at");--> statement-breakpoint
CREATE INDEX "own_field_project" ON "own_field" USING btree ("project_id");--> statement-breakpoint
CREATE INDEX "release_project" ON "release" USING btree ("project_id");--> statement-breakpoint
CREATE INDEX "sprint_project" ON "sprint" USING btree ("project_id","starts_on");--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_sprint_id_sprint_id_fk" FOREIGN KEY ("sprint_id") REFERENCES "public"."sprint"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_release_id_release_id_fk" FOREIGN KEY ("release_id") REFERENCES "public"."release"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "item_sprint" ON "item" USING btree ("sprint_id");--> statement-breakpoint
CREATE INDEX "item_release" ON "item" USING btree ("release_id");--> statement-breakpoint
UPDATE "item_type" SET "glyph" = CASE "id" WHEN 'bug' THEN 'lozenge' WHEN 'story' THEN 'peak' WHEN 'request' THEN 'speech' WHEN 'task' THEN 'stroke' ELSE 'square' END,
  "position" = CASE "id" WHEN 'story' THEN 0 WHEN 'bug' THEN 1 WHEN 'request' THEN 2 WHEN 'task' THEN 3 ELSE 4 END;
--> statement-breakpoint
UPDATE "item_type" SET "template" = E'**Steps to reproduce**\n1.\n\n**Expected**\n\n**Actual**\n\n**Environment** (app version, device, quay)\n\n**Severity** and who meets it\n\n**Workaround**\n\n**Accepted when**\n' WHERE "id" = 'bug';
