package pantry.prep.inspect;

import static pantry.prep.inspect.Rule.Group.LEFTOVERS;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import pantry.exchange.usd.UsdAttachedData;
import pantry.intake.Carried;
import pantry.library.AssetKind;
import pantry.mesh.MeshEdit;
import pantry.model.Axis;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.VariantSpec;
import pantry.workpiece.DisplayText;
import pantry.workpiece.InspectedPrim;
import pantry.workpiece.Subject;
import pantry.workpiece.Tidying;

/** What was left behind: things that are not it, and things that nobody sees or uses. */
final class LeftoverRules {
    private static final Set<String> LINES = Set.of("BasisCurves", "HermiteCurves", "NurbsCurves", "NurbsCurve");
    private static final Set<String> RENDERING = Set.of("RenderSettings", "RenderProduct", "RenderVar", "RenderPass");

    static final List<Rule> ALL = List.of(
            Rule.of(
                    "hidden-object",
                    LEFTOVERS,
                    Severity.CAUTION,
                    "Hidden object",
                    "Nobody sees it, and it is stored and loaded all the same; it may come up again where it is not wanted.",
                    (subject, limits, found) -> subject.objects()
                            .filter(item -> item.prim().isActive()
                                    && !item.seen()
                                    && (item.parent() == null || item.parent().seen()))
                            .forEach(item -> found.add(
                                    item.path(),
                                    item.title() + " is hidden" + weighing(item),
                                    removing(item, "Remove it")))),
            Rule.of(
                    "inactive-object",
                    LEFTOVERS,
                    Severity.CAUTION,
                    "Object that is switched off",
                    "It is no part of the stage any more, and keeps its weight in the file.",
                    (subject, limits, found) -> subject.items()
                            .filter(item -> !item.prim().isActive()
                                    && (item.parent() == null
                                            || item.parent().prim().isActive()))
                            .forEach(item -> found.add(
                                    item.path(), item.title() + " is switched off", removing(item, "Remove it")))),
            Rule.of(
                    "light",
                    LEFTOVERS,
                    Severity.CAUTION,
                    "Light in a model",
                    "It would light every scene that the asset is placed in, and quarrel with the scene's own.",
                    (subject, limits, found) -> ofRig(
                            subject, found, type -> type.endsWith("Light") && !type.equals("DomeLight"), "is a light")),
            Rule.of(
                    "camera",
                    LEFTOVERS,
                    Severity.CAUTION,
                    "Camera in a model",
                    "Every placement would bring another camera to choose from.",
                    (subject, limits, found) -> ofRig(subject, found, "Camera"::equals, "is a camera")),
            Rule.of(
                    "sky",
                    LEFTOVERS,
                    Severity.CAUTION,
                    "Sky in a model",
                    "A sky is around a whole scene; two of them add up.",
                    (subject, limits, found) -> {
                        ofRig(subject, found, "DomeLight"::equals, "is a light from all around");
                        carried(subject, found, Carried.Kind.SKY, "is around all the rest");
                    }),
            Rule.of(
                    "ground",
                    LEFTOVERS,
                    Severity.CAUTION,
                    "Ground in a model",
                    "The scene has its own ground; two in one plane flicker.",
                    (subject, limits, found) ->
                            carried(subject, found, Carried.Kind.GROUND, "is a ground that the rest stands on")),
            Rule.of(
                    "render-settings",
                    LEFTOVERS,
                    Severity.CAUTION,
                    "Render settings in a model",
                    "How pictures are made is for the scene to say.",
                    (subject, limits, found) ->
                            ofType(subject, found, RENDERING::contains, "says how pictures are made")),
            Rule.of(
                    "script",
                    LEFTOVERS,
                    Severity.CAUTION,
                    "Script or expression",
                    "What runs by itself in one program does nothing in others, or something nobody expects.",
                    (subject, limits, found) -> {
                        foreign(subject, found, UsdAttachedData.SCRIPTS);
                        subject.workpiece().extras().foreign().stream()
                                .filter(UsdAttachedData.SCRIPTS)
                                .forEach(name -> found.add(
                                        SdfPath.ROOT, "the file has " + name + ", which is not taken over", null));
                    }),
            Rule.of(
                    "foreign-data",
                    LEFTOVERS,
                    Severity.INFORMATION,
                    "Data of other programs",
                    "Only the program that wrote it understands it; it is carried along in every scene.",
                    (subject, limits, found) -> {
                        foreign(subject, found, UsdAttachedData.SCRIPTS.negate());
                        subject.workpiece().extras().foreign().stream()
                                .filter(UsdAttachedData.SCRIPTS.negate())
                                .forEach(name -> found.add(
                                        SdfPath.ROOT, "the file has " + name + ", which is not taken over", null));
                    }),
            Rule.of(
                    "stray-edge",
                    LEFTOVERS,
                    Severity.CAUTION,
                    "Line work",
                    "Construction lines and edges without a face are drawn by some programs and forgotten by others.",
                    LeftoverRules::strayEdges),
            Rule.of(
                    "loose-point",
                    LEFTOVERS,
                    Severity.INFORMATION,
                    "Points that no face uses",
                    "They are not drawn, but they count for the box and for the weight.",
                    LeftoverRules::loosePoints),
            Rule.of(
                    "unused-variant",
                    LEFTOVERS,
                    Severity.INFORMATION,
                    "Variant that changes nothing",
                    "A choice that cannot be made, or makes no difference, keeps its weight all the same.",
                    LeftoverRules::unusedVariants),
            Rule.of(
                    "unused-texture",
                    LEFTOVERS,
                    Severity.CAUTION,
                    "Image that drives nothing",
                    "It is read and packed along, and nobody sees it.",
                    (subject, limits, found) -> subject.textures().uses().stream()
                            .filter(use -> use.channels().isEmpty())
                            .forEach(use -> found.add(
                                    use.path(),
                                    use.written() + " is not connected to anything in "
                                            + use.material().name(),
                                    Fix.of("Remove it", tidying -> tidying.remove(use.path()))))),
            Rule.of(
                    "unused-material",
                    LEFTOVERS,
                    Severity.CAUTION,
                    "Material that nothing uses",
                    "It stays in every list of materials, and its images are packed along.",
                    (subject, limits, found) -> {
                        Mentions mentions = Mentions.in(subject.stage().rootLayer());
                        subject.materials().stream()
                                .filter(item -> item.own() && !mentions.of(item.path()))
                                .forEach(item -> found.add(
                                        item.path(),
                                        "nothing is made of " + item.title(),
                                        removing(item, "Remove it")));
                    }),
            Rule.of(
                    "unused-definition",
                    LEFTOVERS,
                    Severity.CAUTION,
                    "Definition that nothing uses",
                    "A shape or class that was kept for instances keeps its weight when the last of them is gone.",
                    LeftoverRules::unusedDefinitions));

