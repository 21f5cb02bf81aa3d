/** The profile of an edition; levels and verdicts of delivered files, and which encoded pieces are kept. A delivery that is being made is ordered anew: files have another profile now. */
export const pieces = `
ALTER TABLE editions ADD COLUMN profile text NOT NULL DEFAULT 'book';
ALTER TABLE delivery_files ADD COLUMN levels jsonb, ADD COLUMN findings jsonb;
CREATE TABLE pieces (key text PRIMARY KEY, used_at timestamptz NOT NULL DEFAULT now());
CREATE INDEX pieces_used ON pieces (used_at);
UPDATE deliveries SET state = 'failed', ended_at = now(),
  problem = '{"code": "program-updated", "message": "This program was updated while the delivery was made. Deliver again: files that were finished are used again."}'
  WHERE state = 'running';
`
