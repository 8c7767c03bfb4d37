package pantry.twins;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;
import org.jspecify.annotations.Nullable;
import pantry.base.Parallel;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.twins.TwinGroup.Member;

/**
 * Finds meshes of the same shape, wherever and however turned they stand; mirrored and scaled ones where wanted.
 *
 * <p>Points in exactly one place count as one, so split points do not matter; nor do the orders of points and faces, or
 * the corner at which a face begins. Points that no face uses do not count. What varies over the surface must agree:
 * normals, colours, and texture coordinates where there is a texture.
 *
 * <p>Copies in every digit are found by their arrays. The others are told apart by counts first, then by distances from
 * the middle, then by trying ({@link Matcher}). The time grows with the number of meshes times that of shapes that
 * agree in their counts and in their proportions.
 */
public final class Twins {
    /**
     * A mesh to be compared.
     *
     * @param textured whether its texture coordinates matter
     * @param grown how much larger it stands in the world than its numbers say; the tolerance is the world's
     */
    public record Surface(Mesh mesh, boolean textured, double grown) {}

    private final List<Surface> surfaces;
    private final TwinOptions options;
    private final Progress progress;
    private final List<TwinGroup> groups = new ArrayList<>();
    /** Which meshes have their group; each belongs to one bin, so bins may be sorted at once. */
    private final boolean[] done;

    private final AtomicInteger settled = new AtomicInteger();

    private Twins(List<Surface> surfaces, TwinOptions options, Progress progress) {
        this.surfaces = surfaces;
        this.done = new boolean[surfaces.size()];
        this.options = options;
        this.progress = progress;
    }

    /**
     * The groups of twins among some meshes, in the order of their first members.
     *
     * @throws java.util.concurrent.CancellationException where no longer wanted
     */
    public static List<TwinGroup> find(List<Surface> surfaces, TwinOptions options, Progress progress) {
        return new Twins(surfaces, options, progress).find();
    }

    private List<TwinGroup> find() {
        Map<Exact, List<Integer>> copies = new LinkedHashMap<>();
        for (int i = 0; i < surfaces.size(); i++) {
            copies.computeIfAbsent(new Exact(surfaces.get(i)), key -> new ArrayList<>())
                    .add(i);
        }
        List<Integer> firsts = copies.values().stream().map(List::getFirst).toList();
        Map<Integer, List<Integer>> copiesOf = new LinkedHashMap<>();
        copies.values().forEach(same -> copiesOf.put(same.getFirst(), same));
        progress.step("measuring shapes", 0.05);
        List<@Nullable Shape> shapes = Parallel.map(firsts, this::shape);
        Map<Shape.Counts, List<Entry>> alike = new LinkedHashMap<>();
        for (int i = 0; i < firsts.size(); i++) {
            Shape shape = shapes.get(i);
            if (shape != null) {
                alike.computeIfAbsent(shape.counts, counts -> new ArrayList<>()).add(new Entry(firsts.get(i), shape));
            }
        }
        List<List<Member>> found = new ArrayList<>();
        // Large bins are worked on by all, so that one common screw does not keep a single core.
        List<List<Entry>> bins = new ArrayList<>(alike.values());
        bins.sort(Comparator.comparing((List<Entry> bin) -> bin.size()).reversed());
        Parallel.map(bins, this::sorted).forEach(found::addAll);
        for (List<Member> members : found) {
            add(members, copiesOf);
        }
        groups.sort(Comparator.comparing(group -> group.members().getFirst().index()));
        return groups;
    }

    private @Nullable Shape shape(int index) {
        progress.step("measuring shapes", 0.05);
        Surface surface = surfaces.get(index);
        if (surface.mesh().faceCount() == 0) {
            return null;
        }
        Shape shape = Shape.of(surface.mesh(), options.tolerance() / surface.grown());
        return shape.size > 0 && Double.isFinite(shape.size) ? shape : null;
    }

    private record Entry(int index, Shape shape) {
        double proportion() {
            return shape.proportion;
        }
    }

