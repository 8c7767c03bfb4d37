package pantry.scene;

import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import pantry.base.FileGate;
import pantry.base.ImageTiles;
import pantry.base.IoProblems;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.exchange.format.Samples;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdMeshReader;
import pantry.exchange.usd.UsdModelReader;
import pantry.intake.LostTextures;
import pantry.model.Model;
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
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.compose.Flattener;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;
import pantry.usd.schema.Membership;
import pantry.usd.schema.PointInstancer;
import pantry.usd.schema.Xforms;
import pantry.workpiece.Workpiece;

/**
 * A file that things are brought in from, as one layer without arcs to others: what it holds, and what of it needs what.
 * Instances are kept as such; their shapes stand at the top.
 */
public final class ImportSource {
    /** What a thing is, in the order of lists. */
    public enum Kind {
        MODEL("models"),
        PREFAB("prefabs"),
        MATERIAL("materials"),
        LIGHT("lights"),
        CAMERA("cameras"),
        ENVIRONMENT("environment"),
        HELPER("helpers");

        private final String words;

        Kind(String words) {
            this.words = words;
        }

        /** For several of them. */
        public String words() {
            return words;
        }
    }

    /**
     * Something that can be chosen.
     *
     * @param group the name of the group that it is in; empty at the top
     * @param links others that it speaks of or that speak of it, and what shares its material
     */
    public record Importable(SdfPath path, String name, Kind kind, String group, Set<SdfPath> links, long triangles) {
        public Importable {
            links = Set.copyOf(links);
        }
    }

    /**
     * Something that comes along because what was chosen needs it.
     *
     * @param by what needs it
     * @param why the property or arc by which it does
     * @param bytes of its arrays and images
     */
    public record Need(SdfPath path, Kind kind, SdfPath by, String why, long bytes) {}

    private final Path file;
    private final Layer layer;
    private final Stage stage;
    private final Map<String, Switched> alternates;
    private @Nullable Model whole;
    private LostTextures lost = LostTextures.in(List.of(), Progress.NONE);
    private final Map<SdfPath, Map<SdfPath, String>> links = new LinkedHashMap<>();

    /**
     * What of a set of alternates is switched in in the source.
     *
     * @param members the objects that are there only with it
     */
    public record Switched(String alternate, List<SdfPath> members) {
        public Switched {
            members = List.copyOf(members);
        }
    }

    private ImportSource(Path file, Layer layer, LayerCache layers, Map<String, Switched> alternates) {
        this.file = file;
        this.layer = layer;
        this.alternates = alternates;
        this.stage = Stage.open(layer, layers);
        collect(SdfPath.ROOT, layer.root());
    }

    /** What becomes of what the file itself refers to other files for. */
    public enum Links {
        /** It goes on referring to them. */
        KEPT,
        /** It is copied, so that nothing refers anywhere. */
        COPIED
    }

    /**
     * Reads a file of any format that can be read.
     *
     * @throws pantry.base.PantryException where it cannot be read
     */
    public static ImportSource of(Path file, Links links, Workpiece.Sources sources, Progress progress) {
        Workpiece piece = Workpiece.of(file, sources, progress);
        return of(file, links, piece.editor().stage());
    }

    /** What a stage shows. */
    public static ImportSource of(Path file, Links links, Stage stage) {
        Layer flat = links == Links.KEPT
                ? Flattener.flattenLinked(stage, Flattener.Instances.SHARED, file)
                : Flattener.flatten(stage, Flattener.Instances.SHARED, file);
        return new ImportSource(file, flat, new LayerCache(stage.gate()), alternates(stage));
    }

    private static Map<String, Switched> alternates(Stage stage) {
        Map<String, Switched> alternates = new LinkedHashMap<>();
        stage.defaultPrim().ifPresent(root -> root.variantSets().keySet().forEach(set -> root.variantSelection(set)
                .ifPresent(chosen -> {
                    String selection = "{" + set + "=" + chosen + "}";
                    List<SdfPath> members = root.children().stream()
                            .filter(child -> !child.opinions().isEmpty()
                                    && child.opinions().stream().allMatch(opinion -> opinion.chain().stream()
                                            .anyMatch(site ->
                                                    site.path().toString().contains(selection))))
                            .map(Prim::path)
                            .toList();
                    alternates.put(set, new Switched(chosen, members));
                })));
        return alternates;
    }

    /** What is switched in of the source's sets of alternates, by their names. */
    public Map<String, Switched> alternates() {
        return alternates;
    }

