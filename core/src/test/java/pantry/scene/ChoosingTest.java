package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.awt.image.BufferedImage;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.render.Camera;
import pantry.render.RenderCache;
import pantry.testing.Workshop;
import pantry.usd.ListEdit;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.schema.TransformComponents;
import pantry.usd.schema.Xforms;

@DisplayName("Drawers' states, focuses, anchors, clippings and surfaces")
class ChoosingTest extends WithYard {
    private SdfPath put(Asset asset, double x) {
        return Workshop.stand(scene, asset, x);
    }

    @Test
    @DisplayName("drawers are hidden, locked and unloaded; it is kept with the scene and undone")
    void states() {
        SdfPath a = put(block, 0);
        SdfPath b = put(mast, 3);
        scene.drawers().put("Masts", List.of(b));
        scene.drawers().put("All", List.of(a, b));
        scene.drawers().set("Masts", new Drawers.State(true, false, true));
        scene.drawers().set("All", new Drawers.State(false, true, false));
        assertThat(scene.drawers().in(Drawers.State::hidden)).containsExactly(b);
        assertThat(scene.drawers().in(Drawers.State::locked)).containsExactlyInAnyOrder(a, b);
        Set<SdfPath> hidden = scene.drawers().in(Drawers.State::hidden);
        assertThat(scene.model(path -> false, hidden::contains).bounds().size().y())
                .isCloseTo(1, within(1e-6));
        scene.save();
        Scene again = workshop.openScene(scene.file());
        assertThat(again.drawers().state("Masts")).isEqualTo(new Drawers.State(true, false, true));
        scene.undo();
        assertThat(scene.drawers().state("All")).isEqualTo(Drawers.State.OPEN);
        assertThatThrownBy(() -> scene.drawers().set("None", Drawers.State.OPEN))
                .hasMessageContaining("no drawer");
    }

    @Test
    @DisplayName("what is unloaded is not read, and is there again when it is loaded")
    void unload() {
        put(block, 0);
        SdfPath b = put(mast, 3);
        long all = scene.model().trianglesDrawn();
        scene.load(path -> !path.startsWith(b));
        assertThat(scene.stage().prim(b).orElseThrow().isLoaded()).isFalse();
        assertThat(scene.model().trianglesDrawn()).isLessThan(all);
        scene.load(path -> true);
        assertThat(scene.model().trianglesDrawn()).isEqualTo(all);
    }

    @Test
    @DisplayName("a focus is kept with the scene and drawn as a picture of what it shows")
    void focuses() throws Exception {
        put(block, 0);
        SdfPath b = put(mast, 3);
        scene.drawers().put("Masts", List.of(b));
        Focus.Eye eye =
                Pictures.eye(Camera.START.framing(scene.model().bounds(), 1.6).parallel(true));
        scene.focuses().keep(new Focus("Everything", Focus.Detail.FULL, Set.of(), Set.of(), Optional.of(eye)));
        scene.focuses().keep(new Focus("Low", Focus.Detail.LIGHT, Set.of("Masts"), Set.of(), Optional.of(eye)));
        scene.save();
        Scene again = workshop.openScene(scene.file());
        assertThat(again.focuses().all()).extracting(Focus::name).containsExactly("Everything", "Low");
        assertThat(Pictures.camera(again.focuses().all().getFirst().from().orElseThrow()))
                .isEqualTo(Pictures.camera(eye));
        Pictures pictures = new Pictures(new RenderCache());
        Path file = folder.resolve("pictures/everything.png");
        Files.createDirectories(file.getParent());
        Pictures.write(pictures.of(again, again.focuses().all().getFirst(), false, 160, 100), file);
        int everything = inked(ImageIO.read(file.toFile()));
        int low = inked(pictures.of(again, again.focuses().all().get(1), false, 160, 100));
        assertThat(everything).isGreaterThan(3 * low);
        assertThat(low).isPositive();
        again.focuses().remove("Low");
        assertThat(again.focuses().all()).hasSize(1);
        assertThatThrownBy(() -> again.focuses().remove("Low")).hasMessageContaining("no focus \"Low\"");
    }

