package pantry.desktop.reach;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import pantry.project.ReachGraph;
import pantry.project.ReachGraph.Column;
import pantry.project.ReachGraph.Line;
import pantry.project.ReachGraph.Node;
import pantry.project.ReachGraph.State;

/**
 * A graph as rows in columns: where there are many files, folded by their folders, so that three uses can be read as well as
 * three thousand.
 */
record ReachRows(Map<Column, List<Row>> columns, List<Link> links) {
    /** More files than this are folded by folder. */
    static final int MOST_UNFOLDED = 24;

    static final ReachRows EMPTY = new ReachRows(
            Map.of(Column.VERSIONS, List.of(), Column.COMPOSITES, List.of(), Column.FILES, List.of()), List.of());

    /**
     * A line of a column.
     *
     * @param folder the folder whose files it stands for or heads; of others, that of its path
     * @param files how many files it stands for; 0 where it is no folder
     * @param open whether the files of a folder are shown below it
     */
    record Row(
            String id,
            Column column,
            Path folder,
            Path path,
            String version,
            String title,
            long placements,
            State state,
            int files,
            boolean open) {
        boolean isFolder() {
            return files > 0;
        }
    }

    /** A use, from one row to another. */
    record Link(Row from, Row to, long count, boolean following, boolean direct, State state) {}

    private record Key(String from, String to, boolean following, boolean direct, State state) {}

    ReachRows {
        columns = Map.copyOf(columns);
        links = List.copyOf(links);
    }

    List<Row> rows(Column column) {
        return columns.getOrDefault(column, List.of());
    }

    /** @param unfolded the folders whose files are shown one by one */
    static ReachRows of(ReachGraph graph, Set<Path> unfolded) {
        Map<Column, List<Row>> columns = new EnumMap<>(Column.class);
        Map<String, Row> shownBy = new HashMap<>();
        for (Column column : Column.values()) {
            columns.put(column, new ArrayList<>());
        }
        List<Node> files = new ArrayList<>();
        for (Node node : graph.nodes()) {
            if (node.column() == Column.FILES) {
                files.add(node);
            } else {
                add(node, columns, shownBy);
            }
        }
        if (files.size() <= MOST_UNFOLDED) {
            files.forEach(node -> add(node, columns, shownBy));
        } else {
            fold(files, unfolded, columns, shownBy);
        }
        return new ReachRows(columns, links(graph.lines(), shownBy));
    }

    private static void add(Node node, Map<Column, List<Row>> columns, Map<String, Row> shownBy) {
        Row row = row(node);
        columns.get(node.column()).add(row);
        shownBy.put(node.id(), row);
    }

    private static Row row(Node node) {
        Path folder = node.path().getParent();
        return new Row(
                node.id(),
                node.column(),
                folder == null ? node.path() : folder,
                node.path(),
                node.version(),
                node.title(),
                node.placements(),
                node.state(),
                0,
                false);
    }

    private static void fold(
            List<Node> files, Set<Path> unfolded, Map<Column, List<Row>> columns, Map<String, Row> shownBy) {
        Map<Path, List<Node>> byFolder = new LinkedHashMap<>();
        files.forEach(node -> byFolder.computeIfAbsent(row(node).folder(), folder -> new ArrayList<>())
                .add(node));
        byFolder.forEach((folder, inside) -> {
            boolean open = unfolded.contains(folder);
            Row head = new Row(
                    "folder " + folder,
                    Column.FILES,
                    folder,
                    folder,
                    "",
                    String.valueOf(folder.getFileName()),
                    inside.stream().mapToLong(Node::placements).sum(),
                    worst(inside.stream().map(Node::state).toList()),
                    inside.size(),
                    open);
            columns.get(Column.FILES).add(head);
            for (Node node : inside) {
                if (open) {
                    add(node, columns, shownBy);
                } else {
                    shownBy.put(node.id(), head);
                }
            }
        });
    }

    private static State worst(List<State> states) {
        return states.stream().max(java.util.Comparator.naturalOrder()).orElse(State.FINE);
    }

    private static List<Link> links(List<Line> lines, Map<String, Row> shownBy) {
        Map<Key, Link> links = new LinkedHashMap<>();
        for (Line line : lines) {
            Row from = shownBy.get(line.from());
            Row to = shownBy.get(line.to());
            if (from != null && to != null) {
                links.merge(
                        new Key(from.id(), to.id(), line.following(), line.direct(), line.state()),
                        new Link(from, to, line.count(), line.following(), line.direct(), line.state()),
                        (one, other) -> new Link(
                                from, to, one.count() + other.count(), one.following(), one.direct(), one.state()));
            }
        }
        return List.copyOf(links.values());
    }

    /** The rows that a row uses, or that use it, through however many; itself among them. */
    Set<String> connected(Row row) {
        Map<String, List<String>> forward = new HashMap<>();
        Map<String, List<String>> back = new HashMap<>();
        for (Link link : links) {
            forward.computeIfAbsent(link.from().id(), id -> new ArrayList<>())
                    .add(link.to().id());
            back.computeIfAbsent(link.to().id(), id -> new ArrayList<>())
                    .add(link.from().id());
        }
        Set<String> reached = new HashSet<>(Set.of(row.id()));
        reached.addAll(ReachGraph.reached(row.id(), forward));
        reached.addAll(ReachGraph.reached(row.id(), back));
        return reached;
    }
}
