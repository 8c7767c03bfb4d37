package pantry.project;

import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.library.Asset;
import pantry.library.Uses;
import pantry.library.VersionStatus;

/**
 * What uses an asset, or what a file uses, in three columns with lines between: versions of assets, the versions of assets
 * that are made with them, and the files of projects.
 *
 * @param nodes column by column
 */
public record ReachGraph(List<Node> nodes, List<Line> lines) {
    /** Where a node stands, from left to right. */
    public enum Column {
        VERSIONS,
        COMPOSITES,
        FILES
    }

    /** What is to be said of a use. */
    public enum State {
        FINE,
        /** Of a version older than the ready one. */
        BEHIND,
        /** Of a version that is retired, or a draft. */
        UNREADY
    }

    /**
     * A version of an asset, or a file.
     *
     * @param path the asset's folder, or the file
     * @param version empty for a file
     * @param title the name of the asset or file, for a person
     * @param placements how often it is used within what the graph is of, or uses that; as composed
     */
    public record Node(
            String id, Column column, Path path, String version, String title, long placements, State state) {}

    /**
     * A use of one node by another.
     *
     * @param count how often; where it is through files that are not of the graph, as composed
     * @param direct whether the user refers to it itself
     */
    public record Line(String from, String to, long count, boolean following, boolean direct, State state) {}

    public ReachGraph {
        nodes = List.copyOf(nodes);
        lines = List.copyOf(lines);
    }

    /** Nothing. */
    public static final ReachGraph EMPTY = new ReachGraph(List.of(), List.of());

    /** Everything that uses an asset. */
    public static ReachGraph of(Reach reach, Asset asset) {
        Building building = new Building(reach);
        List<Reach.SceneUse> uses = reach.uses(asset, Optional.empty());
        List<Reach.SceneUse> composites = reach.composites(asset, Optional.empty());
        Map<String, Long> totals = new HashMap<>();
        uses.forEach(use -> totals.merge(use.version(), use.placements(), Long::sum));
        for (String version : asset.versions().reversed()) {
            building.version(asset, version, Column.VERSIONS, totals.getOrDefault(version, 0L));
        }
        for (Reach.SceneUse use : composites) {
            reach.owner(use.file()).ifPresent(owner -> {
                String version = owner.version().orElseThrow();
                building.version(owner.asset(), version, Column.COMPOSITES, use.placements());
                building.line(
                        versionId(asset.folder(), use.version()),
                        versionId(owner.asset().folder(), version),
                        use,
                        uses(owner.asset(), asset));
            });
        }
        Map<Path, Long> files = new LinkedHashMap<>();
        uses.forEach(use -> files.merge(use.file(), use.placements(), Long::sum));
        files.forEach(building::file);
        building.held(files.keySet());
        Map<String, Set<String>> reached = new HashMap<>();
        asset.versions()
                .forEach(version -> reached.put(
                        versionId(asset.folder(), version), building.reachedFrom(versionId(asset.folder(), version))));
        for (Reach.SceneUse use : uses) {
            String id = versionId(asset.folder(), use.version());
            if (!reached.getOrDefault(id, Set.of()).contains(use.file().toString())) {
                building.line(id, use.file().toString(), use, false);
            }
        }
        return building.graph();
    }

    /** Everything that a file uses. */
    public static ReachGraph ofFile(Reach reach, Path file) {
        Building building = new Building(reach);
        List<Reach.AssetUse> uses = reach.usedBy(file);
        uses.forEach(use -> building.version(
                use.asset(),
                use.version(),
                Uses.any(use.asset().folder()) ? Column.COMPOSITES : Column.VERSIONS,
                use.placements()));
        building.file(file, uses.stream().mapToLong(Reach.AssetUse::placements).sum());
        building.held(Set.of(file));
        for (Reach.AssetUse part : uses) {
            String id = versionId(part.asset().folder(), part.version());
            for (Reach.SceneUse within : reach.composites(part.asset(), Optional.of(part.version()))) {
                reach.owner(within.file())
                        .filter(whole -> uses(whole.asset(), part.asset()))
                        .map(whole -> versionId(
                                whole.asset().folder(), whole.version().orElseThrow()))
                        .filter(building.nodes::containsKey)
                        .ifPresent(whole -> building.line(id, whole, within, true));
            }
        }
        for (Reach.AssetUse use : uses) {
            String id = versionId(use.asset().folder(), use.version());
            if (!building.reachedFrom(id).contains(file.toString())) {
                building.lines.add(new Line(
                        id,
                        file.toString(),
                        use.placements(),
                        use.following(),
                        false,
                        state(use.asset(), use.version(), use.following())));
            }
        }
        return building.graph();
    }

