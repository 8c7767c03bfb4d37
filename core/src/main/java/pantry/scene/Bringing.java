package pantry.scene;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.base.Sha256;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.UsdModelReader;
import pantry.usd.AssetLocation;
import pantry.usd.AssetPaths;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.Reference;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Signature;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.edit.Transaction;
import pantry.usd.file.LayerAssets;
import pantry.usd.schema.Placing;
import pantry.usd.schema.Xforms;

/**
 * Copies things of a source into a scene with all that they need, so that nothing refers back: objects under an anchor
 * of their own, materials among the scene's, shapes of instances among its shapes, and what else is needed into a hidden
 * scope. Images are copied beside the scene.
 */
public final class Bringing {
    /** The scope with materials below the root. */
    static final String MATERIALS = "Materials";

    private static final String SHAPES = "Shapes";
    private static final String HELPERS = "Helpers";

    /** What is done where both have something of one name. */
    public enum Decision {
        /** The scene's is used. */
        SCENE,
        /** The incoming takes its place. */
        INCOMING,
        /** Both are kept; the incoming gets a number. */
        BOTH
    }

    /**
     * A name that both have.
     *
     * @param same whether both say the same, so that one is as good as the other
     */
    public record Clash(SdfPath incoming, SdfPath own, Source.Kind kind, boolean same) {}

    /**
     * How things are brought in.
     *
     * @param name of the anchor
     * @param under an existing prim; the scene's root where empty
     * @param decisions for clashes, by the incoming's path; {@code BOTH} for others that differ
     * @param drawer the name of a drawer that they are put into; empty for none
     */
    public record Options(
            String name, Placing placing, Optional<SdfPath> under, Map<SdfPath, Decision> decisions, String drawer) {
        public Options {
            decisions = Map.copyOf(decisions);
        }

        public static Options named(String name) {
            return new Options(name, Placing.ORIGIN, Optional.empty(), Map.of(), "");
        }
    }

    /**
     * What was brought in.
     *
     * @param anchor that the objects hang on; the materials' scope where only materials were chosen
     * @param copied where each thing came to, those that came along included
     */
    public record Result(SdfPath anchor, Map<SdfPath, SdfPath> copied) {
        public Result {
            copied = Map.copyOf(copied);
        }
    }

    private final Scene scene;
    private final Source source;
    private final Map<SdfPath, SdfPath> moved = new LinkedHashMap<>();
    private final Map<Path, String> images = new HashMap<>();

    private Bringing(Scene scene, Source source) {
        this.scene = scene;
        this.source = source;
    }

    /** The names of chosen things, and of what they need, that the scene has too. */
    public static List<Clash> clashes(Scene scene, Source source, Set<SdfPath> chosen) {
        Bringing bringing = new Bringing(scene, source);
        List<Clash> clashes = new ArrayList<>();
        for (SdfPath path : bringing.materials(chosen)) {
            SdfPath own = scene.root().child(MATERIALS).child(path.name());
            if (scene.layer().prim(own).isPresent()) {
                clashes.add(new Clash(path, own, Source.Kind.MATERIAL, bringing.isSame(path, own)));
            }
        }
        return clashes;
    }

    private List<SdfPath> materials(Set<SdfPath> chosen) {
        Set<SdfPath> all = new LinkedHashSet<>(chosen);
        source.needs(chosen).forEach(need -> all.add(need.path()));
        return all.stream()
                .filter(path -> source.layer()
                        .prim(path)
                        .filter(prim -> prim.typeName().equals("Material"))
                        .isPresent())
                .toList();
    }

    private boolean isSame(SdfPath incoming, SdfPath own) {
        String one = Signature.of(
                source.layer().prim(incoming).orElseThrow(),
                incoming,
                path -> sum(source.file().resolveSibling(path)));
        String other = Signature.of(
                scene.layer().prim(own).orElseThrow(),
                own,
                path -> sum(scene.file().resolveSibling(path)));
        return one.equals(other);
    }

    /** What tells an image: its contents, or else its name. */
    private static String sum(Path file) {
        try {
            return Files.isRegularFile(file)
                    ? Sha256.of(file)
                    : file.getFileName().toString();
        } catch (IOException e) {
            throw new SceneException(file, "cannot be read: " + IoProblems.describe(e));
        }
    }

    /**
     * Copies things into a scene, as one change.
     *
     * @param chosen paths in the source; all below its root where there are none
     * @throws SceneException where something chosen is not there, or the scene would be copied into itself
     */
    public static Result bring(Scene scene, Source source, Set<SdfPath> chosen, Options options) {
        return new Bringing(scene, source).bring(chosen, options);
    }

