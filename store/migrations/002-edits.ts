/** The log of edits that undo and redo work on. A file of a delivery remembers its part also while that part is merged into another. */
export const edits = `
CREATE TABLE edits (
  id uuid PRIMARY KEY,
  ordinal bigint GENERATED ALWAYS AS IDENTITY,
  edition_id uuid NOT NULL REFERENCES editions ON DELETE CASCADE,
  author_window text NOT NULL,
  what text NOT NULL,
  changes jsonb NOT NULL,
  undone boolean NOT NULL DEFAULT false,
  at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX edits_of_window ON edits (edition_id, author_window, ordinal);
ALTER TABLE delivery_files DROP CONSTRAINT delivery_files_part_id_fkey;
`
