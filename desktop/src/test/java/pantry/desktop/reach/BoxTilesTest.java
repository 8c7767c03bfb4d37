package pantry.desktop.reach;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;
import pantry.desktop.reach.BoxTiles.Tile;
import pantry.project.ProjectWeight.Amounts;
import pantry.project.ProjectWeight.Box;
import pantry.project.ProjectWeight.Kind;
import pantry.project.ProjectWeight.Measure;

/** Rectangles whose areas are what they stand for. */
class BoxTilesTest {
    private static Box leaf(String name, long amount) {
        return new Box(Kind.ASSET, name, Path.of("/" + name), "v001", 1, new Amounts(0, amount, 0, 0, 0), List.of());
    }

    private static Box around(String name, Box... parts) {
        Amounts sum = List.of(parts).stream().map(Box::amounts).reduce(Amounts.NOTHING, Amounts::and);
        return new Box(Kind.SCENE, name, Path.of("/" + name), "", 1, sum, List.of(parts));
    }

    @Property(tries = 100)
    void areasAreTheAmountsAndNothingOverlaps(@ForAll @IntRange(min = 1, max = 60) int count, @ForAll long seed) {
        Random random = new Random(seed);
        List<Box> parts = new ArrayList<>();
        long whole = 0;
        for (int i = 0; i < count; i++) {
            long amount = 1 + random.nextInt(1000);
            whole += amount;
            parts.add(leaf("part" + i, amount));
        }
        List<Tile> tiles = BoxTiles.of(around("all", parts.toArray(Box[]::new)), Measure.DRAWN, 800, 500);
        assertThat(tiles).hasSize(count);
        for (Tile tile : tiles) {
            assertThat(tile.width() * tile.height())
                    .isCloseTo(800.0 * 500 * tile.box().amounts().trianglesDrawn() / whole, within(1e-6 * 800 * 500));
            assertThat(tile.x()).isGreaterThanOrEqualTo(-1e-6);
            assertThat(tile.y()).isGreaterThanOrEqualTo(-1e-6);
            assertThat(tile.x() + tile.width()).isLessThanOrEqualTo(800 + 1e-6);
            assertThat(tile.y() + tile.height()).isLessThanOrEqualTo(500 + 1e-6);
        }
        for (int i = 0; i < 50; i++) {
            double x = random.nextDouble() * 800;
            double y = random.nextDouble() * 500;
            assertThat(tiles.stream().filter(tile -> tile.contains(x, y)).count())
                    .isLessThanOrEqualTo(1);
        }
    }

    /** The example of the paper that the layout is from: areas 6, 6, 4, 3, 2, 2, 1 in 6 × 4. */
    @Test
    void theKnownExampleIsLaidOutAsItIsKnown() {
        Box all = around(
                "all",
                leaf("a", 6),
                leaf("b", 6),
                leaf("c", 4),
                leaf("d", 3),
                leaf("e", 2),
                leaf("f", 2),
                leaf("g", 1));
        List<Tile> tiles = BoxTiles.of(all, Measure.DRAWN, 6, 4);
        assertThat(tiles.get(0).width()).isCloseTo(3, within(1e-9));
        assertThat(tiles.get(0).height()).isCloseTo(2, within(1e-9));
        assertThat(tiles.get(1).y()).isCloseTo(2, within(1e-9));
        assertThat(tiles.get(2).x()).isCloseTo(3, within(1e-9));
        assertThat(tiles.get(2).height()).isCloseTo(tiles.get(3).height(), within(1e-9));
    }

    @Test
    void whatIsSmallHidesWhatIsInItAndALoneBoxIsNotDrawn() {
        Box scene = around("scene", leaf("big", 1000), around("small", leaf("tiny", 1)));
        List<Tile> tiles = BoxTiles.of(around("projects", around("project", scene)), Measure.DRAWN, 400, 300);
        assertThat(tiles).extracting(tile -> tile.box().name()).containsExactly("big", "small");
        assertThat(tiles.getLast().within()).isFalse();
        assertThat(BoxTiles.of(scene, Measure.TEXTURES, 400, 300))
                .as("nothing has any")
                .isEmpty();
        assertThat(BoxTiles.of(scene, Measure.DRAWN, 0, 0)).isEmpty();
    }

    @Test
    void theInnermostIsFoundAndItsNeighbours() {
        Box all = around(
                "all", around("left", leaf("a", 50), leaf("b", 50)), around("right", leaf("c", 50), leaf("d", 50)));
        List<Tile> tiles = BoxTiles.of(all, Measure.DRAWN, 400, 300);
        Tile a = tiles.stream()
                .filter(tile -> tile.box().name().equals("a"))
                .findFirst()
                .orElseThrow();
        assertThat(BoxTiles.at(tiles, a.x() + 5, a.y() + 5)).contains(a);
        assertThat(BoxTiles.at(tiles, -1, -1)).isEmpty();
        assertThat(BoxTiles.beside(tiles, a, 0, 1).orElseThrow().box().name()).isEqualTo("b");
        assertThat(BoxTiles.beside(tiles, a, 1, 0).orElseThrow().box().name()).isEqualTo("c");
        assertThat(BoxTiles.beside(tiles, a, -1, 0)).isEmpty();
    }
}
