CREATE TABLE "wip_limit" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"owner_kind" text NOT NULL,
	"owner_id" text NOT NULL,
	"min" integer,
	"max" integer,
	"min_firm" boolean NOT NULL,
	"max_firm" boolean NOT NULL,
	"valid_from" timestamp(3) with time zone NOT NULL,
	"valid_to" timestamp(3) with time zone,
	CONSTRAINT "wip_limit_owner" CHECK ("wip_limit"."owner_kind" in ('state', 'column')),
	CONSTRAINT "wip_limit_bounds" CHECK (("wip_limit"."min" is null or "wip_limit"."min" >= 0) and ("wip_limit"."max" is null or "wip_limit"."max" >= coalesce("wip_limit"."min", 0)))
);
--> statement-breakpoint
ALTER TABLE "wip_limit" ADD CONSTRAINT "wip_limit_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "wip_limit_in_force" ON "wip_limit" USING btree ("owner_kind","owner_id") WHERE "wip_limit"."valid_to" is null;
--> statement-breakpoint
INSERT INTO wip_limit (id, project_id, owner_kind, owner_id, min, max, min_firm, max_firm, valid_from)
SELECT gen_random_uuid(), b.project_id, 'column', c.id, c.min, c.max, c.min_firm, c.max_firm, now()
FROM board_column c JOIN board b ON b.id = c.board_id
WHERE c.min IS NOT NULL OR c.max IS NOT NULL;
--> statement-breakpoint
INSERT INTO wip_limit (id, project_id, owner_kind, owner_id, min, max, min_firm, max_firm, valid_from)
SELECT gen_random_uuid(), w.project_id, 'state', s.state ->> 'id', NULL,
  (s.state #>> '{limit,max}')::int, false, (s.state #>> '{limit,firm}')::boolean, v.at
FROM workflow w JOIN workflow_version v ON v.workflow_id = w.id AND v.version = w.version
CROSS JOIN LATERAL jsonb_array_elements(v.definition -> 'states') s (state)
WHERE jsonb_typeof(s.state -> 'limit') = 'object';
