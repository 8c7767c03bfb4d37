-- What a file held when it was last there: its bytes and their SHA-256. By that it is known again under another name.
ALTER TABLE layer ADD COLUMN content TEXT NOT NULL DEFAULT '';

-- What is known already is read once more for it.
UPDATE layer SET stamp = 'unread' WHERE stamp <> '';