    private Result bring(Set<SdfPath> chosen, Options options) {
        Set<SdfPath> wanted = chosen.isEmpty() ? everything() : new LinkedHashSet<>(chosen);
        for (SdfPath path : wanted) {
            if (source.layer().prim(path).isEmpty()) {
                throw new SceneException(source.file(), "there is no <" + path + "> to bring in");
            }
        }
        wanted.removeIf(path -> wanted.stream().anyMatch(other -> !other.equals(path) && path.startsWith(other)));
        List<Source.Need> needs = source.needs(wanted);
        return scene.editor().change("brought in " + options.name(), edits -> {
            SdfPath root = scene.root();
            Optional<SdfPath> anchor =
                    wanted.stream().allMatch(this::isMaterial) ? Optional.empty() : Optional.of(anchor(edits, options));
            // First where everything goes, so that what speaks of each other is led there.
            List<Runnable> copies = new ArrayList<>();
            Map<SdfPath, Set<String>> names = new HashMap<>();
            for (SdfPath path : wanted) {
                SdfPath parent = isMaterial(path) ? root.child(MATERIALS) : anchor.orElseThrow();
                plan(edits, path, parent, options, names, copies, !isMaterial(path));
            }
            for (Source.Need need : needs) {
                PrimSpec prim = source.layer().prim(need.path()).orElseThrow();
                boolean shape = prim.specifier() != Specifier.DEF;
                String scope = isMaterial(need.path()) ? MATERIALS : shape ? SHAPES : HELPERS;
                plan(edits, need.path(), root.child(scope), options, names, copies, scope.equals(HELPERS));
            }
            copies.forEach(Runnable::run);
            if (!options.drawer().isEmpty()) {
                anchor.ifPresent(path -> Drawers.add(edits, scene.root(), options.drawer(), List.of(path)));
            }
            return new Result(anchor.orElse(root.child(MATERIALS)), moved);
        });
    }

    private Set<SdfPath> everything() {
        Set<SdfPath> all = new LinkedHashSet<>();
        SdfPath root = source.root();
        for (PrimSpec prim : source.layer().prim(root).orElseThrow().children()) {
            if (prim.specifier() == Specifier.DEF && !prim.name().equals(MATERIALS)) {
                all.add(root.child(prim.name()));
            }
        }
        return all;
    }

    private boolean isMaterial(SdfPath path) {
        return source.layer()
                .prim(path)
                .filter(prim -> prim.typeName().equals("Material"))
                .isPresent();
    }

    private SdfPath anchor(Transaction edits, Options options) {
        SdfPath parent = options.under().orElseGet(scene::root);
        if (scene.layer().prim(parent).isEmpty()) {
            throw new SceneException(scene.file(), "there is no <" + parent + "> to bring anything under");
        }
        PrimSpec prim = new PrimSpec(Specifier.DEF, "Xform", Structure.free(edits, parent, options.name()));
        prim.metadata().put("kind", new Value.Token("group"));
        if (!prim.name().equals(options.name())) {
            prim.metadata().put("displayName", new Value.Text(options.name()));
        }
        options.placing().write(prim);
        double unit = UsdModelReader.metresPerUnit(source.layer());
        Matrix4 correction = UsdModelReader.upAxis(source.layer())
                .toYUp()
                .times(Matrix4.scale(new Vec3(unit, unit, unit)))
                .times(scene.toMetres().inverse());
        if (!correction.equals(Matrix4.IDENTITY)) {
            Xforms.appendMatrix(prim, "unit", correction);
        }
        edits.add(parent, prim);
        return parent.child(prim.name());
    }

    /** Chooses where a thing goes; it is copied later. */
    private void plan(
            Transaction edits,
            SdfPath path,
            SdfPath parent,
            Options options,
            Map<SdfPath, Set<String>> names,
            List<Runnable> copies,
            boolean placed) {
        Set<String> taken = names.computeIfAbsent(parent, key -> {
            Set<String> known = new LinkedHashSet<>();
            edits.stage().prim(key).ifPresent(prim -> prim.children().forEach(child -> known.add(child.name())));
            return known;
        });
        SdfPath own = parent.child(path.name());
        Decision decision = Decision.BOTH;
        if (isMaterial(path) && scene.layer().prim(own).isPresent()) {
            decision = isSame(path, own) ? Decision.SCENE : options.decisions().getOrDefault(path, Decision.BOTH);
        }
        if (decision == Decision.SCENE) {
            moved.put(path, own);
            return;
        }
        SdfPath to = decision == Decision.INCOMING ? own : parent.child(Names.free(path.name(), taken::contains));
        taken.add(to.name());
        moved.put(path, to);
        Decision how = decision;
        copies.add(() -> {
            scope(edits, parent);
            PrimSpec copy = copy(path, to, placed);
            if (how == Decision.INCOMING) {
                edits.replace(to, before -> copy);
            } else {
                edits.add(parent, copy);
            }
        });
    }