    /** The shapes among meshes that agree in their counts, each with all that have it. */
    private List<List<Member>> sorted(List<Entry> bin) {
        Entry[] byProportion = bin.toArray(Entry[]::new);
        Arrays.sort(byProportion, Comparator.comparingDouble(Entry::proportion));
        double[] proportions =
                Arrays.stream(byProportion).mapToDouble(Entry::proportion).toArray();
        List<List<Member>> result = new ArrayList<>();
        for (Entry entry : bin) {
            if (done[entry.index]) {
                continue;
            }
            progress.step("comparing shapes", 0.1 + 0.9 * settled.incrementAndGet() / surfaces.size());
            done[entry.index] = true;
            double within = 16 * entry.shape.tolerance / entry.shape.size;
            List<Entry> candidates = new ArrayList<>();
            int at = Arrays.binarySearch(proportions, entry.proportion() - within);
            for (int i = at < 0 ? -at - 1 : first(proportions, at); i < proportions.length; i++) {
                if (proportions[i] > entry.proportion() + within) {
                    break;
                }
                // Those before it in the bin that are still alone were compared with it already.
                if (!done[byProportion[i].index]) {
                    candidates.add(byProportion[i]);
                }
            }
            List<Member> members = new ArrayList<>();
            members.add(new Member(entry.index, Matrix4.IDENTITY, 0, false, 1));
            Matcher matcher =
                    new Matcher(entry.shape, options, surfaces.get(entry.index).textured());
            for (Optional<Member> member : Parallel.map(candidates, candidate -> matched(matcher, entry, candidate))) {
                member.ifPresent(twin -> {
                    done[twin.index()] = true;
                    settled.incrementAndGet();
                    members.add(twin);
                });
            }
            entry.shape.forget();
            members.sort(Comparator.comparingInt(Member::index));
            result.add(members);
        }
        return result;
    }

    private static int first(double[] sorted, int at) {
        int first = at;
        while (first > 0 && sorted[first - 1] == sorted[at]) {
            first--;
        }
        return first;
    }

    private Optional<Member> matched(Matcher matcher, Entry entry, Entry candidate) {
        progress.step("comparing shapes", 0.1 + 0.9 * settled.get() / surfaces.size());
        if (surfaces.get(entry.index).textured()
                != surfaces.get(candidate.index).textured()) {
            return Optional.empty();
        }
        Optional<Member> member = matcher.match(candidate.shape, candidate.index);
        candidate.shape.forget();
        return member;
    }

    private void add(List<Member> members, Map<Integer, List<Integer>> copiesOf) {
        List<Member> all = new ArrayList<>();
        for (Member member : members) {
            for (int copy : copiesOf.getOrDefault(member.index(), List.of(member.index()))) {
                all.add(new Member(copy, member.place(), member.deviation(), member.mirrored(), member.scale()));
            }
        }
        if (all.size() > 1) {
            all.sort(Comparator.comparingInt(Member::index));
            groups.add(new TwinGroup(
                    all, surfaces.get(all.getFirst().index()).mesh().triangleCount()));
        }
    }

    /** Equal where the arrays of two surfaces are, digit for digit. */
    private static final class Exact {
        private final Surface surface;
        private final int hash;

        Exact(Surface surface) {
            this.surface = surface;
            Mesh mesh = surface.mesh();
            this.hash = Arrays.hashCode(mesh.points()) * 31 + Arrays.hashCode(mesh.corners());
        }

        @Override
        public int hashCode() {
            return hash;
        }

        @Override
        public boolean equals(@Nullable Object o) {
            if (!(o instanceof Exact other) || hash != other.hash || surface.textured != other.surface.textured) {
                return false;
            }
            Mesh a = surface.mesh();
            Mesh b = other.surface.mesh();
            return a == b
                    || a.leftHanded() == b.leftHanded()
                            && Arrays.equals(a.points(), b.points())
                            && Arrays.equals(a.corners(), b.corners())
                            && Arrays.equals(a.faceSizes(), b.faceSizes())
                            && same(a.normals(), b.normals())
                            && same(a.uvs(), b.uvs())
                            && a.primvars().keySet().equals(b.primvars().keySet())
                            && a.primvars().keySet().stream()
                                    .allMatch(name -> same(
                                            Optional.of(a.primvars().get(name)),
                                            Optional.of(b.primvars().get(name))));
        }

        private static boolean same(Optional<Channel> a, Optional<Channel> b) {
            if (a.isEmpty() || b.isEmpty()) {
                return a.isPresent() == b.isPresent();
            }
            return a.get().per() == b.get().per()
                    && Arrays.equals(a.get().data(), b.get().data());
        }
    }
}
