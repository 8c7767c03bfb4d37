package pantry.scene;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.base.IoProblems;
import pantry.base.Progress;
import pantry.prep.Workpiece;
import pantry.usd.AssetLocation;
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
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerAssets;

/**
 * A file that things are brought in from, as one layer without arcs to others: what it holds, and what of it needs what.
 * Instances are kept as such; their shapes stand at the top.
 */
public final class Source {
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
    public record Piece(SdfPath path, String name, Kind kind, String group, Set<SdfPath> links, long triangles) {
        public Piece {
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
    private final Map<SdfPath, Map<SdfPath, String>> links = new LinkedHashMap<>();

    private Source(Path file, Layer layer) {
        this.file = file;
        this.layer = layer;
        this.stage = Stage.open(layer, new LayerCache());
        collect(SdfPath.ROOT, layer.root());
    }

    /**
     * Reads a file of any format that can be read.
     *
     * @throws pantry.base.PantryException where it cannot be read
     */
    public static Source of(Path file, Workpiece.Sources sources, Progress progress) {
        Workpiece piece = Workpiece.of(file, sources, progress);
        return of(file, piece.editor().stage());
    }

    /** What a stage shows. */
    public static Source of(Path file, Stage stage) {
        return new Source(file, Flattener.flatten(stage, Flattener.Instances.SHARED, file));
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
    public List<Piece> pieces() {
        List<Piece> pieces = new ArrayList<>();
        SdfPath root = root();
        layer.prim(root).ifPresent(prim -> pieces(root, prim, "", pieces));
        return pieces;
    }

    private void pieces(SdfPath at, PrimSpec parent, String group, List<Piece> found) {
        for (PrimSpec prim : parent.children()) {
            SdfPath path = at.child(prim.name());
            if (prim.specifier() != Specifier.DEF) {
                continue;
            }
            boolean scope = prim.typeName().equals("Scope");
            boolean grouping = !scope && isGroup(prim);
            if (scope || grouping) {
                pieces(path, prim, scope ? group : title(prim), found);
            } else {
                found.add(new Piece(path, title(prim), kind(prim), group, linked(path), triangles(prim)));
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
        return List.of("Mesh", "Cube", "Sphere", "Cylinder", "Cone", "PointInstancer")
                        .contains(prim.typeName())
                || prim.children().stream().anyMatch(Source::holdsSurface)
                || prim.metadata().containsKey("references");
    }

    private long triangles(PrimSpec prim) {
        long sum = 0;
        if (prim.attribute("faceVertexCounts").flatMap(AttributeSpec::value).orElse(null)
                instanceof Value.Ints(int[] sizes, int width)) {
            for (int size : sizes) {
                sum += Math.max(0, size - 2);
            }
        }
        if (prim.metadata().get("references") instanceof Value.ReferenceEdit(ListEdit<Reference> edit)) {
            for (Reference reference : edit.applyTo(List.of())) {
                sum += reference
                        .prim()
                        .flatMap(layer::prim)
                        .map(this::triangles)
                        .orElse(0L);
            }
        }
        for (PrimSpec child : prim.children()) {
            sum += triangles(child);
        }
        return sum;
    }

    /** What a thing speaks of, and what speaks of it. */
    private Set<SdfPath> linked(SdfPath path) {
        Set<SdfPath> linked = new LinkedHashSet<>();
        links.forEach((from, targets) -> targets.keySet().forEach(to -> {
            if (from.startsWith(path) && !to.startsWith(path)) {
                linked.add(to);
            } else if (to.startsWith(path) && !from.startsWith(path)) {
                linked.add(from);
            }
        }));
        return linked;
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
                        boolean there = chosen.stream().anyMatch(to::startsWith)
                                || needs.keySet().stream().anyMatch(to::startsWith);
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
        Layer alone = new Layer(AssetLocation.of(file));
        alone.root().add(prim.copy());
        for (String written : LayerAssets.of(alone)) {
            Path image = file.resolveSibling(written);
            try {
                sum[0] += Files.isRegularFile(image) ? Files.size(image) : 0;
            } catch (java.io.IOException e) {
                throw new SceneException(image, "cannot be read: " + IoProblems.describe(e));
            }
        }
        add(prim, sum);
        return sum[0];
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
