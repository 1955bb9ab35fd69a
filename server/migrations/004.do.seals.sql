-- What relies on sealant alone is no leak: it is counted by itself.
ALTER TABLE document_findings ADD COLUMN seals integer;
