package pantry.render;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;

class CameraTest {
    private static final Camera FRONT = new Camera(Vec3.ZERO, 0, 0, 10, 90);

    private static void assertNear(Vec3 found, Vec3 expected, double within) {
        assertThat(found.minus(expected).length())
                .as(found + " and " + expected)
                .isLessThan(within);
    }

    @Test
    void yawZeroLooksAlongMinusZAndNinetyAlongMinusX() {
        assertNear(FRONT.eye(), new Vec3(0, 0, 10), 1e-9);
        assertNear(FRONT.from(90, 0).eye(), new Vec3(10, 0, 0), 1e-9);
        assertNear(FRONT.from(0, 89.9).eye(), new Vec3(0, 10, 0), 0.02);
        assertNear(FRONT.right(), new Vec3(1, 0, 0), 1e-9);
        assertNear(FRONT.up(), new Vec3(0, 1, 0), 1e-9);
    }

    @Test
    void theTargetIsInTheMiddleAndRaysHitWhatIsProjected() {
        Random random = new Random(8);
        for (int i = 0; i < 50; i++) {
            Camera camera = new Camera(
                    new Vec3(random.nextInt(20) - 10, random.nextInt(20), random.nextInt(20)),
                    random.nextInt(360),
                    random.nextInt(170) - 85,
                    1 + random.nextInt(30),
                    35);
            Vec3 middle = camera.project(camera.target(), 800, 600);
            assertNear(middle, new Vec3(400, 300, camera.distance()), 1e-6);
            Vec3 point = camera.target()
                    .plus(new Vec3(random.nextDouble(), random.nextDouble(), 0).times(camera.distance() / 4));
            Vec3 seen = camera.project(point, 800, 600);
            Vec3 ray = camera.ray(seen.x(), seen.y(), 800, 600);
            Vec3 towards = point.minus(camera.eye()).unit();
            assertNear(ray, towards, 1e-9);
        }
    }

    @Test
    void aBoxIsShownUntilAnEdgeOfThePictureCutsIt() {
        // From 10 m away a field of 90° is 20 m high at the target.
        Box3 box = new Box3(new Vec3(-1, -1, 0), new Vec3(1, 1, 0));
        assertThat(FRONT.shows(box, 600, 600)).isTrue();
        assertThat(FRONT.panned(8.9, 0).shows(box, 600, 600)).isTrue();
        assertThat(FRONT.panned(9.2, 0).shows(box, 600, 600)).isFalse();
        assertThat(FRONT.panned(0, -9.2).shows(box, 600, 600)).isFalse();
        assertThat(FRONT.from(180, 0).shows(new Box3(new Vec3(0, 0, 11), new Vec3(0, 0, 12)), 600, 600))
                .isTrue();
        assertThat(FRONT.shows(new Box3(new Vec3(0, 0, 11), new Vec3(0, 0, 12)), 600, 600))
                .isFalse();
        Camera framed = FRONT.framing(List.of(box), 1.5);
        assertThat(framed.shows(box, 900, 600)).isTrue();
    }

    @Test
    void framingFillsThePictureOnOneAxisAndCutsNothing() {
        Random random = new Random(21);
        for (int i = 0; i < 60; i++) {
            double aspect = 0.5 + 2 * random.nextDouble();
            Camera start = new Camera(Vec3.ZERO, random.nextInt(360), random.nextInt(80), 5, 35);
            Box3 first = box(random);
            Box3 second = box(random);
            Camera camera = start.framing(List.of(first, Box3.EMPTY, second), aspect);
            int height = 1000;
            int width = (int) (height * aspect);
            double[] reach = new double[2];
            for (Box3 box : List.of(first, second)) {
                for (int c = 0; c < 8; c++) {
                    Vec3 seen = camera.project(box.corner(c), width, height);
                    assertThat(seen.z()).isPositive();
                    assertThat(seen.x()).isBetween(0.0, (double) width);
                    assertThat(seen.y()).isBetween(0.0, (double) height);
                    reach[0] = Math.max(reach[0], Math.abs(seen.x() / width - 0.5));
                    reach[1] = Math.max(reach[1], Math.abs(seen.y() / height - 0.5));
                }
            }
            assertThat(Math.max(reach[0], reach[1])).as("as near as may be").isBetween(0.43, 0.45);
        }
    }

    private static Box3 box(Random random) {
        Vec3 at = new Vec3(random.nextInt(40) - 20, random.nextInt(10), random.nextInt(40) - 20);
        return new Box3(at, at.plus(new Vec3(1 + random.nextInt(9), 1 + random.nextInt(9), 1 + random.nextInt(9))));
    }

