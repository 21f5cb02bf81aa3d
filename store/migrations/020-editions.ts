/** The names of a production's roles differ. The voices of the engines are kept as their servers have said them last, so that an edition without castings gets some. */
export const editions = `
UPDATE roles r SET name = r.name || ' ' || n.place
  FROM (SELECT id, row_number() OVER (PARTITION BY production_id, name ORDER BY is_narrator DESC, ordinal) AS place FROM roles) n WHERE n.id = r.id AND n.place > 1;
DROP INDEX roles_of_production;
CREATE UNIQUE INDEX roles_of_production ON roles (production_id, name);
CREATE TABLE engine_voices (engine text PRIMARY KEY, voices jsonb NOT NULL, variants jsonb NOT NULL);
`