    private LeftoverRules() {}

    private static @Nullable Fix removing(InspectedPrim item, String label) {
        return item.own() ? Fix.removing(label, tidying -> tidying.remove(item.path())) : null;
    }

    private static String weighing(InspectedPrim item) {
        long triangles = item.below()
                .flatMap(below -> below.mesh().stream())
                .mapToLong(mesh -> mesh.triangleCount())
                .sum();
        return triangles == 0 ? "" : " and weighs " + DisplayText.count(triangles, "triangle");
    }

    private static void ofType(Subject subject, Findings found, Predicate<String> type, String what) {
        subject.items()
                .filter(item -> type.test(item.prim().typeName()))
                .forEach(item -> found.add(item.path(), item.title() + " " + what, removing(item, "Remove it")));
    }

    /** What lights and cameras are left over in: a rig of them, or a piece that shows nothing else, is there for them. */
    private static void ofRig(Subject subject, Findings found, Predicate<String> type, String what) {
        boolean isRig = subject.workpiece()
                .shelved()
                .filter(place -> place.asset().card().kind() == AssetKind.LIGHT_RIG)
                .isPresent();
        if (!isRig && !subject.drawn().isEmpty()) {
            ofType(subject, found, type, what);
        }
    }

    private static void carried(Subject subject, Findings found, Carried.Kind kind, String what) {
        for (Carried carried : Carried.of(subject.model(), Axis.Y)) {
            if (carried.kind() == kind) {
                carried.objects().stream()
                        .flatMap(node -> subject.item(SdfPath.of(node.path())).stream())
                        .forEach(
                                item -> found.add(item.path(), item.title() + " " + what, removing(item, "Remove it")));
            }
        }
    }

