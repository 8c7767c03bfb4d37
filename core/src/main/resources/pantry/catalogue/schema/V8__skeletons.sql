-- What tells skeletons with the same joints. What has a skeleton is read from its folder once more.
ALTER TABLE asset ADD COLUMN skeleton TEXT NOT NULL DEFAULT '';
UPDATE asset SET stamp = 'unread' WHERE bones > 0;
