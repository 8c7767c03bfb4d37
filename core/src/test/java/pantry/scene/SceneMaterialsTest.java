package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.exchange.usd.MeshCache;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Published;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.render.RenderCache;
import pantry.testing.Workshop;
import pantry.usd.ListEdit;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.LayerCache;
import pantry.usd.schema.TransformComponents;
import pantry.workpiece.Workpiece;

/** A material of the scene stays on what is bound to it, whatever is made of that. */
class SceneMaterialsTest {
    private static final String YARD = """
            #usda 1.0
            (
                defaultPrim = "yard"
                metersPerUnit = 1
                upAxis = "Y"
            )
            def Xform "yard"
            {
                def Scope "Paints"
                {
                    def Material "Blue"
                    {
                        token outputs:surface.connect = </yard/Paints/Blue/Surface.outputs:surface>
                        def Shader "Surface"
                        {
                            uniform token info:id = "UsdPreviewSurface"
                            color3f inputs:diffuseColor.connect = </yard/Paints/Blue/Image.outputs:rgb>
                            float inputs:roughness = 0.25
                            token outputs:surface
                        }
                        def Shader "Image"
                        {
                            uniform token info:id = "UsdUVTexture"
                            asset inputs:file = @./paint/blue.png@
                            float3 outputs:rgb
                        }
                    }
                }
                def Xform "Hut"
                {
                    def Mesh "Wall" (prepend apiSchemas = ["MaterialBindingAPI"])
                    {
                        int[] faceVertexCounts = [4]
                        int[] faceVertexIndices = [0, 1, 2, 3]
                        point3f[] points = [(0, 0, 0), (1, 0, 0), (1, 1, 0), (0, 1, 0)]
                        texCoord2f[] primvars:st = [(0, 0), (1, 0), (1, 1), (0, 1)] (interpolation = "vertex")
                        rel material:binding = </yard/Paints/Blue>
                    }
                }
            }
            """;
    private static final SdfPath HUT = SdfPath.of("/yard/Hut");

    @TempDir
    private Path folder;

    private Workshop workshop;
    private Scene scene;

    @BeforeEach
    void open() throws IOException {
        workshop = new Workshop(folder);
        Path file = Files.createDirectories(folder.resolve("project")).resolve("yard.usda");
        Files.writeString(file, YARD);
        Files.createDirectories(file.resolveSibling("paint"));
        BufferedImage blue = new BufferedImage(4, 4, BufferedImage.TYPE_INT_RGB);
        blue.setRGB(1, 1, 0x2040C0);
        ImageIO.write(blue, "png", file.resolveSibling("paint/blue.png").toFile());
        scene = workshop.openScene(file);
    }

    @AfterEach
    void close() {
        workshop.close();
    }

    /** Each drawn mesh's material with the image that was found for it. */
    private static List<String> looks(Model model) {
        List<String> looks = new ArrayList<>();
        model.visit((owner, part, world) -> looks.add(part.material().name() + " "
                + part.material().roughness() + " "
                + part.material()
                        .texture(Material.Slot.BASE)
                        .flatMap(texture -> texture.file())
                        .map(file -> file.getFileName().toString())
                        .orElse("no image")));
        return looks;
    }

    private static Set<String> kinds(List<String> looks) {
        return new TreeSet<>(looks);
    }

    @Test
    void onInstancesAndLayouts() {
        scene.instancing().instance(HUT, "Second", TransformComponents.ORIGIN, Optional.empty());
        scene.instancing().instance(HUT, "Third", TransformComponents.ORIGIN, Optional.empty());
        assertThat(looks(scene.model())).hasSize(3).containsOnly("Blue 0.25 blue.png");
        scene.save();
        Scene again = Scene.open(scene.file(), new LayerCache(), new MeshCache());
        assertThat(again.stage().problems()).isEmpty();
        assertThat(looks(again.model())).isEqualTo(looks(scene.model()));
    }

    @Test
    void onWhatIsMadeAPrefab() {
        SdfPath second = scene.instancing().instance(HUT, "Second", TransformComponents.ORIGIN, Optional.empty());
        Asset huts = new Prefab(scene, workshop.layers(), List.of(HUT, second), workshop.library(), new RenderCache())
                .shelve("Huts", AssetKind.PREFAB, "Site", List.of(), Progress.NONE)
                .asset();
        Scene made = Scene.open(huts.readyLayer(), new LayerCache(), new MeshCache());
        assertThat(made.stage().problems()).isEmpty();
        assertThat(kinds(looks(made.model()))).containsExactly("Blue 0.25 blue.png");
        assertThat(huts.data("v001").resolve("textures/blue.png")).exists();
        assertThat(workshop.library().verify(Progress.NONE).ok()).isTrue();
    }

    @Test
    void onAnAssetThatItIsWrittenBackTo() {
        Asset block = workshop.block("Block", "Parts", 1);
        SdfPath placed = scene.placements()
                .place(block, Optional.empty(), "Block", TransformComponents.ORIGIN, Optional.empty());
        SdfPath body = placed.child("Body");
        bind(placed, body, SdfPath.of("/yard/Paints/Blue"));
        Published published = writeBack(placed);
        Scene asset = Scene.open(published.asset().readyLayer(), new LayerCache(), new MeshCache());
        assertThat(asset.stage().problems()).isEmpty();
        assertThat(looks(asset.model())).containsExactly("Blue 0.25 blue.png");
        assertThat(asset.model().materials().iterator().next().base())
                .as("white below the image")
                .isEqualTo(new Colour(1, 1, 1));
        assertThat(looks(scene.model())).contains("Blue 0.25 blue.png");
        assertThat(published.asset().data("v002").resolve("textures/blue.png")).exists();
        assertThat(workshop.library().verify(Progress.NONE).ok()).isTrue();
    }

    @Test
    void whatAnAssetCannotHaveIsRefusedBeforeAnythingIsPublished() {
        Asset block = workshop.block("Block", "Parts", 1);
        SdfPath placed = scene.placements()
                .place(block, Optional.empty(), "Block", TransformComponents.ORIGIN, Optional.empty());
        scene.own()
                .editor()
                .changeAll(
                        "spoke of the hut",
                        edits -> edits.change(
                                placed.child("Body"),
                                prim -> prim.put(
                                        new RelationshipSpec("beside").setTargets(ListEdit.explicit(List.of(HUT))))));
        assertThatThrownBy(() -> writeBack(placed))
                .hasMessageContaining("</yard/Hut>")
                .hasMessageContaining("let that override go");
        assertThat(workshop.library().byId(block.card().id()).orElseThrow().versions())
                .hasSize(1);
    }

    private void bind(SdfPath placed, SdfPath mesh, SdfPath material) {
        scene.own().editor().changeAll("painted", edits -> {
            edits.setField(placed, "instanceable", new Value.Bool(false));
            edits.change(
                    mesh,
                    prim -> prim.put(
                            new RelationshipSpec("material:binding").setTargets(ListEdit.explicit(List.of(material)))));
        });
    }

    private Published writeBack(SdfPath placed) {
        return scene.overrides()
                .writeBack(
                        placed,
                        "painted",
                        new Overrides.Publisher(
                                file -> Optional.of(workshop.library()),
                                new Workpiece.Sources(workshop.readers(), workshop.layers(), new MeshCache()),
                                new RenderCache()),
                        Progress.NONE);
    }
}
