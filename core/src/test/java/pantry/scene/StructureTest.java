package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.base.math.Vec3;
import pantry.testing.Workshop;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

@DisplayName("Groups, names and order of a scene")
class StructureTest extends WithYard {
    private SdfPath put(double x) {
        return Workshop.stand(scene, block, x);
    }

    private List<String> names(SdfPath of) {
        return List.copyOf(scene.childNames(of));
    }

    private Vec3 stands(SdfPath path) {
        return scene.world(path).orElseThrow().translationPart();
    }

    private String title(SdfPath path) {
        return scene.spec(path).flatMap(prim -> prim.text("displayName")).orElse("");
    }

    @Test
    @DisplayName("what is grouped, hung elsewhere and taken apart stands where it stood")
    void placesStay() {
        SdfPath a = put(1);
        SdfPath b = put(4);
        Map<String, List<Vec3>> before = ArrangingTest.vertices(scene);
        SdfPath group = scene.structure().group(List.of(a, b), "Pair");
        ArrangingTest.assertSame(before, ArrangingTest.vertices(scene));
        assertThat(names(group)).hasSize(2);
        scene.arranging().move(Map.of(group, new TransformComponents(new Vec3(3, 0, 1), new Vec3(0, 40, 0), Vec3.ONE)));
        SdfPath c = put(9);
        Map<String, List<Vec3>> turned = ArrangingTest.vertices(scene);
        SdfPath hung = scene.structure().reparent(List.of(c), group).getFirst();
        assertThat(hung.parent()).isEqualTo(group);
        ArrangingTest.assertSame(turned, ArrangingTest.vertices(scene));
        List<SdfPath> freed = scene.structure().ungroup(List.of(group));
        assertThat(freed).hasSize(3).allMatch(path -> path.parent().equals(scene.root()));
        ArrangingTest.assertSame(turned, ArrangingTest.vertices(scene));
        assertThat(scene.spec(group)).isEmpty();
    }

    @Test
    @DisplayName("nothing hangs on itself, on what hangs on it, or on what shows another file")
    void impossible() {
        SdfPath a = put(0);
        SdfPath group = scene.structure().group(List.of(a), "Outer");
        SdfPath inner = scene.structure().group(List.of(group.child(a.name())), "Inner");
        SdfPath placed = inner.child(a.name());
        String text = scene.layer().root().children().toString();
        for (Runnable wrong : List.<Runnable>of(
                () -> scene.structure().reparent(List.of(group), group),
                () -> scene.structure().reparent(List.of(group), inner),
                () -> scene.structure().reparent(List.of(inner), placed),
                () -> scene.structure().ungroup(List.of(placed)),
                () -> scene.structure().rename(group, "  "),
                () -> scene.structure().rename(scene.root().child("Gone"), "New"),
                () -> scene.structure().remove(List.of(scene.root())),
                () -> scene.structure().group(List.of(), "Nothing"))) {
            assertThatThrownBy(wrong::run).isInstanceOf(SceneException.class);
        }
        assertThat(scene.layer().root().children().toString()).isEqualTo(text);
        assertThat(scene.undoName()).as("the last that was done").hasValueSatisfying(name -> assertThat(name)
                .contains("grouped"));
    }

    @Test
    @DisplayName("a name keeps signs that a path cannot have, and one that is taken gets a number")
    void names() {
        SdfPath a = put(0);
        SdfPath b = put(2);
        SdfPath renamed = scene.structure().rename(a, "Crate Nº 1 (old)");
        assertThat(title(renamed)).isEqualTo("Crate Nº 1 (old)");
        assertThat(SdfPath.isWellFormed(renamed.toString())).isTrue();
        SdfPath again = scene.structure().rename(b, "Crate Nº 1 (old)");
        assertThat(again).isNotEqualTo(renamed);
        SdfPath plain = scene.structure().rename(renamed, "Crate");
        assertThat(plain.name()).isEqualTo("Crate");
        assertThat(title(plain)).as("a path says it already").isEmpty();
    }

    @Test
    @DisplayName("things are switched off and on, hidden and shown, and all of it is one step each")
    void offAndHidden() {
        SdfPath a = put(0);
        SdfPath b = put(2);
        long drawn = scene.weight(scene.model()).trianglesDrawn();
        scene.structure().switchOn(List.of(a, b), false);
        assertThat(scene.weight(scene.model()).trianglesDrawn()).isZero();
        scene.structure().switchOn(List.of(a), true);
        assertThat(scene.weight(scene.model()).trianglesDrawn()).isEqualTo(drawn / 2);
        scene.undo();
        scene.undo();
        scene.structure().show(List.of(a, b), false);
        assertThat(scene.weight(scene.model()).trianglesDrawn()).isZero();
        scene.structure().show(List.of(a, b), true);
        assertThat(scene.spec(a).orElseThrow().property("visibility"))
                .as("nothing is left of it")
                .isEmpty();
        assertThat(scene.weight(scene.model()).trianglesDrawn()).isEqualTo(drawn);
    }

    @Test
    @DisplayName("a placement that is broken out has insides of its own until it shares them again")
    void sharing() {
        SdfPath a = put(0);
        put(2);
        scene.structure().breakOut(List.of(a));
        assertThat(scene.stage().prim(a).orElseThrow().isInstance()).isFalse();
        assertThatThrownBy(() -> scene.structure().breakOut(List.of(a))).hasMessageContaining("shares nothing");
        scene.parts().show(List.of(a.child("Body")), false);
        assertThatThrownBy(() -> scene.structure().share(List.of(a))).hasMessageContaining("would be lost");
        scene.undo();
        scene.structure().share(List.of(a));
        assertThat(scene.stage().prim(a).orElseThrow().isInstance()).isTrue();
    }

    @Test
    @DisplayName("children are sorted by their names, and duplicates stand aside with what they hold")
    void orderAndDuplicates() {
        SdfPath b = scene.structure().rename(put(0), "Bravo");
        scene.structure().rename(put(1), "alpha");
        scene.structure().rename(put(2), "Charlie");
        scene.structure().sort(scene.root());
        assertThat(scene.stage().prim(scene.root()).orElseThrow().children().stream()
                        .map(prim -> prim.name())
                        .toList())
                .containsExactly("alpha", "Bravo", "Charlie");
        SdfPath copy =
                scene.structure().duplicate(List.of(b), new Vec3(1, 0, 0)).getFirst();
        assertThat(copy).isNotEqualTo(b);
        assertThat(stands(copy).x() - stands(b).x()).isCloseTo(1, within(1e-9));
        assertThatThrownBy(
                        () -> scene.structure().duplicate(List.of(scene.root().child("Gone")), Vec3.ZERO))
                .isInstanceOf(SceneException.class);
    }

    @Test
    @DisplayName("of nested objects only the outermost are removed, copied or grouped")
    void outermost() {
        SdfPath a = put(0);
        SdfPath group = scene.structure().group(List.of(a), "Stand");
        SdfPath inside = group.child(a.name());
        assertThat(scene.structure().outermost(List.of(inside, group))).containsExactly(group);
        scene.structure().remove(List.of(inside, group));
        assertThat(scene.placements().all()).isEmpty();
        scene.undo();
        assertThat(scene.spec(inside).map(PrimSpec::typeName)).contains("Xform");
    }
}
