package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.base.math.Vec3;
import pantry.testing.Workshop;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

@DisplayName("Groups that are used more than once")
class InstancingTest extends WithYard {
    private SdfPath group(String name) {
        return scene.structure().group(List.of(Workshop.stand(scene, block, 0), Workshop.stand(scene, mast, 2)), name);
    }

    private SdfPath once(SdfPath path, double x) {
        return scene.instancing()
                .instance(path, path.name(), TransformComponents.ORIGIN.withMove(new Vec3(x, 0, 0)), Optional.empty());
    }

    @Test
    @DisplayName("hold what they show once, and draw it in each use")
    void once() {
        SdfPath first = group("Stand");
        long stored = scene.weight(scene.model()).trianglesStored();
        SdfPath second = once(first, 10);
        assertThat(scene.weight(scene.model()).trianglesStored()).isEqualTo(stored);
        assertThat(scene.weight(scene.model()).trianglesDrawn()).isEqualTo(48);
        SdfPath contents = scene.instancing().contents(first).orElseThrow();
        assertThat(scene.instancing().contents(second)).contains(contents);
        SdfPath shared = contents.child("Block");
        assertThat(scene.instancing().isShared(shared)).isTrue();
        assertThat(scene.instancing().isShared(first)).isFalse();
        assertThat(scene.instancing().uses(shared)).isEqualTo(2);
        assertThat(scene.instancing().uses(first)).isEqualTo(1);
    }

    @Test
    @DisplayName("stand, through all levels, wherever their uses lead")
    void occurrences() {
        SdfPath stand = group("Stand");
        once(stand, 10);
        SdfPath row = scene.structure().group(List.of(stand, scene.root().child("Stand_2")), "Row");
        SdfPath other = scene.instancing()
                .instance(
                        row,
                        "Row",
                        new TransformComponents(new Vec3(0, 0, 30), new Vec3(0, 90, 0), Vec3.ONE),
                        Optional.empty());
        SdfPath standShape = scene.root().child(Instancing.SHAPES).child("Stand");
        SdfPath shared = standShape.child("Block");
        List<Occurrence> all = scene.instancing().occurrences(shared);
        assertThat(all).hasSize(4);
        assertThat(scene.instancing().uses(shared)).isEqualTo(4);
        Set<SdfPath> seenAs = new HashSet<>();
        Set<String> places = new HashSet<>();
        for (Occurrence each : all) {
            assertThat(each.through()).hasSize(2);
            seenAs.add(each.seenAs());
            Vec3 at = each.parentSpace().point(Vec3.ZERO);
            places.add(Math.round(at.x()) + "," + Math.round(at.z()));
        }
        assertThat(seenAs).containsExactlyInAnyOrder(row, other);
        assertThat(places).as("four different places").hasSize(4);
    }

    @Test
    @DisplayName("never hold themselves, at any depth")
    void neverThemselves() {
        SdfPath stand = group("Stand");
        once(stand, 10);
        SdfPath contents = scene.instancing().contents(stand).orElseThrow();
        assertThatThrownBy(() ->
                        scene.instancing().instance(stand, "Inner", TransformComponents.ORIGIN, Optional.of(contents)))
                .hasMessageContaining("would hold itself");
        assertThatThrownBy(() ->
                        scene.instancing().instance(stand, "Inner", TransformComponents.ORIGIN, Optional.of(stand)))
                .hasMessageContaining("within itself");
        assertThatThrownBy(() -> scene.structure().reparent(List.of(stand), contents))
                .isInstanceOf(SceneException.class);
        assertThatThrownBy(() -> once(scene.root().child("Gone"), 1)).hasMessageContaining("there is no");
    }

    @Test
    @DisplayName("that are broken out are changed alone, and what stays shared is as it was")
    void brokenOut() {
        SdfPath first = group("Stand");
        SdfPath second = once(first, 10);
        scene.structure().breakOut(List.of(second));
        assertThat(scene.instancing().contents(second)).isEmpty();
        SdfPath own = second.child("Block");
        assertThat(scene.spec(own)).isPresent();
        Vec3 before = scene.arranging().box(first).size();
        scene.arranging().move(Map.of(own, TransformComponents.ORIGIN.withMove(new Vec3(0, 5, 0))));
        assertThat(scene.arranging().box(first).size()).isEqualTo(before);
        assertThat(scene.arranging().box(own).min().y()).isCloseTo(5, within(1e-9));
        scene.undo();
        scene.undo();
        assertThat(scene.instancing().contents(second)).isPresent();
    }
}
