package pantry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Json;

/** The life of an asset on the command line, from its shelf to the trash and back. */
class ShelvesCommandsTest {
    private static final String BLOCK = """
            v 0 0 0
            v 1 0 0
            v 1 0 1
            v 0 0 1
            v 0 %1$s 0
            v 1 %1$s 0
            v 1 %1$s 1
            v 0 %1$s 1
            f 1 2 3 4
            f 8 7 6 5
            f 1 5 6 2
            f 2 6 7 3
            f 3 7 8 4
            f 4 8 5 1
            """;

    @TempDir
    private Path folder;

    private Shell shell;
    private String library;

    @BeforeEach
    void open() throws Exception {
        shell = new Shell(folder);
        library = folder.resolve("library").toString();
        assertThat(shell.run("new-library", library, "--name", "Yard")).isZero();
        for (String name : new String[] {"mast", "post"}) {
            file(name + ".obj", name.equals("mast") ? 9 : 3);
            receive(name, "Site/Posts");
        }
    }

    @AfterEach
    void close() {
        shell.close();
    }

    private String file(String name, double height) throws Exception {
        return Files.writeString(folder.resolve(name), BLOCK.formatted(height)).toString();
    }

    private void receive(String name, String shelf) {
        assertThat(shell.run(
                        "receive",
                        folder.resolve(name + ".obj").toString(),
                        "--library",
                        library,
                        "--shelf",
                        shelf,
                        "--unit",
                        "m"))
                .as(shell.said())
                .isZero();
    }

    private void ok(String... arguments) {
        assertThat(shell.run(arguments)).as(shell.said()).isZero();
    }

    private String json(String... arguments) {
        String[] all = java.util.Arrays.copyOf(arguments, arguments.length + 1);
        all[arguments.length] = "--json";
        ok(all);
        return shell.printed().replaceAll("\\s+", " ");
    }

    @Test
    void versionsArePublishedComparedRetiredAndBroughtBack() throws Exception {
        String taller = file("taller.obj", 9.5);
        assertThat(json("publish", "Mast", taller, "--library", library, "--note", "half a metre more", "--unit", "m"))
                .contains("\"version\" : \"v002\"")
                .contains("\"status\" : \"ready\"");
        String history = json("history", "Site/Posts/mast", "--library", library, "--journal");
        assertThat(history)
                .contains("\"note\" : \"half a metre more\"")
                .contains("\"what\" : \"published\"")
                .contains("\"who\" : \"tester\"");
        String diff = json("diff", "Mast", "v001", "v002", "--library", library);
        assertThat(diff)
                .contains("\"same\" : false")
                .contains("\"renamed\", \"reshaped\"")
                .contains("\"distance\" : 0.5");
        ok("diff", "Mast", "--library", library);
        assertThat(shell.printed()).contains("another shape").contains("at most 0.5000 m apart");
        assertThat(json("retire", "Mast", "v002", "--library", library)).contains("\"ready\" : \"v001\"");
        assertThat(json("publish", "Mast", "--again", "v001", "--note", "back", "--library", library))
                .contains("\"version\" : \"v003\"");
        assertThat(json("draft", "Mast", "v003", "--library", library)).contains("\"status\" : \"draft\"");
        assertThat(json("ready", "Mast", "--library", library)).contains("\"ready\" : \"v003\"");
        assertThat(json("verify", "--library", library))
                .contains("\"versions\" : 4")
                .contains("\"ok\" : true");
        assertThat(shell.run("publish", "Mast", taller, "--library", library)).isEqualTo(2);
        assertThat(shell.said()).contains("--note");
        assertThat(shell.run("diff", "Post", "--library", library)).isEqualTo(2);
        assertThat(shell.run("diff", "Mast", "v001", "v009", "--library", library))
                .isEqualTo(2);
        assertThat(shell.said()).contains("has no version v009");
    }

    @Test
    void reservedAssetsAreHeldUntilTheyAreReleased() {
        assertThat(json("reserve", "Mast", "--library", library)).contains("\"who\" : \"tester\"");
        assertThat(json("reserve", "--library", library)).contains("Site/Posts/Mast");
        ok("release", "Mast", "--library", library);
        ok("reserve", "--library", library);
        assertThat(shell.printed()).contains("nothing is reserved");
        assertThat(json("reserve", "Mast", "--library", library, "--take-over", "nobody there"))
                .contains("tester");
    }

