package pantry.project;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import pantry.base.FileGate;
import pantry.base.PantryException;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdModelReader;
import pantry.model.Model;
import pantry.model.ShapeDescriptor;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerFiles;

/**
 * The shape of what a layer shows by meshes of its own. What it names is not looked at.
 *
 * @param size the square root of its area, in the layer's unit: it is the same however it is turned
 */
record LayerShape(ShapeDescriptor shape, double size) {
    /** Larger files hold more than a part that is exported alone, bytes. */
    private static final long MOST_BYTES = 64L << 20;

    /** Shapes that are as alike are taken for the same. */
    private static final double SAME = 0.95;

    private static final double SAME_SIZE = 1e-3;

    /** Of a layer that is read; empty where it has no mesh, or none that can be understood. */
    static Optional<LayerShape> of(Layer layer) {
        try {
            return layer.rootPrims().stream().anyMatch(LayerShape::hasMesh) ? shown(layer) : Optional.empty();
        } catch (PantryException e) {
            return Optional.empty();
        }
    }

    private static Optional<LayerShape> shown(Layer layer) {
        LayerCache nothing = new LayerCache(FileGate.to(List.of()));
        Model model =
                UsdModelReader.read(Stage.open(layer, nothing), new MeshCache()).model();
        return model.trianglesDrawn() == 0
                ? Optional.empty()
                : Optional.of(new LayerShape(
                        ShapeDescriptor.of(model), Math.sqrt(model.measures().area())));
    }

    /** Of a file; empty where it cannot be read, is very large or has no mesh. */
    static Optional<LayerShape> of(Path file) {
        try {
            return isSmall(file) ? of(LayerFiles.read(AssetLocation.of(file))) : Optional.empty();
        } catch (PantryException e) {
            // What cannot be read is no candidate.
            return Optional.empty();
        }
    }

    static boolean isSmall(Path file) {
        try {
            return Files.size(file) <= MOST_BYTES;
        } catch (IOException e) {
            return false;
        }
    }

    private static boolean hasMesh(PrimSpec prim) {
        return prim.typeName().equals("Mesh") && prim.property("points").isPresent()
                || prim.children().stream().anyMatch(LayerShape::hasMesh);
    }

    boolean isLike(LayerShape other) {
        return shape.likeness(other.shape) >= SAME;
    }

    boolean isAsLargeAs(LayerShape other) {
        return Math.abs(size - other.size) <= SAME_SIZE * Math.max(size, other.size);
    }

    /** As text, for keeping. */
    String code() {
        return shape.code() + " " + size;
    }

    static Optional<LayerShape> ofCode(String code) {
        int blank = code.indexOf(' ');
        return blank < 0
                ? Optional.empty()
                : ShapeDescriptor.ofCode(code.substring(0, blank))
                        .map(shape -> new LayerShape(shape, Double.parseDouble(code.substring(blank + 1))));
    }
}
