package pantry.project;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.LongPredicate;
import java.util.function.Predicate;
import pantry.base.FileGate;
import pantry.base.NaturalOrder;
import pantry.base.PantryException;
import pantry.base.Parallel;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdModelReader;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.mesh.Mesh;
import pantry.model.Model;
import pantry.twins.TwinGroup;
import pantry.twins.TwinOptions;
import pantry.twins.Twins;
import pantry.usd.AssetLocation;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.UsdException;
import pantry.usd.Value;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;
import pantry.usd.schema.Xforms;

/**
 * Finds copies of assets that stand in scene files as meshes of their own, appended, merged or exported long ago: by their
 * shape, however they are turned and scaled and in whatever order their meshes, points and faces stand. They become
 * placements of the asset, with every vertex where it was.
 *
 * <p>What is compared is all that stands below a prim, as one mesh in the world; the outermost that is an asset's counts.
 * Assets are read only where one has as many triangles as something in a file.
 */
public final class Strays {
    private static final TwinOptions OPTIONS = new TwinOptions(0, false, true);

    /** What is kept of a prim that becomes a placement, besides its name. */
    private static final List<String> KEPT = List.of("active", "displayName", "documentation", "customData", "hidden");

    /** What is smaller is not worth an asset, triangles. */
    private static final long WORTH = 24;

    private final List<Asset> assets;
    private final List<Path> files;
    private final Progress progress;
    private final LayerCache layers = inLibraries();

    /**
     * A copy of an asset in a file.
     *
     * @param path the prim that it stands below
     * @param place from the asset's space to that of the file's world: turned, moved, and scaled alike along all axes
     * @param deviation the farthest that a vertex of the asset, so placed, is from its like, in the file's unit
     * @param materials the names of the materials that it is shown with
     */
    public record Copy(Path file, SdfPath path, Matrix4 place, double deviation, Set<String> materials) {}

    /**
     * The copies of an asset.
     *
     * @param version that they are compared with
     * @param materials the names of the asset's own materials
     */
    public record Group(Asset asset, String version, Set<String> materials, List<Copy> copies) {
        public Group {
            copies = List.copyOf(copies);
        }

        /** With some of its copies. */
        public Group keeping(Predicate<Copy> wanted) {
            return new Group(
                    asset, version, materials, copies.stream().filter(wanted).toList());
        }

        /** The greatest of all copies. */
        public double deviation() {
            return copies.stream().mapToDouble(Copy::deviation).max().orElse(0);
        }
    }

    /**
     * Something that stands in the files several times, and that no asset is like.
     *
     * @param triangles of each
     * @param copies each with the place of the first's shape
     */
    public record Recurring(long triangles, List<Copy> copies) {
        public Recurring {
            copies = List.copyOf(copies);
        }
    }

    /** Meshes below a prim of a file, as one. */
    private record Candidate(Path file, SdfPath path, Mesh mesh, Set<String> materials) {}

    /** What scenes name besides libraries does not matter here. */
    static LayerCache inLibraries() {
        return new LayerCache(FileGate.to(List.of()).orWhere(Library::isWithin));
    }

    private Strays(List<Asset> assets, List<Path> files, Progress progress) {
        this.assets = assets;
        this.files = files;
        this.progress = progress;
    }

    /**
     * The copies of assets in the files of projects; files that cannot be read are passed over.
     *
     * @return by asset, in the order of their names
     */
    public static List<Group> find(Reach reach, Progress progress) {
        return new Strays(List.copyOf(reach.assets()), reach.files(), progress).find();
    }

