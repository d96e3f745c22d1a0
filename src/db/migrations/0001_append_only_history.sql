-- The history of an item is never rewritten: changing or deleting an event is refused by the database itself.
CREATE FUNCTION refuse_rewriting_history() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'item_event is append-only';
END
$$;
--> statement-breakpoint
CREATE TRIGGER item_event_append_only BEFORE UPDATE OR DELETE ON item_event
  FOR EACH ROW EXECUTE FUNCTION refuse_rewriting_history();
--> statement-breakpoint
-- Every committed row of the outbox is announced to whoever listens; the notice carries only its number.
CREATE FUNCTION announce_outbox() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM pg_notify('zigzag_outbox', NEW.id::text);
  RETURN NULL;
END
$$;
--> statement-breakpoint
CREATE TRIGGER outbox_announced AFTER INSERT ON outbox
  FOR EACH ROW EXECUTE FUNCTION announce_outbox();
