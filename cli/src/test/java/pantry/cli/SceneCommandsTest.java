package pantry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Scenes made out of a library on the command line. */
class SceneCommandsTest extends WithYardScene {
    @Test
    void aSceneIsPackedWithAllThatItNamesAndShowsTheSameElsewhere() throws Exception {
        json("reference", scene, "Parts/Panel", "--library", library);
        json("place", scene, "Panel", "--grid", "5,1,1", "--step", "2,0,0", "--name", "Row");
        json("reference", scene, "Parts/Post", "--library", library, "--at", "0,0,4");
        int drawn = drawn();
        Path out = folder.resolve("handed-on");
        Map<?, ?> packed = json("pack", scene, "--out", out.toString());
        try (Stream<Path> files = Files.list(out)) {
            assertThat(files.count()).isEqualTo(((Integer) packed.get("files")).longValue());
        }
        json("pack", scene, "--out", folder.resolve("yard.usdz").toString());
        // Gone are the library and the project; what was packed needs neither.
        Files.move(folder.resolve("library"), folder.resolve("away"));
        Files.move(folder.resolve("project"), folder.resolve("gone"));
        assertThat(json("weigh", out.resolve("yard.usdc").toString()).get("trianglesDrawn"))
                .isEqualTo(drawn);
        assertThat(shell.run("export", folder.resolve("yard.usdz").toString(), "--to", folder + "/yard.glb"))
                .as(shell.said())
                .isZero();
        assertThat(shell.run("pack", out.resolve("yard.usdc").toString(), "--out", out.toString()))
                .isNotZero();
        assertThat(shell.said()).contains("handed-on", "already there");
    }

    @Test
    void aFieldIsMadeOutOfAPanel() {
        json("reference", scene, "Parts/Panel", "--library", library);
        String row = path(json("place", scene, "Panel", "--grid", "5,1,1", "--step", "2,0,0", "--name", "Row"));
        json("place", scene, row, "--grid", "1,1,4", "--step", "0,0,3", "--name", "Field");
        assertThat(drawn()).isEqualTo(12 * 5 * 4);
        assertThat(json("weigh", scene).get("trianglesStored")).isEqualTo(12);
        String post = path(json("instance", scene, "/yard/Shapes/Row/Panel", "--under", "/yard", "--name", "Spare"));
        assertThat(drawn()).isEqualTo(12 * 21);
        json("replace", scene, "Parts/Post", post, "--library", library);
        json("break-out", scene, post);
        String group = path(json("group", scene, post, "--name", "Spares"));
        assertThat(group).isEqualTo("/yard/Spares");
        Map<?, ?> section = json("section", scene, group, "--name", "Store");
        assertThat(folder.resolve("project/yard-store.usda")).exists();
        assertThat(drawn()).isEqualTo(12 * 21);
        json("section", scene, path(section), "--join");
        assertThat(drawn()).isEqualTo(12 * 21);
        assertThat(shell.run("place", scene, "/yard/Field")).isEqualTo(2);
        assertThat(shell.run("group", scene, "/yard/Nothing")).isEqualTo(1);
        assertThat(shell.said()).contains("there is no </yard/Nothing>");
    }