    /** Custom attributes and data under names that are neither the standard's nor free for users. */
    private static void foreign(Subject subject, Findings found, Predicate<String> wanted) {
        subject.items().filter(InspectedPrim::own).forEach(item -> {
            PrimSpec spec = subject.stage().rootLayer().prim(item.path()).orElse(null);
            if (spec == null) {
                return;
            }
            List<String> names = new ArrayList<>();
            for (PropertySpec property : spec.properties()) {
                if (property.custom() && !property.name().startsWith("userProperties:")) {
                    names.add(property.name());
                }
            }
            if (spec.metadata().get("customData") instanceof Value.Dictionary data) {
                names.addAll(data.entries().keySet());
            }
            List<String> told = names.stream().filter(wanted).toList();
            if (!told.isEmpty()) {
                found.add(
                        item.path(),
                        item.title() + " carries " + DisplayText.some(told),
                        Fix.of("Remove it", tidying -> forget(tidying, item.path(), told)));
            }
        });
    }

    private static void forget(Tidying tidying, SdfPath path, List<String> names) {
        tidying.edits().change(tidying.at(path), spec -> {
            names.forEach(spec::removeProperty);
            if (spec.metadata().get("customData") instanceof Value.Dictionary data) {
                Map<String, Value.Dictionary.Entry> kept = new LinkedHashMap<>(data.entries());
                names.forEach(kept::remove);
                if (kept.isEmpty()) {
                    spec.metadata().remove("customData");
                } else {
                    spec.metadata().put("customData", new Value.Dictionary(kept));
                }
            }
        });
    }

    private static void strayEdges(Subject subject, Limits limits, Findings found) {
        subject.objects()
                .filter(item -> LINES.contains(item.prim().typeName())
                        && !item.purpose().equals("guide"))
                .forEach(item -> found.add(
                        item.path(), item.title() + " is line work without a surface", removing(item, "Remove it")));
        subject.surfaces()
                .filter(item -> item.surface().edges() > 0)
                .forEach(item -> found.add(
                        item.path(),
                        item.title() + " has "
                                + DisplayText.count(item.surface().edges(), "edge") + " without a face",
                        subject.isEditable(item)
                                ? Fix.removing("Remove them", tidying -> MeshRules.repair(tidying, item))
                                : null));
        subject.objects()
                .filter(item -> item.prim().typeName().equals("Mesh")
                        && item.mesh().isEmpty()
                        && item.surface().edges() > 0)
                .forEach(item ->
                        found.add(item.path(), item.title() + " has edges and no face", removing(item, "Remove it")));
    }

    private static void loosePoints(Subject subject, Limits limits, Findings found) {
        subject.objects()
                .filter(item -> item.prim().typeName().equals("Points"))
                .forEach(item ->
                        found.add(item.path(), item.title() + " is a cloud of points", removing(item, "Remove it")));
        subject.surfaces()
                .filter(item -> subject.faults(item.mesh().orElseThrow()).loosePoints() > 0
                        && item.surface().faults().isEmpty())
                .forEach(item -> {
                    int count = subject.faults(item.mesh().orElseThrow()).loosePoints();
                    found.add(
                            item.path(),
                            item.title() + " has " + DisplayText.count(count, "point") + " that no face uses",
                            subject.isEditable(item)
                                    ? Fix.of(
                                            "Remove them",
                                            tidying -> tidying.edit(
                                                    item.path(),
                                                    MeshEdit.keeping(item.mesh().orElseThrow(), face -> true, false)))
                                    : null);
                });
    }

