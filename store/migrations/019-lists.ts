/** What lists and sweeps look for, found without reading whole tables. */
export const lists = `
CREATE INDEX productions_by_change ON productions (changed_at DESC);
CREATE INDEX editions_of_manuscript ON editions (manuscript_id);
CREATE INDEX editions_of_house_style ON editions (house_style_id);
CREATE INDEX manuscripts_by_file ON manuscripts (sha256);
CREATE INDEX manuscripts_being_read ON manuscripts (id) WHERE state = 'reading';
CREATE INDEX edits_in_order ON edits (edition_id, ordinal);
CREATE INDEX readings_running ON readings (id) WHERE state = 'running';
CREATE INDEX deliveries_running ON deliveries (id) WHERE state = 'running';
CREATE INDEX assets_of_take ON assets (take_key);
CREATE INDEX reading_utterances_of_part ON reading_utterances (part_id);
ALTER TABLE manuscripts ADD COLUMN reader uuid, ADD COLUMN reader_until timestamptz, ADD COLUMN stop_asked boolean NOT NULL DEFAULT false;
`
