package pantry.compare;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static pantry.testing.Workshop.RED;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Texture;
import pantry.testing.Bunny;

class ComparerTest {
    private static final Material BLUE = Material.plain("Blue", new Colour(0, 0, 1), 0, 0.5);

    private static Model.Node node(String name, Mesh mesh, Material material, double x) {
        return Model.Node.of(
                name, Matrix4.translation(new Vec3(x, 0, 0)), List.of(new Model.Part(mesh, material)), List.of());
    }

    private static Model model(Model.Node... nodes) {
        Model.Node root = Model.Node.of("Asset", Matrix4.IDENTITY, List.of(), List.of(nodes));
        return new Model("Asset", List.of(root), Model.Extras.NONE);
    }

    private static Comparison compare(Model before, Model after) {
        return Comparer.compare(
                new Comparer.State(before, Map.of()), new Comparer.State(after, Map.of()), Progress.NONE);
    }

    private static final Mesh BLOCK = Shapes.block(1, 2, 1);
    private static final Mesh POST = Shapes.cylinder(0.2, 3, 12);

    @Test
    void theSameIsTheSame() {
        Model model = model(node("Block", BLOCK, RED, 0), node("Post", POST, BLUE, 2));
        assertThat(compare(model, model).same()).isTrue();
        // Equal numbers in other arrays, as they come from another file.
        Model again = model(node("Block", Shapes.block(1, 2, 1), RED, 0), node("Post", POST, BLUE, 2));
        assertThat(compare(model, again).same()).isTrue();
    }

    @Test
    void eachKindOfChangeIsNamed() {
        Model before = model(
                node("Stays", BLOCK, RED, 0),
                node("Goes", POST, RED, 2),
                node("Moves", Shapes.block(1, 1, 1), RED, 4),
                node("Old name", Shapes.cylinder(0.3, 1, 16), RED, 6),
                node("Repainted", Shapes.block(2, 1, 1), RED, 8),
                node("Reshaped", Shapes.sphere(0.5, 12, 8), RED, 10));
        Model after = model(
                node("Stays", BLOCK, RED, 0),
                node("Moves", Shapes.block(1, 1, 1), RED, 4.25),
                node("New name", Shapes.cylinder(0.3, 1, 16), RED, 6),
                node("Repainted", Shapes.block(2, 1, 1), BLUE, 8),
                node("Reshaped", Shapes.sphere(0.5, 24, 16), RED, 10),
                node("Comes", Shapes.block(0.2, 0.2, 0.2), BLUE, 12),
                node("Comes too", Shapes.block(0.4, 0.2, 0.2), BLUE, 13));
        Comparison result = compare(before, after);
        Map<String, List<Comparison.ChangeKind>> changes = new java.util.HashMap<>();
        result.objects().forEach(change -> changes.put(change.path(), change.what()));
        assertThat(changes)
                .containsOnly(
                        Map.entry("Goes", List.of(Comparison.ChangeKind.REMOVED)),
                        Map.entry("Comes", List.of(Comparison.ChangeKind.ADDED)),
                        Map.entry("Comes too", List.of(Comparison.ChangeKind.ADDED)),
                        Map.entry("Moves", List.of(Comparison.ChangeKind.MOVED)),
                        Map.entry("New name", List.of(Comparison.ChangeKind.RENAMED)),
                        Map.entry("Repainted", List.of(Comparison.ChangeKind.REMADE)),
                        Map.entry("Reshaped", List.of(Comparison.ChangeKind.RESHAPED)));
        assertThat(result.objects())
                .filteredOn(change -> change.path().equals("Moves"))
                .singleElement()
                .satisfies(change -> assertThat(change.detail()).isEqualTo("by 0.2500 m"));
        assertThat(result.materials()).containsExactly(new Comparison.Named(Comparison.ChangeKind.ADDED, "Blue", ""));
        assertThat(result.triangles().after() - result.triangles().before())
                .isEqualTo(after.trianglesDrawn() - before.trianglesDrawn());
        assertThat(result.distance())
                .as("what comes stands apart from all else")
                .isGreaterThan(1);
    }

