package pantry.desktop.scenes;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import pantry.base.math.Vec3;
import pantry.usd.schema.TransformComponents;

class PlaceFiguresTest {
    private static final TransformComponents PLACE =
            new TransformComponents(new Vec3(1, 2, 3), new Vec3(4, 5, 6), new Vec3(7, 8, 9));

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 2, 3, 4, 5, 6, 7, 8})
    void oneFigureIsAnotherAndAllOthersStay(int index) {
        assertThat(PlaceFigures.of(PLACE, index)).isEqualTo(index + 1);
        TransformComponents changed = PlaceFigures.with(PLACE, index, 20);
        for (int i = 0; i < 9; i++) {
            assertThat(PlaceFigures.of(changed, i)).isEqualTo(i == index ? 20 : i + 1);
        }
        assertThat(PlaceFigures.with(changed, index, index + 1)).isEqualTo(PLACE);
    }

    @Test
    void aSceneIsCalledAsItsFileWithoutTheEnding() {
        assertThat(SceneNames.title(Path.of("/projects/skua/north.yard.usda"))).isEqualTo("north.yard");
        assertThat(SceneNames.title(Path.of("summer-station.usdz"))).isEqualTo("summer-station");
    }
}
