package pantry.desktop.reach;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import pantry.project.ReachGraph;
import pantry.project.ReachGraph.Column;
import pantry.project.ReachGraph.Line;
import pantry.project.ReachGraph.Node;
import pantry.project.ReachGraph.State;

/** A graph as rows: each by itself where there are few, folded by folder where there are many. */
class ReachRowsTest {
    private static final Path MAST = Path.of("/library/assets/mast");

    /** @param files in folders of five each; the fourth of each folder uses an old version */
    private static ReachGraph graph(int files) {
        List<Node> nodes = new ArrayList<>();
        List<Line> lines = new ArrayList<>();
        nodes.add(new Node("v2", Column.VERSIONS, MAST, "v002", "Mast", 0, State.FINE));
        nodes.add(new Node("v1", Column.VERSIONS, MAST, "v001", "Mast", 0, State.BEHIND));
        nodes.add(
                new Node("frame", Column.COMPOSITES, Path.of("/library/assets/frame"), "v001", "Frame", 1, State.FINE));
        lines.add(new Line("v2", "frame", 1, true, true, State.FINE));
        for (int i = 0; i < files; i++) {
            String id = "/project/folder" + i / 5 + "/scene" + i + ".usda";
            boolean old = i % 5 == 3;
            nodes.add(new Node(
                    id, Column.FILES, Path.of(id), "", "scene" + i + ".usda", 2, old ? State.BEHIND : State.FINE));
            lines.add(new Line(
                    old ? "v1" : i % 5 == 0 ? "frame" : "v2", id, 2, !old, true, old ? State.BEHIND : State.FINE));
        }
        return new ReachGraph(nodes, lines);
    }

    @Test
    void fewFilesStandEachByItself() {
        ReachRows rows = ReachRows.of(graph(10), Set.of());
        assertThat(rows.rows(Column.VERSIONS))
                .extracting(ReachRows.Row::version)
                .containsExactly("v002", "v001");
        assertThat(rows.rows(Column.FILES)).hasSize(10).noneMatch(ReachRows.Row::isFolder);
        assertThat(rows.links()).hasSize(11);
    }

    @Test
    void manyFilesAreFoldedByFolderAndUnfoldedOnDemand() {
        ReachGraph graph = graph(3_000);
        ReachRows rows = ReachRows.of(graph, Set.of());
        assertThat(rows.rows(Column.FILES)).hasSize(600).allSatisfy(row -> {
            assertThat(row.files()).isEqualTo(5);
            assertThat(row.placements()).isEqualTo(10);
            assertThat(row.state()).as("the worst of its files").isEqualTo(State.BEHIND);
        });
        assertThat(rows.links())
                .filteredOn(link -> link.to().title().equals("folder0"))
                .extracting(link -> link.from().id() + " " + link.count())
                .containsExactlyInAnyOrder("frame 2", "v2 6", "v1 2");
        ReachRows open = ReachRows.of(graph, Set.of(Path.of("/project/folder0")));
        assertThat(open.rows(Column.FILES)).hasSize(605);
        assertThat(open.rows(Column.FILES).get(1).title()).isEqualTo("scene0.usda");
        assertThat(open.links())
                .filteredOn(link -> link.to().folder().endsWith("folder0"))
                .hasSize(5);
    }

    @Test
    void whatLightsUpIsTheWayThroughAndNotItsNeighbours() {
        ReachRows rows = ReachRows.of(graph(10), Set.of());
        ReachRows.Row frame = rows.rows(Column.COMPOSITES).getFirst();
        assertThat(rows.connected(frame))
                .containsExactlyInAnyOrder(
                        "frame", "v2", "/project/folder0/scene0.usda", "/project/folder1/scene5.usda");
    }
}
