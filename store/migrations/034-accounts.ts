/** Accounts of paid engines, each with its bucket of tokens, and what is bought with them. */
export const accounts = `
CREATE TABLE engine_accounts (
  id uuid PRIMARY KEY,
  engine text NOT NULL UNIQUE,
  address text NOT NULL,
  sealed_key text NOT NULL,
  changed_at timestamptz NOT NULL DEFAULT now(),
  tokens double precision NOT NULL DEFAULT 1,
  filled_at timestamptz NOT NULL DEFAULT now()
);
CREATE TABLE ledger_entries (
  id uuid PRIMARY KEY,
  engine text NOT NULL,
  account_id uuid REFERENCES engine_accounts ON DELETE SET NULL,
  edition_id uuid REFERENCES editions ON DELETE SET NULL,
  part_id uuid REFERENCES parts ON DELETE SET NULL,
  state text NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'paid', 'refused')),
  tries integer NOT NULL DEFAULT 0,
  answer text,
  digest text NOT NULL,
  keys text[] NOT NULL,
  request jsonb,
  currency text NOT NULL,
  reserved_characters integer NOT NULL CHECK (reserved_characters >= 0),
  reserved_micros bigint NOT NULL CHECK (reserved_micros >= 0),
  characters integer CHECK (characters >= 0),
  micros bigint CHECK (micros >= 0),
  asked_at timestamptz NOT NULL DEFAULT now(),
  answered_at timestamptz
);
CREATE INDEX ledger_entries_account ON ledger_entries (account_id, digest);
CREATE INDEX ledger_entries_edition ON ledger_entries (edition_id);
CREATE INDEX ledger_entries_part ON ledger_entries (part_id);
CREATE INDEX ledger_entries_asked ON ledger_entries (asked_at);
CREATE INDEX ledger_entries_keys ON ledger_entries USING gin (keys) WHERE request IS NOT NULL;
`
