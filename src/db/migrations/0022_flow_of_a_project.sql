ALTER TABLE "flow_passage" ADD COLUMN "times" jsonb;--> statement-breakpoint
ALTER TABLE "stay" ADD COLUMN "project_id" text;--> statement-breakpoint
UPDATE stay s SET project_id = i.project_id FROM item i WHERE i.id = s.item_id;--> statement-breakpoint
ALTER TABLE "stay" ALTER COLUMN "project_id" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "stay" ADD CONSTRAINT "stay_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "stay_project" ON "stay" USING btree ("project_id","entered_at");--> statement-breakpoint
-- How long each item had been in each state in progress when it was first delivered.
UPDATE flow_passage p SET times = coalesce((
  SELECT jsonb_object_agg(t.state_id, jsonb_build_object('kind', t.kind, 'spentMs', t.spent, 'blockedMs', t.blocked))
  FROM (
    SELECT s.state_id, s.kind, round(sum(extract(epoch FROM s.left_at - s.entered_at) * 1000))::bigint AS spent, sum(s.blocked_ms)::bigint AS blocked
    FROM stay s WHERE s.item_id = p.item_id AND s.entered_seq < p.seq AND s.left_at IS NOT NULL AND s.kind IN ('waiting', 'working')
    GROUP BY s.state_id, s.kind
  ) t), '{}')
WHERE p.kind = 'delivered';--> statement-breakpoint
ALTER TABLE "flow_passage" ADD CONSTRAINT "flow_passage_times" CHECK (("flow_passage"."kind" = 'delivered') = ("flow_passage"."times" is not null));