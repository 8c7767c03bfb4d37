package pantry.workpiece;

import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.Set;
import pantry.mesh.Mesh;
import pantry.model.Model;
import pantry.model.Weight;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.Value;
import pantry.usd.VariantSpec;

/**
 * What a workpiece weighs: as other models do, but for what its own layer stores. There, hidden objects, definitions and
 * all variants count, each as often as it is written, and files are what the layer's arrays take, written plainly.
 */
final class LayerWeight {
    private LayerWeight() {}

    static Weight of(Model model, Layer layer) {
        Weight plain = Weight.of(model);
        Set<int[]> own = Collections.newSetFromMap(new IdentityHashMap<>());
        long stored = triangles(layer.root(), own);
        for (Mesh mesh : model.meshes()) {
            if (!own.contains(mesh.faceSizes())) {
                stored += mesh.triangleCount();
            }
        }
        return new Weight(
                stored,
                plain.trianglesDrawn(),
                plain.placements(),
                plain.objects(),
                plain.textureBytes(),
                bytes(layer));
    }

    /** @param arrays is told the corner counts of all meshes */
    private static long triangles(PrimSpec prim, Set<int[]> arrays) {
        long sum = 0;
        if (prim.attribute("faceVertexCounts").flatMap(AttributeSpec::value).orElse(null)
                instanceof Value.Ints(int[] sizes, int width)) {
            arrays.add(sizes);
            for (int size : sizes) {
                sum += Math.max(0, size - 2);
            }
        }
        for (PrimSpec child : prim.children()) {
            sum += triangles(child, arrays);
        }
        for (var variants : prim.variantSets().values()) {
            for (VariantSpec variant : variants.values()) {
                sum += triangles(variant.contents(), arrays);
            }
        }
        return sum;
    }

    private static long bytes(Layer layer) {
        return bytes(layer.root());
    }

    private static long bytes(PrimSpec prim) {
        long sum = 16;
        for (PropertySpec property : prim.properties()) {
            if (property instanceof AttributeSpec attribute) {
                sum += 16 + attribute.value().map(LayerWeight::bytes).orElse(0L);
            }
        }
        for (PrimSpec child : prim.children()) {
            sum += bytes(child);
        }
        for (var variants : prim.variantSets().values()) {
            for (VariantSpec variant : variants.values()) {
                sum += bytes(variant.contents());
            }
        }
        return sum;
    }

    private static long bytes(Value value) {
        return switch (value) {
            case Value.Floats(float[] data, int width) -> 4L * data.length;
            case Value.Doubles(double[] data, int width) -> 8L * data.length;
            case Value.Ints(int[] data, int width) -> 4L * data.length;
            case Value.Longs(long[] data) -> 8L * data.length;
            case Value.Bools(boolean[] data) -> data.length;
            case Value.Text(String text) -> text.length();
            default -> 8L;
        };
    }
}
