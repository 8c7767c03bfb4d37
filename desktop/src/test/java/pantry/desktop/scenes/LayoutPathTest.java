package pantry.desktop.scenes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import org.junit.jupiter.api.Test;
import pantry.base.math.Vec3;
import pantry.scene.Layout;

class LayoutPathTest {
    private final LayoutPath path = new LayoutPath();

    @Test
    void aDrawnPathBeginsAtTheObjectAndItsFirstPointStays() {
        path.begin(new Vec3(1, 0, 2));
        assertThat(path.isLine()).isFalse();
        path.add(new Vec3(4, 0, 6));
        path.add(new Vec3(4, 0, 9));
        assertThat(path.isLine()).isTrue();
        assertThat(path.length()).isCloseTo(8, within(1e-12));
        assertThat(path.isFree(0)).isFalse();
        assertThat(path.isFree(1)).isTrue();
        path.insert(0, new Vec3(2, 0, 3));
        path.remove(2);
        assertThat(path.points()).containsExactly(new Vec3(1, 0, 2), new Vec3(2, 0, 3), new Vec3(4, 0, 9));
        path.remove(2);
        path.remove(1);
        assertThat(path.points()).as("two are left").hasSize(2);
        assertThat(path.layout(3, false).from()).isEqualTo(new Vec3(1, 0, 2));
    }

    @Test
    void whatWasDrawnFromOneObjectIsNotDrawnFromAnother() {
        path.begin(new Vec3(1, 0, 2));
        path.add(new Vec3(4, 0, 6));
        path.keepFrom(new Vec3(1, 0, 2));
        assertThat(path.points()).as("more is chosen beside it").hasSize(2);
        path.keepFrom(new Vec3(3, 0, 2));
        assertThat(path.points()).isEmpty();
        assertThat(path.isLine()).isFalse();
    }

    @Test
    void aRoundEdgeStaysClosedWhicheverPointIsMoved() {
        Vec3 corner = new Vec3(5, 1, 5);
        path.take(List.of(corner, new Vec3(7, 1, 5), new Vec3(7, 1, 7), corner), Vec3.ZERO);
        assertThat(path.isFree(0)).isTrue();
        path.move(3, new Vec3(4, 1, 4));
        assertThat(path.points().getFirst()).isEqualTo(path.points().getLast()).isEqualTo(new Vec3(4, 1, 4));
        path.move(1, new Vec3(8, 1, 5));
        assertThat(path.points()).hasSize(4);
        assertThat(path.layout(8, true).places()).hasSize(8);
    }

    @Test
    void thePathOfALayoutIsShownWhereTheObjectStandsNow() {
        Layout.Along along =
                new Layout.Along(List.of(new Vec3(10, 0, 0), new Vec3(14, 0, 0)), 3, true, false, new Vec3(9, 0, 0));
        path.show(along, Vec3.ZERO);
        assertThat(path.points()).containsExactly(new Vec3(1, 0, 0), new Vec3(5, 0, 0));
        assertThat(path.isFree(0)).as("it did not begin at the object").isTrue();
        assertThat(path.layout(3, false).places()).isEqualTo(along.places());
    }
}