    @Test
    void cardsAndTagsAreChangedForManyAtOnce() {
        ok("tag", "Mast", "Post", "--add", "outdoor", "--add", "steel", "--library", library);
        assertThat(shell.printed()).contains("2 cards changed");
        assertThat(json("tag", "--library", library)).contains("\"tag\" : \"outdoor\", \"count\" : 2");
        ok("tag", "--rename", "steel=outdoor", "--library", library);
        assertThat(json("tag", "--library", library)).doesNotContain("steel");
        ok(
                "card",
                "Mast",
                "Post",
                "--licence",
                "CC-BY-4.0 OR MIT",
                "--field",
                "Store=North",
                "--notes",
                "by the door",
                "--library",
                library);
        assertThat(shell.printed()).contains("CC-BY-4.0 OR MIT").contains("North");
        assertThat(shell.run("card", "Mast", "--licence", "Freeware", "--library", library))
                .isEqualTo(1);
        assertThat(shell.said()).contains("Freeware").contains("SPDX");
        assertThat(shell.run("card", "Mast", "Post", "--name", "Both", "--library", library))
                .isEqualTo(2);
        String found = json("find", "--library", library, "tag:outdoor", "field:store=north", "height:>5m");
        assertThat(found).contains("\"count\" : 1").contains("\"name\" : \"Mast\"");
        ok("find", "--library", library, "doo", "--sort", "size");
        assertThat(shell.printed()).contains("(notes “by the door”)");
        ok("find", "--library", library, "--like", "Mast");
        assertThat(shell.printed()).contains("found");
        assertThat(shell.run("find", "--library", library, "heigth:3m")).isEqualTo(2);
        assertThat(shell.said()).contains("there is no “heigth:”");
    }

    @Test
    void assetsAndShelvesAreMovedCopiedThrownAwayAndRestored() {
        ok("shelf", "--make", "Stores/North", "--library", library);
        assertThat(json("move", "Mast", "--to", "Stores/North", "--library", library))
                .contains("Stores/North");
        ok("shelf", "--move", "Stores", "--to", "Sheds", "--library", library);
        assertThat(shell.printed()).contains("Sheds/North").doesNotContain("Stores");
        String other = folder.resolve("other").toString();
        ok("new-library", other, "--name", "Other");
        ok("move", "Mast", "--to", "Masts", "--copy", "--library", library, "--to-library", other);
        assertThat(json("find", "--library", other)).contains("\"count\" : 1");
        ok("trash", "Post", "--library", library);
        assertThat(shell.printed()).contains("assets/Site/Posts/post").contains("1 in the trash");
        assertThat(json("find", "--library", library)).contains("\"count\" : 1");
        ok("restore", "Post", "--library", library);
        assertThat(json("find", "--library", library)).contains("\"count\" : 2");
        assertThat(shell.run("restore", "Post", "--library", library)).isEqualTo(1);
        assertThat(shell.said()).contains("nothing in its trash");
        ok("trash", "Post", "--library", library);
        ok("trash", "--delete-for-good", "--library", library);
        assertThat(shell.printed()).contains("0 in the trash");
        assertThat(shell.run("shelf", "--remove", "Sheds/North", "--library", library))
                .isEqualTo(1);
        assertThat(shell.said()).contains("has assets on it");
        assertThat(shell.run("shelf", "--move", "Sheds", "--library", library)).isEqualTo(2);
    }

    @Test
    void whatIsDamagedIsToldWithItsRepairsAndPutRight() throws Exception {
        Path asset = folder.resolve("library/assets/Site/Posts/mast");
        Files.writeString(asset.resolve("v001/data/mine.txt"), "mine");
        Files.createDirectories(folder.resolve("library/assets/Elsewhere"));
        Files.move(folder.resolve("library/assets/Site/Posts/post"), folder.resolve("library/assets/Elsewhere/post"));
        assertThat(shell.run("verify", "--library", library, "--json")).isEqualTo(1);
        assertThat(shell.printed())
                .contains("\"kind\" : \"extra\"")
                .contains("\"kind\" : \"moved\"")
                .contains("take-over");
        assertThat(shell.said()).contains("mine.txt").contains("set-aside: put the added file into the trash");
        assertThat(shell.run("verify", "--library", library, "--repair")).isZero();
        assertThat(shell.printed()).contains("all as sealed");
        assertThat(json("reindex", "--library", library)).contains("\"assets\" : 2");
        assertThat(shell.run("upgrade", "--library", library)).isEqualTo(1);
        assertThat(shell.said()).contains("newest format already");
    }