    @Test
    void framingNothingIsACalmStart() {
        Camera camera = Camera.START.framing(Box3.EMPTY, 1);
        assertThat(camera.target()).isEqualTo(Vec3.ZERO);
        assertThat(camera.yaw()).isEqualTo(Camera.START.yaw());
        Camera point = Camera.START.framing(new Box3(new Vec3(1, 2, 3), new Vec3(1, 2, 3)), 1);
        assertThat(point.distance()).isPositive();
    }

    @Test
    void orbitingKeepsTheTargetPanningKeepsTheDirection() {
        Camera orbited = FRONT.orbited(30, 100);
        assertThat(orbited.target()).isEqualTo(FRONT.target());
        assertThat(orbited.pitch()).as("never over the top").isLessThan(90);
        Camera panned = FRONT.panned(2, 3);
        assertNear(panned.eye().minus(FRONT.eye()), new Vec3(2, 3, 0), 1e-9);
        assertThat(FRONT.dollied(0.5).distance()).isEqualTo(5);
        assertThat(FRONT.dollied(0).distance()).isPositive();
        assertThatThrownBy(() -> new Camera(Vec3.ZERO, 0, 0, 0, 35)).isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> new Camera(new Vec3(Double.NaN, 0, 0), 0, 0, 1, 35))
                .isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void aMetreAtTheTargetIsAsManyPixelsAsItSays() {
        double metres = FRONT.metresPerPixel(500);
        Vec3 aside = FRONT.project(new Vec3(metres * 100, 0, 0), 500, 500);
        assertThat(aside.x()).isCloseTo(350, within(1e-6));
        assertThat(new Camera(Vec3.ZERO, 0, 30, 6, 35).gridStep()).isEqualTo(1);
        assertThat(new Camera(Vec3.ZERO, 0, 30, 600, 35).gridStep()).isEqualTo(100);
        assertThat(new Camera(Vec3.ZERO, 0, 30, 0.06, 35).gridStep()).isCloseTo(0.01, within(1e-12));
    }

    @Test
    void theGroundUnderAPixelIsWhereItsRayComesDown() {
        Camera camera = new Camera(new Vec3(3, 0, 4), 25, 40, 12, 35);
        assertNear(camera.onGround(400, 300, 800, 600, 0), new Vec3(3, 0, 4), 1e-6);
        Vec3 other = camera.onGround(250, 420, 800, 600, 1);
        assertThat(other.y()).isCloseTo(1, within(1e-9));
        Vec3 seen = camera.project(other, 800, 600);
        assertNear(seen, new Vec3(250, 420, seen.z()), 1e-6);
        Camera level = new Camera(new Vec3(0, 1, 0), 0, 0, 10, 35);
        assertThat(level.onGround(400, 10, 800, 600, 0))
                .as("above the horizon there is no ground")
                .isEqualTo(level.target());
    }

    @Test
    void stoppedPicturesAreGivenUpAndTheNextIsWhole() {
        Renderer renderer = new Renderer();
        Frame frame = renderer.draw(RenderScene.EMPTY, FRONT, 64, 48, RenderOptions.PLAIN);
        assertThat(frame.width()).isEqualTo(64);
        renderer.stop();
        Frame again = renderer.draw(RenderScene.EMPTY, FRONT, 64, 48, RenderOptions.PLAIN.withGrid(true));
        assertThat(again.argb()).hasSize(64 * 48);
        assertThat(again.id(-1, 0)).isEqualTo(-1);
        assertThat(again.id(64, 0)).isEqualTo(-1);
        assertThatThrownBy(() -> renderer.draw(RenderScene.EMPTY, FRONT, 0, 10, RenderOptions.PLAIN))
                .isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void halvingAFrameMixesColoursByTheirOpacity() {
        Frame frame = new Frame(2, 2, new int[] {0xff0000ff, 0, 0, 0xffff0000}, new int[] {7, 8, 9, 10});
        Frame half = frame.halved();
        assertThat(half.argb()).containsExactly(0x80800080);
        assertThat(half.ids()).containsExactly(7);
        assertThat(new Frame(2, 2, new int[4], new int[4]).halved().argb()).containsExactly(0);
    }

    @Test
    void optionsChangeOneThingAtATime() {
        RenderOptions options = RenderOptions.PLAIN
                .withGrid(true)
                .withFlat(true)
                .withBackground(1)
                .withGridColour(2);
        assertThat(options.grid()).isTrue();
        assertThat(options.flat()).isTrue();
        assertThat(options.background()).isEqualTo(1);
        assertThat(options.gridColour()).isEqualTo(2);
        assertThat(options.withSelected(java.util.Set.of("/A")).selected()).containsExactly("/A");
    }
}
