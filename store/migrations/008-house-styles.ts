/** House styles get an ordered list of rules; what producers decide about hits and findings is kept. */
export const houseStyles = `
UPDATE house_styles SET rules = rules || '{"rules": []}' WHERE NOT rules ? 'rules';
CREATE TABLE decisions (
  id uuid PRIMARY KEY,
  ordinal bigint GENERATED ALWAYS AS IDENTITY,
  edition_id uuid NOT NULL REFERENCES editions ON DELETE CASCADE,
  decision jsonb NOT NULL
);
CREATE INDEX decisions_in_order ON decisions (edition_id, ordinal);
`
