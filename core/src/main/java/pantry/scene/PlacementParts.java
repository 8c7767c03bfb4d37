package pantry.scene;

import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.library.Asset;
import pantry.model.Colour;
import pantry.usd.AssetPaths;
import pantry.usd.LayerOffset;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.SpecTargets;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.edit.Transaction;
import pantry.usd.schema.TransformComponents;
import pantry.usd.schema.Xforms;

/**
 * Parts inside of placements: where each stands, whether it is seen, its variant, material and colour, all of which the
 * scene may say otherwise than the asset does. A placement of which something inside is said otherwise no longer shares
 * its insides with others; of instances within it, only those on the way to the part.
 */
public final class PlacementParts {
    private static final String BINDING = "material:binding";
    private static final String DIFFUSE = "inputs:diffuseColor";

    private final SceneLayer scene;

    PlacementParts(SceneLayer scene) {
        this.scene = scene;
    }

    /**
     * A part.
     *
     * @param placement that it is inside of
     * @param name as it is shown
     * @param placing where it stands in its parent's space, metres and degrees; empty where that cannot be told so
     * @param hidden whether it, rather than something that it is inside of, is not seen
     * @param variants what may be chosen, by the sets' names
     * @param chosen what is chosen, by the sets' names
     * @param overridden whether the scene says something of it, or of what is inside of it
     */
    public record Part(
            SdfPath placement,
            SdfPath path,
            String name,
            Optional<TransformComponents> placing,
            boolean hidden,
            Map<String, Set<String>> variants,
            Map<String, String> chosen,
            boolean overridden) {}

    /** The part at a path; empty where that is not inside of a placement, or nothing is there. */
    public Optional<Part> at(SdfPath path) {
        return placementOf(path).flatMap(placement -> scene.stage()
                .prim(path)
                .filter(Prim::isDefined)
                .map(prim -> new Part(
                        placement,
                        path,
                        SceneLayer.title(prim),
                        TransformComponents.of(Xforms.local(prim)),
                        prim.value("visibility")
                                .filter(new Value.Token("invisible")::equals)
                                .isPresent(),
                        Map.copyOf(prim.variantSets()),
                        chosen(prim),
                        scene.spec(path).isPresent())));
    }

    private static Map<String, String> chosen(Prim prim) {
        Map<String, String> chosen = new LinkedHashMap<>();
        prim.variantSets().keySet().forEach(set -> prim.variantSelection(set)
                .ifPresent(variant -> chosen.put(set, variant)));
        return chosen;
    }

    /** The placement that a path is inside of; empty for a placement itself. */
    public Optional<SdfPath> placementOf(SdfPath path) {
        Placements placements = new Placements(scene);
        for (SdfPath at = path.parent(); at.depth() > 0 && !at.equals(SdfPath.ROOT); at = at.parent()) {
            if (placements.at(at).isPresent()) {
                return Optional.of(at);
            }
        }
        return Optional.empty();
    }

    /** The parts right below a placement or a part: what has a place, in the asset's order. */
    public List<SdfPath> below(SdfPath path) {
        return scene.stage().prim(path).map(Prim::children).orElse(List.of()).stream()
                .filter(prim -> prim.isDefined() && prim.isActive() && isPart(prim))
                .map(prim -> path.child(prim.name()))
                .toList();
    }

    private static boolean isPart(Prim prim) {
        return switch (prim.typeName()) {
            case "Scope", "Material", "Shader", "NodeGraph", "GeomSubset" -> false;
            default ->
                !prim.value("purpose")
                        .filter(purpose -> !purpose.equals(new Value.Token("default"))
                                && !purpose.equals(new Value.Token("render")))
                        .isPresent();
        };
    }

    /** From the space in which a part's place is told to the stage's; empty where it is not there. */
    public Optional<Matrix4> parentSpace(SdfPath path) {
        return placementOf(path).flatMap(placement -> world(placement).map(world -> {
            Matrix4 space = world;
            for (SdfPath at : between(placement, path)) {
                space = local(at).times(space);
            }
            return space;
        }));
    }

    private Optional<Matrix4> world(SdfPath placement) {
        return scene.stage().prim(placement).map(Xforms::world);
    }

    private Matrix4 local(SdfPath path) {
        return scene.stage().prim(path).map(Xforms::local).orElse(Matrix4.IDENTITY);
    }

    /** What a part is inside of within its placement, the outermost first. */
    private static List<SdfPath> between(SdfPath placement, SdfPath part) {
        List<SdfPath> between = new ArrayList<>();
        for (SdfPath at = part.parent(); !at.equals(placement); at = at.parent()) {
            between.addFirst(at);
        }
        return between;
    }