    private List<Group> find() {
        Map<Long, List<Asset>> byTriangles = new HashMap<>();
        Parallel.map(assets, asset -> Map.entry(asset, AssetShape.triangles(asset)))
                .forEach(entry -> byTriangles
                        .computeIfAbsent(entry.getValue(), count -> new ArrayList<>())
                        .add(entry.getKey()));
        byTriangles.remove(0L);
        AtomicInteger done = new AtomicInteger();
        List<Candidate> candidates = Parallel.map(files, file -> {
                    progress.step("looking for copies in " + file, 0.6 * done.incrementAndGet() / files.size());
                    return search(file, byTriangles::containsKey);
                })
                .stream()
                .flatMap(List::stream)
                .toList();
        // Of assets of one shape, the first by name is taken.
        Set<Asset> wanted =
                new TreeSet<>(Comparator.comparing((Asset asset) -> asset.card().name(), NaturalOrder.BY_NAME)
                        .thenComparing(Asset::folder));
        for (Candidate candidate : candidates) {
            wanted.addAll(byTriangles.getOrDefault((long) candidate.mesh().triangleCount(), List.of()));
        }
        List<AssetShape> wholes = Parallel.map(List.copyOf(wanted), asset -> {
                    progress.check();
                    return AssetShape.of(asset, layers);
                })
                .stream()
                .flatMap(Optional::stream)
                .toList();
        return grouped(wholes, candidates);
    }

    /**
     * What stands in the files of projects several times without being an asset: what may become one.
     *
     * @param groups the copies of assets, which are none of these
     * @return those that save most first, by their triangles
     */
    public static List<Recurring> recurring(Reach reach, List<Group> groups, Progress progress) {
        return new Strays(List.of(), reach.files(), progress).recurring(groups);
    }

    private List<Recurring> recurring(List<Group> groups) {
        Map<Path, Set<SdfPath>> known = new HashMap<>();
        groups.forEach(group -> group.copies()
                .forEach(copy -> known.computeIfAbsent(copy.file(), file -> new LinkedHashSet<>())
                        .add(copy.path())));
        Map<Long, AtomicInteger> counts = new ConcurrentHashMap<>();
        Parallel.map(files, file -> {
            progress.step("looking for what recurs in " + file, -1);
            search(file, triangles -> {
                if (triangles >= WORTH) {
                    counts.computeIfAbsent(triangles, key -> new AtomicInteger())
                            .incrementAndGet();
                }
                return false;
            });
            return file;
        });
        List<Candidate> candidates = Parallel.map(
                        files,
                        file -> search(
                                file,
                                triangles -> counts.getOrDefault(triangles, new AtomicInteger())
                                                .get()
                                        > 1))
                .stream()
                .flatMap(List::stream)
                .filter(each -> known.getOrDefault(each.file(), Set.of()).stream()
                        .noneMatch(copy -> each.path().startsWith(copy) || copy.startsWith(each.path())))
                .toList();
        return recurring(candidates, progress);
    }

    private static List<Recurring> recurring(List<Candidate> candidates, Progress progress) {
        List<Twins.Surface> surfaces = candidates.stream()
                .map(each -> new Twins.Surface(each.mesh(), false, 1))
                .toList();
        List<Recurring> all = new ArrayList<>();
        Map<Path, Set<SdfPath>> outer = new HashMap<>();
        List<TwinGroup> groups = new ArrayList<>(Twins.find(surfaces, OPTIONS, progress.withoutSteps()));
        // What is within something larger that recurs, recurs with it.
        groups.sort(Comparator.comparingInt((TwinGroup group) -> -group.triangles()));
        for (TwinGroup group : groups) {
            List<Copy> copies = new ArrayList<>();
            Map<Path, Set<SdfPath>> own = new HashMap<>();
            for (TwinGroup.Member member : group.members()) {
                Candidate each = candidates.get(member.index());
                own.computeIfAbsent(each.file(), file -> new LinkedHashSet<>()).add(each.path());
            }
            for (TwinGroup.Member member : group.members()) {
                Candidate each = candidates.get(member.index());
                if (isOutermost(each.path(), own.getOrDefault(each.file(), Set.of()))
                        && isOutermost(each.path(), outer.getOrDefault(each.file(), Set.of()))) {
                    copies.add(
                            new Copy(each.file(), each.path(), member.place(), member.deviation(), each.materials()));
                }
            }
            if (copies.size() > 1) {
                copies.forEach(copy -> outer.computeIfAbsent(copy.file(), file -> new LinkedHashSet<>())
                        .add(copy.path()));
                all.add(new Recurring(group.triangles(), copies));
            }
        }
        all.sort(Comparator.comparingLong(
                (Recurring each) -> -each.triangles() * (each.copies().size() - 1)));
        return all;
    }