    @Test
    void ofTwinsTheOneThatStandsThereIsTheRenamedOne() {
        Model before = model(node("A", BLOCK, RED, 0), node("B", BLOCK, RED, 5));
        Model after = model(node("C", BLOCK, RED, 5), node("D", BLOCK, RED, 0));
        assertThat(compare(before, after).objects())
                .extracting(change -> change.before() + ">" + change.after(), Comparison.ObjectChange::what)
                .containsExactlyInAnyOrder(
                        org.assertj.core.groups.Tuple.tuple("A>D", List.of(Comparison.ChangeKind.RENAMED)),
                        org.assertj.core.groups.Tuple.tuple("B>C", List.of(Comparison.ChangeKind.RENAMED)));
    }

    @Test
    void whatStandsInTheOnlyGapCameInItsPlace() {
        Comparison result = compare(model(node("mast", BLOCK, RED, 0)), model(node("taller", POST, RED, 0)));
        assertThat(result.objects()).singleElement().satisfies(change -> assertThat(change.what())
                .containsExactly(Comparison.ChangeKind.RENAMED, Comparison.ChangeKind.RESHAPED));
    }

    @Test
    void materialsAndTexturesAreComparedByWhatTheyHold(@TempDir Path folder) throws Exception {
        Path first = Files.writeString(folder.resolve("a.png"), "one");
        Path copy =
                Files.writeString(Files.createDirectories(folder.resolve("v2")).resolve("a.png"), "one");
        Path other =
                Files.writeString(Files.createDirectories(folder.resolve("v3")).resolve("a.png"), "two");
        Material painted = RED.with(Material.Slot.BASE, new Texture("a.png", java.util.Optional.of(first)));
        Material same = RED.with(Material.Slot.BASE, new Texture("a.png", java.util.Optional.of(copy)));
        Material changed = RED.with(Material.Slot.BASE, new Texture("a.png", java.util.Optional.of(other)));
        Model before = model(node("Block", BLOCK, painted, 0));
        assertThat(compare(before, model(node("Block", BLOCK, same, 0))).same()).isTrue();
        Comparison result = compare(before, model(node("Block", BLOCK, changed, 0)));
        assertThat(result.textures())
                .containsExactly(new Comparison.Named(Comparison.ChangeKind.REMADE, "a.png", "another image"));
        assertThat(result.materials())
                .containsExactly(new Comparison.Named(Comparison.ChangeKind.REMADE, "Red", "texture of diffuseColor"));
    }

    @Test
    void variantsAndPivotAreCompared() {
        Model model = model(node("Block", BLOCK, RED, 0));
        Comparison result = Comparer.compare(
                new Comparer.State(model, Map.of("look", List.of("red", "blue"))),
                new Comparer.State(model(node("Block", BLOCK, RED, 3)), Map.of("look", List.of("red", "green"))),
                Progress.NONE);
        assertThat(result.variants())
                .containsExactly(
                        new Comparison.Named(Comparison.ChangeKind.REMOVED, "look blue", ""),
                        new Comparison.Named(Comparison.ChangeKind.ADDED, "look green", ""));
        assertThat(result.pivotMoved()).isCloseTo(3, within(1e-6));
    }

    /** The Stanford bunny, as the npm package {@code bunny} carries it, moved by a known amount. */
    @Test
    @Tag("oracle")
    void theBunnyMovedByAHandIsAtMostAHandAway() {
        Mesh bunny = Bunny.read().mesh();
        Comparison result = compare(model(node("Bunny", bunny, RED, 0)), model(node("Bunny", bunny, RED, 0.37)));
        assertThat(result.objects()).singleElement().satisfies(change -> assertThat(change.what())
                .containsExactly(Comparison.ChangeKind.MOVED));
        assertThat(result.distance()).isLessThanOrEqualTo(0.37 + 1e-9).isGreaterThan(0.3);
        assertThat(result.pivotMoved()).isCloseTo(0.37, within(1e-6));
    }

    @Test
    void theOverlayTintsWhatDiffersAndKeepsTheRest() {
        Model before = model(node("Stays", BLOCK, RED, 0), node("Goes", POST, RED, 2));
        Model after = model(
                node("Stays", BLOCK, RED, 0),
                node("Comes", Shapes.sphere(1, 12, 8), RED, 9),
                node("Too", Shapes.sphere(2, 12, 8), RED, 9));
        Model both = Overlay.of(before, after, compare(before, after));
        List<String> tints = new ArrayList<>();
        both.visit((owner, part, world) ->
                tints.add(owner.name() + ": " + part.material().name()));
        assertThat(tints)
                .containsExactlyInAnyOrder(
                        "Stays: as it was",
                        "Comes: new, or as it is now",
                        "Too: new, or as it is now",
                        "Goes: gone, or as it was");
    }
}
