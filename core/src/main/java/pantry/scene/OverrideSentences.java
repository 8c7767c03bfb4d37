package pantry.scene;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.model.Colour;
import pantry.usd.AttributeSpec;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.schema.TransformComponents;
import pantry.usd.schema.Xforms;
import pantry.usd.text.UsdaWriter;

/** Tells what a scene says otherwise of the parts of a placement, in words for a person. */
final class OverrideSentences {
    /** Lengths, metres, and factors that differ by less are the same. */
    private static final double SAME = 1e-5;

    /** A move whose length is up or down to this share goes up or down. */
    private static final double UPRIGHT = 0.999;

    private static final int LONGEST = 60;

    private final SceneLayer scene;
    private final List<OverrideSentence> told = new ArrayList<>();

    private OverrideSentences(SceneLayer scene) {
        this.scene = scene;
    }

    /** One for each part of which something is said, in the order of the file. */
    static List<OverrideSentence> of(SceneLayer scene, SdfPath placement, PrimSpec said) {
        OverrideSentences sentences = new OverrideSentences(scene);
        said.children().forEach(child -> sentences.tell(placement.child(child.name()), child));
        return sentences.told;
    }

    private void tell(SdfPath path, PrimSpec said) {
        if (said.specifier() != Specifier.OVER) {
            told.add(new OverrideSentence(path, name(path) + " is added"));
            return;
        }
        if (scene.stage().prim(path).filter(Prim::isDefined).isEmpty()) {
            told.add(new OverrideSentence(path, name(path) + " is not there any more"));
            return;
        }
        Set<String> clauses = new LinkedHashSet<>();
        said.metadata().forEach((field, value) -> clause(field, value).ifPresent(clauses::add));
        if (said.propertyNames().stream().anyMatch(name -> name.startsWith("xformOp"))) {
            clauses.addAll(placed(path));
        }
        for (PropertySpec property : said.properties()) {
            clause(path, property).ifPresent(clauses::add);
        }
        if (!clauses.isEmpty()) {
            told.add(new OverrideSentence(path, subject(path, said) + " " + String.join(", ", clauses)));
        }
        said.children().forEach(child -> tell(path.child(child.name()), child));
    }

    /** What a sentence is about: a part, or the material that a shader makes. */
    private String subject(SdfPath path, PrimSpec said) {
        return said.property("inputs:diffuseColor").isPresent() ? name(path.parent()) : name(path);
    }

    private String name(SdfPath path) {
        return scene.title(path);
    }

    private static Optional<String> clause(String field, Value value) {
        return switch (field) {
            case "instanceable", "apiSchemas" -> Optional.empty();
            case "active" -> Optional.of(value.equals(new Value.Bool(false)) ? "is off" : "is on");
            case "variants" ->
                value instanceof Value.Selections(Map<String, String> chosen)
                        ? Optional.of("shows "
                                + String.join(
                                        " and ",
                                        chosen.entrySet().stream()
                                                .map(each -> each.getValue() + " of " + each.getKey())
                                                .toList()))
                        : Optional.empty();
            default -> Optional.of("has another " + field);
        };
    }

    private Optional<String> clause(SdfPath path, PropertySpec property) {
        String name = property.name();
        if (name.startsWith("xformOp")) {
            return Optional.empty();
        }
        return Optional.of(
                switch (property) {
                    case RelationshipSpec relationship
                    when name.startsWith("material:binding") ->
                        relationship.targets().applyTo(List.of()).stream()
                                .findFirst()
                                .map(target -> "has the material " + name(target))
                                .orElse("has no material");
                    case RelationshipSpec relationship -> "leads elsewhere by " + name;
                    case AttributeSpec attribute -> said(attribute);
                });
    }

