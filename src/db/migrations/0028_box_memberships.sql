CREATE TABLE "box_membership" (
	"item_id" uuid NOT NULL,
	"box" text NOT NULL,
	"entered_seq" integer NOT NULL,
	"box_id" text NOT NULL,
	"from_at" timestamp(3) with time zone NOT NULL,
	"to_at" timestamp(3) with time zone,
	"size_at_start" double precision,
	"size_at_end" double precision,
	"why" text NOT NULL,
	"why_ended" text,
	CONSTRAINT "box_membership_item_id_box_entered_seq_pk" PRIMARY KEY("item_id","box","entered_seq"),
	CONSTRAINT "box_membership_kind" CHECK ("box_membership"."box" in ('sprint', 'release')),
	CONSTRAINT "box_membership_order" CHECK ("box_membership"."to_at" >= "box_membership"."from_at"),
	CONSTRAINT "box_membership_end" CHECK (("box_membership"."to_at" is null) = ("box_membership"."why_ended" is null))
);
--> statement-breakpoint
ALTER TABLE "box_membership" ADD CONSTRAINT "box_membership_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "box_membership_box" ON "box_membership" USING btree ("box","box_id");--> statement-breakpoint
CREATE UNIQUE INDEX "box_membership_open" ON "box_membership" USING btree ("item_id","box") WHERE "box_membership"."to_at" is null;--> statement-breakpoint
-- From the histories: what stands of them says when an item came to a sprint or a release, when it left, and how large it was.
INSERT INTO box_membership (item_id, box, entered_seq, box_id, from_at, to_at, size_at_start, size_at_end, why, why_ended)
WITH undo AS (
  SELECT item_id, seq, (old ->> 'fromSeq')::int AS first, (old ->> 'toSeq')::int AS last FROM item_event WHERE kind = 'undone'
), outermost AS (
  SELECT * FROM undo u WHERE NOT EXISTS (SELECT 1 FROM undo o WHERE o.item_id = u.item_id AND u.seq BETWEEN o.first AND o.last)
), standing_undo AS (
  SELECT * FROM undo u WHERE NOT EXISTS (SELECT 1 FROM outermost o WHERE o.item_id = u.item_id AND u.seq BETWEEN o.first AND o.last)
), event AS MATERIALIZED (
  SELECT e.* FROM item_event e
  WHERE (e.kind IN ('created', 'withdrawn') OR e.kind = 'changed' AND e.field IN ('sprintId', 'releaseId', 'estimate'))
    AND NOT EXISTS (SELECT 1 FROM standing_undo u WHERE u.item_id = e.item_id AND e.seq BETWEEN u.first AND u.last)
), kind (box, field) AS (
  VALUES ('sprint', 'sprintId'), ('release', 'releaseId')
), change AS (
  SELECT e.item_id, e.seq, e.at, e.cause, k.box, e.new ->> k.field AS box_id FROM event e, kind k WHERE e.kind = 'created'
  UNION ALL
  SELECT e.item_id, e.seq, e.at, e.cause, k.box, e.new #>> '{}' FROM event e JOIN kind k ON e.field = k.field WHERE e.kind = 'changed'
  UNION ALL
  SELECT e.item_id, e.seq, e.at, e.cause, k.box, NULL FROM event e, kind k WHERE e.kind = 'withdrawn'
), size AS (
  SELECT e.item_id, e.seq, (CASE WHEN e.kind = 'created' THEN e.new ->> 'estimate' ELSE e.new #>> '{}' END)::float8 AS points
  FROM event e WHERE e.kind = 'created' OR e.field = 'estimate'
), run AS (
  SELECT c.*, lead(c.at) OVER w AS ended_at, lead(c.seq) OVER w AS ended_seq, lead(c.cause) OVER w AS ended_by
  FROM change c WINDOW w AS (PARTITION BY c.item_id, c.box ORDER BY c.seq)
)
SELECT r.item_id, r.box, r.seq, r.box_id, r.at, r.ended_at,
  (SELECT s.points FROM size s WHERE s.item_id = r.item_id AND s.seq <= r.seq ORDER BY s.seq DESC LIMIT 1),
  CASE WHEN r.ended_seq IS NOT NULL THEN (SELECT s.points FROM size s WHERE s.item_id = r.item_id AND s.seq <= r.ended_seq ORDER BY s.seq DESC LIMIT 1) END,
  r.cause, r.ended_by
FROM run r WHERE r.box_id IS NOT NULL;
