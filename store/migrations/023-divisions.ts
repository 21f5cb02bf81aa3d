/**
 * How the script of an edition is divided into files: by its own rule or its profile's, and by marks set by hand. Files are known by where they begin, not by one part. A mark stays when its passage is
 * taken away: undoing that brings the passage back. A delivery has by what its level is found. One that is being made is ordered anew.
 */
export const divisions = `
ALTER TABLE editions ADD COLUMN split jsonb;
ALTER TABLE part_summaries ADD COLUMN sheet jsonb;
CREATE TABLE file_marks (
  edition_id uuid NOT NULL REFERENCES editions ON DELETE CASCADE, passage_id uuid NOT NULL, mark text NOT NULL,
  PRIMARY KEY (edition_id, passage_id)
);
UPDATE deliveries SET state = 'failed', ended_at = now(),
  problem = '{"code": "program-updated", "message": "This program was updated while the delivery was made. Deliver again: files that were finished are used again."}'
  WHERE state = 'running';
DELETE FROM delivery_orders;
ALTER TABLE delivery_orders DROP COLUMN part_id, ADD COLUMN key text NOT NULL, ADD COLUMN sound text NOT NULL;
ALTER TABLE delivery_files ADD COLUMN key text;
UPDATE delivery_files SET key = part_id || '.0' WHERE part_id IS NOT NULL;
ALTER TABLE delivery_files DROP COLUMN part_id;
CREATE INDEX delivery_files_of_key ON delivery_files (key);
ALTER TABLE deliveries DROP COLUMN part_ids, ADD COLUMN level_sample jsonb;
`
