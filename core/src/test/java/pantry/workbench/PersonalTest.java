package pantry.workbench;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class PersonalTest {
    @TempDir
    private Path folder;

    @Test
    void aUsersListsOutliveTheProgramAndBrokenOnesDoNoHarm() throws Exception {
        Path file = folder.resolve("personal.json");
        Personal personal = new Personal(file);
        personal.favourite("a", true);
        personal.favourite("b", true);
        personal.favourite("a", false);
        personal.lookedAt("x");
        personal.lookedAt("y");
        personal.lookedAt("x");
        personal.keep(new Personal.KeptSearch("Heavy", "triangles:>100k"));
        personal.keep(new Personal.KeptSearch("Heavy", "triangles:>200k"));
        Personal again = new Personal(file);
        assertThat(again.favourites()).containsExactly("b");
        assertThat(again.recent()).containsExactly("x", "y");
        assertThat(again.searches()).containsExactly(new Personal.KeptSearch("Heavy", "triangles:>200k"));
        Files.writeString(file, "[ not this ]");
        assertThat(new Personal(file).favourites()).isEmpty();
    }

    @Test
    void howTheWindowWasIsKeptAndWhoeverKeptNothingOfItHasNone() throws IOException {
        Path file = folder.resolve("settings.json");
        Settings.WindowState state = new Settings.WindowState(1400.5, 900, true, true, 15);
        Settings.ColumnState name = new Settings.ColumnState("Name", 210, true);
        Settings.USUAL
                .withWindow(state)
                .withTable(List.of(name))
                .withEditor("editor")
                .write(file);
        assertThat(Settings.read(file).window()).contains(state);
        assertThat(Settings.read(file).table()).containsExactly(name);
        Files.writeString(file, "{ \"editor\" : \"editor\" }");
        assertThat(Settings.read(file).window()).isEmpty();
        assertThat(Settings.read(file).table()).isEmpty();
        assertThat(Settings.read(file).target()).isEmpty();
    }

    @Test
    void whatIsSetIsKeptBesideTheIndex() {
        Path file = folder.resolve("settings.json");
        Settings.read(file)
                .withEditor("editor --now")
                .withHandOutFormat("usdz")
                .withTarget("/shelves")
                .write(file);
        assertThat(Settings.read(file))
                .isEqualTo(new Settings(
                        "editor --now",
                        "glb",
                        "usdz",
                        List.of(),
                        List.of(),
                        List.of(),
                        List.of(),
                        Optional.empty(),
                        List.of(),
                        "/shelves"));
    }
}
