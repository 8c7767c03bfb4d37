-- The names of what an asset's meshes can be moved towards. Versions sealed before have none.
ALTER TABLE asset ADD COLUMN shapes TEXT NOT NULL DEFAULT '';
