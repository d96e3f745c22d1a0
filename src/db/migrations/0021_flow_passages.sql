CREATE TABLE "flow_passage" (
	"item_id" uuid NOT NULL,
	"seq" integer NOT NULL,
	"project_id" text NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	"kind" text NOT NULL,
	"outcome" text,
	"elapsed_ms" bigint,
	"since_last_ms" bigint,
	CONSTRAINT "flow_passage_item_id_seq_pk" PRIMARY KEY("item_id","seq"),
	CONSTRAINT "flow_passage_kind" CHECK ("flow_passage"."kind" in ('start', 'delivered', 'stopped', 'again')),
	CONSTRAINT "flow_passage_finish" CHECK (("flow_passage"."kind" = 'start') = ("flow_passage"."elapsed_ms" is null))
);
--> statement-breakpoint
ALTER TABLE "stay" ADD COLUMN "blocked_ms" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "flow_passage" ADD CONSTRAINT "flow_passage_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "flow_passage" ADD CONSTRAINT "flow_passage_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "flow_passage_project" ON "flow_passage" USING btree ("project_id","at");--> statement-breakpoint
-- How long of each stay its item was blocked: overlapping blockers count once, and a stretch that still goes on in an open stay counts when it ends.
UPDATE stay s SET blocked_ms = b.ms FROM (
  SELECT s.item_id, s.entered_seq, round(sum(extract(epoch FROM
    least(coalesce(s.left_at, upper(r)), coalesce(upper(r), s.left_at)) - greatest(s.entered_at, lower(r))) * 1000))::bigint AS ms
  FROM stay s
  JOIN LATERAL (SELECT unnest(range_agg(tstzrange(k.from_at, k.lifted_at))) AS r FROM block k WHERE k.item_id = s.item_id AND k.from_at IS DISTINCT FROM k.lifted_at) m ON true
  WHERE r && tstzrange(s.entered_at, s.left_at) AND (s.left_at IS NOT NULL OR NOT upper_inf(r))
  GROUP BY 1, 2
) b WHERE b.item_id = s.item_id AND b.entered_seq = s.entered_seq;
--> statement-breakpoint
INSERT INTO flow_passage (item_id, seq, project_id, at, kind, outcome, elapsed_ms, since_last_ms)
WITH step AS (
  SELECT s.*, i.project_id,
    lag(s.kind) OVER w AS before,
    coalesce(sum(CASE WHEN s.kind IN ('waiting', 'working') THEN round(extract(epoch FROM coalesce(s.left_at, s.entered_at) - s.entered_at) * 1000) ELSE 0 END)
      OVER (PARTITION BY s.item_id ORDER BY s.entered_seq ROWS BETWEEN UNBOUNDED PRECEDING AND 1 PRECEDING), 0)::bigint AS elapsed
  FROM stay s JOIN item i ON i.id = s.item_id
  WINDOW w AS (PARTITION BY s.item_id ORDER BY s.entered_seq)
), finish AS (
  SELECT *, count(*) FILTER (WHERE outcome IS NULL OR outcome = 'delivered') OVER (PARTITION BY item_id ORDER BY entered_seq ROWS BETWEEN UNBOUNDED PRECEDING AND 1 PRECEDING) AS delivered,
    lag(elapsed) OVER (PARTITION BY item_id ORDER BY entered_seq) AS last
  FROM step WHERE kind = 'finished' AND before IN ('waiting', 'working')
)
SELECT item_id, entered_seq, project_id, entered_at, 'start', NULL, NULL, NULL FROM step
WHERE kind IN ('waiting', 'working') AND coalesce(before, 'unstarted') NOT IN ('waiting', 'working')
UNION ALL
SELECT item_id, entered_seq, project_id, entered_at,
  CASE WHEN delivered > 0 THEN 'again' WHEN outcome IS NULL OR outcome = 'delivered' THEN 'delivered' ELSE 'stopped' END,
  outcome, elapsed, elapsed - coalesce(last, 0)
FROM finish;
