/**
 * Events are numbered when their transactions commit, one transaction after the other: whoever has seen one has seen all with smaller numbers. A number that is taken
 * before could become visible after a greater one.
 */
export const eventsInOrder = `
DELETE FROM events;
ALTER TABLE events ADD COLUMN ordinal bigint;
CREATE SEQUENCE events_ordinal OWNED BY events.ordinal;
SELECT setval('events_ordinal', (SELECT last_value FROM events_id_seq) + 1, false);
CREATE INDEX events_of_topic ON events (topic, ordinal);
CREATE INDEX events_in_order ON events (ordinal);
CREATE FUNCTION number_event() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM pg_advisory_xact_lock(hashtext('quill events'));
  UPDATE events SET ordinal = nextval('events_ordinal') WHERE id = NEW.id;
  RETURN NULL;
END $$;
CREATE CONSTRAINT TRIGGER number_event AFTER INSERT ON events DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION number_event();
`
