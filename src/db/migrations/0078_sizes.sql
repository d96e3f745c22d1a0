CREATE TABLE "sizing_round" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"item_id" uuid NOT NULL,
	"opened_by" text NOT NULL,
	"opened_at" timestamp(3) with time zone NOT NULL,
	"shown_at" timestamp(3) with time zone,
	"again" integer DEFAULT 0 NOT NULL,
	"ended_at" timestamp(3) with time zone
);
--> statement-breakpoint
CREATE TABLE "sizing_vote" (
	"round_id" uuid NOT NULL,
	"person_id" text NOT NULL,
	"size" double precision,
	"at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "sizing_vote_round_id_person_id_pk" PRIMARY KEY("round_id","person_id")
);
--> statement-breakpoint
ALTER TABLE "dated_setting" DROP CONSTRAINT "dated_setting_name";--> statement-breakpoint
ALTER TABLE "project" ADD COLUMN "size_scale" jsonb DEFAULT '{"kind":"points","steps":[{"name":"0","size":0},{"name":"1","size":1},{"name":"2","size":2},{"name":"3","size":3},{"name":"5","size":5},{"name":"8","size":8},{"name":"13","size":13},{"name":"20","size":20}]}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "sizing_round" ADD CONSTRAINT "sizing_round_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sizing_round" ADD CONSTRAINT "sizing_round_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sizing_round" ADD CONSTRAINT "sizing_round_opened_by_person_id_fk" FOREIGN KEY ("opened_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sizing_vote" ADD CONSTRAINT "sizing_vote_round_id_sizing_round_id_fk" FOREIGN KEY ("round_id") REFERENCES "public"."sizing_round"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sizing_vote" ADD CONSTRAINT "sizing_vote_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "sizing_round_open" ON "sizing_round" USING btree ("item_id") WHERE "sizing_round"."ended_at" is null;--> statement-breakpoint
CREATE INDEX "sizing_round_project" ON "sizing_round" USING btree ("project_id","ended_at");--> statement-breakpoint
ALTER TABLE "dated_setting" ADD CONSTRAINT "dated_setting_name" CHECK ("dated_setting"."setting" in ('zone', 'expectation', 'calendar', 'promises', 'sizes'));