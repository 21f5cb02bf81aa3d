/** Sounds of a production; their audio is a take. */
export const sounds = `
CREATE TABLE assets (
  id uuid PRIMARY KEY,
  production_id uuid NOT NULL REFERENCES productions ON DELETE CASCADE,
  kind text NOT NULL CHECK (kind = 'sound'),
  name text NOT NULL,
  take_key text NOT NULL,
  sample_rate integer NOT NULL,
  sample_count bigint NOT NULL,
  created_at timestamptz NOT NULL DEFAULT now(),
  UNIQUE (production_id, kind, name)
);
`