    private static String said(AttributeSpec attribute) {
        Optional<Value> value = attribute.value();
        if (attribute.name().equals("visibility")) {
            return value.filter(new Value.Token("invisible")::equals).isPresent() ? "is hidden" : "is shown";
        }
        if (attribute.name().equals("inputs:diffuseColor")
                && value.orElse(null) instanceof Value.Tuple(double[] n)
                && n.length == 3) {
            return String.format(
                    Locale.ROOT,
                    "is coloured %02X%02X%02X",
                    Colour.display((float) n[0]),
                    Colour.display((float) n[1]),
                    Colour.display((float) n[2]));
        }
        String words = value.map(known -> UsdaWriter.write(attribute.typeName(), known))
                .orElse("no value");
        String shown = words.length() > LONGEST ? words.substring(0, LONGEST - 1) + "…" : words;
        return "has " + attribute.name() + " " + shown;
    }

    /** How a part stands otherwise than in its asset. */
    private List<String> placed(SdfPath path) {
        Prim prim = scene.stage().prim(path).orElseThrow();
        Matrix4 after = Xforms.local(prim);
        Matrix4 before = Xforms.local(own(prim));
        Matrix4 around = new PlacementParts(scene).parentSpace(path).orElse(Matrix4.IDENTITY);
        List<String> clauses = new ArrayList<>();
        Vec3 moved = around.direction(after.translationPart().minus(before.translationPart()));
        if (moved.length() > SAME) {
            clauses.add(moved(moved));
        }
        Optional<TransformComponents> was = TransformComponents.of(before);
        Optional<TransformComponents> is = TransformComponents.of(after);
        if (was.isPresent() && is.isPresent()) {
            turned(is.get().turn().minus(was.get().turn())).ifPresent(clauses::add);
            sized(was.get().scale(), is.get().scale()).ifPresent(clauses::add);
        }
        return clauses.isEmpty() ? List.of("stands where its asset has it") : clauses;
    }

    /** What all but the scene say of a prim. */
    private Function<String, Optional<Value>> own(Prim prim) {
        return name -> prim.opinions(name).stream()
                .filter(opinion -> opinion.layer() != scene.layer())
                .flatMap(opinion -> opinion.spec() instanceof AttributeSpec attribute
                        ? attribute.value().stream()
                        : java.util.stream.Stream.empty())
                .findFirst();
    }

    private static String moved(Vec3 by) {
        if (Math.abs(by.y()) > UPRIGHT * by.length()) {
            return "moved " + (by.y() > 0 ? "up" : "down") + " by " + metres(Math.abs(by.y()));
        }
        List<String> ways = new ArrayList<>();
        for (int axis = 0; axis < 3; axis++) {
            if (Math.abs(by.get(axis)) > SAME) {
                ways.add(metres(by.get(axis)) + " along " + "xyz".charAt(axis));
            }
        }
        return "moved " + String.join(", ", ways);
    }

    private static Optional<String> turned(Vec3 by) {
        List<String> ways = new ArrayList<>();
        for (int axis = 0; axis < 3; axis++) {
            if (Math.abs(by.get(axis)) > 1e-3) {
                ways.add(figure(by.get(axis), 1) + "° about " + "xyz".charAt(axis));
            }
        }
        return ways.isEmpty() ? Optional.empty() : Optional.of("turned " + String.join(", ", ways));
    }

    private static Optional<String> sized(Vec3 before, Vec3 after) {
        Vec3 by = new Vec3(after.x() / before.x(), after.y() / before.y(), after.z() / before.z());
        if (by.minus(Vec3.ONE).length() < SAME) {
            return Optional.empty();
        }
        boolean even = Math.abs(by.x() - by.y()) < SAME && Math.abs(by.y() - by.z()) < SAME;
        return Optional.of("sized × "
                + (even ? figure(by.x(), 3) : figure(by.x(), 3) + ", " + figure(by.y(), 3) + ", " + figure(by.z(), 3)));
    }

    /** {@code 0.8 m}, or {@code 3 mm} for what is small. */
    private static String metres(double length) {
        return Math.abs(length) < 0.01 ? figure(length * 1000, 2) + " mm" : figure(length, 3) + " m";
    }

    private static String figure(double figure, int digits) {
        String text = String.format(Locale.ROOT, "%." + digits + "f", figure);
        return (text.contains(".") ? text.replaceAll("0+$", "").replaceAll("\\.$", "") : text).replace('-', '−');
    }
}