    /** Pixels of red, which is what blocks are painted with. */
    private static int inked(BufferedImage image) {
        int count = 0;
        for (int y = 0; y < image.getHeight(); y++) {
            for (int x = 0; x < image.getWidth(); x++) {
                int rgb = image.getRGB(x, y);
                count += (rgb >> 16 & 0xFF) > 2 * (rgb >> 8 & 0xFF) ? 1 : 0;
            }
        }
        return count;
    }

    @Test
    @DisplayName("a sheet shows each combination of alternates")
    void sheet() {
        SdfPath a = put(block, 0);
        SdfPath b = put(mast, 3);
        scene.alternates().add("layout", "wide");
        scene.alternates().keep("layout", "wide", List.of(a));
        scene.alternates().add("layout", "narrow");
        scene.alternates().keep("layout", "narrow", List.of(b));
        BufferedImage sheet = new Pictures(new RenderCache()).sheet(scene, 160, Progress.NONE);
        int half = sheet.getWidth() / 2;
        int wide = inked(sheet.getSubimage(0, 0, half, sheet.getHeight()));
        int narrow = inked(sheet.getSubimage(half, 0, half, sheet.getHeight()));
        assertThat(wide).isPositive();
        assertThat(narrow).isPositive().isNotEqualTo(wide);
    }

    @Test
    @DisplayName("two lightings look different on a sheet, under one exposure; without lamps it is Pantry's light")
    void lightings() throws Exception {
        put(block, 0);
        for (String[] light : new String[][] {{"day", "4"}, {"night", "0.25"}}) {
            Path file = folder.resolve("project/" + light[0] + ".usda");
            Files.writeString(
                    file,
                    "#usda 1.0\n(defaultPrim = \"Sky\" metersPerUnit = 1 upAxis = \"Y\")\ndef DomeLight \"Sky\" "
                            + "{ float inputs:intensity = " + light[1] + " }");
            scene.alternates().add("light", light[0]);
            scene.alternates().refer("light", light[0], light[0], file);
        }
        assertThat(scene.lamps(path -> false)).hasSize(1);
        BufferedImage sheet = new Pictures(new RenderCache()).sheet(scene, 160, Progress.NONE);
        int half = sheet.getWidth() / 2;
        double day = brightness(sheet.getSubimage(12, 12, half - 20, 90));
        double night = brightness(sheet.getSubimage(half + 12, 12, half - 20, 90));
        assertThat(night).isLessThan(day * 0.5);

        Focus all = new Focus("All", Focus.Detail.FULL, Set.of(), Set.of(), Optional.empty());
        Pictures pictures = new Pictures(new RenderCache());
        double own = brightness(pictures.of(scene, all, true, 160, 100));
        double usual = brightness(pictures.of(scene, all, false, 160, 100));
        assertThat(own).isNotEqualTo(usual);
        scene.structure()
                .remove(scene.placements().all().stream()
                        .map(Placement::path)
                        .filter(path -> path.name().equals("night"))
                        .toList());
        assertThat(brightness(pictures.of(scene, all, true, 160, 100))).isEqualTo(usual);
    }

    /** The mean of the green of a picture. */
    private static double brightness(BufferedImage picture) {
        long sum = 0;
        for (int y = 0; y < picture.getHeight(); y++) {
            for (int x = 0; x < picture.getWidth(); x++) {
                sum += picture.getRGB(x, y) >> 8 & 0xff;
            }
        }
        return (double) sum / picture.getWidth() / picture.getHeight();
    }

