package pantry.project;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import pantry.base.PantryException;
import pantry.base.math.Matrix4;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdModelReader;
import pantry.library.Asset;
import pantry.mesh.Merging;
import pantry.mesh.Mesh;
import pantry.mesh.Triangulation;
import pantry.model.Material;
import pantry.model.Model;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.Layers;
import pantry.usd.UsdException;
import pantry.usd.compose.Stage;

/**
 * An asset as one mesh, by which it is known again.
 *
 * @param version the one that it is of
 * @param mesh all of it, in the asset's space; without surfaces' normals and texture coordinates
 */
record AssetShape(Asset asset, String version, Mesh mesh, Set<Material> materials) {
    /** Of the version that is shown; empty where it has no surface, and where it cannot be read. */
    static Optional<AssetShape> of(Asset asset, Layers layers) {
        try {
            String version = asset.shown().orElseThrow(() -> new UsdException(asset.folder(), "has no version", null));
            Layer layer = layers.open(AssetLocation.of(asset.entryLayer(version)));
            Model model = UsdModelReader.read(Stage.open(layer, layers), new MeshCache())
                    .model();
            Gathering gathering = new Gathering();
            model.roots().forEach(root -> gathering.add(root, Matrix4.IDENTITY));
            return gathering.isEmpty()
                    ? Optional.empty()
                    : Optional.of(new AssetShape(asset, version, gathering.mesh(), gathering.materials));
        } catch (UsdException e) {
            return Optional.empty();
        }
    }

    /** How many triangles the version that is shown has; 0 where that is not known. */
    static long triangles(Asset asset) {
        try {
            return asset.shown()
                    .map(version -> asset.facts(version).triangles())
                    .orElse(0L);
        } catch (PantryException e) {
            return 0;
        }
    }

    Set<String> materialNames() {
        return names(materials);
    }

    private static Set<String> names(Set<Material> materials) {
        return materials.stream().map(Material::name).collect(Collectors.toCollection(LinkedHashSet::new));
    }

    /** Meshes as one, in the world; only their shapes. */
    static final class Gathering {
        private final List<Mesh> meshes = new ArrayList<>();
        private final Set<Material> materials = new LinkedHashSet<>();

        void add(Model.Node node, Matrix4 above) {
            Matrix4 world = node.local().times(above);
            for (Model.Part part : node.parts()) {
                meshes.add(part.mesh().transformed(world));
                materials.add(part.material());
            }
            node.children().forEach(child -> add(child, world));
        }

        boolean isEmpty() {
            return meshes.stream().allMatch(mesh -> mesh.faceCount() == 0);
        }

        /** In triangles: what was exported once comes back in them. */
        Mesh mesh() {
            Mesh whole = Merging.of(meshes);
            int[] corners = Triangulation.corners(whole);
            for (int i = 0; i < corners.length; i++) {
                corners[i] = whole.corners()[corners[i]];
            }
            int[] sizes = new int[corners.length / 3];
            Arrays.fill(sizes, 3);
            return new Mesh(whole.points(), sizes, corners, null, null);
        }

        Set<String> materialNames() {
            return names(materials);
        }
    }
}