    private static void scope(Transaction edits, SdfPath path) {
        if (edits.stage().prim(path).isPresent()) {
            return;
        }
        boolean shapes = path.name().equals(SHAPES);
        PrimSpec scope = new PrimSpec(shapes ? Specifier.CLASS : Specifier.DEF, "Scope", path.name());
        if (path.name().equals(HELPERS)) {
            scope.set("token", "visibility", new Value.Token("invisible"));
        }
        edits.add(path.parent(), scope);
    }

    private PrimSpec copy(SdfPath path, SdfPath to, boolean placed) {
        Layer alone = new Layer(AssetLocation.of(scene.file()));
        PrimSpec prim = source.layer().prim(path).orElseThrow().copyAs(to.name());
        if (prim.specifier() == Specifier.OVER) {
            // The shape of instances, as flattening leaves it.
            prim.setSpecifier(Specifier.DEF);
        }
        lead(prim);
        if (placed) {
            place(prim, path);
        }
        alone.root().add(prim);
        return LayerAssets.renamed(alone, AssetLocation.of(scene.file()), this::image)
                .root()
                .child(to.name())
                .orElseThrow();
    }

    /** Where an object stood in its source by what was above it, it now stands by itself. */
    private void place(PrimSpec prim, SdfPath path) {
        Optional<Prim> placed = source.stage().prim(path);
        placed.ifPresent(there -> {
            Matrix4 local = Xforms.local(there);
            Matrix4 world = Xforms.world(there);
            if (!world.equals(local)) {
                Places.write(prim, local, world);
            }
        });
    }

    /** Leads targets, connections and references to where things are now; those that stay behind are left out. */
    private void lead(PrimSpec prim) {
        for (PropertySpec property : List.copyOf(prim.properties())) {
            switch (property) {
                case RelationshipSpec relationship ->
                    prim.put(relationship
                            .copyAs(relationship.name())
                            .setTargets(relationship.targets().mapPresent(this::led)));
                case AttributeSpec attribute -> {
                    if (!attribute.connections().isEmpty()) {
                        prim.put(attribute
                                .copyAs(attribute.name())
                                .setConnections(attribute.connections().mapPresent(this::led)));
                    }
                }
            }
        }
        if (prim.metadata().get("references") instanceof Value.ReferenceEdit(ListEdit<Reference> edit)) {
            prim.metadata().put("references", new Value.ReferenceEdit(edit.map(reference -> reference
                    .prim()
                    .filter(path -> reference.isInternal())
                    .flatMap(this::led)
                    .map(Reference::internal)
                    .orElse(reference))));
        }
        prim.children().forEach(this::lead);
    }

    private Optional<SdfPath> led(SdfPath path) {
        for (Map.Entry<SdfPath, SdfPath> each : moved.entrySet()) {
            if (path.startsWith(each.getKey())) {
                return Optional.of(path.replacePrefix(each.getKey(), each.getValue()));
            }
        }
        return Optional.empty();
    }

    /** The asset path of an image, which is copied beside the scene. */
    private String image(String written) {
        Path file = source.file().resolveSibling(written).normalize();
        if (!Files.isRegularFile(file)) {
            return written;
        }
        return images.computeIfAbsent(file, this::copied);
    }

    private String copied(Path file) {
        Path folder = scene.file().resolveSibling("textures");
        String name = file.getFileName().toString();
        try {
            Files.createDirectories(folder);
            String free = Names.free(Names.stem(name), "-", stem -> {
                Path there = folder.resolve(stem + "." + Names.ending(name));
                return Files.exists(there) && !sum(there).equals(sum(file));
            });
            Path target = folder.resolve(free + "." + Names.ending(name));
            if (!Files.exists(target)) {
                Files.copy(file, target);
            }
            return AssetPaths.relative(scene.file().getParent(), target);
        } catch (IOException e) {
            throw new SceneException(file, "cannot be copied beside the scene: " + IoProblems.describe(e));
        }
    }
}