    /** What stands below the prims of a file that are its own, and has as many triangles as is wanted. */
    private List<Candidate> search(Path file, LongPredicate wanted) {
        try {
            Layer layer = LayerFiles.read(file);
            if (layer.location().filter(AssetLocation::isPackaged).isPresent()) {
                return List.of();
            }
            Model model = UsdModelReader.read(Stage.open(layer, layers), new MeshCache())
                    .model();
            List<Candidate> found = new ArrayList<>();
            Search search = new Search(file, layer, wanted, found);
            model.roots().forEach(root -> search.visit(root, Matrix4.IDENTITY));
            return found;
        } catch (UsdException e) {
            return List.of();
        }
    }

    private static final class Search {
        private final Path file;
        private final Layer layer;
        private final LongPredicate wanted;
        private final List<Candidate> found;

        Search(Path file, Layer layer, LongPredicate wanted, List<Candidate> found) {
            this.file = file;
            this.layer = layer;
            this.wanted = wanted;
            this.found = found;
        }

        /** @return the triangles below a node; negative where not all of it is the file's own */
        long visit(Model.Node node, Matrix4 above) {
            Matrix4 world = node.local().times(above);
            long triangles = 0;
            boolean own = !node.shared() && isOwn(node);
            for (Model.Part part : node.parts()) {
                triangles += part.mesh().triangleCount();
            }
            long most = 0;
            for (Model.Node child : node.children()) {
                long below = visit(child, world);
                own &= below >= 0;
                triangles += Math.max(0, below);
                most = Math.max(most, child.parts().isEmpty() ? below : 0);
            }
            if (!own) {
                return -1;
            }
            // A group that only holds the copy is not the copy, and neither is the whole scene.
            boolean holder = triangles == most || node.parts().isEmpty() && isRoot(node);
            if (!holder && wanted.test(triangles)) {
                AssetShape.Gathering gathering = new AssetShape.Gathering();
                gathering.add(node, above);
                found.add(new Candidate(file, SdfPath.of(node.path()), gathering.mesh(), gathering.materialNames()));
            }
            return triangles;
        }

        private static boolean isRoot(Model.Node node) {
            return SdfPath.of(node.path()).isRootPrim();
        }

        /** Whether a node is defined by the layer itself, and its mesh, where it has one, too. */
        private boolean isOwn(Model.Node node) {
            return SdfPath.isWellFormed(node.path())
                    && layer.prim(SdfPath.of(node.path()))
                            .filter(spec -> spec.specifier() == Specifier.DEF
                                    && !spec.metadata().containsKey("references")
                                    && !spec.metadata().containsKey("payload")
                                    && (node.parts().isEmpty()
                                            || spec.property("points").isPresent()))
                            .isPresent();
        }
    }

