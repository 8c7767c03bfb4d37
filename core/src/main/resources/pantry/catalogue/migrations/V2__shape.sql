ALTER TABLE asset ADD COLUMN shape TEXT NOT NULL DEFAULT '';
-- Assets that are known already are read anew, for their shapes.
UPDATE asset SET stamp = '';
