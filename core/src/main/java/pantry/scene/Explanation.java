package pantry.scene;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import pantry.usd.AttributeSpec;
import pantry.usd.PrimSpec;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Spec;
import pantry.usd.Value;
import pantry.usd.compose.Attribute;
import pantry.usd.compose.Opinion;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.text.UsdaWriter;

/**
 * Where a prim or property of a stage comes from: what each layer says of it, the strongest first.
 *
 * @param what {@code prim}, {@code attribute} or {@code relationship}
 * @param value what it comes to: an attribute's value and connections, a relationship's targets, a prim's type
 */
public record Explanation(String path, String what, String value, List<Line> opinions) {
    private static final int SHOWN_ELEMENTS = 16;

    /**
     * What one layer says.
     *
     * @param path of the spec in the layer, variants included
     * @param arc by which it comes in; {@code root} for the stage's own layers
     * @param says in the words of the text format, long arrays by their length
     * @param chain the sites that lead there, the stage's own first
     */
    public record Line(String layer, String path, String arc, String says, List<SceneTree.Arc> chain) {}

    public Explanation {
        opinions = List.copyOf(opinions);
    }

    /** Explains a prim or property; empty where no layer says anything of it. */
    public static Optional<Explanation> of(Stage stage, SdfPath path) {
        Optional<Prim> found = stage.prim(path.prim());
        if (found.isEmpty()) {
            return Optional.empty();
        }
        Prim prim = found.get();
        if (!path.isProperty()) {
            return Optional.of(new Explanation(path.toString(), "prim", prim.typeName(), lines(prim.opinions())));
        }
        List<Opinion> opinions = prim.opinions(path.name());
        if (opinions.isEmpty()) {
            return Optional.empty();
        }
        boolean relationship = prim.isRelationship(path.name());
        return Optional.of(new Explanation(
                path.toString(),
                relationship ? "relationship" : "attribute",
                relationship ? paths(prim.targets(path.name())) : resolved(prim, path.name()),
                lines(opinions)));
    }

    private static String resolved(Prim prim, String attribute) {
        Attribute found = prim.attribute(attribute).orElseThrow();
        String value = found.value().map(known -> text(found.typeName(), known)).orElse("none");
        List<SdfPath> connections = found.connections();
        return connections.isEmpty() ? value : value + ", connected to " + paths(connections);
    }

    private static List<Line> lines(List<Opinion> opinions) {
        return opinions.stream()
                .map(opinion -> new Line(
                        opinion.layer().name(),
                        opinion.path().toString(),
                        opinion.arc().word(),
                        says(opinion.spec()),
                        opinion.chain().stream().map(SceneTree.Arc::of).toList()))
                .toList();
    }

    private static String says(Spec spec) {
        List<String> parts = new ArrayList<>();
        switch (spec) {
            case PrimSpec prim -> parts.add((prim.specifier().word() + " " + prim.typeName()).strip());
            case AttributeSpec attribute -> attribute(attribute, parts);
            case RelationshipSpec relationship ->
                parts.add(
                        relationship.targets().isEmpty()
                                ? "rel " + relationship.name()
                                : UsdaWriter.writeField(relationship.name(), new Value.PathEdit(relationship.targets()))
                                        .replaceAll("\\s+", " "));
            default -> throw new IllegalStateException("only prims and properties have opinions");
        }
        spec.metadata()
                .forEach((field, value) ->
                        parts.add(UsdaWriter.writeField(field, value).replaceAll("\\s+", " ")));
        return String.join("; ", parts);
    }

    private static void attribute(AttributeSpec attribute, List<String> parts) {
        String declaration = attribute.typeName() + " " + attribute.name();
        parts.add(attribute
                .value()
                .map(value -> declaration + " = " + text(attribute.typeName(), value))
                .orElse(declaration));
        if (!attribute.timeSamples().isEmpty()) {
            parts.add(attribute.timeSamples().times().size() + " time samples");
        }
        if (!attribute.connections().isEmpty()) {
            parts.add(UsdaWriter.writeField("connect", new Value.PathEdit(attribute.connections())));
        }
    }

    private static String paths(List<SdfPath> paths) {
        return paths.stream().map(path -> "<" + path + ">").collect(Collectors.joining(", "));
    }

    private static String text(String type, Value value) {
        int elements = value.elements();
        return elements > SHOWN_ELEMENTS ? elements + " elements" : UsdaWriter.write(type, value);
    }
}
