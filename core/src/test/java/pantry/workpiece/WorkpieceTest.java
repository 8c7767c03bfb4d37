package pantry.workpiece;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import pantry.base.Progress;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.mesh.Shapes;
import pantry.prep.Made;
import pantry.testing.WithWorkshop;
import pantry.testing.Workshop;

@DisplayName("A working copy of a file")
class WorkpieceTest extends WithWorkshop {
    private Path file(String name, double height) {
        Path file = folder.resolve(name);
        ModelWriters.write(Workshop.model("Post", Shapes.block(height / 4, height, height / 4)), file);
        return file;
    }

    private double height(Path file) {
        return Workpiece.of(file, Made.sources(workshop), Progress.NONE)
                .model()
                .bounds()
                .size()
                .y();
    }

    /** Common practice: STL counts in millimetres; few things are a kilometre or a millimetre tall. */
    @ParameterizedTest
    @CsvSource({"post.stl, 1510, 1.51", "post.obj, 2, 2", "post.obj, 2000, 2", "post.glb, 150, 150"})
    @DisplayName("is as large as it would be received, where it does not say its unit")
    void size(String name, double figure, double metres) {
        Path file = file(name, figure);
        assertThat(height(file)).isCloseTo(metres, within(metres * 1e-5));
        Imported read = workshop.intake().read(file, Progress.NONE);
        double factor = Intake.suggested(read, "New arrivals", Neighbours.NONE).factor();
        assertThat(height(file)).isCloseTo(figure * factor, within(metres * 1e-5));
    }
}
