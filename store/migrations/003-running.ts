/** Why a reading ended before its end; which workers are there. */
export const running = `
ALTER TABLE readings ADD COLUMN problem jsonb;
CREATE TABLE workers (id uuid PRIMARY KEY, started_at timestamptz NOT NULL DEFAULT now(), seen_at timestamptz NOT NULL DEFAULT now());
`
