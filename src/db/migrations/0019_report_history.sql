CREATE TABLE "report_event" (
	"report_id" uuid NOT NULL,
	"seq" integer NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	"actor_id" text,
	"kind" text NOT NULL,
	"data" jsonb NOT NULL,
	CONSTRAINT "report_event_report_id_seq_pk" PRIMARY KEY("report_id","seq"),
	CONSTRAINT "report_event_seq" CHECK ("report_event"."seq" > 0)
);
--> statement-breakpoint
ALTER TABLE "report" ADD COLUMN "seq" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "report_event" ADD CONSTRAINT "report_event_report_id_report_id_fk" FOREIGN KEY ("report_id") REFERENCES "public"."report"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "report_event" ADD CONSTRAINT "report_event_actor_id_person_id_fk" FOREIGN KEY ("actor_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
-- Verdicts of long ago say nothing of waiting for an item.
CREATE FUNCTION standing(told jsonb) RETURNS jsonb LANGUAGE sql IMMUTABLE AS $$
  SELECT '{"parkedItemId": null}'::jsonb || (told - 'declineReason')
$$;
--> statement-breakpoint
-- What is known of each report so far, as its history: how it came in, verdicts and what was undone of them, and when it last came back to the queue.
WITH step AS (
  SELECT r.id AS report_id, r.received_at AS at, 0 AS part, NULL::text AS actor_id, 'received' AS kind,
    jsonb_build_object('new', jsonb_build_object('way', r.way, 'standing', coalesce(
      (SELECT standing(v.before) FROM report_verdict v WHERE v.report_id = r.id ORDER BY v.at LIMIT 1),
      jsonb_build_object('status', r.status, 'itemId', r.item_id, 'parkedUntil', r.parked_until, 'parkedItemId', r.parked_item_id)))) AS data
  FROM report r
  UNION ALL
  SELECT v.report_id, greatest(v.at, r.received_at), 1, v.by_id, 'judged',
    jsonb_build_object('verdictId', v.id, 'verdict', v.verdict ->> 'kind', 'old', standing(v.before), 'new', standing(v.after))
  FROM report_verdict v JOIN report r ON r.id = v.report_id
  UNION ALL
  SELECT v.report_id, greatest(v.undone_at, v.at, r.received_at), 2, v.undone_by_id, 'verdict undone',
    jsonb_build_object('verdictId', v.id, 'old', standing(v.after), 'new', standing(v.before))
  FROM report_verdict v JOIN report r ON r.id = v.report_id WHERE v.undone_at IS NOT NULL
  UNION ALL
  SELECT r.id, greatest(r.returned_at, r.received_at), 3, NULL, 'returned', jsonb_build_object('why', 'answered', 'old', '{}'::jsonb)
  FROM report r WHERE r.returned_at IS NOT NULL
)
INSERT INTO report_event (report_id, seq, at, actor_id, kind, data)
SELECT report_id, row_number() OVER (PARTITION BY report_id ORDER BY at, part), at, actor_id, kind, data FROM step;
--> statement-breakpoint
-- Where that does not lead to where a report stands, one more step says so.
INSERT INTO report_event (report_id, seq, at, kind, data)
SELECT r.id, l.seq + 1, l.at, 'judged',
  jsonb_build_object('verdictId', r.id, 'verdict', 'park', 'old', l.standing,
    'new', jsonb_build_object('status', r.status, 'itemId', r.item_id, 'parkedUntil', r.parked_until, 'parkedItemId', r.parked_item_id))
FROM report r
JOIN LATERAL (
  SELECT e.seq, e.at, CASE e.kind WHEN 'received' THEN e.data -> 'new' -> 'standing'
    WHEN 'returned' THEN '{"status": "unjudged", "itemId": null, "parkedUntil": null, "parkedItemId": null}'::jsonb
    ELSE e.data -> 'new' END AS standing
  FROM report_event e WHERE e.report_id = r.id ORDER BY e.seq DESC LIMIT 1
) l ON true
WHERE l.standing <> jsonb_build_object('status', r.status, 'itemId', r.item_id, 'parkedUntil', r.parked_until, 'parkedItemId', r.parked_item_id);
--> statement-breakpoint
UPDATE report r SET
  seq = (SELECT max(e.seq) FROM report_event e WHERE e.report_id = r.id),
  version = (SELECT 1 + count(*) FILTER (WHERE e.kind <> 'received') FROM report_event e WHERE e.report_id = r.id);
--> statement-breakpoint
DROP FUNCTION standing(jsonb);
--> statement-breakpoint
CREATE TRIGGER report_event_append_only BEFORE UPDATE ON report_event
  FOR EACH ROW EXECUTE FUNCTION refuse_rewriting_history();
--> statement-breakpoint
CREATE OR REPLACE FUNCTION refuse_rewriting_history() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION '% is append-only', TG_TABLE_NAME;
END
$$;
