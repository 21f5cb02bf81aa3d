/** Profiles that were made here; an edition uses one of them, or one that comes with the program (`profile`). */
export const ownProfiles = `
CREATE TABLE delivery_profiles (id uuid PRIMARY KEY, profile jsonb NOT NULL, created_at timestamptz NOT NULL DEFAULT now());
ALTER TABLE editions ADD COLUMN profile_id uuid REFERENCES delivery_profiles;
CREATE INDEX editions_of_profile ON editions (profile_id);
`
