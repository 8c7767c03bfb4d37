package pantry.project;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import pantry.base.NaturalOrder;
import pantry.base.Parallel;
import pantry.base.Progress;
import pantry.base.Sha256;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.Uses;
import pantry.mesh.Mesh;
import pantry.mesh.PointGrid;
import pantry.model.Facts;
import pantry.model.Material;
import pantry.model.Texture;
import pantry.twins.TwinGroup;
import pantry.twins.TwinOptions;
import pantry.twins.Twins;
import pantry.usd.AssetPaths;
import pantry.usd.SdfPath;
import pantry.usd.compose.LayerCache;

/**
 * Finds assets of a library that are the same thing twice: of one shape, one size and one kind, with the same variants, whatever
 * their names and wherever they stand in their own space. Of each such group the one that is placed most is to be kept. What
 * holds lamps or cameras is left out: its surfaces say little of it.
 *
 * <p>Assets are read only where another one has as many triangles.
 */
public final class AssetTwins {
    private static final TwinOptions OPTIONS = new TwinOptions(0, false, false);

    /** So far apart, as a part of the size, points are at the same place; as twins are found. */
    private static final double SAME = 1e-4;

    private final Reach reach;
    private final Progress progress;
    private final LayerCache layers = Strays.inLibraries();

    /**
     * Two assets that are the same thing.
     *
     * @param kept the one that is placed more
     * @param gone the other one
     * @param place from the space of the one that is kept to the other's; exactly the identity where all is at the same
     *     place
     * @param deviation the farthest that a vertex of one, so placed, is from its like, metres
     * @param sameLook whether they have the same materials, whatever those are called
     * @param placements of the one that goes
     * @param hindrance why they cannot be merged; empty where they can
     */
    public record Pair(
            Asset kept,
            Asset gone,
            Matrix4 place,
            double deviation,
            boolean sameLook,
            long placements,
            Optional<String> hindrance) {
        /** Whether both have their surfaces at the same place of their own space. */
        public boolean isSamePlace() {
            return place.equals(Matrix4.IDENTITY);
        }
    }

    private AssetTwins(Reach reach, Progress progress) {
        this.reach = reach;
        this.progress = progress;
    }

    /**
     * All pairs of libraries that can be written, each within one library.
     *
     * @return by the names of those that are kept
     */
    public static List<Pair> find(Reach reach, Progress progress) {
        return new AssetTwins(reach, progress).find();
    }

    private List<Pair> find() {
        List<Pair> pairs = new ArrayList<>();
        for (Library library : reach.libraries()) {
            if (library.writable()) {
                pairs.addAll(find(reach.assets().stream()
                        .filter(asset -> asset.folder().startsWith(library.root()))
                        .toList()));
            }
        }
        pairs.sort(Comparator.comparing((Pair pair) -> pair.kept().card().name(), NaturalOrder.BY_NAME)
                .thenComparing(pair -> pair.gone().folder()));
        return pairs;
    }

    private List<Pair> find(List<Asset> assets) {
        Map<Long, List<Asset>> byTriangles = new HashMap<>();
        for (Asset asset : assets) {
            byTriangles
                    .computeIfAbsent(AssetShape.triangles(asset), count -> new ArrayList<>())
                    .add(asset);
        }
        byTriangles.remove(0L);
        List<Asset> likely = byTriangles.values().stream()
                .filter(same -> same.size() > 1)
                .flatMap(List::stream)
                .toList();
        Map<Asset, Long> placements = new HashMap<>();
        likely.forEach(asset -> placements.put(asset, reach.placements(asset)));
        List<AssetShape> shapes = Parallel.map(likely, asset -> {
                    progress.step("reading " + asset.card().name(), -1);
                    return AssetShape.of(asset, layers);
                })
                .stream()
                .flatMap(Optional::stream)
                .filter(shape -> !hasFixtures(shape))
                .sorted(Comparator.comparingLong((AssetShape shape) -> -placements.getOrDefault(shape.asset(), 0L))
                        .thenComparing(shape -> shape.asset().folder()))
                .toList();
        List<Pair> pairs = new ArrayList<>();
        List<Twins.Surface> surfaces = shapes.stream()
                .map(shape -> new Twins.Surface(shape.mesh(), false, 1))
                .toList();
        for (TwinGroup group : Twins.find(surfaces, OPTIONS, progress.withoutSteps())) {
            pairs(group, shapes, placements, pairs);
        }
        return pairs;
    }