    /** With how many other placements a placement shares its insides: what changing something inside would end. */
    public long sharing(SdfPath placement) {
        Optional<Prim> prototype = scene.stage().prim(placement).flatMap(Prim::prototype);
        if (prototype.isEmpty()) {
            return 0;
        }
        return new Placements(scene)
                        .all().stream()
                                .map(Placement::path)
                                .flatMap(path -> scene.stage().prim(path).flatMap(Prim::prototype).stream())
                                .filter(prototype.get()::equals)
                                .count()
                - 1;
    }

    private interface Change {
        void make(Transaction edits, SdfPath part);
    }

    /** Changes parts, which stop sharing as far as they must for it. */
    private void change(String what, Collection<SdfPath> parts, Change change) {
        parts.forEach(this::require);
        scene.editor().changeAll(what, edits -> {
            for (SdfPath part : parts) {
                own(edits, part);
                change.make(edits, part);
            }
        });
    }

    private Part require(SdfPath path) {
        return at(path).orElseThrow(() -> new SceneException(scene.file(), "<" + path + "> is no part of a placement"));
    }

    /** Lets what a part is inside of share its insides no longer. */
    private void own(Transaction edits, SdfPath part) {
        SdfPath placement = placementOf(part).orElseThrow();
        List<SdfPath> outer = new ArrayList<>(List.of(placement));
        outer.addAll(between(placement, part));
        for (SdfPath at : outer) {
            if (edits.stage().prim(at).filter(Prim::isInstance).isPresent()) {
                edits.setField(at, "instanceable", new Value.Bool(false));
            }
        }
    }

    /**
     * Gives a part another place in its parent's space.
     *
     * @throws SceneException where there is no such part
     */
    public void place(SdfPath part, TransformComponents placing) {
        place(Map.of(part, placing));
    }

    /** As above, of several, as one change. */
    public void place(Map<SdfPath, TransformComponents> places) {
        change(
                "moved " + SceneLayer.named(places.keySet()),
                places.keySet(),
                (edits, path) -> write(edits, path, places.get(path)));
    }

    private static void write(Transaction edits, SdfPath part, TransformComponents placing) {
        PrimSpec said = new PrimSpec(Specifier.OVER, "", part.name());
        placing.write(said);
        edits.change(part, spec -> {
            Xforms.clear(spec);
            said.properties().forEach(spec::put);
        });
    }

    /**
     * Moves, turns and sizes parts from where they stand, about their own origins, as one change.
     *
     * @param move in the world, metres
     * @param turn about the axes of what they are inside of, x first, degrees
     * @param scale along their own axes, factors
     * @throws SceneException where one is no part, or would be sheared or have no size
     */
    public void adjust(Collection<SdfPath> parts, Vec3 move, Vec3 turn, Vec3 scale) {
        Map<SdfPath, TransformComponents> places = new LinkedHashMap<>();
        for (SdfPath part : parts) {
            require(part);
            Matrix4 before = local(part);
            Vec3 by = parentSpace(part).orElseThrow().inverse().direction(metresToStage(move));
            Vec3 origin = before.translationPart();
            Matrix4 after = Matrix4.scale(scale)
                    .times(before)
                    .times(Matrix4.translation(origin.times(-1)))
                    .times(Matrix4.rotationXyz(turn))
                    .times(Matrix4.translation(origin.plus(by)));
            places.put(
                    part,
                    TransformComponents.of(after)
                            .orElseThrow(() -> new SceneException(
                                    scene.file(), "<" + part + "> would be sheared or have no size")));
        }
        place(places);
    }

    private Vec3 metresToStage(Vec3 difference) {
        return scene.toMetres().inverse().direction(difference);
    }

    /**
     * Hides parts, or shows them though the asset hides them.
     *
     * @throws SceneException where one is no part
     */
    public void show(Collection<SdfPath> parts, boolean shown) {
        change(
                (shown ? "showed " : "hid ") + SceneLayer.named(parts),
                parts,
                (edits, path) -> edits.set(
                        path.property("visibility"), "token", new Value.Token(shown ? "inherited" : "invisible")));
    }

    /**
     * Chooses a variant of a part.
     *
     * @throws SceneException where it has none of that name
     */
    public void choose(SdfPath part, String set, String variant) {
        if (!require(part).variants().getOrDefault(set, Set.of()).contains(variant)) {
            throw new SceneException(scene.file(), "<" + part + "> has no variant " + variant + " of " + set);
        }
        change("chose " + variant + " for " + part.name(), List.of(part), (edits, path) -> {
            edits.override(path);
            edits.select(path, set, variant);
        });
    }

