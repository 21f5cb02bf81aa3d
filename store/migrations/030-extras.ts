/**
 * Profiles that were made before, and deliveries, have beside their files what all had. The names of files are those of the profile now where a production has none of its own: the pattern that all began
 * with was chosen by nobody.
 */
export const extras = `
UPDATE delivery_profiles SET profile = profile || '{"extras": ["playlist", "cueSheets"]}';
UPDATE deliveries SET profile = profile || '{"extras": ["playlist", "cueSheets"]}';
ALTER TABLE editions ALTER COLUMN name_pattern DROP NOT NULL;
UPDATE editions SET name_pattern = NULL WHERE name_pattern = '{number}-{title}';
`
