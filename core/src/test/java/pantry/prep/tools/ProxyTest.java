package pantry.prep.tools;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.usd.UsdModelReader;
import pantry.intake.CollisionShape;
import pantry.mesh.Measures;
import pantry.mesh.MeshBuilder;
import pantry.mesh.Shapes;
import pantry.model.Model;
import pantry.prep.Made;
import pantry.prep.fix.Tidy;
import pantry.prep.inspect.Finding;
import pantry.prep.inspect.RuleSet;
import pantry.testing.Workshop;
import pantry.usd.Value;
import pantry.workpiece.Workpiece;

@DisplayName("A proxy")
class ProxyTest {
    @TempDir
    Path folder;

    private static Model table() {
        MeshBuilder builder = new MeshBuilder();
        builder.add(Shapes.block(2, 0.1, 1), Matrix4.translation(new Vec3(0, 0.9, 0)));
        for (int i = 0; i < 4; i++) {
            builder.add(
                    Shapes.cylinder(0.05, 0.9, 48),
                    Matrix4.translation(new Vec3((i % 2) * 1.8 - 0.9, 0, (i / 2) * 0.8 - 0.4)));
        }
        return Workshop.model("Table", builder.build());
    }

    @Test
    @DisplayName("of one box for a cylinder overlaps its outline as geometry says")
    void cylinder() {
        double height = 2;
        Proxy proxy = Proxy.boxes(Workshop.model("Drum", Shapes.cylinder(1, height, 256)), 1, Progress.NONE);
        Vec3 size = proxy.mesh().bounds().size();
        double a = size.x() / 2;
        // The circle of radius 1 loses four segments of half-angle acos(a) to the square of half-side a.
        double segment = a >= 1 ? 0 : Math.acos(a) - a * Math.sqrt(1 - a * a);
        double both = Math.PI - 4 * segment;
        assertThat(proxy.overlap().get("above")).isCloseTo(both / (Math.PI + 4 * a * a - both), within(0.01));
        double tall = size.y();
        double shared = 2 * Math.min(a, 1) * Math.min(tall, height);
        assertThat(proxy.overlap().get("front")).isCloseTo(shared / (2 * a * tall + 2 * height - shared), within(0.01));
        // The square's diagonal is seen from 45 degrees.
        double diagonal = Math.sqrt(2) * a;
        double narrow = 2 * Math.min(diagonal, 1) * Math.min(tall, height);
        assertThat(proxy.overlap().get("front left"))
                .isCloseTo(narrow / (2 * diagonal * tall + 2 * height - narrow), within(0.01));
        // Smaller than the box around it, which would be seen half as wide again from the corner.
        assertThat(proxy.mean()).isGreaterThan(0.83);
    }

    @Test
    @DisplayName("of boxes finds the top and the legs of a table")
    void legs() {
        Proxy five = Proxy.boxes(table(), 5, Progress.NONE);
        assertThat(five.boxes()).isEqualTo(5);
        assertThat(five.mesh().triangleCount()).isEqualTo(60);
        assertThat(five.mean()).isGreaterThan(0.92);
        assertThat(Proxy.boxes(table(), 1, Progress.NONE).mean()).isLessThan(five.mean() - 0.2);
        assertThat(Measures.of(five.mesh(), Matrix4.IDENTITY).closed()).isTrue();
        assertThat(Measures.of(five.mesh(), Matrix4.IDENTITY).volume()).isPositive();
    }

    /** Two posts and three boards between them: whatever is cut across has the posts in both halves. */
    @Test
    @DisplayName("of boxes keeps posts apart from what stands between them, and says what was tried")
    void posts() {
        MeshBuilder builder = new MeshBuilder();
        for (int side = -1; side <= 1; side += 2) {
            builder.add(Shapes.block(0.1, 2, 0.1), Matrix4.translation(new Vec3(side * 0.6, 0, 0)));
        }
        for (int board = 0; board < 3; board++) {
            builder.add(Shapes.block(1, 0.2, 0.5), Matrix4.translation(new Vec3(0, 0.3 + 0.6 * board, 0)));
        }
        Proxy five = Proxy.boxes(Workshop.model("Rack", builder.build()), 5, Progress.NONE);
        assertThat(five.boxes()).isEqualTo(5);
        assertThat(five.mean()).as("the boxes are the parts").isGreaterThan(0.99);
        assertThat(five.tried()).hasSize(2);
        assertThat(five.tried().get("parts put together"))
                .isGreaterThan(five.tried().get("one box split again and again") + 0.1);
        Proxy four = Proxy.boxes(Workshop.model("Rack", builder.build()), 4, Progress.NONE);
        assertThat(four.boxes()).isEqualTo(4);
        assertThat(four.mean()).isBetween(0.6, five.mean());
    }

    @Test
    @DisplayName("stands on the original's base plane, around its middle")
    void baseAndCentre() {
        Model model = table().reframed(Matrix4.translation(new Vec3(3, 1, -2)));
        for (Proxy proxy : List.of(
                Proxy.boxes(model, 3, Progress.NONE),
                Proxy.simplified(model, 40, Progress.NONE),
                Proxy.within(model, 0.02, Progress.NONE))) {
            Box3 box = proxy.mesh().bounds();
            assertThat(Instances.base(box).minus(Instances.base(model.bounds())).length())
                    .isLessThan(1e-5);
        }
    }

