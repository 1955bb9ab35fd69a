CREATE TABLE organisations (
  id text PRIMARY KEY,
  name text NOT NULL
);

-- A pack version never changes once it is here: a change is a new version.
CREATE TABLE packs (
  organisation_id text NOT NULL REFERENCES organisations (id),
  id text NOT NULL,
  version integer NOT NULL CHECK (version > 0),
  body json NOT NULL,
  PRIMARY KEY (organisation_id, id, version)
);

CREATE TABLE catalogs (
  organisation_id text PRIMARY KEY REFERENCES organisations (id),
  body json NOT NULL
);

CREATE TABLE jobs (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  organisation_id text NOT NULL REFERENCES organisations (id),
  version integer NOT NULL CHECK (version > 0),
  created_at timestamptz NOT NULL DEFAULT now(),
  updated_at timestamptz NOT NULL DEFAULT now(),
  deleted_at timestamptz,
  UNIQUE (organisation_id, id)
);

-- Saving appends; what was saved is never overwritten. json, not jsonb: a document comes back with its keys in the order it had.
CREATE TABLE job_revisions (
  organisation_id text NOT NULL,
  job_id uuid NOT NULL,
  version integer NOT NULL CHECK (version > 0),
  body json NOT NULL,
  saved_at timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (job_id, version),
  FOREIGN KEY (organisation_id, job_id) REFERENCES jobs (organisation_id, id)
);

CREATE INDEX jobs_by_organisation ON jobs (organisation_id, updated_at DESC) WHERE deleted_at IS NULL;
