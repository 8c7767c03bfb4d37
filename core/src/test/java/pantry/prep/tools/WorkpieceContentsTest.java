package pantry.prep.tools;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.prep.Made;
import pantry.prep.fix.Tidy;
import pantry.prep.inspect.Finding;
import pantry.prep.inspect.RuleSet;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.workpiece.Workpiece;

@DisplayName("What a workpiece holds is listed as it is")
class WorkpieceContentsTest {
    private static final Mesh BLOCK = Shapes.block(0.1, 0.2, 0.1);
    private static final Mesh ROUND = Shapes.cylinder(0.05, 0.2, 40);

    @TempDir
    private Path folder;

    private Workpiece three(Mesh bolt) {
        Made made = Made.mast(folder);
        for (int i = 0; i < 3; i++) {
            made.bound(made.mesh("Bolt" + i, bolt, Matrix4.translation(new Vec3(i, 0, 0))), "Steel");
        }
        made.mesh("Spare", Shapes.block(1, 1, 1)).set("token", "visibility", new Value.Token("invisible"));
        made.root.define("SphereLight", "Lamp");
        return made.open();
    }

    private static WorkpieceContents.Thing thing(WorkpieceContents contents, String name) {
        return contents.find(Made.ROOT.child(name)).orElseThrow();
    }

    @Test
    @DisplayName("things have their kinds, triangles, boxes and pivots; what is hidden is there, and said to be")
    void things() {
        WorkpieceContents contents = WorkpieceContents.of(three(BLOCK));
        assertThat(contents.tops()).singleElement().satisfies(top -> assertThat(top.title())
                .isEqualTo("Mast"));
        WorkpieceContents.Thing bolt = thing(contents, "Bolt2");
        assertThat(bolt.triangles()).isEqualTo(12);
        assertThat(bolt.pivot()).isEqualTo(new Vec3(2, 0, 0));
        assertThat(bolt.box().size().y()).isCloseTo(0.2, org.assertj.core.api.Assertions.within(1e-6));
        assertThat(bolt.alike()).isEqualTo(1);
        assertThat(bolt.kind()).isEqualTo("mesh");
        assertThat(thing(contents, "Spare").seen()).isFalse();
        assertThat(thing(contents, "Lamp").kind()).isEqualTo("light");
        assertThat(contents.find(SdfPath.of("/Mast/Gone"))).isEmpty();
        assertThat(contents.shared()).isEmpty();
        assertThat(contents.like(bolt.path())).isEmpty();
    }

    @Test
    @DisplayName("once twins are instances, each says how many share its shape, and which")
    void shared() {
        Workpiece piece = three(ROUND);
        List<Finding> twins = Made.inspect(piece).stream()
                .filter(finding -> finding.rule().id().equals("twins"))
                .toList();
        assertThat(twins).hasSize(1);
        Tidy.apply(piece, RuleSet.USUAL, java.util.Optional.empty(), twins, Progress.NONE);
        WorkpieceContents contents = WorkpieceContents.of(piece);
        List<SdfPath> bolts = List.of(Made.ROOT.child("Bolt0"), Made.ROOT.child("Bolt1"), Made.ROOT.child("Bolt2"));
        assertThat(contents.shared()).isEqualTo(bolts);
        assertThat(contents.like(bolts.get(1))).isEqualTo(bolts);
        assertThat(thing(contents, "Bolt1").alike()).isEqualTo(3);
        assertThat(thing(contents, "Bolt1").triangles())
                .as("those of the shape")
                .isEqualTo(ROUND.triangleCount());
        assertThat(thing(contents, "Bolt1").pivot()).isEqualTo(new Vec3(1, 0, 0));
    }

    @Test
    @DisplayName("edges are drawn where a thing stands, and evenly fewer of many")
    void edges() {
        WorkpieceContents contents = WorkpieceContents.of(three(BLOCK));
        List<Vec3> ends = contents.edges(Made.ROOT.child("Bolt2"), 1000);
        // A block has twelve edges, each with two ends on its corners.
        assertThat(ends).hasSize(24).allSatisfy(end -> {
            assertThat(Math.abs(end.x() - 2)).isCloseTo(0.05, org.assertj.core.api.Assertions.within(1e-6));
            assertThat(end.y()).isIn(0.0, (double) 0.2f);
        });
        assertThat(contents.edges(Made.ROOT.child("Bolt2"), 5)).hasSize(10);
        assertThat(contents.edges(Made.ROOT, 10_000).size()).as("all below it").isGreaterThan(24 * 3);
    }
}
