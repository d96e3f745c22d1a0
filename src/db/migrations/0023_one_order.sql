CREATE INDEX "item_rank" ON "item" USING btree ("rank");
--> statement-breakpoint
-- Until now each state had an order of its own; now all items stand in one. Within a state nothing changes: items follow each
-- other by project, then as they stood. Each item's history says what its rank is from now on.
CREATE TEMPORARY TABLE one_order ON COMMIT DROP AS
  SELECT id, version, rank AS old, updated_at,
    'd' || substr(digits, (n / 238328 % 62)::int + 1, 1) || substr(digits, (n / 3844 % 62)::int + 1, 1)
        || substr(digits, (n / 62 % 62)::int + 1, 1) || substr(digits, (n % 62)::int + 1, 1) AS rank
  FROM (
    SELECT id, version, rank, updated_at, row_number() OVER (ORDER BY project_id, rank, number) AS n,
      '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz' AS digits
    FROM item
  ) numbered;
--> statement-breakpoint
INSERT INTO item_event (item_id, seq, at, actor_id, cause, command_id, kind, old, new)
SELECT id, version + 1, greatest(date_trunc('milliseconds', now()), updated_at), NULL, 'upgrade', gen_random_uuid(), 'ranked', to_jsonb(old), to_jsonb(rank) FROM one_order;
--> statement-breakpoint
UPDATE item i SET rank = o.rank, version = i.version + 1, updated_at = greatest(date_trunc('milliseconds', now()), i.updated_at)
FROM one_order o WHERE o.id = i.id;
--> statement-breakpoint
DROP TABLE one_order;
