/** What a production was made from, as a digest: the same request that comes twice makes one. */
export const requestOnce = `
ALTER TABLE editions ADD COLUMN request text;
CREATE UNIQUE INDEX edition_of_request ON editions (request);
`