    private List<Group> grouped(List<AssetShape> wholes, List<Candidate> candidates) {
        List<Twins.Surface> surfaces = new ArrayList<>();
        wholes.forEach(whole -> surfaces.add(new Twins.Surface(whole.mesh(), false, 1)));
        candidates.forEach(candidate -> surfaces.add(new Twins.Surface(candidate.mesh(), false, 1)));
        Map<Integer, List<Copy>> copies = new LinkedHashMap<>();
        for (TwinGroup group : Twins.find(surfaces, OPTIONS, progress.part(0.6, 1))) {
            TwinGroup.Member asset = group.members().getFirst();
            if (asset.index() >= wholes.size()) {
                continue;
            }
            for (TwinGroup.Member member : group.members()) {
                if (member.index() >= wholes.size()) {
                    Candidate candidate = candidates.get(member.index() - wholes.size());
                    copies.computeIfAbsent(asset.index(), index -> new ArrayList<>())
                            .add(new Copy(
                                    candidate.file(),
                                    candidate.path(),
                                    member.place(),
                                    member.deviation(),
                                    candidate.materials()));
                }
            }
        }
        Map<Path, Set<SdfPath>> all = new HashMap<>();
        copies.values()
                .forEach(some -> some.forEach(copy -> all.computeIfAbsent(copy.file(), file -> new LinkedHashSet<>())
                        .add(copy.path())));
        List<Group> groups = new ArrayList<>();
        new TreeMap<>(copies).forEach((index, some) -> {
            List<Copy> outermost = some.stream()
                    .filter(copy -> isOutermost(copy.path(), all.getOrDefault(copy.file(), Set.of())))
                    .toList();
            if (!outermost.isEmpty()) {
                AssetShape whole = wholes.get(index);
                groups.add(new Group(whole.asset(), whole.version(), whole.materialNames(), outermost));
            }
        });
        return groups;
    }

    private static boolean isOutermost(SdfPath path, Set<SdfPath> others) {
        for (SdfPath at = path.parent(); !at.equals(SdfPath.ROOT); at = at.parent()) {
            if (others.contains(at)) {
                return false;
            }
        }
        return true;
    }

    /** Lets copies be placements of their assets, which follow. Those of assets without a ready version stay. */
    public static List<FileEdit> placing(List<Group> groups) {
        Map<Path, Map<Copy, Asset>> byFile = new LinkedHashMap<>();
        for (Group group : groups) {
            if (group.asset().ready().isPresent()) {
                group.copies().forEach(copy -> byFile.computeIfAbsent(copy.file(), file -> new LinkedHashMap<>())
                        .put(copy, group.asset()));
            }
        }
        List<FileEdit> edits = new ArrayList<>();
        byFile.forEach(
                (file, copies) -> edits.add(new FileEdit(file, copies.size(), before -> placed(file, before, copies))));
        return edits;
    }

    private static byte[] placed(Path file, byte[] before, Map<Copy, Asset> copies) {
        Layer read = LayerFiles.read(file);
        Stage stage = Stage.open(read, inLibraries());
        Layer layer = LayerAssets.copied(read, AssetLocation.of(file));
        copies.forEach((copy, asset) -> {
            PrimSpec parent = copy.path().isRootPrim()
                    ? layer.root()
                    : layer.prim(copy.path().parent()).orElseThrow(() -> changed(copy));
            PrimSpec old = parent.child(copy.path().name())
                    .filter(spec -> !spec.metadata().containsKey("references"))
                    .orElseThrow(() -> changed(copy));
            PrimSpec placement = new PrimSpec(Specifier.DEF, "Xform", old.name());
            KEPT.forEach(field -> Optional.ofNullable(old.metadata().get(field))
                    .ifPresent(value -> placement.metadata().put(field, value)));
            placement.setReferences(Reference.to(AssetPaths.relative(file.getParent(), asset.readyLayer())));
            placement.metadata().put("instanceable", new Value.Bool(true));
            Xforms.setMatrix(
                    placement, copy.place().times(above(stage, copy.path()).inverse()));
            int position = List.copyOf(parent.childNames()).indexOf(old.name());
            parent.removeChild(old.name());
            parent.insert(position, placement);
        });
        return LayerBytes.of(layer, file, LayerBytes.isText(before) ? "usda" : "usdc");
    }

    private static PantryException changed(Copy copy) {
        return new PantryException(
                copy.file().toString(), copy.path().toString(), "was changed since the copies were looked for", null);
    }

    /** From the space of what a prim hangs on to the world. */
    private static Matrix4 above(Stage stage, SdfPath path) {
        return stage.prim(path.parent())
                .filter(parent -> !path.isRootPrim())
                .map(Xforms::world)
                .orElse(Matrix4.IDENTITY);
    }
}
