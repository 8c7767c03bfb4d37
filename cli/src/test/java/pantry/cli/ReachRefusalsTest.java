package pantry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
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
 * What the commands over projects, and those that prepare files, refuse.
 *
 * <p>All calls share one project with one scene, {@code yard.usda}, that uses {@code Post} and {@code Panel}.
 */
@DisplayName("Wrong calls of the commands of projects and of Prep")
class ReachRefusalsTest {
    @TempDir
    private static Path folder;

    private static Shell shell;
    private static Refusals refusals;
    private static String library;
    private static String project;

    @BeforeAll
    static void make() throws Exception {
        shell = new Shell(folder);
        Path work = Files.createDirectories(folder.resolve("work"));
        library = work.resolve("library").toString();
        project = Files.createDirectories(work.resolve("project")).toString();
        shell.done("new-library", library, "--name", "Yard");
        for (String name : List.of("panel", "post")) {
            shell.done("receive", Blocks.file(work, name, 3), "--library", library, "--shelf", "Parts");
        }
        String scene = project + "/yard.usda";
        shell.done("new-scene", scene);
        shell.done("reference", scene, "Post", "--library", library, "--pin", "v001");
        shell.done("reference", scene, "Panel", "--library", library, "--at", "4,0,0");
        Blocks.broken(work);
        Files.writeString(work.resolve("notes.txt"), "Posts are to be painted.\n");
        // So that the files which libraries and projects keep for themselves are there before.
        shell.done("tag", "Post", "--add", "steel", "--library", library);
        shell.done("uses", "Post", "--library", library, "--project", project);
        refusals = new Refusals(shell, work);
    }

    @AfterAll
    static void close() {
        shell.close();
    }

    private static String[] overProject(String line) {
        List<String> words = new ArrayList<>(List.of(words(line)));
        words.addAll(List.of("--library", library, "--project", project));
        return words.toArray(String[]::new);
    }

    private static String[] words(String line) {
        return Refusals.words(line.replace("WORK", folder.resolve("work").toString()));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "uses",
                "swap Post",
                "move-file WORK/project/yard.usda",
                "what-if",
                "hand-over",
            })
    @DisplayName("what is not understood of a project ends with 2")
    void notUnderstood(String line) throws Exception {
        refusals.refused(2, overProject(line));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    uses Nothing                                            | Nothing
                    uses Post@v009                                          | v009
                    used-by WORK/project/nowhere.usda                       | nowhere.usda
                    swap Post Nothing                                       | Nothing
                    swap Post Panel --scene WORK/project/nowhere.usda       | nowhere.usda
                    update Nothing --follow                                 | Nothing
                    update Post --to v009                                   | v009
                    update Post --to v001 --scene WORK/nowhere.usda         | nowhere.usda
                    move-file WORK/project/nowhere.usda WORK/project/b.usda | nowhere.usda
                    move-file WORK/project/yard.usda WORK/project/yard.usda | yard.usda
                    what-if Nothing                                         | Nothing
                    what-if Post@v009                                       | v009
                    what-if Post --swapped-for Nothing                      | Nothing
                    merge-assets Nothing                                    | Nothing
                    hand-over --out WORK/notes.txt                          | notes.txt
                    hand-over --out WORK/out --scene WORK/nowhere.usda      | nowhere.usda
                    leftovers --scene WORK/project/nowhere.usda             | nowhere.usda
                    """)
    @DisplayName("what cannot be done over a project ends with 1 and says why")
    void notPossible(String line, String why) throws Exception {
        refusals.refused(1, overProject(line));
        assertThat(shell.said()).containsIgnoringCase(why);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "inspect",
                "twins WORK/post.usda --tolerance small",
                "proxy WORK/post.usda --boxes many",
                "pivot WORK/post.usda --ring 4",
                "pivot WORK/post.usda --to nowhere-known",
                "convert WORK/post.usda",
                "export WORK/post.usda",
                "export WORK/post.usda --to WORK/out.obj --unit furlongs",
                "tidy WORK/post.usda --fix",
                "explain WORK/post.usda",
            })
    @DisplayName("what is not understood of a file ends with 2")
    void notUnderstoodOfFiles(String line) throws Exception {
        refusals.refused(2, words(line));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    inspect WORK/nowhere.usda                               | nowhere.usda
                    inspect WORK/broken.usda                                | broken.usda
                    inspect WORK/notes.txt                                  | notes.txt
                    inspect WORK/post.usda --rules WORK/notes.txt           | notes.txt
                    facts WORK/broken.usda                                  | broken.usda
                    twins WORK/broken.usda                                  | broken.usda
                    tidy WORK/broken.usda --all --dry-run                   | broken.usda
                    convert WORK/broken.usda --to WORK/out.usdc             | broken.usda
                    convert WORK/post.usda --to WORK/nowhere/out.usdc       | nowhere
                    export WORK/broken.usda --to WORK/out.glb               | broken.usda
                    export WORK/post.usda --to WORK/out.doc                 | out.doc
                    export WORK/post.usda --to WORK/nowhere/out.glb         | nowhere
                    explain WORK/post.usda /Nothing                         | /Nothing
                    explain WORK/post.usda 'no path'                        | no path
                    flatten WORK/broken.usda --out WORK/flat.usda           | broken.usda
                    flatten WORK/post.usda --out WORK/nowhere/flat.usda     | nowhere
                    pack WORK/broken.usda --out WORK/packed                 | broken.usda
                    pack WORK/post.usda --out WORK/notes.txt                | notes.txt
                    """)
    @DisplayName("what cannot be done with a file ends with 1 and says why")
    void notPossibleWithFiles(String line, String why) throws Exception {
        refusals.refused(1, words(line));
        assertThat(shell.said()).containsIgnoringCase(why);
    }

    @Test
    @DisplayName("a project that is not there is named by every command over projects")
    void projectIsNamed() {
        for (String line :
                List.of("uses Post", "outdated", "unused", "leftovers", "strays", "what-if Post", "swap Post Panel")) {
            String[] call = overProject(line);
            call[call.length - 1] = folder.resolve("nowhere").toString();
            assertThat(shell.run(call)).as(line).isEqualTo(1);
            assertThat(shell.said()).as(line).contains("nowhere").doesNotContain("Exception", "\tat ");
        }
        assertThat(folder.resolve("nowhere")).doesNotExist();
    }
}
