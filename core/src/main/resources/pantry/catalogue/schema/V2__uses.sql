-- What layer files name and what is used in them, as composed. Like the index of assets, it can be made again.

-- Every layer file of a project, and every file that these lead to. A file that is not there has an empty stamp.
CREATE TABLE layer (
    id      INTEGER NOT NULL PRIMARY KEY,
    path    TEXT NOT NULL UNIQUE,
    project TEXT NOT NULL,
    stamp   TEXT NOT NULL,
    problem TEXT NOT NULL
);
CREATE INDEX layer_project ON layer (project);

-- A file that a layer names; places are prims and properties with U+001F between them.
CREATE TABLE layer_arc (
    layer  INTEGER NOT NULL,
    kind   TEXT NOT NULL,
    target INTEGER NOT NULL,
    places TEXT NOT NULL
);
CREATE INDEX layer_arc_layer ON layer_arc (layer);
CREATE INDEX layer_arc_target ON layer_arc (target);

-- How often something is used in a file of a project: a version of an asset, by its folder, or another file.
CREATE TABLE layer_use (
    layer     INTEGER NOT NULL,
    target    TEXT NOT NULL,
    version   TEXT NOT NULL,
    following INTEGER NOT NULL,
    uses      BIGINT NOT NULL
);
CREATE INDEX layer_use_layer ON layer_use (layer);
CREATE INDEX layer_use_target ON layer_use (target);