    @Test
    @DisplayName("of a number of triangles has no more, is as large as the original, and says what it is made of")
    void atMostSoMany() {
        Model scattered = scattered();
        List<Proxy.Made> made = new ArrayList<>();
        for (Model model : List.of(table(), scattered, Workshop.model("Ball", Shapes.sphere(1, 96, 48)))) {
            for (int most : new int[] {12, 40, 200, 500}) {
                Proxy proxy = Proxy.simplified(model, most, Progress.NONE);
                assertThat(proxy.mesh().triangleCount())
                        .as(model.name() + " " + most)
                        .isLessThanOrEqualTo(most);
                Box3 box = proxy.mesh().bounds();
                double height = model.bounds().size().y();
                assertThat(box.size().y()).isCloseTo(height, within(0.02 * height));
                assertThat(box.centre().minus(model.bounds().centre()).length())
                        .isLessThan(0.02 * model.bounds().radius());
                assertThat(proxy.overlap()).hasSize(6);
                made.add(proxy.made());
            }
        }
        assertThat(made).contains(Proxy.Made.SURFACE).doesNotContainNull();
        assertThat(Proxy.simplified(scattered, 40, Progress.NONE).made()).isNotEqualTo(Proxy.Made.SURFACE);
        assertThatThrownBy(() -> Proxy.simplified(scattered, 3, Progress.NONE)).hasMessageContaining("at least 12");
    }

    /** Sixty small parts, of which none can lose all its triangles without being gone. */
    private static Model scattered() {
        List<Model.Node> nodes = new ArrayList<>();
        for (int i = 0; i < 60; i++) {
            nodes.add(Model.Node.of(
                    "Part " + i,
                    Matrix4.translation(new Vec3(i % 5, i / 20.0, i % 7)),
                    List.of(new Model.Part(Shapes.sphere(0.2, 12, 6), Workshop.RED)),
                    List.of()));
        }
        return new Model("Parts", nodes, Model.Extras.NONE);
    }

    @Test
    @DisplayName("is shown while working, and the original is rendered")
    void inTheAsset() {
        Workpiece piece = Made.mast(folder).open();
        long drawn = piece.model().trianglesDrawn();
        Proxy.write(piece, Proxy.boxes(piece.model(), 2, Progress.NONE));
        assertThat(piece.model().trianglesDrawn()).isEqualTo(drawn);
        assertThat(piece.model(UsdModelReader.LIGHT).trianglesDrawn()).isEqualTo(24);
        assertThat(Made.rules(Made.inspect(piece))).doesNotContain("proxy-off", "twins");
        Proxy.write(piece, Proxy.boxes(piece.model(), 1, Progress.NONE));
        assertThat(piece.model(UsdModelReader.LIGHT).trianglesDrawn()).isEqualTo(12);
    }

    @Test
    @DisplayName("out of line is found, and made anew")
    void outOfLine() {
        Made made = Made.mast(folder);
        made.mesh("Proxy", Shapes.block(0.2, 2, 0.2), Matrix4.translation(new Vec3(1, 0, 0)))
                .set("token", "purpose", new Value.Token("proxy"));
        Workpiece piece = made.open();
        List<Finding> off = Made.inspect(piece).stream()
                .filter(finding -> finding.rule().id().equals("proxy-off"))
                .toList();
        assertThat(off).hasSize(1);
        Tidy.apply(piece, RuleSet.USUAL, java.util.Optional.empty(), off, Progress.NONE);
        assertThat(Made.rules(Made.inspect(piece))).doesNotContain("proxy-off");
    }

    @Test
    @DisplayName("has 1 to 12 boxes, of something")
    void refused() {
        assertThatThrownBy(() -> Proxy.boxes(table(), 13, Progress.NONE)).hasMessageContaining("1 to 12");
        Model nothing = new Model("Nothing", List.of(), Model.Extras.NONE);
        assertThatThrownBy(() -> Proxy.boxes(nothing, 1, Progress.NONE)).hasMessageContaining("shows nothing");
    }

    @Test
    @DisplayName("collision by several hulls fits a table more closely than one")
    void hulls() {
        Made made = Made.mast(folder);
        made.root.removeChild("Tube");
        made.mesh("Table", table().roots().getFirst().parts().getFirst().mesh());
        Workpiece piece = made.open();
        LevelsAndCollision.collision(piece, CollisionShape.HULL, 1, Progress.NONE);
        double one = guideVolume(piece);
        int shapes = LevelsAndCollision.collision(piece, CollisionShape.HULL, 5, Progress.NONE);
        assertThat(shapes).isEqualTo(5);
        // The top and four legs; the one hull around all has nearly the volume of the box around them.
        double exact = 2 * 0.1 * 1 + 4 * Math.PI * 0.05 * 0.05 * 0.9;
        assertThat(guideVolume(piece)).isCloseTo(exact, within(0.1 * exact));
        assertThat(one).isGreaterThan(5 * exact);
    }

    private static double guideVolume(Workpiece piece) {
        double[] volume = {0};
        piece.model(java.util.Set.of("guide"))
                .visit((owner, part, world) ->
                        volume[0] += Measures.of(part.mesh(), world).volume());
        return volume[0];
    }
}
