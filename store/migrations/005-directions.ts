/** Version 2 of the content of passages: emphasis says how strong it is. Roles of passages. */
export const directions = `
UPDATE passages SET content = jsonb_set(replace(content::text, '"kind": "emphasis"', '"kind": "emphasis", "level": "moderate"')::jsonb, '{version}', '2');
UPDATE edits SET changes = replace(replace(changes::text, '"kind": "emphasis"', '"kind": "emphasis", "level": "moderate"'), '"version": 1, "directions"', '"version": 2, "directions"')::jsonb;
ALTER TABLE passages ADD COLUMN role text;
`
