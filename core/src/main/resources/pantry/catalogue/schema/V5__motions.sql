-- The joints of an asset's skeleton, and the names of its motions. Versions sealed before have neither.
ALTER TABLE asset ADD COLUMN bones INTEGER NOT NULL DEFAULT 0;
ALTER TABLE asset ADD COLUMN motions TEXT NOT NULL DEFAULT '';
