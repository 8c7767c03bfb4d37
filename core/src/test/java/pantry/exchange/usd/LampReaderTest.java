package pantry.exchange.usd;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import org.assertj.core.data.Offset;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.model.BlackBody;
import pantry.model.Colour;
import pantry.model.Lamp;
import pantry.testing.Stages;

/** What lights send out, against the closed forms of radiometry. */
class LampReaderTest {
    private static final Offset<Float> CLOSE = within(1e-4f);

    private static List<Lamp> lamps(String text) {
        return LampReader.read(Stages.of(text), path -> path.name().equals("LeftOut"));
    }

    private static Lamp.Near near(String text) {
        return (Lamp.Near) lamps(text).getFirst();
    }

    @Test
    @DisplayName("a ball sends radiance times its disc to each side; a rectangle its area, a disc its own")
    void areas() {
        assertThat(near("def SphereLight \"A\" { float inputs:radius = 0.2 float inputs:intensity = 10 }")
                        .strength()
                        .r())
                .isCloseTo((float) (10 * Math.PI * 0.04), CLOSE);
        assertThat(
                        near("def RectLight \"A\" { float inputs:width = 2 float inputs:height = 0.5 float inputs:intensity = 3 }")
                                .strength()
                                .g())
                .isCloseTo(3, CLOSE);
        assertThat(near("def DiskLight \"A\" { float inputs:radius = 2 float inputs:exposure = 1 }")
                        .strength()
                        .b())
                .isCloseTo((float) (2 * Math.PI * 4), CLOSE);
        assertThat(near("def CylinderLight \"A\" { float inputs:radius = 0.1 float inputs:length = 3 }")
                        .strength()
                        .b())
                .isCloseTo(2 * 0.1f * 3, CLOSE);
    }

    @Test
    @DisplayName("a normalized light sends the same however large it is, and divides it among its sides")
    void normalized() {
        for (double radius : new double[] {0.1, 3}) {
            String ball =
                    "def SphereLight \"A\" { bool inputs:normalize = 1 float inputs:intensity = 12 float inputs:radius = "
                            + radius
                            + " double3 xformOp:scale = (5, 5, 5) uniform token[] xformOpOrder = [\"xformOp:scale\"] }";
            assertThat(near(ball).strength().r()).isCloseTo(3, CLOSE);
        }
    }

    @Test
    @DisplayName("a sun of the usual size sends radiance times its solid angle; one that is scaled sends no more")
    void sun() {
        double half = Math.sin(Math.toRadians(0.53 / 2));
        Lamp.Distant sun = (Lamp.Distant) lamps(
                        "def DistantLight \"Sun\" { double3 xformOp:rotateXYZ = (-90, 0, 0) double3 xformOp:scale = (9, 9, 9) "
                                + "uniform token[] xformOpOrder = [\"xformOp:rotateXYZ\", \"xformOp:scale\"] }")
                .getFirst();
        assertThat(sun.strength().r()).isCloseTo((float) (50_000 * Math.PI * half * half), CLOSE);
        assertThat(sun.towards().minus(new Vec3(0, 1, 0)).length()).isLessThan(1e-9);
    }

    @Test
    @DisplayName("what falls on a surface is the same in centimetres as in metres")
    void units() {
        Lamp.Near metres = near("def RectLight \"A\" { double3 xformOp:translate = (0, 4, 0) "
                + "uniform token[] xformOpOrder = [\"xformOp:translate\"] }");
        Lamp.Near hundred = (Lamp.Near) near("def RectLight \"A\" { float inputs:width = 100 float inputs:height = 100 "
                        + "double3 xformOp:translate = (0, 400, 0) uniform token[] xformOpOrder = [\"xformOp:translate\"] }")
                .at(Matrix4.scale(new Vec3(0.01, 0.01, 0.01)));
        assertThat(hundred.place().minus(metres.place()).length()).isLessThan(1e-9);
        assertThat(hundred.strength().r()).isCloseTo(metres.strength().r(), CLOSE);
        assertThat(hundred.reach()).isCloseTo(metres.reach(), within(1e-9));
    }

