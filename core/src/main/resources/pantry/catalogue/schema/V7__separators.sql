-- Texts are read with a character between them that none may hold: what was written before is read from the folders once more.
UPDATE asset SET stamp = 'unread';
