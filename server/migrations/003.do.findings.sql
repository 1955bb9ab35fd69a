-- What planning a document and letting water run over it found: worked out in the background, kept by the document's and the planner's own hash.
ALTER TABLE jobs ADD COLUMN document_hash text;

CREATE TABLE document_findings (
  document_hash text NOT NULL,
  planner text NOT NULL,
  -- null when it could not be planned
  leaks integer,
  breaks integer,
  looks integer,
  PRIMARY KEY (document_hash, planner)
);
