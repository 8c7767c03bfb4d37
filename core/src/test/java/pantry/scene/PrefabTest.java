package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.exchange.usd.MeshCache;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Published;
import pantry.library.Uses;
import pantry.library.VersionStatus;
import pantry.render.RenderCache;
import pantry.testing.Workshop;
import pantry.usd.SdfPath;
import pantry.usd.compose.LayerCache;
import pantry.usd.schema.TransformComponents;

class PrefabTest {
    @TempDir
    private Path folder;

    private Workshop workshop;
    private Asset post;
    private Scene scene;

    @BeforeEach
    void open() {
        workshop = new Workshop(folder);
        post = workshop.block("Post", "Parts", 3);
        scene = workshop.newScene(folder.resolve("yard.usda"));
        for (int i = 0; i < 3; i++) {
            scene.placements()
                    .place(
                            post,
                            i == 2 ? Optional.of("v001") : Optional.empty(),
                            "Post",
                            TransformComponents.ORIGIN
                                    .withMove(new Vec3(10 + 2 * i, 1, 5))
                                    .withTurn(new Vec3(0, 15 * i, 0)),
                            Optional.empty());
        }
    }

    @AfterEach
    void close() {
        workshop.close();
    }

    private Prefab prefab(SdfPath... chosen) {
        return new Prefab(scene, workshop.layers(), List.of(chosen), workshop.library(), new RenderCache());
    }

    private static Scene fresh(Path layer) {
        return Scene.open(layer, new LayerCache(), new MeshCache());
    }

    @Test
    void chosenPlacementsBecomeAnAssetThatKeepsHowTheyStand() {
        Asset fence = prefab(SdfPath.of("/yard/Post"), SdfPath.of("/yard/Post_3"))
                .shelve("Fence", AssetKind.PREFAB, "Site", List.of("fence"), Progress.NONE)
                .asset();
        assertThat(fence.facts("v001").triangles()).isEqualTo(24);
        assertThat(fence.preview("v001")).exists();
        assertThat(Uses.of(fence.folder()))
                .extracting(use -> use.id() + use.version())
                .as("one followed, one pinned")
                .containsExactlyInAnyOrder(post.card().id(), post.card().id() + "v001");
        Scene read = fresh(fence.readyLayer());
        assertThat(read.stage().problems()).isEmpty();
        assertThat(read.model().trianglesDrawn()).isEqualTo(24);
        var box = read.model().bounds();
        assertThat(box.min().y()).as("held by the middle of its base").isCloseTo(0, within(1e-6));
        assertThat(box.centre().x()).isCloseTo(0, within(1e-6));
        assertThat(box.size().x()).as("as far apart as they were").isBetween(4.9, 5.3);
        assertThat(workshop.library().verify(Progress.NONE).problems()).isEmpty();
        assertThat(scene.placements().all()).as("the scene stays as it was").hasSize(3);
    }

    @Test
    void aChangeAtTheBottomAppearsInAllThatFollow() {
        Asset fence = workshop.prefab("Fence", "Site", post);
        Asset yard = workshop.prefab("Yard", "Site", fence);
        Asset taller = workshop.block("Taller", "Scratch", 5);
        workshop.library()
                .publish(
                        post,
                        VersionStatus.READY,
                        (data, slug, version) -> {
                            try (var files = Files.list(taller.data("v001"))) {
                                for (Path file : files.toList()) {
                                    Files.copy(
                                            file,
                                            data.resolve(file.getFileName()
                                                    .toString()
                                                    .replace("taller.usda", slug + ".usda")));
                                }
                            }
                        },
                        java.util.Map.of(),
                        Progress.NONE);
        assertThat(fresh(yard.readyLayer()).model().bounds().size().y()).isCloseTo(5, within(1e-6));
    }

    @Test
    void theNextVersionOfAPrefabComesFromTheSceneToo() {
        Asset fence = prefab(SdfPath.of("/yard/Post"))
                .shelve("Fence", AssetKind.PREFAB, "Site", List.of(), Progress.NONE)
                .asset();
        Published next = prefab(scene.root()).publish(fence, VersionStatus.READY, "all three", Progress.NONE);
        assertThat(next.version()).isEqualTo("v002");
        assertThat(fresh(next.asset().readyLayer()).model().trianglesDrawn()).isEqualTo(36);
        assertThat(fresh(next.asset().entryLayer("v001")).model().trianglesDrawn())
                .isEqualTo(12);
        assertThat(workshop.library().verify(Progress.NONE).problems()).isEmpty();
    }

    @Test
    void whatIsNotOfTheLibraryIsRefusedByName() throws Exception {
        Path foreign = folder.resolve("foreign.usda");
        Files.writeString(
                foreign,
                "#usda 1.0\n(\n defaultPrim = \"F\"\n metersPerUnit = 1\n upAxis = \"Y\"\n)\ndef Cube \"F\" {}\n");
        scene.placements()
                .placeFile(foreign, Optional.empty(), "Foreign", TransformComponents.ORIGIN, Optional.empty());
        assertThatThrownBy(() -> prefab(scene.root()).shelve("All", AssetKind.SCENE, "Site", List.of(), Progress.NONE))
                .hasMessageContaining("foreign.usda")
                .hasMessageContaining("shelve it first");
        assertThat(workshop.library().assets()).as("nothing half done").hasSize(1);
        assertThat(workshop.library().root().resolve("incoming")).isEmptyDirectory();
        assertThatThrownBy(() -> prefab()).hasMessageContaining("nothing is chosen");
    }

    @Test
    void drawersKeepOfTheirMembersThoseThatComeAlong() {
        scene.drawers().put("Fence", List.of(SdfPath.of("/yard/Post"), SdfPath.of("/yard/Post_2")));
        scene.drawers().put("Other", List.of(SdfPath.of("/yard/Post_3")));
        Prefab one = prefab(SdfPath.of("/yard/Post"));
        Asset asset = one.shelve("One post", AssetKind.PREFAB, "Site", List.of(), Progress.NONE)
                .asset();
        assertThat(one.droppedMemberships()).isEqualTo(2);
        Scene made = fresh(asset.entryLayer("v001"));
        assertThat(made.stage().problems()).isEmpty();
        assertThat(made.stage().defaultPrim().orElseThrow().propertyNames())
                .contains("collection:Fence:includes")
                .doesNotContain("collection:Other:includes");
    }
}
