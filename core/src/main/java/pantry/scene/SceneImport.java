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
import pantry.base.CopiedFiles;
import pantry.base.ImageTiles;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.base.Sha256;
import pantry.base.math.Matrix4;
import pantry.exchange.usd.UsdModelReader;
import pantry.usd.AssetLocation;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Signature;
import pantry.usd.SpecTargets;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.edit.PathRemapping;
import pantry.usd.edit.Transaction;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;
import pantry.usd.schema.TransformComponents;
import pantry.usd.schema.Xforms;

/**
 * Copies things of a source into a scene with all that they need, so that nothing refers back to it: objects under an anchor
 * of their own, materials among the scene's, shapes of instances among its shapes, and what else is needed into a hidden
 * scope. Images are copied beside the scene.
 */
public final class SceneImport {
    private static final List<String> SETTINGS =
            List.of("timeCodesPerSecond", "framesPerSecond", "startTimeCode", "endTimeCode");

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

    /** What of two scenes can be of one name. */
    public enum ConflictKind {
        /** The group that the objects would hang on. */
        GROUP,
        MATERIAL,
        DRAWER,
        /** A set of alternates. */
        ALTERNATES,
        /** A setting of the whole scene, such as its frames per second. */
        SETTING
    }

    /**
     * A name that both have.
     *
     * @param incoming where it is in the source
     * @param own where it is in the scene
     * @param same whether both say the same, so that one is as good as the other
     */
    public record Conflict(ConflictKind what, String name, SdfPath incoming, SdfPath own, boolean same) {}