    @Test
    @DisplayName(
            "anchors have marks that nothing renders; what hangs on them turns with them, and leaves without the mark")
    void anchors() {
        Anchors.Mark ring = new Anchors.Mark(Anchors.Shape.RING, 2, 0xB9770E);
        SdfPath anchor = scene.anchors()
                .make("Pole", ring, TransformComponents.ORIGIN.withMove(new Vec3(5, 0, 0)), Optional.empty());
        SdfPath a = put(block, 0);
        SdfPath hung = scene.structure().reparent(List.of(a), anchor).getFirst();
        Vec3 before = scene.arranging().box(hung).centre();
        scene.arranging()
                .move(Map.of(anchor, new TransformComponents(new Vec3(5, 0, 0), new Vec3(0, 90, 0), Vec3.ONE)));
        Vec3 after = scene.arranging().box(hung).centre();
        // A quarter turn about the anchor: (-5, 0, 0) from it becomes (0, 0, 5).
        assertThat(before.minus(new Vec3(0, 0.5, 0)).length()).isLessThan(1e-6);
        assertThat(after.minus(new Vec3(5, 0.5, 5)).length()).isLessThan(1e-6);
        assertThat(scene.anchors().mark(anchor)).contains(ring);
        assertThat(scene.model().trianglesDrawn()).isEqualTo(12);
        for (Anchors.Shape shape : Anchors.Shape.values()) {
            Anchors.Mark mark = new Anchors.Mark(shape, 3, 0x2F6B57);
            scene.anchors().draw(anchor, mark);
            assertThat(scene.anchors().mark(anchor)).contains(mark);
            assertThat(mark.lines()).allSatisfy(line -> assertThat(line).hasSizeGreaterThan(1));
        }
        assertThat(scene.structure().ungroup(List.of(anchor))).hasSize(1);
        assertThat(scene.layer().prim(scene.root()).orElseThrow().childNames()).hasSize(1);
        assertThatThrownBy(() -> scene.anchors().draw(put(mast, 3), ring)).hasMessageContaining("no anchor");
    }

    @Test
    @DisplayName("what is pasted in another scene stands where it stood, with its materials, and keeps its references")
    void clippings() throws Exception {
        SdfPath a = put(block, 2);
        SdfPath group = scene.structure().group(List.of(a, put(mast, 5)), "Pair");
        scene.arranging().transform("turned", Map.of(group, Matrix4.rotation(1, 40)));
        SdfPath paint = scene.root().child("Materials").child("Paint");
        scene.own().editor().changeAll("painted", edits -> {
            edits.define(paint.parent(), "Scope");
            edits.define(paint, "Material");
            edits.set(paint.property("userProperties:coat"), "int", new Value.Int(2));
            edits.changeRelationship(
                    group.property("material:binding"), spec -> spec.setTargets(ListEdit.explicit(List.of(paint))));
        });
        SceneClipboard clipping = SceneClipboard.of(scene, List.of(group));
        assertThat(clipping.needs()).containsExactly(paint);
        scene.structure().remove(List.of(group));

        Files.createDirectories(folder.resolve("project/deep/er"));
        Scene other = workshop.newScene(folder.resolve("project/deep/er/hall.usda"));
        SdfPath under = other.anchors()
                .make(
                        "Under",
                        Anchors.Mark.USUAL,
                        new TransformComponents(new Vec3(3, 1, 0), new Vec3(0, 30, 0), Vec3.ONE),
                        Optional.empty());
        SdfPath pasted = clipping.paste(other, Optional.of(under)).getFirst();
        scene.undo();
        ArrangingTest.assertSame(ArrangingTest.vertices(scene), ArrangingTest.vertices(other));
        assertThat(other.placements().all()).hasSize(2).allMatch(each -> each.held() != Placement.Held.MISSING);
        assertThat(other.stage().prim(pasted).orElseThrow().targets("material:binding"))
                .containsExactly(SdfPath.of("/hall/Materials/Paint"));
        // A second time the material is taken that is there.
        clipping.paste(other, Optional.empty());
        assertThat(other.layer()
                        .prim(SdfPath.of("/hall/Materials"))
                        .orElseThrow()
                        .childNames())
                .hasSize(1);
        other.save();
        assertThat(workshop.openScene(other.file()).model().trianglesDrawn())
                .isEqualTo(other.model().trianglesDrawn());
        assertThatThrownBy(() -> SceneClipboard.of(scene, List.of(scene.root())))
                .hasMessageContaining("below the scene's root");
    }

