/** The narrator is marked, and the newest reading has the highest number: neither rests on a clock. */
export const markedNotOldest = `
ALTER TABLE roles ADD COLUMN is_narrator boolean NOT NULL DEFAULT false;
UPDATE roles SET is_narrator = true WHERE id IN (SELECT DISTINCT ON (production_id) id FROM roles ORDER BY production_id, id);
CREATE UNIQUE INDEX one_narrator ON roles (production_id) WHERE is_narrator;
ALTER TABLE roles ADD COLUMN ordinal bigint;
UPDATE roles r SET ordinal = n.place FROM (SELECT id, row_number() OVER (ORDER BY id) AS place FROM roles) n WHERE n.id = r.id;
CREATE SEQUENCE roles_ordinal OWNED BY roles.ordinal;
SELECT setval('roles_ordinal', coalesce((SELECT max(ordinal) FROM roles), 0) + 1, false);
ALTER TABLE roles ALTER COLUMN ordinal SET DEFAULT nextval('roles_ordinal'), ALTER COLUMN ordinal SET NOT NULL;
ALTER TABLE readings ADD COLUMN ordinal bigint;
UPDATE readings r SET ordinal = n.place FROM (SELECT id, row_number() OVER (ORDER BY created_at, id) AS place FROM readings) n WHERE n.id = r.id;
CREATE SEQUENCE readings_ordinal OWNED BY readings.ordinal;
SELECT setval('readings_ordinal', coalesce((SELECT max(ordinal) FROM readings), 0) + 1, false);
ALTER TABLE readings ALTER COLUMN ordinal SET DEFAULT nextval('readings_ordinal'), ALTER COLUMN ordinal SET NOT NULL;
CREATE INDEX newest_reading ON readings (edition_id, ordinal DESC);
DROP INDEX readings_of_edition;
`