    /** The source's drawers that hold some of its things, with those of them that they hold. */
    public Map<String, List<SdfPath>> drawers(Set<SdfPath> chosen) {
        Map<String, List<SdfPath>> drawers = new LinkedHashMap<>();
        stage.prim(root()).ifPresent(prim -> Membership.names(prim).forEach(name -> {
            List<SdfPath> members = prim.targets("collection:" + name + ":includes").stream()
                    .filter(member -> member.startsWithAny(chosen))
                    .toList();
            if (!members.isEmpty()) {
                drawers.put(name, members);
            }
        }));
        return drawers;
    }

    public Path file() {
        return file;
    }

    /** All of it, composed. */
    Stage stage() {
        return stage;
    }

    /** All of it; not to be changed. */
    public Layer layer() {
        return layer;
    }

    /** The file that a thing goes on referring to; empty where it is copied. */
    public Optional<Path> refersTo(SdfPath path) {
        if (layer.prim(path).map(prim -> prim.metadata().get("references")).orElse(null)
                instanceof Value.ReferenceEdit(ListEdit<Reference> edit)) {
            return edit.applyTo(List.of()).stream()
                    .filter(reference -> !reference.isInternal())
                    .findFirst()
                    .map(reference ->
                            AssetPaths.PLAIN.resolve(layer, reference.asset()).file());
        }
        return Optional.empty();
    }

    /** What one thing shows, in metres with Y up; a material on a ball. */
    public Model model(Importable piece) {
        if (piece.kind() == Kind.MATERIAL) {
            Prim prim = stage.prim(piece.path()).orElseThrow();
            return Samples.balls(piece.name(), List.of(UsdModelReader.material(stage, prim)));
        }
        return model(Set.of(piece.path()));
    }

    /** What some things show together, in metres with Y up; materials by themselves are not seen. */
    public Model model(Set<SdfPath> chosen) {
        Model part = whole().without(node -> {
            SdfPath path = SdfPath.of(node.path());
            return chosen.stream().noneMatch(each -> path.startsWith(each) || each.startsWith(path));
        });
        return part.reframed(UsdModelReader.toMetres(layer));
    }

    /** Where the pivot of a thing stands, in metres with Y up. */
    public Vec3 pivot(SdfPath path) {
        return stage.prim(path)
                .map(prim ->
                        Xforms.world(prim).times(UsdModelReader.toMetres(layer)).translationPart())
                .orElse(Vec3.ZERO);
    }

    /** Whether scenes can refer to the file as it is, because it is OpenUSD's. */
    public boolean canBeReferred() {
        return LayerFiles.isLayer(file.getFileName().toString());
    }

    /** The prim that all is below: the default prim, or the only one; the root where there are several. */
    public SdfPath root() {
        return layer.defaultPrimPath().orElseGet(() -> {
            List<PrimSpec> tops = layer.rootPrims().stream()
                    .filter(prim -> prim.specifier() == Specifier.DEF)
                    .toList();
            return tops.size() == 1 ? SdfPath.ROOT.child(tops.getFirst().name()) : SdfPath.ROOT;
        });
    }

    private void collect(SdfPath at, PrimSpec prim) {
        for (PropertySpec property : prim.properties()) {
            switch (property) {
                case RelationshipSpec relationship -> link(at, relationship.targets(), property.name());
                case AttributeSpec attribute -> link(at, attribute.connections(), property.name());
            }
        }
        if (prim.metadata().get("references") instanceof Value.ReferenceEdit(ListEdit<Reference> edit)) {
            for (Reference reference : edit.applyTo(List.of())) {
                if (reference.isInternal()) {
                    reference.prim().ifPresent(path -> link(at, path, "contents"));
                }
            }
        }
        prim.children().forEach(child -> collect(at.child(child.name()), child));
    }

    private void link(SdfPath from, ListEdit<SdfPath> targets, String why) {
        targets.applyTo(List.of()).forEach(path -> link(from, path.prim(), why));
    }

    private void link(SdfPath from, SdfPath to, String why) {
        if (!to.startsWith(from)) {
            links.computeIfAbsent(from, path -> new LinkedHashMap<>()).putIfAbsent(to, why);
        }
    }

