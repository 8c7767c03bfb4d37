package pantry.project;

import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import pantry.base.IoProblems;
import pantry.base.PantryException;
import pantry.base.Parallel;
import pantry.base.Progress;
import pantry.base.Sha256;
import pantry.library.Asset;
import pantry.usd.file.LayerFiles;

/**
 * Finds what files of projects name and what is not there: in the libraries by where assets stand, and in folders that are
 * searched by name and place. Nothing is changed; the plan says what would be.
 */
public final class Relinking {
    /** How sure a candidate has to be to be taken without being asked. */
    public static final double SURE = 0.5;

    private static final double SAME_CONTENTS = 0.97;
    private static final double AND_NAME = 0.02;
    private static final double SAME_SHAPE = 0.8;
    private static final double OTHER_SIZE = 0.4;
    private static final double SAME_PLACE_IN_LIBRARY = 0.95;
    private static final double SAME_NAME_IN_LIBRARY = 0.7;
    private static final double SAME_NAME = 0.5;
    private static final double PER_FOLDER = 0.1;
    private static final double OTHER_CASE = 0.1;

    private final Reach reach;
    private final Map<String, List<Path>> found = new HashMap<>();
    private final Map<Path, String> lost;

    /** Of files that are missing, the shapes of what they showed. */
    private final Map<Path, LayerShape> shapes;

    /** Layers that were found, by their shapes, where something is missing that has one. */
    private final Map<Path, LayerShape> layers = new ConcurrentHashMap<>();

    /** Bytes of the files that are missing. */
    private final Set<String> sizes = new HashSet<>();

    /** Files that were found, by what they hold, as far as that may be what is missing. */
    private final Map<String, List<Path>> byContent = new HashMap<>();

    /**
     * A file that may be the one that is missing.
     *
     * @param score 0 to 1, how likely it is
     */
    public record Candidate(Path path, String reason, double score) {}

    /**
     * A file that is named and not there.
     *
     * @param places the prims or properties that name it; none for a sublayer
     * @param candidates the likeliest first
     */
    public record Missing(Path file, List<String> places, Path target, List<Candidate> candidates) {
        public Missing {
            places = List.copyOf(places);
            candidates = List.copyOf(candidates);
        }

        /** The places that name it; an empty one for the layer itself, of which it is a sublayer. */
        public List<String> placesOrLayer() {
            return places.isEmpty() ? List.of("") : places;
        }

        /** The one that is likely enough, and likelier than all others. */
        public Optional<Candidate> best() {
            if (candidates.isEmpty() || candidates.getFirst().score() < SURE) {
                return Optional.empty();
            }
            boolean alone = candidates.size() == 1
                    || candidates.get(1).score() < candidates.getFirst().score();
            return alone ? Optional.of(candidates.getFirst()) : Optional.empty();
        }
    }

    /**
     * A move that would explain what is missing: what stood in one folder stands in another now.
     *
     * @param count how many places it would mend
     */
    public record Move(Path from, Path to, int count) {}

    /** @param searched folders to look in, with all below them */
    public Relinking(Reach reach, List<Path> searched, Progress progress) {
        this.reach = reach;
        lost = reach.lostContents();
        lost.values().forEach(content -> sizes.add(content.substring(0, content.indexOf(' '))));
        shapes = reach.lostShapes();
        searched.forEach(folder -> search(folder.toAbsolutePath().normalize(), progress));
        if (!shapes.isEmpty()) {
            Parallel.map(
                    found.values().stream()
                            .flatMap(List::stream)
                            .filter(file ->
                                    LayerFiles.isLayer(file.getFileName().toString()))
                            .distinct()
                            .toList(),
                    file -> {
                        progress.step("comparing the shape of " + file, -1);
                        LayerShape.of(file).ifPresent(shape -> layers.put(file, shape));
                        return file;
                    });
        }
    }

