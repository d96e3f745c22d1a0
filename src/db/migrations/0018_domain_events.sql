CREATE TABLE "domain_event" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"tx" "xid8" DEFAULT pg_current_xact_id() NOT NULL,
	"project_id" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	"kind" text NOT NULL,
	"version" integer NOT NULL,
	"data" jsonb NOT NULL,
	"item_id" uuid,
	"report_id" uuid
);
--> statement-breakpoint
CREATE TABLE "event_consumer" (
	"name" text PRIMARY KEY NOT NULL,
	"tx" "xid8" NOT NULL,
	"event_id" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "event_shelf" (
	"consumer" text NOT NULL,
	"event_id" bigint NOT NULL,
	"tries" integer NOT NULL,
	"next_at" timestamp(3) with time zone,
	"failure" jsonb NOT NULL,
	CONSTRAINT "event_shelf_consumer_event_id_pk" PRIMARY KEY("consumer","event_id")
);
--> statement-breakpoint
ALTER TABLE "domain_event" ADD CONSTRAINT "domain_event_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "event_shelf" ADD CONSTRAINT "event_shelf_event_id_domain_event_id_fk" FOREIGN KEY ("event_id") REFERENCES "public"."domain_event"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "domain_event_project" ON "domain_event" USING btree ("project_id","id");--> statement-breakpoint
CREATE INDEX "domain_event_order" ON "domain_event" USING btree ("tx","id");--> statement-breakpoint
CREATE INDEX "domain_event_item" ON "domain_event" USING btree ("item_id");--> statement-breakpoint
CREATE INDEX "event_shelf_due" ON "event_shelf" USING btree ("next_at");--> statement-breakpoint
CREATE INDEX "event_shelf_event" ON "event_shelf" USING btree ("event_id");--> statement-breakpoint
-- What the outbox still holds goes on as events, under the same numbers, so that open pages that come back find their place.
INSERT INTO domain_event (id, project_id, at, kind, version, data, item_id, report_id)
SELECT o.id, o.project_id, o.at,
  CASE WHEN o.kind = 'item' THEN 'item changed' WHEN o.kind = 'design' THEN 'triage rules changed' WHEN o.report_id IS NULL THEN 'reports imported' ELSE 'report changed' END,
  1,
  CASE WHEN o.kind = 'item' THEN jsonb_build_object('itemId', o.item_id, 'fromVersion', coalesce(o.from_version, o.version), 'version', o.version, 'depth', o.depth,
      'kinds', coalesce((SELECT jsonb_agg(DISTINCT e.kind) FROM item_event e WHERE e.item_id = o.item_id AND e.seq > o.from_version AND e.seq <= o.version), '[]'),
      'counts', true)
    WHEN o.kind = 'design' THEN '{}'::jsonb
    WHEN o.report_id IS NULL THEN jsonb_build_object('importId', 'before', 'reports', 0)
    ELSE jsonb_build_object('reportId', o.report_id, 'kinds', '[]'::jsonb) END,
  o.item_id, o.report_id
FROM outbox o;
--> statement-breakpoint
SELECT setval(pg_get_serial_sequence('domain_event', 'id'), greatest(1, (SELECT max(id) FROM outbox)), (SELECT count(*) > 0 FROM outbox));
--> statement-breakpoint
-- Each consumer goes on where the worker had come to; what it did of the rest already, doing again changes nothing.
INSERT INTO event_consumer (name, tx, event_id)
SELECT name,
  CASE WHEN EXISTS (SELECT 1 FROM outbox) THEN pg_current_xact_id() ELSE '0'::xid8 END,
  coalesce((SELECT min(id) - 1 FROM outbox WHERE done_at IS NULL), (SELECT max(id) FROM outbox), 0)
FROM (VALUES ('reports of items'), ('triggers')) AS consumer (name);
--> statement-breakpoint
CREATE FUNCTION announce_event() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM pg_notify('zigzag_event', NEW.id::text);
  RETURN NULL;
END
$$;
--> statement-breakpoint
CREATE TRIGGER event_announced AFTER INSERT ON domain_event
  FOR EACH ROW EXECUTE FUNCTION announce_event();
