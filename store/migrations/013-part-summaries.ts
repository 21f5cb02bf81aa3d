/** What lists show of a part, kept, so that nobody compiles a script to count its sentences; `read` is the digest of what it was compiled from. */
export const partSummaries = `
CREATE TABLE part_summaries (
  part_id uuid PRIMARY KEY REFERENCES parts ON DELETE CASCADE,
  read text NOT NULL, facts jsonb NOT NULL, keys text[] NOT NULL, samples integer[] NOT NULL
);
ALTER TABLE editions ADD COLUMN summarised text;
CREATE INDEX reading_utterances_by_key ON reading_utterances (key);
`
