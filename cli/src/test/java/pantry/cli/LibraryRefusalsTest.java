package pantry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * What the commands of libraries refuse.
 *
 * <p>All calls share one library, in which {@code Mast} and {@code Post} stand on the shelf {@code Site/Posts}; {@code Post}
 * is reserved by the one who calls.
 */
@DisplayName("Wrong calls of the commands of libraries")
class LibraryRefusalsTest {
    @TempDir
    private static Path folder;

    private static Shell shell;
    private static Refusals refusals;
    private static String library;

    @BeforeAll
    static void make() throws Exception {
        shell = new Shell(folder);
        library = folder.resolve("library").toString();
        shell.done("new-library", library, "--name", "Yard");
        for (String name : List.of("mast", "post")) {
            shell.done(
                    "receive",
                    Blocks.file(folder, name, name.equals("post") ? 3 : 9),
                    "--library",
                    library,
                    "--shelf",
                    "Site/Posts");
        }
        shell.done("reserve", "Post", "--library", library);
        shell.done("tag", "Mast", "--add", "steel", "--library", library);
        Blocks.broken(folder);
        Files.writeString(folder.resolve("empty.obj"), "");
        Files.writeString(folder.resolve("notes.txt"), "Masts are to be painted.\n");
        refusals = new Refusals(shell, folder.resolve("library"));
    }

    @AfterAll
    static void close() {
        shell.close();
    }

    private static String[] call(String line) {
        List<String> words = new ArrayList<>(List.of(Refusals.words(line.replace("FOLDER", folder.toString()))));
        words.addAll(List.of("--library", library));
        return words.toArray(String[]::new);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "publish Mast FOLDER/post.usda",
                "publish Mast --note 'of what'",
                "publish Mast FOLDER/post.usda --again v001 --note both",
                "card Mast --field Store",
                "card Mast --kind gadget",
                "tag --rename steel",
                "move Mast",
                "shelf --move Site",
                "find --sort beauty",
                "find --limit few",
                "diff Mast v001 v009",
                "diff Mast",
                "archive Mast",
                "twins",
                "proxy Mast --boxes many",
                "receive FOLDER/post.usda --unit furlongs",
            })
    @DisplayName("what is not understood ends with 2")
    void notUnderstood(String line) throws Exception {
        refusals.refused(2, call(line));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    history Nothing                                         | Nothing
                    publish Nothing FOLDER/post.usda --note new             | Nothing
                    publish Mast FOLDER/nowhere.usda --note new             | nowhere.usda
                    publish Mast FOLDER/broken.usda --note new              | broken.usda
                    publish Mast FOLDER/empty.obj --note new                | empty.obj
                    publish Mast FOLDER/notes.txt --note new                | notes.txt
                    publish Mast --again v009 --note new                    | v009
                    receive FOLDER/nowhere.usda --shelf Site                | nowhere.usda
                    receive FOLDER/broken.usda --shelf Site                 | broken.usda
                    receive FOLDER/notes.txt --shelf Site                   | notes.txt
                    card Mast --licence Freeware                            | SPDX
                    card Nothing --notes new                                | Nothing
                    tag Nothing --add steel                                 | Nothing
                    tag --rename nothing=other                              | nothing
                    move Nothing --to Site                                  | Nothing
                    move Mast --to ../outside                               | shelf
                    move Mast --to Site --to-library FOLDER/nowhere         | nowhere
                    shelf --remove Nowhere                                  | Nowhere
                    shelf --remove Site                                     | assets on it
                    shelf --move Nowhere --to Site                          | Nowhere
                    shelf --move Site --to Site/Posts                       | Site
                    trash Nothing                                           | Nothing
                    restore Mast                                            | trash
                    retire Mast v009                                        | v009
                    ready Mast v009                                         | v009
                    draft Nothing                                           | Nothing
                    find --like Nothing                                     | Nothing
                    proxy Nothing                                           | Nothing
                    archive Mast --to-library FOLDER/nowhere                | nowhere
                    upgrade                                                 | newest format
                    upgrade --back                                          | not upgraded
                    """)
    @DisplayName("what cannot be done ends with 1 and says why")
    void notPossible(String line, String why) throws Exception {
        refusals.refused(1, call(line));
        assertThat(shell.said()).containsIgnoringCase(why);
    }

    @Test
    @DisplayName("a library that is not there, or is none, is named by every command that needs one")
    void libraryIsNamed() throws Exception {
        Path plain = Files.createDirectories(folder.resolve("plain"));
        List<String> calls = List.of(
                "history Mast",
                "publish Mast FOLDER/post.usda --note new",
                "receive FOLDER/post.usda --shelf Site",
                "card Mast --notes new",
                "tag --rename a=b",
                "move Mast --to Site",
                "shelf --make Site",
                "trash Mast",
                "restore Mast",
                "reserve Mast",
                "find mast",
                "verify",
                "reindex",
                "upgrade");
        for (String line : calls) {
            for (Path wrong : List.of(folder.resolve("nowhere"), plain, folder.resolve("notes.txt"))) {
                String[] call = call(line);
                call[call.length - 1] = wrong.toString();
                assertThat(shell.run(call)).as(Arrays.toString(call)).isEqualTo(1);
                assertThat(shell.said())
                        .as(Arrays.toString(call))
                        .contains(wrong.getFileName().toString())
                        .doesNotContain("Exception", "\tat ");
            }
        }
        assertThat(plain).isEmptyDirectory();
        assertThat(folder.resolve("nowhere")).doesNotExist();
    }
}
