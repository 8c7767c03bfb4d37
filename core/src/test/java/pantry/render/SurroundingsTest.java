package pantry.render;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;

/** A scene drawn faded around another, by what the picture shows and what can be picked. */
class SurroundingsTest {
    private static final Material RED = Material.plain("Red", new Colour(0.9f, 0.05f, 0.05f), 0, 0.8);
    private static final Camera FRONT = new Camera(new Vec3(0, 0.5, 0), 0, 0, 12, 40);
    private static final RenderOptions PLAIN = RenderOptions.PLAIN;

    private final RenderCache cache = new RenderCache();

    private RenderScene block(String name, double x) {
        return RenderScene.of(
                new Model(
                        name,
                        List.of(Model.Node.of(
                                name,
                                Matrix4.translation(new Vec3(x, 0, 0)),
                                List.of(new Model.Part(Shapes.block(1, 1, 1), RED)),
                                List.of())),
                        Model.Extras.NONE),
                cache);
    }

    private static Frame draw(RenderScene scene) {
        return new Renderer().draw(scene, FRONT, 200, 100, PLAIN);
    }

    private static int red(Frame frame, int x, int y) {
        int argb = frame.argb()[y * frame.width() + x];
        return (argb >> 16 & 255) - (argb & 255);
    }

    @Test
    void whatIsAroundIsPaleIsNoObjectAndCountsInNoBox() {
        RenderScene one = block("one", 0);
        RenderScene both = one.within(block("two", 0), Matrix4.translation(new Vec3(3, 0, 0)));
        Frame frame = draw(both);
        int middle = 50 * 200 + 100;
        int aside = 50 * 200 + 134;
        assertThat(both.owner(frame.ids()[middle])).contains("one");
        assertThat(both.owner(frame.ids()[aside])).contains(RenderScene.SURROUNDINGS);
        assertThat(red(frame, 100, 50)).as("its own is red").isGreaterThan(60);
        assertThat(red(frame, 134, 50)).as("what is around is pale").isBetween(1, 60);
        assertThat(both.bounds()).isEqualTo(one.bounds());
        assertThat(both.boundsBelow("one")).isEqualTo(one.boundsBelow("one"));
        assertThat(both.triangles()).isEqualTo(24);
    }

    @Test
    void whatIsLeftOutIsNotDrawn() {
        RenderScene both = RenderScene.of(
                new Model(
                        "both",
                        List.of(
                                new Model.Node(
                                        "a",
                                        "/S/a",
                                        Matrix4.IDENTITY,
                                        List.of(new Model.Part(Shapes.block(1, 1, 1), RED)),
                                        List.of(),
                                        false),
                                new Model.Node(
                                        "b",
                                        "/S/ab",
                                        Matrix4.translation(new Vec3(3, 0, 0)),
                                        List.of(new Model.Part(Shapes.block(1, 1, 1), RED)),
                                        List.of(),
                                        false)),
                        Model.Extras.NONE),
                cache);
        RenderScene left = both.without("/S/a");
        assertThat(left.triangles()).isEqualTo(12);
        assertThat(left.boundsBelow("/S/a")).isEqualTo(Box3.EMPTY);
        assertThat(left.bounds()).isEqualTo(both.boundsBelow("/S/ab"));
    }
}
