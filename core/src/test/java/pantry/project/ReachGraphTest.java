package pantry.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jgrapht.Graph;
import org.jgrapht.graph.DefaultDirectedGraph;
import org.jgrapht.graph.DefaultEdge;
import org.jgrapht.traverse.BreadthFirstIterator;
import org.junit.jupiter.api.Test;
import pantry.library.VersionStatus;
import pantry.project.ReachGraph.Column;
import pantry.project.ReachGraph.Line;
import pantry.project.ReachGraph.Node;
import pantry.project.ReachGraph.State;

/** What uses what, as columns with lines. */
class ReachGraphTest extends WithProject {
    private static String name(String id) {
        String last = id.substring(id.lastIndexOf('/') + 1);
        return last;
    }

    @Test
    void anAssetsVersionsLeadToWhatIsMadeWithItAndToFiles() {
        ReachGraph graph = ReachGraph.of(reach(), current(mast));
        assertThat(graph.nodes())
                .extracting(Node::column, Node::title, Node::version, Node::placements, Node::state)
                .containsExactly(
                        tuple(Column.VERSIONS, "Mast", "v003", 3L, State.FINE),
                        tuple(Column.VERSIONS, "Mast", "v002", 0L, State.FINE),
                        tuple(Column.VERSIONS, "Mast", "v001", 2L, State.BEHIND),
                        tuple(Column.COMPOSITES, "Frame", "v001", 1L, State.FINE),
                        tuple(Column.FILES, "field 1.usda", "", 1L, State.BEHIND),
                        tuple(Column.FILES, "yard.usda", "", 4L, State.BEHIND));
        assertThat(graph.lines())
                .extracting(
                        line -> name(line.from()),
                        line -> name(line.to()),
                        Line::count,
                        Line::following,
                        Line::direct,
                        Line::state)
                .containsExactlyInAnyOrder(
                        tuple("mast@v003", "frame@v001", 1L, true, true, State.FINE),
                        tuple("mast@v003", "yard.usda", 1L, true, true, State.FINE),
                        tuple("mast@v001", "yard.usda", 1L, false, true, State.BEHIND),
                        tuple("mast@v001", "field 1.usda", 1L, false, true, State.BEHIND),
                        tuple("frame@v001", "yard.usda", 2L, true, true, State.FINE));
    }

    @Test
    void aFileLeadsBackToAllThatItUses() throws IOException {
        library.setStatus(current(mast), "v001", VersionStatus.RETIRED);
        Path master = project.resolve("master.usda");
        Files.writeString(
                master,
                "#usda 1.0\n(defaultPrim = \"All\")\ndef \"All\" { def \"A\" (references = @./yard.usda@) {} }\n");
        ReachGraph graph = ReachGraph.ofFile(reach(), master);
        assertThat(graph.nodes())
                .extracting(Node::title, Node::version, Node::placements, Node::state)
                .containsExactly(
                        tuple("Mast", "v001", 1L, State.UNREADY),
                        tuple("Mast", "v003", 3L, State.FINE),
                        tuple("Frame", "v001", 2L, State.FINE),
                        tuple("master.usda", "", 6L, State.UNREADY));
        // Nothing is referred to by the file itself: all comes through the yard.
        assertThat(graph.lines())
                .filteredOn(line -> line.to().endsWith("master.usda"))
                .extracting(line -> name(line.from()), Line::direct)
                .containsExactlyInAnyOrder(tuple("mast@v001", false), tuple("frame@v001", false));
    }

    /** Against JGraphT's traversal: every file that uses the asset is reached from its versions, and no other. */
    @Test
    void theFilesThatAreReachedAreThoseThatUseIt() {
        Reach reach = reach();
        ReachGraph graph = ReachGraph.of(reach, current(mast));
        Graph<String, DefaultEdge> other = new DefaultDirectedGraph<>(DefaultEdge.class);
        graph.nodes().forEach(node -> other.addVertex(node.id()));
        graph.lines().forEach(line -> other.addEdge(line.from(), line.to()));
        Map<String, Set<String>> reached = new HashMap<>();
        for (Node node : graph.nodes()) {
            if (node.column() == Column.VERSIONS) {
                Set<String> files = new HashSet<>();
                new BreadthFirstIterator<>(other, node.id()).forEachRemaining(id -> {
                    if (id.endsWith(".usda")) {
                        files.add(id);
                    }
                });
                reached.put(node.version(), files);
            }
        }
        Map<String, Set<String>> used = new HashMap<>(Map.of("v001", Set.of(), "v002", Set.of(), "v003", Set.of()));
        for (Reach.SceneUse use : reach.uses(current(mast), java.util.Optional.empty())) {
            Set<String> files = new HashSet<>(used.get(use.version()));
            files.add(use.file().toString());
            used.put(use.version(), files);
        }
        assertThat(reached).isEqualTo(used);
        assertThat(List.copyOf(reach.totals().values())).contains(new UseIndex.Total(2, 5));
    }
}
