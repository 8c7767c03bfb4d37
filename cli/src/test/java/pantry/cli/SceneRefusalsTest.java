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
 * What the commands of scenes refuse.
 *
 * <p>All calls share one scene: {@code Panel} and {@code Post} are placements, {@code Pair} a group of {@code Left} and
 * {@code Right}.
 */
@DisplayName("Wrong calls of the commands of scenes")
class SceneRefusalsTest {
    @TempDir
    private static Path folder;

    private static Shell shell;
    private static Refusals refusals;
    private static String library;
    private static String scene;

    @BeforeAll
    static void make() throws Exception {
        shell = new Shell(folder);
        refusals = new Refusals(shell, folder.resolve("project"));
        library = folder.resolve("library").toString();
        Files.createDirectories(folder.resolve("project"));
        scene = folder.resolve("project/yard.usda").toString();
        shell.done("new-library", library, "--name", "Yard");
        for (String name : List.of("panel", "post")) {
            shell.done(
                    "receive",
                    Blocks.file(folder, name, name.equals("post") ? 3 : 1),
                    "--library",
                    library,
                    "--shelf",
                    "Parts");
        }
        shell.done("new-scene", scene);
        shell.done("reference", scene, "Parts/Panel", "--library", library);
        shell.done("reference", scene, "Parts/Post", "--library", library, "--at", "4,0,0");
        shell.done("reference", scene, "Parts/Post", "--library", library, "--name", "Left", "--at", "0,0,4");
        shell.done("reference", scene, "Parts/Post", "--library", library, "--name", "Right", "--at", "2,0,4");
        shell.done("group", scene, "Left", "Right", "--name", "Pair");
        shell.done("drawer", scene, "Posts", "Post");
        shell.done("alternates", scene, "layout/wide", "Panel");
        shell.done("focus", scene, "Near by");
        Blocks.broken(folder);
    }

    @AfterAll
    static void close() {
        shell.close();
    }

    private static String[] call(String line) {
        List<String> words = new ArrayList<>(List.of(Refusals.words(line.replace("FOLDER", folder.toString()))));
        words.add(1, scene);
        return words.toArray(String[]::new);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "place Panel",
                "place Panel --grid 5",
                "place Panel --grid 5,1,one",
                "place Panel --grid 5,1,1 --step 2",
                "place Panel --ring 4",
                "place Panel --grid 2,2,2 --vary 10",
                "place Panel --scatter 4",
                "place Panel --along 1,2",
                "drawer Posts --state folded",
                "alternates wide",
                "alternates a/b/c",
                "focus Far --detail coarse",
                "anchor --colour red",
                "anchor --shape star",
                "section Pair",
                "override Panel/Body --hide --show",
                "override Panel/Body --colour Paint",
                "override Panel/Body --turn 30",
                "replace Parts/Post Panel --pin v001 --follow",
                "settle Panel --most soon",
                "settle Panel --most -1",
                "place Panel --grid 2,1,1 --step 1e999,0,0",
                "reference Parts/Panel --at 1,2",
            })
    @DisplayName("what is not understood ends with 2")
    void notUnderstood(String line) throws Exception {
        refusals.refused(2, call(line.startsWith("reference") ? line + " --library " + library : line));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    group Nothing                                       | there is no
                    group Panel /yard/Nothing                           | there is no
                    group Panel --ungroup                               | group
                    place Panel --grid 0,1,1                            | 1
                    place Panel --grid -2,1,1                           | 1
                    place Panel --grid 100000,100000,1000               | 1 to 100000 places
                    place Panel --ring 0,30                             | 1
                    place Panel --scatter 4,4 --count -1                | 1
                    place Panel --scatter -4,4                          | width
                    place Panel --along 0,0,0 --count 3                 | path
                    place Panel --on Nowhere                            | Nowhere
                    place Panel --on Post --density -1                  | for each square metre
                    place Panel --on Post --density 1e12                | at most 100000
                    instance Nothing                                    | Nothing
                    hang Panel Panel                                    | itself
                    hang Left Pair                                      | on what hangs on it
                    drawer Nowhere --state hidden                       | Nowhere
                    drawer Posts Nothing                                | Nothing
                    alternates layout/none --remove                     | none
                    alternates none/wide --remove                       | none
                    alternates layout/other --file FOLDER/nowhere.usda  | nowhere.usda
                    alternates layout/other --file FOLDER/broken.usda   | broken.usda
                    focus Nothing --remove                              | Nothing
                    focus Far --hide Nowhere                            | Nowhere
                    anchor --size 0                                     | above 0 m
                    anchor --size -1                                    | above 0 m
                    anchor --size NaN                                   | above 0 m
                    anchor Nothing                                      | Nothing
                    section Pair --join                                 | section
                    section Pair --release                              | section
                    section Pair --reserve                              | section
                    settle Nothing                                      | Nothing
                    paste FOLDER/nowhere.usda Panel                     | nowhere.usda
                    paste FOLDER/broken.usda a                          | broken.usda
                    merge FOLDER/broken.usda                            | broken.usda
                    append FOLDER/broken.usda                           | broken.usda
                    append FOLDER/nowhere.obj                           | nowhere.obj
                    override Panel --hide                               | part of a placement
                    override Panel/Nothing --hide                       | Nothing
                    override Pair/Left/Body --variant paint=red         | paint
                    override Panel/Body --scale 0                       | no size
                    write-back Pair                                     | placement
                    """)
    @DisplayName("what cannot be done ends with 1 and says why")
    void notPossible(String line, String why) throws Exception {
        refusals.refused(1, call(line));
        assertThat(shell.said()).containsIgnoringCase(why);
    }

    @Test
    @DisplayName("a scene that is not there, or is none, is named by every command that changes scenes")
    void sceneIsNamed() throws Exception {
        Path text = folder.resolve("notes.txt");
        Files.writeString(text, "Panels are to be painted.\n");
        List<String[]> calls = List.of(
                new String[] {"group", "", "Panel"},
                new String[] {"drawer", ""},
                new String[] {"focus", ""},
                new String[] {"alternates", ""},
                new String[] {"anchor", ""},
                new String[] {"settle", "", "Panel"},
                new String[] {"hang", "", "Panel", "Post"},
                new String[] {"section", "", "Panel", "--name", "North"},
                new String[] {"override", "", "Panel"},
                new String[] {"weigh", ""},
                new String[] {"tree", ""},
                new String[] {"flatten", "", "--out", folder + "/flat.usda"},
                new String[] {"pack", "", "--out", folder + "/packed"},
                new String[] {"export", "", "--to", folder + "/out.glb"});
        for (String[] call : calls) {
            for (Path wrong : List.of(folder.resolve("nowhere.usda"), text, folder.resolve("broken.usda"))) {
                String[] with = call.clone();
                with[1] = wrong.toString();
                assertThat(shell.run(with)).as(Arrays.toString(with)).isEqualTo(1);
                assertThat(shell.said())
                        .as(Arrays.toString(with))
                        .contains(wrong.getFileName().toString())
                        .doesNotContain("Exception", "\tat ");
            }
        }
        assertThat(folder.resolve("flat.usda")).doesNotExist();
        assertThat(folder.resolve("packed")).doesNotExist();
        assertThat(folder.resolve("out.glb")).doesNotExist();
        assertThat(text).hasContent("Panels are to be painted.");
    }
}
