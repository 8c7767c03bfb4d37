package pantry.usd;

import java.util.Comparator;
import java.util.function.UnaryOperator;

/**
 * All that a prim spec and those below it say, as a text that two of them share where they say the same, whatever their
 * own names: what they say of themselves is told by where it is within, and display names do not count.
 */
public final class Signature {
    private final SdfPath own;
    private final UnaryOperator<String> asset;
    private final StringBuilder text = new StringBuilder();

    private Signature(SdfPath own, UnaryOperator<String> asset) {
        this.own = own;
        this.asset = asset;
    }

    /**
     * @param path of the prim
     * @param asset what tells an asset path from others, such as the sum of the file's contents
     */
    public static String of(PrimSpec prim, SdfPath path, UnaryOperator<String> asset) {
        Signature signature = new Signature(path, asset);
        signature.add(prim, true);
        return signature.text.toString();
    }

    private void add(PrimSpec prim, boolean top) {
        text.append('{').append(top ? "" : prim.name()).append(' ').append(prim.typeName());
        prim.metadata().entrySet().stream()
                .filter(field -> !field.getKey().equals("displayName"))
                .sorted(java.util.Map.Entry.comparingByKey())
                .forEach(field ->
                        text.append('\n').append(field.getKey()).append('=').append(field.getValue()));
        prim.properties().stream()
                .sorted(Comparator.comparing(PropertySpec::name))
                .forEach(this::add);
        prim.children().forEach(child -> add(child, false));
        text.append('}');
    }

    private void add(PropertySpec property) {
        text.append('\n').append(property.name()).append(' ');
        switch (property) {
            case AttributeSpec attribute ->
                text.append(attribute.typeName())
                        .append(' ')
                        .append(attribute.value().map(this::value).orElse(""))
                        .append(attribute.connections().map(this::within));
            case RelationshipSpec relationship ->
                text.append(relationship.targets().map(this::within));
        }
    }

    private SdfPath within(SdfPath path) {
        return path.replacePrefix(own, SdfPath.ROOT);
    }

    private String value(Value value) {
        return switch (value) {
            case Value.Asset(String path) -> asset.apply(path);
            case Value.Floats floats -> "f" + java.util.Arrays.hashCode(floats.data()) + floats;
            case Value.Ints ints -> "i" + java.util.Arrays.hashCode(ints.data()) + ints;
            default -> value.toString();
        };
    }
}