    @Test
    @DisplayName("a shade lets nothing out beyond its cone, and less towards its soft edge")
    void shade() {
        Lamp.Spread spread = near("def SphereLight \"A\" (prepend apiSchemas = [\"ShapingAPI\"]) "
                        + "{ float inputs:shaping:cone:angle = 60 float inputs:shaping:cone:softness = 0.5 }")
                .spread();
        assertThat(spread.at(Math.cos(Math.toRadians(61)))).isZero();
        assertThat(spread.at(Math.cos(Math.toRadians(29)))).isEqualTo(1);
        assertThat(spread.at(Math.cos(Math.toRadians(45)))).isBetween(0.2, 0.8);
        // A lit surface: Lambert's cosine, and nothing behind it.
        Lamp.Spread plate = near("def RectLight \"A\" {}").spread();
        assertThat(plate.at(0.5)).isEqualTo(0.5);
        assertThat(plate.at(-0.5)).isZero();
    }

    @Test
    @DisplayName("lamps of instances shine where each use stands, nested ones too; what is hidden does not")
    void instances() {
        List<Lamp> found = lamps("""
                class "Pole" { def SphereLight "Lamp" { double3 xformOp:translate = (0, 3, 0) \
                uniform token[] xformOpOrder = ["xformOp:translate"] } }
                class "Pair" {
                  def "One" (instanceable = true prepend references = </Pole>) {}
                  def "Two" (instanceable = true prepend references = </Pole>) { double3 xformOp:translate = (1, 0, 0) \
                uniform token[] xformOpOrder = ["xformOp:translate"] }
                }
                def "Yard" {
                  def "A" (instanceable = true prepend references = </Pair>) {}
                  def "B" (instanceable = true prepend references = </Pair>) { double3 xformOp:translate = (10, 0, 0) \
                uniform token[] xformOpOrder = ["xformOp:translate"] }
                  def "Hidden" { token visibility = "invisible" def SphereLight "L" {} }
                  def SphereLight "Off" (active = false) {}
                  def SphereLight "LeftOut" {}
                  def PointInstancer "Row" { rel prototypes = </Yard/Row/P> int[] protoIndices = [0, 0]
                    point3f[] positions = [(0, 0, 5), (0, 0, 6)]
                    def "P" { def SphereLight "L" {} } }
                }
                """);
        assertThat(found.stream()
                        .map(lamp -> ((Lamp.Near) lamp).place())
                        .map(at -> at.x() + " " + at.y() + " " + at.z()))
                .containsExactlyInAnyOrder(
                        "0.0 3.0 0.0", "1.0 3.0 0.0", "10.0 3.0 0.0", "11.0 3.0 0.0", "0.0 0.0 5.0", "0.0 0.0 6.0");
    }

    /** Chromaticities of CIE standard illuminants A (2 856 K) and of black bodies, from CIE 15 as usually tabled. */
    @ParameterizedTest
    @CsvSource({"2856, 0.4476, 0.4074", "5000, 0.3451, 0.3516", "6500, 0.3135, 0.3237", "10000, 0.2807, 0.2884"})
    @DisplayName("a temperature gives the colour of a black body, as bright as white")
    void temperatures(double kelvin, double x, double y) {
        Colour colour = BlackBody.colour(kelvin);
        assertThat(0.2126 * colour.r() + 0.7152 * colour.g() + 0.0722 * colour.b())
                .isCloseTo(1, within(2e-3));
        double bigX = 0.4124564 * colour.r() + 0.3575761 * colour.g() + 0.1804375 * colour.b();
        double bigY = 0.2126729 * colour.r() + 0.7151522 * colour.g() + 0.0721750 * colour.b();
        double bigZ = 0.0193339 * colour.r() + 0.1191920 * colour.g() + 0.9503041 * colour.b();
        assertThat(bigX / (bigX + bigY + bigZ)).isCloseTo(x, within(2e-3));
        assertThat(bigY / (bigX + bigY + bigZ)).isCloseTo(y, within(2e-3));
        String warm = "def DomeLight \"Sky\" { bool inputs:enableColorTemperature = 1 float inputs:colorTemperature = "
                + kelvin + " }";
        assertThat(lamps(warm).getFirst().strength()).isEqualTo(colour);
    }
}
