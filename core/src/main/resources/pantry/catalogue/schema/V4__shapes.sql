-- What shape the meshes of a file have that it defines itself: by that it is known again when it was written anew.
ALTER TABLE layer ADD COLUMN shape TEXT NOT NULL DEFAULT '';

-- What is known already is read once more for it.
UPDATE layer SET stamp = 'unread' WHERE stamp <> '';