    /**
     * How things are brought in.
     *
     * @param name of the anchor
     * @param under an existing prim; the scene's root where empty
     * @param decisions for clashes that differ; {@code BOTH} for those not decided, and for settings the scene's
     * @param drawer the name of a drawer that they are put into; empty for none
     */
    public record Options(
            String name,
            TransformComponents placing,
            Optional<SdfPath> under,
            Map<Conflict, Decision> decisions,
            String drawer) {
        public Options {
            decisions = Map.copyOf(decisions);
        }

        public static Options named(String name) {
            return new Options(name, TransformComponents.ORIGIN, Optional.empty(), Map.of(), "");
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
    private final ImportSource source;
    private final Map<SdfPath, SdfPath> moved = new LinkedHashMap<>();
    private final Map<Path, String> images = new HashMap<>();

    private SceneImport(Scene scene, ImportSource source) {
        this.scene = scene;
        this.source = source;
    }

    /**
     * The names that the scene has too: of chosen things, of what they need, and of what they belong to.
     *
     * @param chosen paths in the source; all below its root where there are none
     * @param name of the group that they would hang on, below the scene's root
     */
    public static List<Conflict> clashes(Scene scene, ImportSource source, Set<SdfPath> chosen, String name) {
        return new SceneImport(scene, source).clashes(chosen, name);
    }

    /** What comes along of a source: what is chosen, or all below its root, and what that needs. */
    public static List<SdfPath> coming(ImportSource source, Set<SdfPath> chosen) {
        Set<SdfPath> all = new LinkedHashSet<>(chosen);
        if (chosen.isEmpty()) {
            source.layer().prim(source.root()).ifPresent(root -> root.childNames()
                    .forEach(name -> all.add(source.root().child(name))));
        }
        source.needs(all).forEach(need -> all.add(need.path()));
        return List.copyOf(all);
    }

    private List<Conflict> clashes(Set<SdfPath> some, String name) {
        Set<SdfPath> chosen = some.isEmpty() ? everything() : some;
        List<Conflict> clashes = new ArrayList<>();
        SdfPath group = scene.root().child(Names.identifier(name));
        if (!chosen.stream().allMatch(this::isMaterial)
                && scene.layer().prim(group).filter(SceneImport::isGroup).isPresent()) {
            clashes.add(new Conflict(ConflictKind.GROUP, name, source.root(), group, false));
        }
        for (SdfPath path : materials(chosen)) {
            SdfPath own = scene.root().child(Materials.SCOPE).child(path.name());
            if (scene.layer().prim(own).isPresent()) {
                clashes.add(new Conflict(ConflictKind.MATERIAL, path.name(), path, own, isSame(path, own)));
            }
        }
        Set<String> drawers = new LinkedHashSet<>();
        scene.drawers().all().forEach(drawer -> drawers.add(drawer.name()));
        source.drawers(chosen).keySet().stream().filter(drawers::contains).forEach(drawer -> {
            String property = "collection:" + drawer + ":includes";
            clashes.add(new Conflict(
                    ConflictKind.DRAWER,
                    drawer,
                    source.root().property(property),
                    scene.root().property(property),
                    false));
        });
        Set<String> sets = new LinkedHashSet<>();
        scene.alternates().all().forEach(set -> sets.add(set.name()));
        source.alternates().keySet().stream()
                .filter(sets::contains)
                .forEach(set -> clashes.add(new Conflict(
                        ConflictKind.ALTERNATES,
                        set,
                        source.root().property(set),
                        scene.root().property(set),
                        false)));
        for (String setting : SETTINGS) {
            Value incoming = source.layer().metadata().get(setting);
            Value own = scene.layer().metadata().get(setting);
            if (incoming != null && own != null) {
                clashes.add(new Conflict(
                        ConflictKind.SETTING,
                        setting,
                        SdfPath.ROOT.property(setting),
                        SdfPath.ROOT.property(setting),
                        incoming.equals(own)));
            }
        }
        return clashes;
    }

    private static boolean isGroup(PrimSpec prim) {
        return prim.typeName().equals("Xform") && !prim.metadata().containsKey("references");
    }

    /** What is decided of a name; the scene's where both say the same or nothing clashes. */
    private static Decision decided(Options options, List<Conflict> clashes, ConflictKind what, String name) {
        Optional<Conflict> clash = clashes.stream()
                .filter(each -> each.what() == what && each.name().equals(name))
                .findFirst();
        if (clash.isEmpty() || clash.get().same()) {
            return Decision.SCENE;
        }
        Decision otherwise = what == ConflictKind.SETTING ? Decision.SCENE : Decision.BOTH;
        return options.decisions().getOrDefault(clash.get(), otherwise);
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
     * @throws SceneException where something chosen is not there
     */
    public static Result bring(Scene scene, ImportSource source, Set<SdfPath> chosen, Options options) {
        return new SceneImport(scene, source).bring(chosen, options);
    }

    private Result bring(Set<SdfPath> chosen, Options options) {
        Set<SdfPath> wanted = chosen.isEmpty() ? everything() : new LinkedHashSet<>(chosen);
        for (SdfPath path : wanted) {
            if (source.layer().prim(path).isEmpty()) {
                throw new SceneException(source.file(), "there is no <" + path + "> to bring in");
            }
        }
        wanted.retainAll(Set.copyOf(SceneLayer.outermost(wanted)));
        List<ImportSource.Need> needs = source.needs(wanted);
        List<Conflict> clashes = clashes(wanted, options.name());
        return scene.own().editor().change("brought in " + options.name(), edits -> {
            SdfPath root = scene.root();
            Optional<SdfPath> anchor = wanted.stream().allMatch(this::isMaterial)
                    ? Optional.empty()
                    : Optional.of(anchor(edits, options, clashes));
            // First where everything goes, so that what speaks of each other is remapped there.
            Plan plan = new Plan(edits, options, clashes);
            for (SdfPath path : wanted) {
                SdfPath parent = isMaterial(path) ? root.child(Materials.SCOPE) : anchor.orElseThrow();
                plan.add(path, parent, !isMaterial(path));
            }
            for (ImportSource.Need need : needs) {
                PrimSpec prim = source.layer().prim(need.path()).orElseThrow();
                boolean shape = prim.specifier() != Specifier.DEF;
                String scope = isMaterial(need.path()) ? Materials.SCOPE : shape ? Instancing.SHAPES : HELPERS;
                plan.add(need.path(), root.child(scope), scope.equals(HELPERS));
            }
            plan.carryOut();
            intoDrawers(edits, wanted, options, clashes);
            intoAlternates(edits, options, clashes);
            settings(edits, options, clashes);
            if (!options.drawer().isEmpty()) {
                anchor.ifPresent(path -> Drawers.add(edits, scene.root(), options.drawer(), List.of(path)));
            }
            return new Result(anchor.orElse(root.child(Materials.SCOPE)), moved);
        });
    }

    /** What was in drawers goes into those of the same names. */
    private void intoDrawers(Transaction edits, Set<SdfPath> wanted, Options options, List<Conflict> clashes) {
        Set<String> own = new LinkedHashSet<>();
        clashes.stream().filter(clash -> clash.what() == ConflictKind.DRAWER).forEach(clash -> own.add(clash.name()));
        source.drawers(wanted).forEach((drawer, members) -> {
            Decision decision =
                    own.contains(drawer) ? decided(options, clashes, ConflictKind.DRAWER, drawer) : Decision.BOTH;
            if (decision == Decision.SCENE) {
                return;
            }
            if (decision == Decision.INCOMING) {
                Drawers.clear(edits, scene.root(), drawer);
            }
            Drawers.add(
                    edits,
                    scene.root(),
                    drawer,
                    members.stream().flatMap(path -> remapped(path).stream()).toList());
        });
    }

    /** What belonged to an alternate belongs to that of the same name in the scene's set, where so decided. */
    private void intoAlternates(Transaction edits, Options options, List<Conflict> clashes) {
        source.alternates().forEach((set, chosen) -> {
            boolean clashing = clashes.stream()
                    .anyMatch(clash -> clash.what() == ConflictKind.ALTERNATES
                            && clash.name().equals(set));
            if (!clashing || decided(options, clashes, ConflictKind.ALTERNATES, set) == Decision.SCENE) {
                return;
            }
            List<SdfPath> members = chosen.members().stream()
                    .flatMap(path -> remapped(path).stream())
                    .toList();
            if (!members.isEmpty()) {
                edits.addVariant(scene.root(), set, chosen.alternate());
                scene.alternates().keep(edits, set, chosen.alternate(), members);
            }
        });
    }

    private void settings(Transaction edits, Options options, List<Conflict> clashes) {
        for (Conflict clash : clashes) {
            if (clash.what() == ConflictKind.SETTING
                    && decided(options, clashes, ConflictKind.SETTING, clash.name()) == Decision.INCOMING) {
                edits.setLayerField(clash.name(), source.layer().metadata().get(clash.name()));
            }
        }
    }

    /** All but the environment, which a scene has one of. */
    private Set<SdfPath> everything() {
        Set<SdfPath> all = new LinkedHashSet<>();
        SdfPath root = source.root();
        for (PrimSpec prim : source.layer().prim(root).orElseThrow().children()) {
            if (prim.specifier() == Specifier.DEF
                    && !prim.name().equals(Materials.SCOPE)
                    && ImportSource.kind(prim) != ImportSource.Kind.ENVIRONMENT) {
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

    private SdfPath anchor(Transaction edits, Options options, List<Conflict> clashes) {
        SdfPath parent = options.under().orElseGet(scene::root);
        SdfPath taken = parent.child(Names.identifier(options.name()));
        boolean clashing =
                clashes.stream().anyMatch(clash -> clash.what() == ConflictKind.GROUP) && parent.equals(scene.root());
        if (clashing) {
            Decision decision = decided(options, clashes, ConflictKind.GROUP, options.name());
            if (decision == Decision.SCENE) {
                return taken;
            }
            if (decision == Decision.INCOMING) {
                edits.remove(taken);
            }
        }
        if (scene.layer().prim(parent).isEmpty()) {
            throw new SceneException(scene.file(), "there is no <" + parent + "> to bring anything under");
        }
        PrimSpec prim = new PrimSpec(Specifier.DEF, "Xform", ChildNames.free(edits, parent, options.name()));
        prim.metadata().put("kind", new Value.Token("group"));
        if (!prim.name().equals(options.name())) {
            prim.metadata().put("displayName", new Value.Text(options.name()));
        }
        options.placing().write(prim);
        Matrix4 correction = correction();
        if (!correction.equals(Matrix4.IDENTITY)) {
            Xforms.appendMatrix(prim, "unit", correction);
        }
        edits.add(parent, prim);
        return parent.child(prim.name());
    }

    /** From the source's unit and axes to the scene's. */
    private Matrix4 correction() {
        return UsdModelReader.toMetres(source.layer()).times(scene.toMetres().inverse());
    }

    /** Where each thing goes, and what is done once that is known of all of them. */
    private final class Plan {
        private final Transaction edits;
        private final Options options;
        private final List<Conflict> clashes;
        private final Map<SdfPath, ChildNames> names = new HashMap<>();
        private final List<Runnable> copies = new ArrayList<>();
        private final Map<SdfPath, List<PrimSpec>> coming = new LinkedHashMap<>();

        Plan(Transaction edits, Options options, List<Conflict> clashes) {
            this.edits = edits;
            this.options = options;
            this.clashes = clashes;
        }

        /**
         * Chooses where a thing goes; it is copied later.
         *
         * @param placed whether it is to stand where it stood in its source
         */
        void add(SdfPath path, SdfPath parent, boolean placed) {
            ChildNames taken = names.computeIfAbsent(parent, key -> ChildNames.below(edits, key));
            SdfPath own = parent.child(path.name());
            Decision decision = Decision.BOTH;
            if (isMaterial(path) && scene.layer().prim(own).isPresent()) {
                decision = decided(options, clashes, ConflictKind.MATERIAL, path.name());
            }
            if (decision == Decision.SCENE) {
                moved.put(path, own);
                return;
            }
            SdfPath to = decision == Decision.INCOMING ? own : parent.child(taken.take(path.name()));
            moved.put(path, to);
            Decision how = decision;
            // A group that the scene has stands somewhere already.
            Matrix4 above = parent.equals(scene.root().child(Names.identifier(options.name())))
                            && decided(options, clashes, ConflictKind.GROUP, options.name()) == Decision.SCENE
                            && scene.layer().prim(parent).isPresent()
                    ? correction()
                            .times(options.placing().matrix())
                            .times(edits.stage()
                                    .prim(parent)
                                    .map(Xforms::world)
                                    .orElse(Matrix4.IDENTITY)
                                    .inverse())
                    : Matrix4.IDENTITY;
            List<PrimSpec> siblings = coming.computeIfAbsent(parent, key -> new ArrayList<>());
            copies.add(() -> {
                PrimSpec copy = copy(path, to, placed, above);
                if (how == Decision.INCOMING) {
                    edits.replace(to, before -> copy);
                } else {
                    siblings.add(copy);
                }
            });
        }

        void carryOut() {
            coming.keySet().forEach(parent -> scope(edits, parent));
            copies.forEach(Runnable::run);
            coming.forEach(edits::addAll);
        }
    }

    private static void scope(Transaction edits, SdfPath path) {
        if (edits.stage().prim(path).isPresent()) {
            return;
        }
        boolean shapes = path.name().equals(Instancing.SHAPES);
        PrimSpec scope = new PrimSpec(shapes ? Specifier.CLASS : Specifier.DEF, "Scope", path.name());
        if (path.name().equals(HELPERS)) {
            scope.set("token", "visibility", new Value.Token("invisible"));
        }
        edits.add(path.parent(), scope);
    }

    private PrimSpec copy(SdfPath path, SdfPath to, boolean placed, Matrix4 above) {
        Layer alone = new Layer(AssetLocation.of(scene.file()));
        PrimSpec prim = source.layer().prim(path).orElseThrow().copyAs(to.name());
        if (prim.specifier() == Specifier.OVER) {
            // The shape of instances, as flattening leaves it.
            prim.setSpecifier(Specifier.DEF);
        }
        SpecTargets.remap(prim, this::remapped);
        if (placed) {
            place(prim, path, above);
        }
        alone.root().add(prim);
        return LayerAssets.renamed(alone, AssetLocation.of(scene.file()), this::image)
                .root()
                .child(to.name())
                .orElseThrow();
    }

    /** Where an object stood in its source by what was above it, it now stands by itself. */
    private void place(PrimSpec prim, SdfPath path, Matrix4 above) {
        Optional<Prim> placed = source.stage().prim(path);
        placed.ifPresent(there -> {
            Matrix4 local = Xforms.local(there);
            Matrix4 world = Xforms.world(there).times(above);
            if (!world.equals(local)) {
                TransformOps.write(prim, local, world);
            }
        });
    }

    private Optional<SdfPath> remapped(SdfPath path) {
        return PathRemapping.moved(path, moved);
    }

    /** The asset path of another layer, or of an image, which is copied beside the scene. */
    private String image(String written) {
        Optional<String> tiles = ImageTiles.renamed(
                written, tile -> source.image(tile).map(this::copiedOnce).orElse(null));
        if (tiles.isPresent()) {
            ImageTiles.each(written).forEach(tile -> source.image(tile).ifPresent(this::copiedOnce));
            return tiles.get();
        }
        Path file = source.file().resolveSibling(written).normalize();
        if (LayerFiles.isLayer(file.getFileName().toString())) {
            return AssetPaths.relative(scene.file().getParent(), file);
        }
        Optional<Path> image = source.image(written);
        if (image.isEmpty()) {
            // It is named where it will be looked for, not where it stood on another machine.
            return "./textures/" + written.substring(written.replace('\\', '/').lastIndexOf('/') + 1);
        }
        return copiedOnce(image.get());
    }

    private String copiedOnce(Path image) {
        return images.computeIfAbsent(image, this::copied);
    }

    private String copied(Path file) {
        Path folder = scene.file().resolveSibling("textures");
        try {
            Path target = CopiedFiles.into(folder, file, file.getFileName().toString());
            return AssetPaths.relative(scene.file().getParent(), target);
        } catch (IOException e) {
            throw new SceneException(file, "cannot be copied beside the scene: " + IoProblems.describe(e));
        }
    }
}
