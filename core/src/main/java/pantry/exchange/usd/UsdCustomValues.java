package pantry.exchange.usd;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.base.Names;
import pantry.model.CustomValue;
import pantry.usd.AttributeSpec;
import pantry.usd.PrimSpec;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;

/** What files say beyond their format, as custom attributes in the namespace in which programs commonly keep such (common practice). */
public final class UsdCustomValues {
    static final String NAMESPACE = "userProperties:";

    private UsdCustomValues() {}

    /** Writes each value to the prim of its object; to the root where there is none of that name. */
    static void write(PrimSpec root, List<CustomValue> values) {
        Map<String, PrimSpec> byName = new HashMap<>();
        if (!values.isEmpty()) {
            collect(root, byName);
        }
        for (CustomValue each : values) {
            PrimSpec known = byName.get(each.object());
            PrimSpec prim = known == null ? root : known;
            String said = known == null && !each.object().isEmpty() ? each.object() + " " + each.name() : each.name();
            put(prim, said, each.value());
        }
    }

    /** The first of each name; shaders keep what formats say of images. */
    private static void collect(PrimSpec prim, Map<String, PrimSpec> byName) {
        for (PrimSpec child : prim.children()) {
            if (!child.typeName().equals("Shader")) {
                byName.putIfAbsent(title(child), child);
                collect(child, byName);
            }
        }
    }

    private static String title(PrimSpec prim) {
        return prim.text("displayName").orElse(prim.name());
    }

    private static void put(PrimSpec prim, String said, Object value) {
        String plain = Names.identifier(said);
        String name =
                NAMESPACE + Names.free(plain, taken -> prim.propertyNames().contains(NAMESPACE + taken));
        AttributeSpec attribute =
                switch (value) {
                    case Double number -> new AttributeSpec(name, "double").setValue(new Value.Real(number));
                    case Boolean truth -> new AttributeSpec(name, "bool").setValue(new Value.Bool(truth));
                    default -> new AttributeSpec(name, "string").setValue(new Value.Text(value.toString()));
                };
        attribute.setCustom(true);
        if (!plain.equals(said)) {
            attribute.metadata().put("displayName", new Value.Text(said));
        }
        prim.put(attribute);
    }

    /** The values that a stage's prims hold so; those of its default prim are of the whole. */
    public static List<CustomValue> of(Stage stage) {
        List<CustomValue> values = new ArrayList<>();
        Optional<Prim> whole = stage.defaultPrim();
        stage.forEachPrim(prim -> add(prim, whole, values));
        return values;
    }

    private static void add(Prim prim, Optional<Prim> whole, List<CustomValue> values) {
        if (prim.isAbstract()) {
            // What it says is met again where it is used.
            return;
        }
        boolean isWhole = whole.filter(each -> each.path().equals(prim.path())).isPresent();
        String object = isWhole ? "" : prim.text("displayName").orElse(prim.name());
        for (String name : prim.propertyNames()) {
            if (name.startsWith(NAMESPACE) && values.size() < CustomValue.MOST) {
                prim.attribute(name)
                        .flatMap(attribute -> attribute.value().flatMap(UsdCustomValues::plain))
                        .ifPresent(value -> values.add(new CustomValue(object, said(prim, name), value)));
            }
        }
    }

    /** What a custom property is called. */
    static String said(Prim prim, String name) {
        return prim.attribute(name)
                .flatMap(attribute -> attribute.text("displayName"))
                .orElse(name.startsWith(NAMESPACE) ? name.substring(NAMESPACE.length()) : name);
    }

    private static Optional<Object> plain(Value value) {
        return switch (value) {
            case Value.Text(String text) -> Optional.of(text);
            case Value.Token(String text) -> Optional.of(text);
            case Value.Real(double number) -> Optional.of(number);
            case Value.Int(long number) -> Optional.of((double) number);
            case Value.Bool(boolean truth) -> Optional.of(truth);
            default -> Optional.empty();
        };
    }
}