    /**
     * Gives a part a material of the library, which follows that asset's ready version; all that is inside of the part
     * has it too.
     *
     * @throws SceneException where there is no such part, or the material has no ready version
     */
    public void coat(SdfPath part, Asset material) {
        if (material.ready().isEmpty()) {
            throw new SceneException(scene.file(), material.card().name() + " has no ready version to follow");
        }
        change("gave " + part.name() + " " + material.card().name(), List.of(part), (edits, path) -> {
            SdfPath target = brought(edits, material);
            edits.override(path);
            edits.changeRelationship(path.property(BINDING), binding -> {
                binding.setTargets(ListEdit.explicit(List.of(target)));
                binding.metadata().put("bindMaterialAs", new Value.Token("strongerThanDescendants"));
            });
            edits.change(path, spec -> spec.applyApiSchema("MaterialBindingAPI", true));
        });
    }

    /** The scene's use of a material of the library, which is made where there is none yet. */
    private SdfPath brought(Transaction edits, Asset material) {
        SdfPath scope = scene.root().child(Materials.SCOPE);
        Reference reference = reference(material);
        if (edits.stage().prim(scope).isEmpty()) {
            edits.add(scene.root(), new PrimSpec(Specifier.DEF, "Scope", scope.name()));
        }
        for (PrimSpec known :
                scene.spec(scope).map(PrimSpec::children).map(List::copyOf).orElse(List.of())) {
            if (reference.equals(referred(known))) {
                return scope.child(known.name());
            }
        }
        PrimSpec prim = new PrimSpec(
                Specifier.DEF,
                "Material",
                ChildNames.free(edits, scope, material.card().name()));
        prim.setReferences(reference);
        edits.add(scope, prim);
        return scope.child(prim.name());
    }

    /** Refers to the first material that an asset holds. */
    private Reference reference(Asset material) {
        Stage stage = Stage.open(scene.layers().open(material.readyLayer()), scene.layers());
        SdfPath path = stage.defaultPrim()
                .flatMap(prim -> materialIn(prim, prim.path()))
                .orElseThrow(
                        () -> new SceneException(scene.file(), material.card().name() + " holds no material"));
        return new Reference(
                AssetPaths.relative(scene.folder(), material.readyLayer()), Optional.of(path), LayerOffset.NONE);
    }

    private static @Nullable Reference referred(PrimSpec prim) {
        return prim.metadata().get("references") instanceof Value.ReferenceEdit(ListEdit<Reference> edit)
                ? edit.applyTo(List.of()).stream().findFirst().orElse(null)
                : null;
    }

    /** The first material at or below a prim. */
    private static Optional<SdfPath> materialIn(Prim prim, SdfPath path) {
        if (prim.typeName().equals("Material")) {
            return Optional.of(path);
        }
        return prim.children().stream()
                .map(child -> materialIn(child, path.child(child.name())))
                .flatMap(Optional::stream)
                .findFirst();
    }

    /**
     * A material of a placement whose colour can be chosen.
     *
     * @param path of the material
     * @param plain whether an image does not give it its colours, so that one can be chosen
     */
    public record Coloured(SdfPath path, String name, Colour colour, boolean plain) {}

    /** The materials inside of a placement, in the asset's order. */
    public List<Coloured> materials(SdfPath placement) {
        List<Coloured> found = new ArrayList<>();
        scene.stage().prim(placement).ifPresent(prim -> collect(prim, placement, found));
        return found;
    }

    private static void collect(Prim prim, SdfPath path, List<Coloured> found) {
        if (prim.typeName().equals("Material")) {
            surface(prim, path).ifPresent(shader -> {
                Prim at = prim.child(shader.name()).orElseThrow();
                boolean connected = at.attribute(DIFFUSE)
                        .filter(input -> !input.connections().isEmpty())
                        .isPresent();
                Colour colour = at.value(DIFFUSE).orElse(null) instanceof Value.Tuple(double[] n) && n.length == 3
                        ? new Colour((float) n[0], (float) n[1], (float) n[2])
                        : new Colour(0.18f, 0.18f, 0.18f);
                found.add(new Coloured(path, SceneLayer.title(prim), colour, !connected));
            });
            return;
        }
        prim.children().forEach(child -> collect(child, path.child(child.name()), found));
    }

    /** The UsdPreviewSurface right below a material. */
    private static Optional<SdfPath> surface(Prim material, SdfPath path) {
        return material.children().stream()
                .filter(child -> child.value("info:id")
                        .filter(new Value.Token("UsdPreviewSurface")::equals)
                        .isPresent())
                .map(child -> path.child(child.name()))
                .findFirst();
    }

