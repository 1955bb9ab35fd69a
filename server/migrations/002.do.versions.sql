-- What the list of jobs shows, written by the application from its own reading of the document: a list never looks into one.
ALTER TABLE jobs
  ADD COLUMN name text,
  ADD COLUMN slope text,
  ADD COLUMN slopes integer,
  ADD COLUMN walls integer,
  ADD COLUMN features integer,
  -- The shipped job it still is, untouched; null once anyone saved it.
  ADD COLUMN shipped text;

DROP INDEX jobs_by_organisation;
CREATE INDEX jobs_by_organisation ON jobs (organisation_id, updated_at DESC, id DESC) WHERE deleted_at IS NULL;

-- Each save has an id of its own: sent again because its answer was lost, it is found instead of made twice.
ALTER TABLE job_revisions ADD COLUMN save_id uuid;
CREATE UNIQUE INDEX job_saves ON job_revisions (job_id, save_id);

-- Catalogs have versions as packs do; what there was becomes the first.
ALTER TABLE catalogs ADD COLUMN version integer NOT NULL DEFAULT 1 CHECK (version > 0);
ALTER TABLE catalogs ALTER COLUMN version DROP DEFAULT;
ALTER TABLE catalogs DROP CONSTRAINT catalogs_pkey;
ALTER TABLE catalogs ADD PRIMARY KEY (organisation_id, version);

-- The shipped jobs an organisation was ever given: one it deleted does not come back.
CREATE TABLE shipped_jobs (
  organisation_id text NOT NULL REFERENCES organisations (id),
  file text NOT NULL,
  PRIMARY KEY (organisation_id, file)
);

-- Those came with the organisation, in one transaction, which gave them all the same moment.
WITH came AS (
  SELECT j.organisation_id, j.id, j.version,
         CASE WHEN r.body::text LIKE '%"Ringing House: north plane and tower wall"%' THEN 'ringing-house-north.ruvet.json'
              ELSE 'ringing-house.ruvet.json' END AS file
  FROM jobs j JOIN job_revisions r ON r.job_id = j.id AND r.version = 1
  WHERE j.created_at = (SELECT min(created_at) FROM jobs first WHERE first.organisation_id = j.organisation_id)
    AND r.body::text LIKE '%"Ringing House%'
), known AS (
  INSERT INTO shipped_jobs (organisation_id, file) SELECT DISTINCT organisation_id, file FROM came
)
UPDATE jobs SET shipped = came.file FROM came WHERE jobs.id = came.id AND came.version = 1;
