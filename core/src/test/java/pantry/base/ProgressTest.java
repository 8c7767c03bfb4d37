package pantry.base;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.EOFException;
import java.io.IOException;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.NoSuchFileException;
import java.nio.file.NotDirectoryException;
import java.nio.file.Path;
import java.nio.file.ReadOnlyFileSystemException;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.Test;

class ProgressTest {
    private final List<String> reports = new ArrayList<>();
    private boolean cancelled;

    private final Progress progress = new Progress() {
        @Override
        public void report(String what, double fraction) {
            reports.add(what + " " + fraction);
        }

        @Override
        public boolean cancelled() {
            return cancelled;
        }
    };

    @Test
    void aPartOfTheWorkFillsItsPartOfTheWhole() {
        Progress half = progress.part(0.5, 1);
        half.step("a", 0);
        half.step("b", 0.5);
        half.part(0.5, 1).step("c", 1);
        half.step("d", -1);
        assertThat(reports).containsExactly("a 0.5", "b 0.75", "c 1.0", "d 0.5");
    }

    @Test
    void cancellingStopsAtTheNextStepAlsoOfAPart() {
        cancelled = true;
        assertThatThrownBy(() -> progress.part(0, 1).step("reading", 0.1))
                .isInstanceOf(CancellationException.class)
                .hasMessage("cancelled: reading");
        assertThat(reports).isEmpty();
        Progress.NONE.step("never cancelled", 1);
    }

    @Test
    void problemsOfFilesAreSaidInWords() {
        assertThat(IoProblems.describe(new NoSuchFileException("x"))).isEqualTo("there is no such file");
        assertThat(IoProblems.describe(new AccessDeniedException("x"))).contains("access is denied");
        assertThat(IoProblems.describe(new FileAlreadyExistsException("x"))).contains("already there");
        assertThat(IoProblems.describe(new NotDirectoryException("x"))).contains("not a folder");
        assertThat(IoProblems.describe(new ReadOnlyFileSystemException())).contains("read-only");
        assertThat(IoProblems.describe(new IOException("write: Read-only file system")))
                .contains("read-only");
        assertThat(IoProblems.describe(new IOException("No space left on device")))
                .isEqualTo("the disk is full");
        assertThat(IoProblems.describe(new IOException("odd"))).isEqualTo("odd");
        assertThat(IoProblems.describe(new IOException())).isEqualTo("its contents end early or are damaged");
        assertThat(IoProblems.describe(new EOFException("null"))).doesNotContain("null");
    }

    @Test
    void aFailureIsOneLineOfFilePlaceAndWords() {
        Exception cause = new IOException("odd");
        PantryException e = new PantryException("a.usda", "line 3", "expected a number", cause);
        assertThat(e.line()).isEqualTo("a.usda: line 3: expected a number");
        assertThat(e.getCause()).isSameAs(cause);
        assertThat(new PantryException("just words").line()).isEqualTo("just words");
        assertThat(new PantryException(Path.of("b.obj"), "is empty").line()).isEqualTo("b.obj: is empty");
    }

    @Test
    void fileNamesHaveStemsAndEndings() {
        assertThat(Names.stem("mast.v2.obj")).isEqualTo("mast.v2");
        assertThat(Names.stem(".hidden")).isEqualTo(".hidden");
        assertThat(Names.ending("MAST.OBJ")).isEqualTo("obj");
        assertThat(Names.ending("none")).isEmpty();
        assertThat(Names.identifier("---")).isEqualTo("Unnamed");
    }
}