    /**
     * Gives a material of placements another colour, that of the same name in each.
     *
     * @param material its name
     * @throws SceneException where one has no such material, or an image gives it its colours
     */
    public void colour(Collection<SdfPath> placements, String material, Colour colour) {
        List<SdfPath> shaders = placements.stream()
                .map(placement -> shader(placement, material))
                .toList();
        scene.editor().changeAll("coloured " + material + " of " + SceneLayer.named(placements), edits -> {
            for (SdfPath shader : shaders) {
                own(edits, shader);
                edits.set(shader.property(DIFFUSE), "color3f", new Value.Tuple(colour.r(), colour.g(), colour.b()));
            }
        });
    }

    private SdfPath shader(SdfPath placement, String material) {
        Coloured found = materials(placement).stream()
                .filter(each ->
                        each.name().equals(material) || each.path().name().equals(material))
                .findFirst()
                .orElseThrow(() -> new SceneException(scene.file(), "<" + placement + "> has no material " + material));
        if (!found.plain()) {
            throw new SceneException(scene.file(), material + " of <" + placement + "> has its colours from an image");
        }
        return surface(scene.stage().prim(found.path()).orElseThrow(), found.path())
                .orElseThrow();
    }

    /**
     * Lets go of all that the scene says of parts and of what is inside of them. A placement of which nothing is said
     * otherwise any more shares its insides again.
     */
    public void drop(Collection<SdfPath> parts) {
        scene.editor().changeAll("dropped what was said of " + SceneLayer.named(parts), edits -> {
            parts.forEach(edits::clearPrim);
            parts.stream()
                    .flatMap(part -> placementOf(part).stream())
                    .distinct()
                    .forEach(placement -> tidy(edits, placement));
        });
    }

    /** Takes away what says nothing any more, and lets a placement share its insides where nothing is said of them. */
    void tidy(Transaction edits, SdfPath placement) {
        PrimSpec said = scene.spec(placement).orElseThrow();
        for (PrimSpec child : List.copyOf(said.children())) {
            prune(edits, placement.child(child.name()), child);
        }
        boolean none = scene.spec(placement).orElseThrow().children().isEmpty();
        if (none && Objects.equals(said.metadata().get("instanceable"), new Value.Bool(false))) {
            edits.setField(placement, "instanceable", new Value.Bool(true));
        }
    }

    private void prune(Transaction edits, SdfPath path, PrimSpec prim) {
        for (PrimSpec child : List.copyOf(prim.children())) {
            prune(edits, path.child(child.name()), child);
        }
        PrimSpec left = scene.spec(path).orElse(prim);
        boolean onlyOwn = left.metadata().isEmpty() || left.metadata().keySet().equals(Set.of("instanceable"));
        if (left.specifier() == Specifier.OVER
                && onlyOwn
                && left.properties().isEmpty()
                && left.children().isEmpty()) {
            edits.clearPrim(path);
        }
    }

    /**
     * Says of other placements what is said of a part: of the same part inside of each.
     *
     * @return the placements that have no such part, of which nothing is said
     */
    public List<SdfPath> copyTo(SdfPath part, Collection<SdfPath> placements) {
        SdfPath from = require(part).placement();
        PrimSpec said = scene.spec(part)
                .orElseThrow(() -> new SceneException(scene.file(), "nothing is said of <" + part + ">"));
        List<SdfPath> without = new ArrayList<>();
        Map<SdfPath, SdfPath> targets = new LinkedHashMap<>();
        for (SdfPath placement : placements) {
            SdfPath target = part.replacePrefix(from, placement);
            if (placement.equals(from)) {
                continue;
            }
            if (at(target).isPresent()) {
                targets.put(placement, target);
            } else {
                without.add(placement);
            }
        }
        if (!targets.isEmpty()) {
            scene.editor()
                    .changeAll("copied what is said of " + part.name() + " to " + targets.size() + " others", e -> {
                        targets.forEach((placement, target) -> {
                            own(e, target);
                            copy(e, said, target, from, placement);
                        });
                    });
        }
        return without;
    }

    private static void copy(Transaction edits, PrimSpec said, SdfPath target, SdfPath from, SdfPath to) {
        PrimSpec copy = said.copy();
        SpecTargets.remap(copy, path -> Optional.of(path.startsWith(from) ? path.replacePrefix(from, to) : path));
        edits.override(target);
        edits.replace(target, before -> copy);
    }
}