    @Test
    void aPartOfAPlacementIsChangedInPlaceCopiedAndDropped() {
        String one = (String)
                json("reference", scene, "Parts/Post", "--library", library).get("path");
        String two = (String) json("reference", scene, "Parts/Post", "--library", library, "--at", "4,0,0")
                .get("path");
        String body = one + "/Body";
        Map<?, ?> moved = json("override", scene, body, "--move", "0,0.8,0", "--copy-to", two);
        assertThat(moved.get("told")).asString().isEqualTo("[Body moved up by 0.8 m]");
        assertThat(json("override", scene, two).get("told")).asString().isEqualTo("[Body moved up by 0.8 m]");
        json("override", scene, body, "--hide", "--turn", "0,30,0");
        assertThat(json("override", scene, one).get("told"))
                .asString()
                .isEqualTo("[Body moved up by 0.8 m, turned 30° about y, is hidden]");
        assertThat(drawn()).isEqualTo(12);
        json("override", scene, body, "--drop");
        json("override", scene, two, "--drop");
        assertThat(json("override", scene, one).get("told")).asString().isEqualTo("[]");
        assertThat(json("override", scene, two).get("told")).asString().isEqualTo("[]");
        assertThat(drawn()).isEqualTo(24);

        assertThat(shell.run("override", scene, one, "--hide")).isEqualTo(1);
        assertThat(shell.said()).contains("yard.usda", "is no part of a placement");
        assertThat(shell.run("override", scene, body, "--hide", "--show")).isEqualTo(2);
        assertThat(shell.run("override", scene, body, "--variant", "paint")).isEqualTo(2);
        assertThat(shell.said()).contains("SET=V");
        assertThat(shell.run("override", scene, body, "--variant", "paint=red")).isEqualTo(1);
        assertThat(shell.run("override", scene, body, "--colour", "Paint=reddish"))
                .isEqualTo(2);
    }

    @Test
    void thingsAreAppendedAndScenesMerged() {
        Map<?, ?> dry = json("append", scene, "Parts/Post", "--library", library, "--dry-run");
        assertThat((List<?>) dry.get("needs")).isNotNull();
        assertThat(drawn()).isZero();
        Map<?, ?> appended = json("append", scene, "Parts/Post", "--library", library, "--at", "4,0,0");
        assertThat((String) appended.get("anchor")).isEqualTo("/yard/Post");
        assertThat(drawn()).isEqualTo(12);
        String other = folder.resolve("project/other.usda").toString();
        assertThat(shell.run("new-scene", other)).isZero();
        json("reference", other, "Parts/Panel", "--library", library);
        Map<?, ?> merged = json("merge", scene, other, "--drawer", "Just merged", "--on-conflict", "scene");
        assertThat((String) merged.get("anchor")).isEqualTo("/yard/other");
        assertThat(drawn()).isEqualTo(24);
        assertThat(shell.run("append", scene, "nowhere.obj")).isEqualTo(1);
        assertThat(shell.said()).contains("nowhere.obj");
        assertThat(shell.run("append", scene, other, "--pick", "/other/Nothing"))
                .isEqualTo(1);
    }

    @Test
    void whatIsOverriddenIsWrittenBack() throws Exception {
        json("reference", scene, "Parts/Panel", "--library", library);
        json("break-out", scene, "Panel");
        String text = Files.readString(Path.of(scene));
        int end = text.indexOf("uniform token[] xformOpOrder");
        end = text.indexOf('\n', end) + 1;
        Files.writeString(
                Path.of(scene),
                text.substring(0, end)
                        + "over \"Body\" { custom string userProperties:wear = \"new\" }\n"
                        + text.substring(end));
        assertThat((List<?>) json("write-back", scene, "Panel", "--library", library, "--dry-run")
                        .get("told"))
                .hasSize(1);
        Map<?, ?> back = json("write-back", scene, "Panel", "--library", library, "--note", "new");
        assertThat(((List<?>) back.get("told")).toString()).contains("v002");
        assertThat(shell.run("verify", "--library", library)).isZero();
        assertThat(shell.run("write-back", scene, "Panel", "--library", library))
                .isEqualTo(1);
    }

    private static List<String> told(Map<?, ?> result) {
        return ((List<?>) result.get("told")).stream().map(Object::toString).toList();
    }

    @Test
    void thingsSettleWhereTheyFall() {
        json("reference", scene, "Parts/Panel", "--library", library, "--name", "Low");
        json("reference", scene, "Parts/Panel", "--library", library, "--name", "High", "--at", "0.1,4,0");
        Map<?, ?> settled = json("settle", scene, "High");
        assertThat(told(settled).getFirst()).startsWith("at rest after");
        Map<?, ?> box = (Map<?, ?>) json("facts", scene).get("bounds");
        assertThat(((Number) ((List<?>) box.get("max")).get(1)).doubleValue()).isBetween(1.99, 2.005);
        assertThat(shell.run("settle", scene, "High", "--on", "Low", "--no-floor", "--most", "0.01"))
                .isEqualTo(1);
        assertThat(shell.said()).contains("had not come to rest", "nothing was changed");
    }