    /** Whether an asset itself is made with another one. */
    private static boolean uses(Asset whole, Asset part) {
        return Uses.of(whole.folder()).stream()
                .anyMatch(use -> use.id().equals(part.card().id()));
    }

    private static String versionId(Path folder, String version) {
        return folder + "@" + version;
    }

    private static State state(Asset asset, String version, boolean following) {
        if (following) {
            return State.FINE;
        }
        if (asset.status(version) != VersionStatus.READY) {
            return State.UNREADY;
        }
        return Reach.behind(asset, version) > 0 ? State.BEHIND : State.FINE;
    }

    /**
     * All that is led to from a node, directly or through others.
     *
     * @param onward what each node leads to itself
     */
    public static Set<String> reached(String from, Map<String, List<String>> onward) {
        Set<String> reached = new HashSet<>();
        Deque<String> next = new ArrayDeque<>(List.of(from));
        while (!next.isEmpty()) {
            for (String to : onward.getOrDefault(next.remove(), List.of())) {
                if (reached.add(to)) {
                    next.add(to);
                }
            }
        }
        return reached;
    }

    /** Gathers nodes and lines, each once. */
    private static final class Building {
        private final Reach reach;
        private final Map<String, Node> nodes = new LinkedHashMap<>();
        private final Set<Line> lines = new LinkedHashSet<>();

        Building(Reach reach) {
            this.reach = reach;
        }

        void version(Asset asset, String version, Column column, long placements) {
            String id = versionId(asset.folder(), version);
            Node known = nodes.get(id);
            long all = placements + (known == null ? 0 : known.placements());
            // Of what nobody uses, nothing is to be said.
            State state =
                    all == 0 ? State.FINE : state(asset, version, asset.ready().equals(Optional.of(version)));
            nodes.put(
                    id,
                    new Node(id, column, asset.folder(), version, asset.card().name(), all, state));
        }

        void file(Path file, long placements) {
            Reach.Waiting waits = reach.waiting(file);
            State state = waits.behind() > 0 ? State.BEHIND : waits.unready() > 0 ? State.UNREADY : State.FINE;
            nodes.put(
                    file.toString(),
                    new Node(
                            file.toString(),
                            Column.FILES,
                            file,
                            "",
                            String.valueOf(file.getFileName()),
                            placements,
                            state));
        }

        void line(String from, String to, Reach.SceneUse use, boolean direct) {
            Node version = nodes.get(from);
            State state = use.following() || version == null ? State.FINE : version.state();
            lines.add(new Line(from, to, use.placements(), use.following(), direct, state));
        }

        /** Lines for what files refer to themselves. */
        void held(Set<Path> files) {
            Map<Line, Long> counts = new LinkedHashMap<>();
            for (Reach.Held held : reach.held()) {
                Optional<String> version = held.version().or(() -> held.asset().ready());
                if (!files.contains(held.file()) || version.isEmpty()) {
                    continue;
                }
                String id = versionId(held.asset().folder(), version.get());
                if (nodes.containsKey(id)) {
                    boolean following = held.version().isEmpty();
                    counts.merge(
                            new Line(
                                    id,
                                    held.file().toString(),
                                    0,
                                    following,
                                    true,
                                    state(held.asset(), version.get(), following)),
                            1L,
                            Long::sum);
                }
            }
            counts.forEach((line, count) ->
                    lines.add(new Line(line.from(), line.to(), count, line.following(), true, line.state())));
        }

        /** All nodes that lines lead to from one, directly or through others. */
        Set<String> reachedFrom(String from) {
            Map<String, List<String>> onward = new HashMap<>();
            lines.forEach(line ->
                    onward.computeIfAbsent(line.from(), id -> new ArrayList<>()).add(line.to()));
            return reached(from, onward);
        }

        ReachGraph graph() {
            List<Node> sorted = new ArrayList<>(nodes.values());
            sorted.sort(Comparator.comparing(Node::column));
            return new ReachGraph(sorted, List.copyOf(lines));
        }
    }
}
