/** Takes have names, and say where they are from and what they say; a producer's choices of takes are edits. */
export const choices = `
ALTER TABLE takes ADD COLUMN text_hash text, ADD COLUMN id text GENERATED ALWAYS AS (CASE WHEN variant = 0 THEN key ELSE key || '.' || variant END) STORED;
ALTER TABLE takes ADD CONSTRAINT takes_origin CHECK (origin IN ('engine', 'recorded', 'imported'));
UPDATE takes SET origin = 'imported' WHERE key IN (SELECT take_key FROM assets);
CREATE UNIQUE INDEX takes_by_id ON takes (id);
CREATE INDEX takes_of_pack ON takes (pack, "offset");
ALTER TABLE part_summaries RENAME COLUMN keys TO takes;
CREATE TABLE choices (
  id uuid PRIMARY KEY,
  ordinal bigint GENERATED ALWAYS AS IDENTITY,
  edition_id uuid NOT NULL REFERENCES editions ON DELETE CASCADE,
  at jsonb NOT NULL,
  take text NOT NULL
);
CREATE INDEX choices_in_order ON choices (edition_id, ordinal);
CREATE INDEX choices_of_take ON choices (take);
`
