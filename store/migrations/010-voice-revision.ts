/** The embedded engine no longer calls a full stop by its name behind sounds, brackets and quotation marks: what it read before is read again. */
export const voiceRevision = `
UPDATE castings SET voice_revision = regexp_replace(voice_revision, '/2$', '/3') WHERE engine = 'espeak';
`
