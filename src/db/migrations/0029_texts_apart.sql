CREATE TABLE "item_text" (
	"item_id" uuid NOT NULL,
	"seq" integer NOT NULL,
	"id" uuid NOT NULL,
	"body" text NOT NULL,
	"emptied_at" timestamp(3) with time zone,
	"emptied_by" text,
	"why_emptied" text,
	CONSTRAINT "item_text_item_id_seq_id_pk" PRIMARY KEY("item_id","seq","id"),
	CONSTRAINT "item_text_emptied" CHECK (("item_text"."emptied_at" is null) = ("item_text"."why_emptied" is null))
);
--> statement-breakpoint
ALTER TABLE "item_event" ADD COLUMN "note_id" uuid;--> statement-breakpoint
ALTER TABLE "item_text" ADD CONSTRAINT "item_text_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_text" ADD CONSTRAINT "item_text_emptied_by_person_id_fk" FOREIGN KEY ("emptied_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
-- Where free texts stand in an event: fields of an item, a value, or the cause of a blocker.
CREATE FUNCTION texts_of_fields(part text, fields jsonb) RETURNS TABLE (path text[], body text) LANGUAGE sql IMMUTABLE AS $$
  SELECT ARRAY[part, f.key], f.value #>> '{}' FROM jsonb_each(fields) f
  WHERE f.key IN ('title', 'description', 'place', 'howToTest') AND jsonb_typeof(f.value) = 'string'
  UNION ALL
  SELECT ARRAY[part, 'own', o.key], o.value #>> '{}'
  FROM jsonb_each(CASE WHEN jsonb_typeof(fields -> 'own') = 'object' THEN fields -> 'own' ELSE '{}' END) o
  WHERE jsonb_typeof(o.value) = 'string'
  UNION ALL
  SELECT ARRAY[part, 'openBlockers', (b.n - 1)::text, t.key], t.value #>> '{}'
  FROM jsonb_array_elements(CASE WHEN jsonb_typeof(fields -> 'openBlockers') = 'array' THEN fields -> 'openBlockers' ELSE '[]' END) WITH ORDINALITY b (blocker, n)
  CROSS JOIN LATERAL jsonb_each(b.blocker) t
  WHERE t.key IN ('cause', 'waitingFor') AND jsonb_typeof(t.value) = 'string'
$$;
--> statement-breakpoint
CREATE FUNCTION texts_of_event(e item_event) RETURNS TABLE (path text[], body text) LANGUAGE sql STABLE AS $$
  SELECT f.path, f.body FROM texts_of_fields('new', e.new) f WHERE e.kind IN ('created', 'undone')
  UNION ALL
  SELECT ARRAY[v.part], v.value #>> '{}'
  FROM (VALUES ('old', e.old), ('new', e.new)) v (part, value)
  WHERE jsonb_typeof(v.value) = 'string'
    AND (e.kind = 'own changed' OR (e.kind = 'changed' AND e.field IN ('title', 'description', 'place', 'howToTest')))
  UNION ALL
  SELECT ARRAY['new', t.key], t.value #>> '{}' FROM jsonb_each(CASE WHEN e.kind IN ('commented', 'blocked') THEN e.new END) t
  WHERE t.key IN ('body', 'cause', 'waitingFor') AND jsonb_typeof(t.value) = 'string'
  UNION ALL
  SELECT ARRAY['old', 'cause'], e.old ->> 'cause' WHERE e.kind = 'lifted' AND jsonb_typeof(e.old -> 'cause') = 'string'
  UNION ALL
  SELECT ARRAY['note'], e.note WHERE e.note IS NOT NULL
$$;
--> statement-breakpoint
CREATE FUNCTION with_ids(part text, document jsonb, ids jsonb) RETURNS jsonb LANGUAGE plpgsql IMMUTABLE AS $$
DECLARE one jsonb; path text[];
BEGIN
  FOR one IN SELECT * FROM jsonb_array_elements(ids) LOOP
    path := (one ->> 'path')::text[];
    IF path[1] = part THEN
      document := CASE WHEN cardinality(path) = 1 THEN one -> 'id' ELSE jsonb_set(document, path[2:], one -> 'id') END;
    END IF;
  END LOOP;
  RETURN document;
END
$$;
--> statement-breakpoint
-- Each text gets a row of its own, and the event its id where it stood. An empty text stays as it is.
CREATE TEMP TABLE found_text ON COMMIT DROP AS
  SELECT e.item_id, e.seq, gen_random_uuid() AS id, t.path, t.body
  FROM item_event e CROSS JOIN LATERAL texts_of_event(e) t WHERE t.body <> '';
--> statement-breakpoint
INSERT INTO item_text (item_id, seq, id, body) SELECT item_id, seq, id, body FROM found_text;
--> statement-breakpoint
ALTER TABLE item_event DISABLE TRIGGER item_event_append_only;
--> statement-breakpoint
UPDATE item_event e SET
  old = with_ids('old', e.old, f.ids),
  new = with_ids('new', e.new, f.ids),
  note_id = (with_ids('note', 'null', f.ids) #>> '{}')::uuid
FROM (
  SELECT item_id, seq, jsonb_agg(jsonb_build_object('path', path::text, 'id', id)) AS ids
  FROM found_text GROUP BY item_id, seq
) f
WHERE e.item_id = f.item_id AND e.seq = f.seq;
--> statement-breakpoint
ALTER TABLE item_event ENABLE TRIGGER item_event_append_only;
--> statement-breakpoint
DROP FUNCTION with_ids(text, jsonb, jsonb);
--> statement-breakpoint
DROP FUNCTION texts_of_event(item_event);
--> statement-breakpoint
DROP FUNCTION texts_of_fields(text, jsonb);
--> statement-breakpoint
CREATE FUNCTION refuse_rewriting_text() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'UPDATE' AND NEW.emptied_at IS NOT NULL
    AND (NEW.item_id, NEW.seq, NEW.id) = (OLD.item_id, OLD.seq, OLD.id) THEN
    RETURN NEW;
  END IF;
  RAISE EXCEPTION 'item_text is append-only, but for texts that are emptied';
END
$$;
--> statement-breakpoint
CREATE TRIGGER item_text_append_only BEFORE UPDATE OR DELETE ON item_text
  FOR EACH ROW EXECUTE FUNCTION refuse_rewriting_text();