    @Test
    void drawersAlternatesAndFocusesAreKeptAndPictured() {
        json("reference", scene, "Parts/Panel", "--library", library, "--name", "Panel");
        json("reference", scene, "Parts/Post", "--library", library, "--name", "Post", "--at", "3,0,0");
        json("drawer", scene, "Posts", "Post");
        assertThat(told(json("drawer", scene, "Posts", "--state", "hidden,locked")))
                .containsExactly("Posts: 1 object, hidden, locked");
        assertThat(shell.run("drawer", scene, "Posts", "--state", "folded")).isEqualTo(2);

        json("alternates", scene, "layout/wide", "Post");
        json("alternates", scene, "layout/narrow");
        assertThat(drawn()).isEqualTo(12);
        Path sheet = folder.resolve("sheet.png");
        assertThat(told(json("alternates", scene, "layout/wide", "--sheet", sheet.toString())))
                .contains("layout: wide, narrow; wide is switched in");
        assertThat(sheet).isNotEmptyFile();
        assertThat(drawn()).isEqualTo(24);
        json("alternates", scene, "layout/narrow", "--remove");
        assertThat(told(json("alternates", scene))).containsExactly("layout: wide; wide is switched in");

        json("focus", scene, "Near by", "--detail", "light", "--hide", "Posts");
        Path pictures = folder.resolve("pictures");
        pictures.toFile().mkdirs();
        assertThat(told(json("focus", scene, "--pictures", pictures.toString())).getFirst())
                .isEqualTo("Near by: light, without Posts");
        assertThat(pictures.resolve("near-by.png")).isNotEmptyFile();
        json("focus", scene, "Near by", "--remove");
        assertThat(told(json("focus", scene))).isEmpty();
    }

    @Test
    void anchorsAreMarkedHungOnAndTakenToOtherScenes() throws Exception {
        json("reference", scene, "Parts/Panel", "--library", library, "--name", "Panel");
        String anchor = path(json("anchor", scene, "--shape", "ring", "--size", "2", "--name", "Pole"));
        assertThat(path(json("hang", scene, anchor, "Panel"))).isEqualTo("/yard/Pole/Panel");
        assertThat(shell.run("anchor", scene, "--colour", "red")).isEqualTo(2);
        String other = folder.resolve("project/hall.usda").toString();
        assertThat(shell.run("new-scene", other)).isZero();
        assertThat(path(json("paste", other, scene, "Pole"))).isEqualTo("/hall/Pole");
        assertThat(json("weigh", other).get("trianglesDrawn")).isEqualTo(12);
        assertThat(json("merge", other, scene, "--name", "Yard").get("anchor")).isEqualTo("/hall/Yard");
        assertThat(json("weigh", other).get("placements")).isEqualTo(2);
        json("merge", other, scene, "--name", "Copy", "--copy");
        assertThat(json("weigh", other).get("placements")).isEqualTo(2);
        assertThat(json("weigh", other).get("trianglesDrawn")).isEqualTo(36);

        String section = path(json("section", scene, "Pole", "--name", "North"));
        json("section", scene, section, "--reserve");
        try (Stream<Path> files = Files.list(folder.resolve("project"))) {
            assertThat(files.map(file -> file.getFileName().toString())).contains(".yard-north.usda.held.json");
        }
        json("section", scene, section, "--release");
    }

    @Test
    void thingsAreScatteredOnASurface() {
        json("reference", scene, "Parts/Panel", "--library", library, "--name", "Hill", "--scale", "20,1,20");
        json("reference", scene, "Parts/Post", "--library", library, "--name", "Post", "--at", "40,0,0");
        json("place", scene, "Post", "--on", "Hill", "--density", "0.05", "--apart", "2", "--name", "Posts");
        assertThat(drawn()).isBetween(12 * 12, 12 * 21);
        assertThat(shell.run("place", scene, "Hill", "--on", "Nowhere")).isEqualTo(1);
        assertThat(shell.said()).contains("no object called Nowhere");
    }
}