    private void search(Path folder, Progress progress) {
        if (!Files.isDirectory(folder)) {
            throw new PantryException(folder, "there is no such folder to search");
        }
        try {
            Files.walkFileTree(folder, new SimpleFileVisitor<>() {
                @Override
                public FileVisitResult preVisitDirectory(Path at, BasicFileAttributes attributes) {
                    progress.step("searching " + at, -1);
                    return FileVisitResult.CONTINUE;
                }

                @Override
                public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) {
                    if (attributes.isRegularFile()) {
                        found.computeIfAbsent(key(file), name -> new ArrayList<>())
                                .add(file);
                        if (sizes.contains(String.valueOf(attributes.size()))) {
                            progress.step("comparing " + file, -1);
                            addContent(file, attributes.size());
                        }
                    }
                    return FileVisitResult.CONTINUE;
                }

                @Override
                public FileVisitResult visitFileFailed(Path file, IOException failure) {
                    return FileVisitResult.CONTINUE;
                }
            });
        } catch (IOException e) {
            throw new PantryException(folder, "cannot be searched: " + IoProblems.describe(e), e);
        }
    }

    /** Names that differ in case alone are looked at together. */
    private static String key(Path file) {
        return file.getFileName().toString().toLowerCase(Locale.ROOT);
    }

    /** All that is missing, by file. */
    public List<Missing> missing() {
        Map<Path, List<Candidate>> candidates = new HashMap<>();
        return reach.missing().stream()
                .map(named -> new Missing(
                        named.file(),
                        named.places(),
                        named.target(),
                        candidates.computeIfAbsent(named.target(), this::candidates)))
                .toList();
    }

    private void addContent(Path file, long size) {
        try {
            byContent
                    .computeIfAbsent(size + " " + Sha256.of(file), content -> new ArrayList<>())
                    .add(file);
        } catch (IOException e) {
            // A file that cannot be read is looked at by its name alone.
            return;
        }
    }

    private List<Candidate> candidates(Path target) {
        Map<Path, Candidate> all = new LinkedHashMap<>();
        for (Path file : byContent.getOrDefault(lost.getOrDefault(target, ""), List.of())) {
            boolean named = file.getFileName().equals(target.getFileName());
            keepBetter(all, new Candidate(file, "holds the same to the byte", SAME_CONTENTS + (named ? AND_NAME : 0)));
        }
        Optional.ofNullable(shapes.get(target))
                .ifPresent(lost -> layers.forEach((file, shape) -> {
                    if (shape.isLike(lost)) {
                        keepBetter(
                                all,
                                shape.isAsLargeAs(lost)
                                        ? new Candidate(file, "shows the same shape in the same size", SAME_SHAPE)
                                        : new Candidate(file, "shows the same shape in another size", OTHER_SIZE));
                    }
                }));
        inLibraries(target).forEach(candidate -> keepBetter(all, candidate));
        for (Path file : found.getOrDefault(key(target), List.of())) {
            keepBetter(all, byName(target, file));
        }
        return all.values().stream()
                .sorted(Comparator.comparingDouble(Candidate::score).reversed().thenComparing(Candidate::path))
                .toList();
    }

    private static void keepBetter(Map<Path, Candidate> all, Candidate candidate) {
        all.merge(candidate.path(), candidate, (one, other) -> one.score() >= other.score() ? one : other);
    }

    private static Candidate byName(Path target, Path file) {
        int alike = 0;
        Path one = target.getParent();
        Path other = file.getParent();
        while (one != null
                && other != null
                && one.getFileName() != null
                && one.getFileName().equals(other.getFileName())) {
            alike++;
            one = one.getParent();
            other = other.getParent();
        }
        boolean sameCase = target.getFileName().equals(file.getFileName());
        double score = Math.min(0.9, SAME_NAME + PER_FOLDER * (1 + alike)) - (sameCase ? 0 : OTHER_CASE);
        String reason = (sameCase ? "has its name" : "has its name but for case")
                + (alike == 0 ? "" : ", and stands in folders of the same " + (alike == 1 ? "name" : "names"));
        return new Candidate(file, reason, score);
    }

    /** Where a library was moved as a whole, its assets stand in it as they did; or one stands on another shelf. */
    private List<Candidate> inLibraries(Path target) {
        List<Candidate> candidates = new ArrayList<>();
        for (int i = target.getNameCount() - 1; i > 0; i--) {
            if (!target.getName(i).toString().equals("assets")) {
                continue;
            }
            Path within = target.subpath(i, target.getNameCount());
            reach.libraries().forEach(library -> {
                Path file = library.root().resolve(within);
                if (Files.isRegularFile(file)) {
                    candidates.add(new Candidate(
                            file,
                            "stands there in the library " + library.info().name(),
                            SAME_PLACE_IN_LIBRARY));
                }
            });
            assetName(within).ifPresent(slug -> reach.assets().stream()
                    .filter(asset -> asset.slug().equals(slug))
                    .flatMap(asset -> sameLayer(within, asset).stream()
                            .map(file -> new Candidate(
                                    file,
                                    "is of the asset " + asset.card().name() + " on " + asset.shelf(),
                                    SAME_NAME_IN_LIBRARY)))
                    .forEach(candidates::add));
            break;
        }
        return candidates;
    }

    /** The name of the folder of the asset that a path within a library is of. */
    private static Optional<String> assetName(Path within) {
        int count = within.getNameCount();
        if (within.endsWith("ready.usda") && count >= 2) {
            return Optional.of(within.getName(count - 2).toString());
        }
        for (int i = count - 1; i > 0; i--) {
            if (within.getName(i).toString().matches("v\\d{3,9}")) {
                return Optional.of(within.getName(i - 1).toString());
            }
        }
        return Optional.empty();
    }

    /** The layer of an asset that stands for what a path within a library names. */
    private static Optional<Path> sameLayer(Path within, Asset asset) {
        if (within.endsWith("ready.usda")) {
            return Optional.of(asset.readyLayer()).filter(Files::isRegularFile);
        }
        for (int i = within.getNameCount() - 1; i > 0; i--) {
            String name = within.getName(i).toString();
            if (asset.versions().contains(name)) {
                return Optional.of(asset.entryLayer(name)).filter(Files::isRegularFile);
            }
        }
        return Optional.empty();
    }

    /** What folders seem to have been moved, those that explain most first. */
    public static List<Move> moves(List<Missing> missing) {
        Map<List<Path>, Integer> counts = new LinkedHashMap<>();
        for (Missing each : missing) {
            each.best().ifPresent(best -> {
                Path from = each.target();
                Path to = best.path();
                while (from.getParent() != null
                        && to.getParent() != null
                        && from.getFileName() != null
                        && from.getFileName().equals(to.getFileName())) {
                    from = from.getParent();
                    to = to.getParent();
                }
                counts.merge(List.of(from, to), each.placesOrLayer().size(), Integer::sum);
            });
        }
        return counts.entrySet().stream()
                .map(entry -> new Move(entry.getKey().getFirst(), entry.getKey().getLast(), entry.getValue()))
                .sorted(Comparator.comparingInt(Move::count).reversed())
                .toList();
    }

    /** A missing file for a person: many have the same name in libraries, where the asset says more. */
    static String told(Path target) {
        Path within = target.getRoot() == null ? target : target.getRoot().relativize(target);
        return assetName(within).orElse(String.valueOf(target.getFileName()));
    }

    /** Names what is surely found instead of what is missing. */
    public static ChangePlan plan(List<Missing> missing) {
        List<Change> changes = new ArrayList<>();
        for (Missing each : missing) {
            each.best().ifPresent(best -> each.placesOrLayer()
                    .forEach(place -> changes.add(new Change(
                            each.file(),
                            place,
                            each.target(),
                            best.path(),
                            told(each.target()) + " " + best.reason()))));
        }
        return new ChangePlan("Relinked what was missing", changes);
    }
}
