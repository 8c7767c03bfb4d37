package pantry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.AtomicFiles;

/** What a person reads who calls the commands by hand. */
class PrintedTextTest {
    @TempDir
    private Path folder;

    private Shell shell;

    @BeforeEach
    void start() throws IOException {
        shell = new Shell(folder);
        Files.writeString(folder.resolve("post.obj"), """
                v 0 0 0
                v 200 0 0
                v 200 0 200
                v 0 0 200
                v 100 300 100
                f 1 2 3 4
                f 2 1 5
                f 3 2 5
                f 4 3 5
                f 1 4 5
                """);
        assertThat(run("new-library", path("library"), "--name", "Yard")).isZero();
    }

    @AfterEach
    void stop() {
        shell.close();
    }

    private int run(String... arguments) {
        return shell.run(arguments);
    }

    private String printed() {
        return shell.printed();
    }

    private String path(String name) {
        return folder.resolve(name).toString();
    }

    @Test
    void factsAreALineEachWithTheirUnits() {
        assertThat(run("facts", path("post.obj"))).isZero();
        assertThat(printed())
                .contains("triangles   6  (polygons 5, points 5)")
                .contains("meshes      1, connected parts 1, closed")
                .contains("200.0 × 300.0 × 200.0 units")
                .contains("volume      4.00000e+06 units³")
                .contains("unit        not stated");
    }

    @Test
    void aDryRunTellsWhatEachUnitGivesTheLikelyOneMarked() {
        assertThat(run("receive", path("post.obj"), "--library", path("library"), "--dry-run"))
                .isZero();
        assertThat(printed())
                .contains("→ as centimetres       2.000 ×    3.000 ×    2.000 m  an ordinary size")
                .contains("  as metres          200.000 ×  300.000 ×  200.000 m  an unusual size");
    }

    @Test
    void theWholeWayInWords() {
        assertThat(run("receive", path("post.obj"), "--library", path("library"), "--shelf", "Posts", "--unit", "cm"))
                .isZero();
        assertThat(printed()).contains("post.obj is shelved on Posts as Post v001");
        assertThat(run(
                        "receive",
                        path("post.obj"),
                        "--library",
                        path("library"),
                        "--name",
                        "Second",
                        "--scale",
                        "0.02"))
                .isZero();
        assertThat(printed()).contains("the library's first shelf as Second v001");
        assertThat(run("find", "--library", path("library"))).isZero();
        assertThat(printed()).contains("2 found").contains("6 triangles");
        assertThat(run("new-scene", path("yard.usda"))).isZero();
        assertThat(printed()).contains("yard.usda is an empty scene; its root is /yard");
        assertThat(run("reference", path("yard.usda"), "Second", "--library", path("library"), "--scale", "1,2,1"))
                .isZero();
        assertThat(printed()).contains("Second stands in").contains("as /yard/Second");
        assertThat(run("reference", path("yard.usda"), path("library/assets/Posts/post/ready.usda"), "--name", "P"))
                .isZero();
        assertThat(run("tree", path("yard.usda"))).isZero();
        assertThat(printed())
                .contains("Second  Xform  instance of /__Prototype_1  → ./library/assets/second/ready.usda")
                .contains("__Prototype_2");
        assertThat(run("weigh", path("yard.usda"))).isZero();
        assertThat(printed()).contains("triangles stored             12").contains("placements                    2");
        assertThat(run("export", path("yard.usda"), "--to", path("yard.glb"))).isZero();
        assertThat(printed()).contains("yard.glb holds 12 triangles");
        assertThat(run("verify", "--library", path("library"))).isZero();
        assertThat(printed()).contains("2 versions checked, all as sealed");
    }

    @Test
    void aSceneWithAMissingAssetIsListedAndSaid() throws IOException {
        run("receive", path("post.obj"), "--library", path("library"), "--shelf", "Posts", "--unit", "cm");
        run("new-scene", path("yard.usda"));
        run("reference", path("yard.usda"), "Post", "--library", path("library"));
        AtomicFiles.deleteTree(folder.resolve("library/assets/Posts"));
        assertThat(run("tree", path("yard.usda"))).isZero();
        assertThat(shell.said()).contains("/yard/Post").contains("ready.usda");
        assertThat(run("flatten", path("yard.usda"), "--out", path("flat.usda")))
                .isZero();
        assertThat(shell.said()).contains("ready.usda");
        assertThat(run("export", path("yard.usda"), "--to", path("yard.usda.obj")))
                .isZero();
        assertThat(printed()).contains("holds 0 triangles");
    }

    @Test
    void anExportNeverChangesTheSizeAndSaysTheUnit() throws IOException {
        assertThat(run("export", path("post.obj"), "--to", path("post.usda"))).isZero();
        assertThat(printed()).contains("in metres");
        assertThat(run("facts", path("post.usda"))).isZero();
        assertThat(printed()).contains("200.0 × 300.0 × 200.0 m").contains("unit        1.0 m");
        assertThat(run("export", path("post.obj"), "--to", path("told.usda"), "--from-unit", "cm"))
                .isZero();
        assertThat(run("facts", path("told.usda"))).isZero();
        assertThat(printed()).contains("2.000 × 3.000 × 2.000 m");
        assertThat(run("export", path("told.usda"), "--to", path("post.stl"), "--unit", "mm"))
                .isZero();
        assertThat(printed()).contains("in millimetres").contains("STL has triangles only");
        assertThat(highest(folder.resolve("post.stl"))).isEqualTo(3000);
        assertThat(run("export", path("told.usda"), "--to", path("post.glb"), "--unit", "mm"))
                .isEqualTo(2);
        assertThat(shell.said()).contains("--unit is for obj, ply and stl");
    }

    /** The greatest y of a binary STL file's corners. */
    private static double highest(Path stl) throws IOException {
        ByteBuffer bytes = ByteBuffer.wrap(Files.readAllBytes(stl)).order(ByteOrder.LITTLE_ENDIAN);
        double highest = 0;
        for (int triangle = 0; triangle < bytes.getInt(80); triangle++) {
            for (int corner = 1; corner <= 3; corner++) {
                highest = Math.max(highest, bytes.getFloat(84 + 50 * triangle + 12 * corner + 4));
            }
        }
        return highest;
    }
}
