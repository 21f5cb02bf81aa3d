/** Intake as a job; what was chosen in it; what a part and a passage bring along from their file. */
export const intake = `
ALTER TABLE manuscripts
  ALTER COLUMN content DROP NOT NULL,
  ADD COLUMN state text NOT NULL DEFAULT 'ready',
  ADD COLUMN progress double precision NOT NULL DEFAULT 1,
  ADD COLUMN problem jsonb,
  ADD COLUMN options jsonb NOT NULL DEFAULT '{}';
UPDATE manuscripts SET content = content || '{"units": [], "problems": []}';
ALTER TABLE editions ADD COLUMN choices jsonb;
ALTER TABLE parts ADD COLUMN about jsonb;
ALTER TABLE passages ADD COLUMN level integer, ADD COLUMN language text, ADD COLUMN block integer;
UPDATE house_styles SET rules = jsonb_set(rules, '{rests,note}', '{"beforeMs": 400, "afterMs": 600}') WHERE rules -> 'rests' -> 'note' IS NULL;
`
