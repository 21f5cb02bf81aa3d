/** An edition that is taken off the shelf is kept for a while. */
export const removed = `
ALTER TABLE editions ADD COLUMN removed_at timestamptz;
CREATE INDEX editions_removed ON editions (removed_at) WHERE removed_at IS NOT NULL;
`