    private static void unusedVariants(Subject subject, Limits limits, Findings found) {
        subject.items().filter(InspectedPrim::own).forEach(item -> {
            PrimSpec spec = subject.stage().rootLayer().prim(item.path()).orElse(null);
            if (spec == null) {
                return;
            }
            List<String> named = spec.metadata().get("variantSets") instanceof Value.TokenEdit(ListEdit<String> edit)
                    ? edit.applyTo(List.of())
                    : List.of();
            spec.variantSets().forEach((set, variants) -> {
                if (!named.contains(set)) {
                    found.add(
                            item.path(),
                            item.title() + " has variants of " + set + ", which cannot be chosen",
                            Fix.of("Remove them", tidying -> tidying.edits().replace(tidying.at(item.path()), copy -> {
                                copy.variantSets().remove(set);
                                return copy;
                            })));
                } else {
                    equalVariants(item, set, variants, found);
                }
            });
        });
    }

    private static void equalVariants(
            InspectedPrim item, String set, Map<String, VariantSpec> variants, Findings found) {
        List<VariantSpec> all = List.copyOf(variants.values());
        String chosen = item.prim().variantSelection(set).orElse("");
        for (int i = 0; i < all.size(); i++) {
            for (int j = 0; j < i; j++) {
                if (all.get(i).contents().sameAs(all.get(j).contents())) {
                    VariantSpec spare = all.get(i).name().equals(chosen) ? all.get(j) : all.get(i);
                    VariantSpec kept = spare == all.get(i) ? all.get(j) : all.get(i);
                    found.add(
                            item.path(),
                            "the " + set + " \"" + spare.name() + "\" is the same as \"" + kept.name() + "\"",
                            Fix.of("Remove it", tidying -> tidying.edits().replace(tidying.at(item.path()), copy -> {
                                copy.variantSets()
                                        .getOrDefault(set, new LinkedHashMap<>())
                                        .remove(spare.name());
                                return copy;
                            })));
                    break;
                }
            }
        }
    }

    private static void unusedDefinitions(Subject subject, Limits limits, Findings found) {
        Mentions mentions = Mentions.in(subject.stage().rootLayer());
        subject.items()
                .filter(item -> item.own() && isDefinition(item) && !mentions.of(item.path()))
                .forEach(item -> found.add(
                        item.path(),
                        item.title() + " is a definition that nothing uses" + weighing(item),
                        Fix.of("Remove it", tidying -> removeDefinition(tidying, item))));
    }

    /** Removes a definition, and the scope that held only this one. */
    private static void removeDefinition(Tidying tidying, InspectedPrim item) {
        tidying.remove(item.path());
        SdfPath parent = item.path().parent();
        if (tidying.prim(parent)
                .filter(scope -> scope.isAbstract() && scope.children().isEmpty())
                .isPresent()) {
            tidying.remove(parent);
        }
    }

    /** A class, or one of those in a scope of classes; or what speaks of something that is not there. */
    private static boolean isDefinition(InspectedPrim item) {
        InspectedPrim parent = item.parent();
        boolean first =
                item.prim().isAbstract() && (parent == null || !parent.prim().isAbstract());
        boolean inScope = item.prim().isAbstract()
                && parent != null
                && parent.prim().typeName().equals("Scope")
                && parent.prim().isAbstract()
                && (parent.parent() == null || !parent.parent().prim().isAbstract());
        boolean scope = first
                && item.prim().typeName().equals("Scope")
                && !item.children().isEmpty();
        boolean about =
                !item.prim().isDefined() && (parent == null || parent.prim().isDefined());
        return (first && !scope) || inScope || about;
    }
}
