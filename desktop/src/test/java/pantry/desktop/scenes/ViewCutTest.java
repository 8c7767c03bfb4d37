package pantry.desktop.scenes;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.render.RenderOptions;

class ViewCutTest {
    private final ViewCut cut = new ViewCut();

    @Test
    void itBeginsInTheMiddleAndStaysWhereItWasPutWhileThingsMove() {
        assertThat(cut.plane()).as("nothing is cut at first").isEmpty();
        cut.over(new Box3(new Vec3(-2, 0, -6), new Vec3(10, 4, 2)));
        cut.onProperty().set(true);
        assertThat(cut.plane()).contains(new RenderOptions.Cut(new Vec3(4, 0, 0), new Vec3(1, 0, 0)));
        cut.atProperty().set(7.5);
        cut.over(new Box3(new Vec3(-2, 0, -6), new Vec3(90, 4, 2)));
        assertThat(cut.atProperty().get()).isEqualTo(7.5);
        assertThat(cut.centre()).isEqualTo(new Vec3(7.5, 2, -2));
        cut.otherSideProperty().set(true);
        assertThat(cut.plane().orElseThrow().normal().x()).isEqualTo(-1);
        cut.axisProperty().set(2);
        assertThat(cut.atProperty().get())
                .as("another axis begins in its middle")
                .isEqualTo(-2);
        cut.onProperty().set(false);
        cut.over(new Box3(new Vec3(0, 0, 0), new Vec3(1, 1, 8)));
        assertThat(cut.plane()).isEmpty();
        cut.onProperty().set(true);
        assertThat(cut.plane().orElseThrow().point()).isEqualTo(new Vec3(0, 0, 4));
    }

    @Test
    void ofNothingItCutsAtTheOrigin() {
        cut.over(Box3.EMPTY);
        cut.onProperty().set(true);
        assertThat(cut.centre()).isEqualTo(Vec3.ZERO);
        assertThat(cut.plane().orElseThrow().point()).isEqualTo(Vec3.ZERO);
    }
}