    /** The things that can be chosen: those at the top, those in groups, and materials. */
    public List<Importable> importables() {
        Map<SdfPath, Long> triangles = new HashMap<>();
        whole().visit((owner, part, world) -> {
            for (SdfPath at = SdfPath.of(owner.path()); !at.equals(SdfPath.ROOT); at = at.parent()) {
                triangles.merge(at, (long) part.mesh().triangleCount(), Long::sum);
            }
        });
        List<Importable> importables = new ArrayList<>();
        SdfPath root = root();
        layer.prim(root).ifPresent(prim -> importables(root, prim, "", triangles, importables));
        Map<SdfPath, Set<SdfPath>> linked = linked(importables);
        importables.replaceAll(each -> new Importable(
                each.path(),
                each.name(),
                each.kind(),
                each.group(),
                linked.getOrDefault(each.path(), Set.of()),
                each.triangles()));
        return importables;
    }

    private Model whole() {
        Model known = whole;
        if (known == null) {
            known = UsdModelReader.read(stage, new MeshCache()).model();
            whole = known;
        }
        return known;
    }

    private void importables(
            SdfPath at, PrimSpec parent, String group, Map<SdfPath, Long> triangles, List<Importable> found) {
        for (PrimSpec prim : parent.children()) {
            SdfPath path = at.child(prim.name());
            if (prim.specifier() != Specifier.DEF) {
                continue;
            }
            boolean scope = prim.typeName().equals("Scope");
            boolean grouping = !scope && isGroup(prim);
            if (scope || grouping) {
                importables(path, prim, scope ? group : title(prim), triangles, found);
            } else {
                found.add(new Importable(
                        path, title(prim), kind(prim), group, Set.of(), triangles.getOrDefault(path, 0L)));
            }
        }
    }

    /** A group says so itself; what holds surfaces of its own beside others is a thing. */
    private static boolean isGroup(PrimSpec prim) {
        return prim.typeName().equals("Xform")
                && prim.metadata().get("kind") instanceof Value.Token(String kind)
                && kind.equals("group");
    }

    static String title(PrimSpec prim) {
        return prim.metadata().get("displayName") instanceof Value.Text(String text)
                ? text
                : prim.name().replace('_', ' ');
    }

    static Kind kind(PrimSpec prim) {
        String type = prim.typeName();
        if (type.equals("Material")) {
            return Kind.MATERIAL;
        }
        if (type.equals("DomeLight")) {
            return Kind.ENVIRONMENT;
        }
        if (type.endsWith("Light")) {
            return Kind.LIGHT;
        }
        if (type.equals("Camera")) {
            return Kind.CAMERA;
        }
        if (prim.metadata().get("kind") instanceof Value.Token(String kind) && kind.equals("assembly")) {
            return Kind.PREFAB;
        }
        return holdsSurface(prim) || prim.metadata().containsKey("references") ? Kind.MODEL : Kind.HELPER;
    }

    private static boolean holdsSurface(PrimSpec prim) {
        return UsdMeshReader.draws(prim.typeName())
                || prim.typeName().equals(PointInstancer.TYPE)
                || prim.children().stream().anyMatch(ImportSource::holdsSurface)
                || prim.metadata().containsKey("references");
    }

    /** What each thing speaks of, and what speaks of it, by the thing's path. */
    private Map<SdfPath, Set<SdfPath>> linked(List<Importable> things) {
        Set<SdfPath> known = new HashSet<>();
        things.forEach(thing -> known.add(thing.path()));
        Map<SdfPath, Set<SdfPath>> linked = new HashMap<>();
        links.forEach((from, targets) -> {
            Optional<SdfPath> speaking = owner(from, known);
            for (SdfPath to : targets.keySet()) {
                Optional<SdfPath> spoken = owner(to, known);
                if (!speaking.equals(spoken)) {
                    speaking.ifPresent(thing -> linked.computeIfAbsent(thing, key -> new LinkedHashSet<>())
                            .add(to));
                    spoken.ifPresent(thing -> linked.computeIfAbsent(thing, key -> new LinkedHashSet<>())
                            .add(from));
                }
            }
        });
        return linked;
    }

    /** The one of some things that a path is of or in. */
    private static Optional<SdfPath> owner(SdfPath path, Set<SdfPath> things) {
        for (SdfPath at = path.prim(); !at.equals(SdfPath.ROOT); at = at.parent()) {
            if (things.contains(at)) {
                return Optional.of(at);
            }
        }
        return Optional.empty();
    }