    @Test
    void copiesAreEditedElsewhereAndPublished() throws Exception {
        Path copy = folder.resolve("copy");
        assertThat(json(
                        "edit-copy",
                        "Mast",
                        "--library",
                        library,
                        "--dir",
                        copy.toString(),
                        "--format",
                        "obj",
                        "--reserve"))
                .contains("mast.obj");
        Files.writeString(copy.resolve("mast.obj"), BLOCK.formatted(12));
        assertThat(json("edit-copy", "--publish", copy.toString(), "--note", "twelve metres"))
                .contains("\"published\" : true")
                .contains("\"version\" : \"v002\"");
        assertThat(json("find", "--library", library, "height:12m")).contains("\"count\" : 1");
        assertThat(shell.run("edit-copy", "Mast", "--library", library, "--dir", copy.toString()))
                .isEqualTo(1);
        assertThat(shell.said()).contains("not empty");
        assertThat(shell.run("edit-copy", "Mast", "--library", library, "--dir", "x", "--format", "doc"))
                .isEqualTo(2);
        assertThat(shell.run("edit-copy")).isEqualTo(2);
    }

    @Test
    void objectsOfASceneBecomeAPrefabWithVersions() throws Exception {
        String scene = folder.resolve("yard.usda").toString();
        ok("new-scene", scene);
        ok("reference", scene, "Mast", "--library", library);
        ok("reference", scene, "Post", "--library", library, "--at", "2,0,0");
        assertThat(json("prefab", scene, "--library", library, "--name", "Pair", "--shelf", "Groups", "--tag", "pair"))
                .contains("\"name\" : \"Pair\"");
        assertThat(json("find", "--library", library, "uses:mast")).contains("\"kind\" : \"prefab\"");
        ok("publish", "Pair", "--scene", scene, "--prim", "/yard/Mast", "--note", "alone", "--library", library);
        assertThat(shell.printed()).contains("Pair v002 is ready");
        assertThat(json("retire", "Mast", "--library", library)).contains("\"usedBy\" : [ \"Groups/Pair\" ]");
        assertThat(shell.said()).contains("still uses Mast v001");
        assertThat(Json.read(Files.readString(folder.resolve("library/pantry-library.json")), "m", java.util.Map.class))
                .containsEntry("format", 2);
    }

    @Test
    void frictionAndDensityAreToldChangedAndHoldOn() throws Exception {
        String mast = "Site/Posts/Mast";
        assertThat(shell.run("physics", mast, "--library", library)).isZero();
        assertThat(shell.printed()).contains("nothing is said of its friction");
        var told = shell.json(
                "physics", mast, "--static-friction", "0.6", "--density", "7850", "--library", library, "--json");
        assertThat(told.get("version")).isEqualTo("v002");
        assertThat(told.get("materials").toString())
                .contains(
                        "path=/Mast/PhysicalMaterial", "staticFriction=0.6", "dynamicFriction=null", "density=7850.0");
        assertThat(shell.run("publish", mast, file("taller.obj", 12), "--note", "taller", "--library", library))
                .isZero();
        assertThat(shell.run("physics", mast, "--library", library)).isZero();
        assertThat(shell.printed()).contains("friction at rest       0.6", "density                7850 kg/m³");
        assertThat(shell.run("physics", mast, "--density", "none", "--draft", "--library", library))
                .isZero();
        assertThat(shell.printed()).contains("Mast v004", "density                not said");
        assertThat(shell.run("facts", mast, "--attached", "--library", library)).isZero();
        assertThat(shell.printed()).contains("staticFriction 0.6");
        assertThat(shell.run("verify", "--library", library)).isZero();
    }

    @Test
    void numbersThatCannotBeFrictionOrDensityAreRefused() {
        String mast = "Site/Posts/Mast";
        assertThat(shell.run("physics", mast, "--density", "heavy", "--library", library))
                .isEqualTo(2);
        assertThat(shell.said()).contains("--density is a number, or none; \"heavy\" is neither");
        for (String wrong : new String[] {"-1", "NaN", "1e400"}) {
            assertThat(shell.run("physics", mast, "--density=" + wrong, "--library", library))
                    .isEqualTo(1);
            assertThat(shell.said()).contains("density is a number from 0 to 25,000 kg/m³");
        }
        assertThat(shell.run("physics", mast, "--material", "Rubber", "--density", "1", "--library", library))
                .isEqualTo(2);
        assertThat(shell.run("history", mast, "--library", library)).isZero();
        assertThat(shell.printed()).doesNotContain("v002");
    }
}
