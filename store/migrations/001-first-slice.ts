/** Productions with their script and voice, takes, readings, deliveries, events. */
export const firstSlice = `
CREATE TABLE manuscripts (
  id uuid PRIMARY KEY, file_name text NOT NULL, sha256 text NOT NULL, content jsonb NOT NULL,
  created_at timestamptz NOT NULL DEFAULT now()
);
CREATE TABLE house_styles (id uuid PRIMARY KEY, name text NOT NULL, rules jsonb NOT NULL);
CREATE TABLE productions (
  id uuid PRIMARY KEY, title text NOT NULL, author text,
  created_at timestamptz NOT NULL DEFAULT now(), changed_at timestamptz NOT NULL DEFAULT now()
);
CREATE TABLE editions (
  id uuid PRIMARY KEY,
  production_id uuid NOT NULL REFERENCES productions ON DELETE CASCADE,
  manuscript_id uuid REFERENCES manuscripts ON DELETE SET NULL,
  house_style_id uuid NOT NULL REFERENCES house_styles ON DELETE RESTRICT,
  language text NOT NULL, name_pattern text NOT NULL, revision integer NOT NULL DEFAULT 1
);
CREATE INDEX editions_of_production ON editions (production_id);
CREATE TABLE parts (
  id uuid PRIMARY KEY, edition_id uuid NOT NULL REFERENCES editions ON DELETE CASCADE,
  rank text COLLATE "C" NOT NULL, kind text NOT NULL, label text NOT NULL,
  included boolean NOT NULL DEFAULT true, revision integer NOT NULL DEFAULT 1
);
CREATE INDEX parts_in_order ON parts (edition_id, rank);
CREATE TABLE passages (
  id uuid PRIMARY KEY, part_id uuid NOT NULL REFERENCES parts ON DELETE CASCADE,
  rank text COLLATE "C" NOT NULL, kind text NOT NULL, content jsonb NOT NULL, imported_text text,
  revision integer NOT NULL DEFAULT 1
);
CREATE INDEX passages_in_order ON passages (part_id, rank);
CREATE TABLE roles (
  id uuid PRIMARY KEY, production_id uuid NOT NULL REFERENCES productions ON DELETE CASCADE, name text NOT NULL
);
CREATE INDEX roles_of_production ON roles (production_id);
CREATE TABLE castings (
  role_id uuid NOT NULL REFERENCES roles ON DELETE CASCADE, edition_id uuid NOT NULL REFERENCES editions ON DELETE CASCADE,
  engine text NOT NULL, voice text NOT NULL, voice_revision text NOT NULL,
  words_per_minute double precision NOT NULL, pitch_semitones double precision NOT NULL, gain_db double precision NOT NULL,
  PRIMARY KEY (role_id, edition_id)
);
CREATE INDEX castings_of_edition ON castings (edition_id);
CREATE TABLE takes (
  key text NOT NULL, variant integer NOT NULL DEFAULT 0, origin text NOT NULL DEFAULT 'engine',
  sample_rate integer NOT NULL, sample_count bigint NOT NULL, word_marks integer[] NOT NULL,
  pack text NOT NULL, "offset" bigint NOT NULL, checksum bigint NOT NULL, made_at timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (key, variant)
);
CREATE TABLE claims (key text PRIMARY KEY, holder uuid NOT NULL, expires_at timestamptz NOT NULL);
CREATE TABLE readings (
  id uuid PRIMARY KEY, edition_id uuid NOT NULL REFERENCES editions ON DELETE CASCADE, state text NOT NULL DEFAULT 'running',
  created_at timestamptz NOT NULL DEFAULT now(), ended_at timestamptz
);
CREATE INDEX readings_of_edition ON readings (edition_id, created_at DESC);
CREATE TABLE reading_utterances (
  reading_id uuid NOT NULL REFERENCES readings ON DELETE CASCADE, key text NOT NULL, chunk integer NOT NULL, part_id uuid NOT NULL,
  text text NOT NULL, request jsonb NOT NULL, estimated_ms double precision NOT NULL, fault jsonb,
  PRIMARY KEY (reading_id, key)
);
CREATE INDEX reading_utterances_of_chunk ON reading_utterances (reading_id, chunk);
CREATE TABLE deliveries (
  id uuid PRIMARY KEY, edition_id uuid NOT NULL REFERENCES editions ON DELETE CASCADE, number integer NOT NULL,
  state text NOT NULL DEFAULT 'running', profile jsonb NOT NULL, title text NOT NULL, author text, language text NOT NULL,
  file_count integer NOT NULL, worker uuid, problem jsonb, created_at timestamptz NOT NULL DEFAULT now(), ended_at timestamptz,
  UNIQUE (edition_id, number)
);
CREATE TABLE delivery_files (
  delivery_id uuid NOT NULL REFERENCES deliveries ON DELETE CASCADE, number integer NOT NULL,
  part_id uuid REFERENCES parts ON DELETE SET NULL, name text NOT NULL, title text NOT NULL, duration_ms double precision NOT NULL,
  sample_count bigint NOT NULL, bytes bigint NOT NULL, sha256 text NOT NULL, fingerprint text NOT NULL,
  parts jsonb NOT NULL, sentences jsonb NOT NULL,
  PRIMARY KEY (delivery_id, number)
);
CREATE INDEX delivery_files_of_fingerprint ON delivery_files (fingerprint);
CREATE TABLE events (
  id bigserial PRIMARY KEY, topic text NOT NULL, payload jsonb NOT NULL, at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX events_by_time ON events (at);
`
