-- An index over libraries: everything here can be made again from their folders. SQLite and PostgreSQL both take it.
-- Lists are texts with U+001F between their entries.
CREATE TABLE asset (
    library   TEXT NOT NULL,
    folder    TEXT NOT NULL,
    stamp     TEXT NOT NULL,
    id        TEXT NOT NULL,
    name      TEXT NOT NULL,
    kind      TEXT NOT NULL,
    shelf     TEXT NOT NULL,
    version   TEXT NOT NULL,
    status    TEXT NOT NULL,
    versions  INTEGER NOT NULL,
    tags      TEXT NOT NULL,
    notes     TEXT NOT NULL,
    licence   TEXT NOT NULL,
    credit    TEXT NOT NULL,
    fields    TEXT NOT NULL,
    materials TEXT NOT NULL,
    parts     TEXT NOT NULL,
    colours   TEXT NOT NULL,
    uses      TEXT NOT NULL,
    triangles BIGINT NOT NULL,
    width     DOUBLE PRECISION NOT NULL,
    height    DOUBLE PRECISION NOT NULL,
    depth     DOUBLE PRECISION NOT NULL,
    changed   BIGINT NOT NULL,
    shape     TEXT NOT NULL,
    PRIMARY KEY (library, folder)
);
CREATE INDEX asset_shelf ON asset (library, shelf);
