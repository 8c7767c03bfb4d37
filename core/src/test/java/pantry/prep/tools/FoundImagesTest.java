package pantry.prep.tools;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.prep.Made;
import pantry.prep.inspect.MaterialRules;
import pantry.workpiece.Workpiece;

class FoundImagesTest {
    @TempDir
    private Path folder;

    private Workpiece lacking() throws IOException {
        Made made = Made.mast(Files.createDirectories(folder.resolve("work")));
        Made.texture(made, "Steel", "maps/Plate.png", "diffuseColor", "sRGB");
        made.material("Brass", 0.7);
        Made.texture(made, "Brass", "maps/gone.png", "diffuseColor", "sRGB");
        return made.open();
    }

    private Path elsewhere(String name) throws IOException {
        Made other = new Made(folder.resolve("other"));
        Path image = Made.image(other, name, 8, false);
        return Files.move(
                image, Files.createDirectories(folder.resolve("elsewhere/deep")).resolve(name));
    }

    @Test
    void whatIsFoundIsReadAndGoesWithTheWorkingCopyWhereverItIsSaved() throws IOException {
        elsewhere("plate.PNG");
        Workpiece piece = lacking();
        FoundImages result = FoundImages.take(piece, List.of(folder.resolve("elsewhere")), Progress.NONE);
        assertThat(result.found().keySet()).containsExactly("maps/Plate.png");
        assertThat(result.missing()).containsExactly("maps/gone.png");
        assertThat(result.says()).isEqualTo("found 1 image; still missing: maps/gone.png");
        assertThat(missing(piece)).hasSize(1);
        Path saved = folder.resolve("saved/mast.usda");
        Files.createDirectories(saved.getParent());
        piece.save(saved);
        assertThat(saved.resolveSibling("textures/plate.PNG")).exists();
        assertThat(missing(Workpiece.of(saved, Made.sources(), Progress.NONE))).hasSize(1);
        piece.editor().undo();
        assertThat(missing(piece)).as("taken back as one").hasSize(2);
    }

    @Test
    void whereNothingIsFoundNothingIsChanged() throws IOException {
        elsewhere("another.png");
        Files.writeString(folder.resolve("elsewhere/gone.png"), "no picture at all");
        Workpiece piece = lacking();
        FoundImages result = FoundImages.take(piece, List.of(folder.resolve("elsewhere")), Progress.NONE);
        assertThat(result.found()).isEmpty();
        assertThat(result.says()).startsWith("found none of the images; still missing: maps/");
        assertThat(piece.editor().undoName()).isEmpty();
        assertThatThrownBy(() -> FoundImages.take(piece, List.of(folder.resolve("nowhere")), Progress.NONE))
                .isInstanceOf(PantryException.class)
                .hasMessageContaining("cannot be looked through");
    }

    private static List<String> missing(Workpiece piece) {
        return Made.rules(Made.inspect(piece)).stream()
                .filter(MaterialRules.MISSING::equals)
                .toList();
    }
}
