/** How words are said: a wordbook for each production, and one that all share. */
export const wordbooks = `
CREATE TABLE wordbooks (
  id uuid PRIMARY KEY,
  production_id uuid UNIQUE REFERENCES productions ON DELETE CASCADE,
  kept jsonb
);
CREATE UNIQUE INDEX wordbooks_shared ON wordbooks ((true)) WHERE production_id IS NULL;
INSERT INTO wordbooks (id) VALUES (gen_random_uuid());
CREATE TABLE wordbook_entries (
  id uuid PRIMARY KEY,
  ordinal bigint GENERATED ALWAYS AS IDENTITY,
  wordbook_id uuid NOT NULL REFERENCES wordbooks ON DELETE CASCADE,
  entry jsonb NOT NULL
);
CREATE INDEX wordbook_entries_in_order ON wordbook_entries (wordbook_id, ordinal);
`