    private void pairs(TwinGroup group, List<AssetShape> shapes, Map<Asset, Long> placements, List<Pair> pairs) {
        Optional<TwinGroup.Member> first = group.members().stream()
                .filter(member -> shapes.get(member.index()).asset().ready().isPresent())
                .findFirst();
        if (first.isEmpty()) {
            return;
        }
        TwinGroup.Member kept = first.get();
        AssetShape stays = shapes.get(kept.index());
        for (TwinGroup.Member member : group.members()) {
            AssetShape goes = shapes.get(member.index());
            if (member != kept
                    && isAlike(stays, goes)
                    && !isMadeOf(stays.asset(), goes.asset(), new HashSet<>())
                    && !isMadeOf(goes.asset(), stays.asset(), new HashSet<>())) {
                Matrix4 place = isSamePlace(stays.mesh(), goes.mesh())
                        ? Matrix4.IDENTITY
                        : kept.place().inverse().times(member.place());
                pairs.add(new Pair(
                        stays.asset(),
                        goes.asset(),
                        place,
                        Math.max(kept.deviation(), member.deviation()),
                        looks(stays).equals(looks(goes)),
                        placements.getOrDefault(goes.asset(), 0L),
                        hindrance(goes.asset(), place)));
            }
        }
    }

    private static boolean hasFixtures(AssetShape shape) {
        Facts facts = shape.asset().facts(shape.version());
        return facts.lights() > 0 || facts.cameras() > 0;
    }

    /** Whether one offers what the other does, besides its surfaces. */
    private static boolean isAlike(AssetShape one, AssetShape other) {
        return one.asset().card().kind() == other.asset().card().kind()
                && one.asset()
                        .facts(one.version())
                        .variants()
                        .equals(other.asset().facts(other.version()).variants());
    }

    /** Whether one asset has another in it, directly or through others: it looks like that, and is not it. */
    private boolean isMadeOf(Asset whole, Asset part, Set<String> asked) {
        for (Uses.Use use : Uses.of(whole.folder())) {
            if (use.id().equals(part.card().id())
                    || asked.add(use.id())
                            && reach.byId(use.id())
                                    .filter(used -> isMadeOf(used, part, asked))
                                    .isPresent()) {
                return true;
            }
        }
        return false;
    }

    /** A shape that is alike in several positions is found in any of them: standing alike counts first. */
    private static boolean isSamePlace(Mesh one, Mesh other) {
        Box3 box = one.bounds();
        double within = SAME * box.size().length();
        double greatest = Math.max(box.min().length(), box.max().length());
        double[] here = points(one);
        double[] there = points(other);
        return hasAll(new PointGrid(here, greatest), there, within)
                && hasAll(new PointGrid(there, greatest), here, within);
    }

    private static double[] points(Mesh mesh) {
        double[] points = new double[mesh.points().length];
        for (int i = 0; i < points.length; i++) {
            points[i] = mesh.points()[i];
        }
        return points;
    }

    private static boolean hasAll(PointGrid grid, double[] points, double within) {
        for (int i = 0; i < points.length; i += 3) {
            if (grid.nearest(points[i], points[i + 1], points[i + 2], within) < 0) {
                return false;
            }
        }
        return true;
    }

    private Optional<String> hindrance(Asset gone, Matrix4 place) {
        if (place.equals(Matrix4.IDENTITY)) {
            return Optional.empty();
        }
        Optional<Reach.Held> inVariant = reach.held().stream()
                .filter(held -> held.asset().equals(gone))
                .filter(held -> !SdfPath.of(held.place())
                        .equals(SdfPath.of(held.place()).withoutVariants()))
                .findFirst();
        return inVariant.map(
                held -> "stands otherwise in its own space, and is placed within a variant of " + held.file());
    }

    /** Materials without their names; images by what they hold. */
    private static Set<Object> looks(AssetShape shape) {
        Set<Object> looks = new LinkedHashSet<>();
        for (Material material : shape.materials()) {
            Map<Material.Slot, Object> images = new LinkedHashMap<>();
            material.textures()
                    .forEach((slot, texture) -> images.put(slot, List.of(content(texture), texture.sampling())));
            looks.add(List.of(
                    material.base(),
                    material.opacity(),
                    material.metallic(),
                    material.roughness(),
                    material.emissive(),
                    material.finish(),
                    images));
        }
        return looks;
    }

    private static String content(Texture texture) {
        if (texture.file().isEmpty()) {
            return texture.name();
        }
        try {
            return Sha256.of(texture.file().get());
        } catch (IOException e) {
            return texture.name();
        }
    }

    private static ChangePlan plan(Reach reach, Pair pair) {
        return new Updates(reach, List.of(pair.gone()), List.of()).swap(pair.kept());
    }

    /**
     * What has to be done to files so that placements of those that go are of those that stay, with every vertex where it
     * was.
     *
     * @param paths how asset paths in a file are resolved
     */
    public static List<FileEdit> edits(Reach reach, List<Pair> pairs, Function<Path, AssetPaths> paths) {
        Map<Path, List<FileEdit>> byFile = new LinkedHashMap<>();
        for (Pair pair : pairs) {
            ChangePlan plan = plan(reach, pair);
            List<FileEdit> edits =
                    pair.isSamePlace() ? AssetRewriter.edits(plan, paths) : Swapping.edits(plan, pair.place(), paths);
            edits.forEach(edit -> byFile.computeIfAbsent(edit.file(), file -> new ArrayList<>())
                    .add(edit));
        }
        return byFile.values().stream().map(FileEdit::inTurn).toList();
    }
}
