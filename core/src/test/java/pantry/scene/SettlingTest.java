package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.library.Asset;
import pantry.testing.WithWorkshop;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.schema.TransformComponents;

@DisplayName("Settling")
class SettlingTest extends WithWorkshop {
    private Scene scene;
    private Asset block;

    @BeforeEach
    void open() {
        block = workshop.block("Block", "Parts", 0.5);
        scene = workshop.newScene(folder.resolve("yard.usda"));
    }

    private SdfPath put(String name, TransformComponents placing) {
        return scene.placements().place(block, Optional.empty(), name, placing, Optional.empty());
    }

    private static TransformComponents at(double x, double y, double z) {
        return TransformComponents.ORIGIN.withMove(new Vec3(x, y, z));
    }

    private Settling.Settled settle(List<SdfPath> falling, List<SdfPath> standing) {
        Settling.Settled settled =
                Settling.of(scene, falling, standing, true).fall(20, Progress.NONE, Settling.Watcher.NONE);
        scene.arranging().transform("settled", settled.changes());
        return settled;
    }

    @Test
    @DisplayName("objects in the air come to rest on each other and on the floor, and hardly lie in each other")
    void heap() {
        List<SdfPath> falling = new ArrayList<>();
        for (int i = 0; i < 4; i++) {
            falling.add(put(
                    "Block", new TransformComponents(new Vec3(0.05 * i, 1 + i, 0), new Vec3(0, 11 * i, 0), Vec3.ONE)));
        }
        Settling.Settled settled = settle(falling, List.of());
        assertThat(settled.moving()).isEmpty();
        assertThat(settled.deepest()).isLessThan(0.002);
        Box3 lowest = scene.arranging().box(falling.getFirst());
        assertThat(lowest.min().y()).isCloseTo(0, within(0.002));
        assertThat(scene.arranging().box(falling.get(3)).min().y()).isCloseTo(1.5, within(0.01));
        scene.undo();
        assertThat(scene.placements()
                        .at(falling.getFirst())
                        .orElseThrow()
                        .placing()
                        .move()
                        .y())
                .isEqualTo(1);
    }

    @Test
    @DisplayName("an object lands square on one of its like that stands still")
    void square() {
        put("Low", at(1, 0, 2));
        SdfPath high = put("High", at(1, 6, 2));
        assertThat(settle(List.of(high), List.of()).moving()).isEmpty();
        assertThat(scene.arranging().box(high).min().y()).isCloseTo(0.5, within(0.003));
    }

    @Test
    @DisplayName("only what is chosen is fallen on, in groups that are turned and sized too")
    void chosen() {
        SdfPath table = put("Table", new TransformComponents(Vec3.ZERO, Vec3.ZERO, new Vec3(4, 1, 4)));
        SdfPath shelf = put("Shelf", new TransformComponents(new Vec3(0, 1, 0), Vec3.ZERO, new Vec3(4, 0.1, 4)));
        SdfPath falling = put("Falling", at(0, 2, 0));
        SdfPath group = scene.structure().group(List.of(falling), "Group");
        scene.arranging()
                .transform(
                        "turned", Map.of(group, Matrix4.rotation(1, 30).times(Matrix4.scale(new Vec3(0.5, 0.5, 0.5)))));
        SdfPath inner = group.child("Falling");
        assertThat(settle(List.of(inner), List.of(table)).moving()).isEmpty();
        assertThat(scene.arranging().box(inner).min().y()).isCloseTo(0.5, within(0.003));
        scene.undo();
        settle(List.of(inner), List.of(shelf));
        assertThat(scene.arranging().box(inner).min().y()).isCloseTo(1.05, within(0.003));
    }

    @Test
    @DisplayName("a slippery object slides where a rough one stays; both say so by UsdPhysics")
    void friction() {
        SdfPath slope =
                put("Slope", new TransformComponents(new Vec3(0, -2, 0), new Vec3(0, 0, -20), new Vec3(60, 1, 20)));
        Map<String, Double> frictions = new LinkedHashMap<>();
        frictions.put("Rough", 1.2);
        frictions.put("Smooth", 0.02);
        Map<String, Double> ways = new LinkedHashMap<>();
        frictions.forEach((name, friction) -> {
            SdfPath path = put(name, new TransformComponents(new Vec3(-4, 0.42, 0), new Vec3(0, 0, -20), Vec3.ONE));
            scene.overrides()
                    .set(path.child("Body").property("physics:dynamicFriction"), "float", new Value.Real(friction));
            Settling.Settled settled = Settling.of(scene, List.of(path), List.of(slope), false)
                    .fall(1.5, Progress.NONE, Settling.Watcher.NONE);
            Vec3 before = scene.arranging().box(path).centre();
            ways.put(
                    name,
                    settled.changes().get(path).point(before).minus(before).length());
            scene.structure().remove(List.of(path));
        });
        assertThat(ways.get("Smooth")).isGreaterThan(1);
        assertThat(ways.get("Rough")).isLessThan(0.5);
    }

    @Test
    @DisplayName("what has nothing to show, or nothing below it, is an error that names it; the scene stays as it was")
    void faults() {
        SdfPath empty = scene.anchors().make("Empty", Anchors.Mark.USUAL, TransformComponents.ORIGIN, Optional.empty());
        assertThatThrownBy(() -> Settling.of(scene, List.of(empty), List.of(), true))
                .hasMessageContaining("/yard/Empty");
        SdfPath lonely = put("Lonely", at(0, 1, 0));
        assertThatThrownBy(() -> Settling.of(scene, List.of(lonely), List.of(), false)
                        .fall(100, Progress.NONE, Settling.Watcher.NONE))
                .hasMessageContaining("\"Lonely\" falls out of the scene");
        assertThat(scene.placements().at(lonely).orElseThrow().placing()).isEqualTo(at(0, 1, 0));
    }
}