    /** All that some things need and that is not in them, directly or by what they need. */
    public List<Need> needs(Set<SdfPath> chosen) {
        Map<SdfPath, Need> needs = new LinkedHashMap<>();
        Deque<SdfPath> pending = new ArrayDeque<>(chosen);
        while (!pending.isEmpty()) {
            SdfPath path = pending.removeFirst();
            links.forEach((from, targets) -> {
                if (from.startsWith(path)) {
                    targets.forEach((to, why) -> {
                        boolean there = to.startsWithAny(chosen) || to.startsWithAny(needs.keySet());
                        Optional<SdfPath> whole = there ? Optional.empty() : whole(to);
                        whole.ifPresent(thing -> {
                            PrimSpec prim = layer.prim(thing).orElseThrow();
                            needs.put(thing, new Need(thing, kind(prim), path, why, bytes(prim)));
                            pending.addLast(thing);
                        });
                    });
                }
            });
        }
        return List.copyOf(needs.values());
    }

    /** The thing that a prim is part of: a material whole, or the prim itself; empty where it is not there. */
    private Optional<SdfPath> whole(SdfPath path) {
        SdfPath at = path;
        while (!at.equals(SdfPath.ROOT)) {
            Optional<PrimSpec> prim = layer.prim(at);
            if (prim.filter(spec -> spec.typeName().equals("Material")).isPresent()) {
                return Optional.of(at);
            }
            at = at.parent();
        }
        return layer.prim(path).map(prim -> path);
    }

    private long bytes(PrimSpec prim) {
        long[] sum = {0};
        for (String written : images(prim)) {
            Optional<Path> image = image(written);
            try {
                sum[0] += image.isPresent() ? Files.size(image.get()) : 0;
            } catch (java.io.IOException e) {
                throw new SceneException(image.get(), "cannot be read: " + IoProblems.describe(e));
            }
        }
        add(prim, sum);
        return sum[0];
    }

    /** What a prim and all below it name besides layers. */
    private List<String> images(PrimSpec prim) {
        Layer alone = new Layer(AssetLocation.of(file));
        alone.root().add(prim.copy());
        return LayerAssets.of(alone).stream()
                .filter(written -> !LayerFiles.isLayer(written))
                .flatMap(this::tiles)
                .toList();
    }

    /** Of an image in tiles, those that are there; its name where none is. */
    private Stream<String> tiles(String written) {
        List<String> there = ImageTiles.isTiled(written)
                ? ImageTiles.each(written).stream()
                        .filter(tile -> image(tile).isPresent())
                        .toList()
                : List.of();
        return there.isEmpty() ? Stream.of(written) : there.stream();
    }

    /** From now on, images that are named and not found are looked for among others as well. */
    public void lookIn(LostTextures found) {
        lost = found;
    }

    /** The image that the source names; empty where it is nowhere, is no image, or may not be read. */
    Optional<Path> image(String written) {
        try {
            Path place = file.resolveSibling(written.replace('\\', '/')).normalize();
            return stage.gate().admitImage(place, written, file).or(() -> lost.find(written));
        } catch (InvalidPathException e) {
            return lost.find(written);
        }
    }

    /**
     * The images that chosen things and what they need name and that are not found, with the reason where there is one
     * besides their being missing.
     */
    public List<String> missing(Set<SdfPath> chosen) {
        Set<SdfPath> all = new LinkedHashSet<>(chosen.isEmpty() ? Set.of(root()) : chosen);
        needs(all).forEach(need -> all.add(need.path()));
        Set<String> missing = new LinkedHashSet<>();
        for (SdfPath path : all) {
            layer.prim(path).ifPresent(prim -> images(prim).stream()
                    .filter(written -> image(written).isEmpty())
                    .forEach(missing::add));
        }
        return missing.stream().map(this::told).toList();
    }

    private String told(String written) {
        return stage.gate().refusals().stream()
                .filter(refusal -> refusal.written().equals(written))
                .map(FileGate.Refusal::line)
                .findFirst()
                .orElse(written);
    }

    private static void add(PrimSpec prim, long[] sum) {
        for (PropertySpec property : prim.properties()) {
            if (property instanceof AttributeSpec attribute) {
                sum[0] += switch (attribute.value().orElse(null)) {
                    case Value.Floats floats -> 4L * floats.data().length;
                    case Value.Ints ints -> 4L * ints.data().length;
                    case Value.Doubles doubles -> 8L * doubles.data().length;
                    case null, default -> 0L;
                };
            }
        }
        prim.children().forEach(child -> add(child, sum));
    }
}
