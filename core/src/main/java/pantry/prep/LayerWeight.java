package pantry.prep;

import pantry.exchange.Model;
import pantry.exchange.Weight;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.Value;
import pantry.usd.VariantSpec;

/** What a workpiece weighs: as other models do, and what the arrays of its layer take, written plainly. */
final class LayerWeight {
    private LayerWeight() {}

    static Weight of(Workpiece piece) {
        Model model = piece.model();
        Weight plain = Weight.of(model);
        return new Weight(
                plain.trianglesStored(),
                plain.trianglesDrawn(),
                plain.placements(),
                plain.objects(),
                plain.textureBytes(),
                bytes(piece.layer()));
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
