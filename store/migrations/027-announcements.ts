/** What is said and heard around the text of an edition; profiles that were made before announce nothing. */
export const announcements = `
ALTER TABLE editions ADD COLUMN announcements jsonb;
UPDATE delivery_profiles SET profile = profile || '{"announcements": null}';
`
