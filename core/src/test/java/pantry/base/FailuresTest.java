package pantry.base;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.Test;

class FailuresTest {
    private static final Path FILE = Path.of("hut.usdz");

    @Test
    void whatNamesNoFileIsToldOfTheOneThatIsRead() {
        PantryException unnamed = new PantryException(null, "byte 12", "is no path", null);
        assertThat(Failures.of(FILE, unnamed).line()).isEqualTo("hut.usdz: byte 12: is no path");
    }

    @Test
    void whatNamesAnotherFileKeepsIt() {
        PantryException named = new PantryException(Path.of("paint.png"), "is cut off");
        assertThat(Failures.of(FILE, named)).isSameAs(named);
    }

    @Test
    void everyFailureSaysSomething() {
        assertThat(Failures.of(FILE, new NoSuchFileException("paint.png")).line())
                .isEqualTo("hut.usdz: cannot be read: paint.png: there is no such file");
        assertThat(Failures.of(FILE, new NullPointerException()).line())
                .contains("it is damaged")
                .contains("NullPointerException");
        assertThat(Failures.of(FILE, new StackOverflowError()).line()).isEqualTo("hut.usdz: is nested too deeply");
        assertThat(Failures.of(FILE, new OutOfMemoryError()).line()).contains("needs more memory");
    }

    @Test
    void whatIsCancelledIsNoFailureOfTheFile() {
        assertThatThrownBy(() -> Failures.of(FILE, new CancellationException()))
                .isInstanceOf(CancellationException.class);
    }
}