    @Test
    @DisplayName("uses are scattered on a surface: on it, apart, level enough, and the same again from the seed")
    void surface() {
        SdfPath hill = put(block, 0);
        scene.arranging()
                .move(Map.of(
                        hill, new TransformComponents(new Vec3(10, 0, 0), new Vec3(0, 25, 15), new Vec3(12, 2, 9))));
        SdfPath flag = put(mast, -20);
        Layout.OnSurface layout = new Layout.OnSurface(hill.toString(), 0, 0.4, 1.2, 40, true, 7);
        SdfPath group = scene.layouts().lay(flag, "Flags", layout, Layout.Variation.NONE);
        List<Vec3> feet = feet(group);
        assertThat(feet.size()).isBetween(25, 44);
        Matrix4 into = Xforms.world(scene.stage().prim(hill).orElseThrow()).inverse();
        for (int i = 0; i < feet.size(); i++) {
            Vec3 local = into.point(feet.get(i));
            assertThat(local.y()).isCloseTo(1, within(1e-4));
            assertThat(Math.abs(local.x())).isLessThanOrEqualTo(0.5001);
            for (int j = 0; j < i; j++) {
                assertThat(feet.get(i).minus(feet.get(j)).length()).isGreaterThan(1.2 - 1e-6);
            }
        }
        scene.layouts()
                .relay(group, new Layout.OnSurface(hill.toString(), 5, 0, 0, 90, true, 8), Layout.Variation.NONE);
        assertThat(feet(group)).hasSize(5);
        scene.layouts().relay(group, layout, Layout.Variation.NONE);
        assertThat(feet(group)).isEqualTo(feet);
        Layout.OnSurface level = new Layout.OnSurface(hill.toString(), 5, 0, 0, 10, true, 8);
        assertThatThrownBy(() -> scene.layouts().relay(group, level, Layout.Variation.NONE))
                .hasMessageContaining("level enough");
        Layout.OnSurface nowhere = new Layout.OnSurface("/yard/Nowhere", 5, 0, 0, 10, true, 8);
        assertThatThrownBy(() -> scene.layouts().relay(group, nowhere, Layout.Variation.NONE))
                .hasMessageContaining("there is no </yard/Nowhere>");
        assertThat(feet(group)).isEqualTo(feet);
    }

    private List<Vec3> feet(SdfPath group) {
        List<Vec3> feet = new ArrayList<>();
        for (String name : scene.layer().prim(group).orElseThrow().childNames()) {
            feet.add(Xforms.world(scene.stage().prim(group.child(name)).orElseThrow())
                    .translationPart());
        }
        return feet;
    }

    @Test
    @DisplayName("a section is held by one; what stands in an area is found for it")
    void sections() {
        SdfPath a = put(block, 0);
        put(block, 10);
        assertThat(scene.sections().inArea(new Vec3(-2, 0, -2), new Vec3(3, 0, 2)))
                .containsExactly(a);
        SdfPath section = scene.sections().cut(List.of(a), "West");
        scene.sections().reserve(section, "Tove");
        scene.sections().reserve(section, "Tove");
        assertThat(scene.sections().holder(section)).contains(new Sections.Hold("Tove"));
        assertThatThrownBy(() -> scene.sections().reserve(section, "Iben"))
                .hasMessageContaining("Tove holds the section");
        assertThatThrownBy(() -> scene.sections().release(section, "Iben"))
                .hasMessageContaining("Tove holds the section");
        scene.sections().release(section, "Tove");
        scene.sections().reserve(section, "Iben");
        assertThat(scene.sections().holder(section)).contains(new Sections.Hold("Iben"));
    }

    @Test
    @DisplayName("a selection that became a prefab is replaced by a placement of it, and nothing moves")
    void substitute() {
        SdfPath a = put(block, 2);
        SdfPath b = put(mast, 5);
        var before = ArrangingTest.vertices(scene);
        Prefab prefab = new Prefab(scene, workshop.layers(), List.of(a, b), library, new RenderCache());
        Asset pair = prefab.shelve("Pair", AssetKind.PREFAB, "Groups", List.of(), Progress.NONE)
                .asset();
        Vec3 origin = prefab.origin();
        SdfPath placed = scene.placements().substitute(List.of(a, b), pair, origin);
        assertThat(scene.placements().all()).extracting(Placement::path).containsExactly(placed);
        ArrangingTest.assertSame(before, ArrangingTest.vertices(scene));
        scene.undo();
        assertThat(scene.placements().all()).hasSize(2);
    }
}
