-- An index over libraries: everything here can be made again from their folders.
CREATE TABLE asset (
    number    INTEGER PRIMARY KEY,
    library   TEXT NOT NULL,
    folder    TEXT NOT NULL,
    stamp     TEXT NOT NULL,
    id        TEXT NOT NULL,
    name      TEXT NOT NULL,
    kind      TEXT NOT NULL,
    shelf     TEXT NOT NULL,
    version   TEXT NOT NULL,
    status    TEXT NOT NULL,
    tags      TEXT NOT NULL,
    licence   TEXT NOT NULL,
    triangles INTEGER NOT NULL,
    width     REAL NOT NULL,
    height    REAL NOT NULL,
    depth     REAL NOT NULL,
    UNIQUE (library, folder)
);
CREATE INDEX asset_shelf ON asset (library, shelf);
CREATE VIRTUAL TABLE asset_text USING fts5 (
    name, tags, notes, materials, shelf,
    tokenize = 'unicode61 remove_diacritics 2', prefix = '1 2 3'
);
