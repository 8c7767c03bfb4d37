package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Named;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import pantry.base.Json;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.library.Asset;
import pantry.testing.Oracle;
import pantry.testing.TinyUsdz;
import pantry.testing.WithWorkshop;
import pantry.usd.Layer;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.Flattener;
import pantry.usd.schema.TransformComponents;

/**
 * Each operation on a scene: what it saved says the same to tinyusdz, an independent reader, as to Pantry.
 */
@DisplayName("Every operation on a scene is read alike by an independent reader")
class OutsideOperationsTest extends WithWorkshop {
    private static final Pattern WHOLE = Pattern.compile("\\.0(?!\\d)");

    private Scene scene;
    private Yard yard;

    /** What the operations work on: two blocks and a mast, of which one block hangs under an anchor. */
    private record Yard(Scene scene, Asset block, Asset mast, SdfPath first, SdfPath second, SdfPath tall) {}

    @BeforeEach
    void build() throws Exception {
        Files.createDirectories(folder.resolve("project"));
        Asset block = workshop.block("Block", "Parts", 1);
        Asset mast = workshop.block("Mast", "Parts", 9);
        scene = workshop.newScene(folder.resolve("project/yard.usda"));
        SdfPath first = put(block, 0);
        SdfPath second = put(block, 4);
        SdfPath tall = put(mast, 9);
        SdfPath anchor = scene.structure().group(List.of(second), "Anchor");
        yard = new Yard(scene, block, mast, first, anchor.child(second.name()), tall);
    }

    private SdfPath put(Asset asset, double x) {
        return scene.placements()
                .place(
                        asset,
                        Optional.empty(),
                        asset.card().name(),
                        new TransformComponents(new Vec3(x, 0, 1), new Vec3(0, 30, 0), Vec3.ONE),
                        Optional.empty());
    }

    private static Named<Consumer<Yard>> operation(String name, Consumer<Yard> operation) {
        return Named.of(name, operation);
    }

    /** Operations after which every vertex stands where it stood. */
    static Stream<Named<Consumer<Yard>>> still() {
        return Stream.of(
                operation(
                        "group", yard -> yard.scene().structure().group(List.of(yard.first(), yard.tall()), "Corner")),
                operation("ungroup", yard -> yard.scene()
                        .structure()
                        .ungroup(List.of(yard.second().parent()))),
                operation("reparent", yard -> yard.scene()
                        .structure()
                        .reparent(List.of(yard.tall()), yard.second().parent())),
                operation("rename", yard -> yard.scene().structure().rename(yard.first(), "Cornerstone")),
                operation("break out", yard -> yard.scene().structure().breakOut(List.of(yard.first()))),
                operation(
                        "cut a section",
                        yard -> yard.scene().sections().cut(List.of(yard.first(), yard.tall()), "North")),
                operation("join a section", yard -> {
                    SdfPath section = yard.scene().sections().cut(List.of(yard.first()), "North");
                    yard.scene().sections().join(section, "tester");
                }),
                operation("put into a drawer", yard -> yard.scene().drawers().put("Masts", List.of(yard.tall()))),
                operation("lock a drawer", yard -> {
                    yard.scene().drawers().put("Masts", List.of(yard.tall()));
                    yard.scene().drawers().set("Masts", new Drawers.State(true, true, false));
                }),
                operation("mark an anchor", yard -> yard.scene()
                        .anchors()
                        .draw(yard.second().parent(), new Anchors.Mark(Anchors.Shape.ARROW, 2, 0xB9770E))),
                operation("keep a focus", yard -> yard.scene()
                        .focuses()
                        .keep(new Focus("Near", Focus.Detail.LIGHT, Set.of(), Set.of(), Optional.empty()))));
    }

    /** Operations that are there to change what is seen. */
    static Stream<Named<Consumer<Yard>>> changing() {
        return Stream.of(
                operation("place pinned", yard -> yard.scene()
                        .placements()
                        .place(yard.mast(), Optional.of("v001"), "More", TransformComponents.ORIGIN, Optional.empty())),
                operation("move and turn", yard -> yard.scene()
                        .arranging()
                        .move(Map.of(
                                yard.first(),
                                new TransformComponents(new Vec3(1, 2, 3), new Vec3(10, 20, 30), Vec3.ONE)))),
                operation("mirror", yard -> yard.scene().arranging().mirror(List.of(yard.first(), yard.tall()), 0)),
                operation("align", yard -> yard.scene()
                        .arranging()
                        .align(List.of(yard.first(), yard.second(), yard.tall()), 2, Arranging.Side.LEAST)),
                operation(
                        "spread",
                        yard -> yard.scene().arranging().spread(List.of(yard.first(), yard.second(), yard.tall()), 0)),
                operation("centre on", yard -> yard.scene().arranging().centreOn(List.of(yard.first()), yard.tall())),
                operation("reset", yard -> yard.scene().arranging().reset(List.of(yard.first()))),
                operation("switch off", yard -> yard.scene().structure().switchOn(List.of(yard.first()), false)),
                operation("hide", yard -> yard.scene().structure().show(List.of(yard.second()), false)),
                operation("remove", yard -> yard.scene().structure().remove(List.of(yard.second()))),
                operation(
                        "replace",
                        yard -> yard.scene().placements().replace(yard.first(), yard.mast(), Optional.of("v001"))),
                operation("override", yard -> yard.scene()
                        .overrides()
                        .set(
                                yard.first().child("Body").property("primvars:displayColor"),
                                "color3f[]",
                                new Value.Floats(new float[] {0.9f, 0.1f, 0.1f}, 3))),
                operation("paste", yard -> SceneClipboard.of(yard.scene(), List.of(yard.second()))
                        .paste(yard.scene(), Optional.empty())),
                operation("scatter on a surface", yard -> yard.scene()
                        .layouts()
                        .lay(
                                yard.first(),
                                "Scattered",
                                new Layout.OnSurface(yard.tall().toString(), 4, 0, 0.1, 20, true, 3),
                                Layout.Variation.NONE)),
                operation("mix two objects on what is below, and otherwise then", yard -> {
                    SdfPath group = yard.scene()
                            .layouts()
                            .lay(
                                    List.of(yard.first(), yard.second()),
                                    "Mixed",
                                    new LayoutPlan(
                                            new Layout.Grid(new int[] {4, 1, 1}, new Vec3(2, 0, 0)),
                                            Layout.Variation.NONE,
                                            List.of(1.0, 3.0),
                                            true));
                    yard.scene()
                            .layouts()
                            .relay(group, new Layout.Ring(5, 72, new Vec3(3, 0, 0), true), Layout.Variation.NONE);
                }),
                operation("cut out a section", yard -> yard.scene()
                        .sections()
                        .cut(
                                List.of(yard.scene()
                                        .root()
                                        .child(yard.tall().names().get(1))),
                                "Tall")),
                operation("lock an axis", yard -> yard.scene().axisLocks().set(1, true)),
                operation("settle", yard -> {
                    Settling.Settled settled = Settling.of(yard.scene(), List.of(yard.first()), List.of(), true)
                            .fall(10, Progress.NONE, Settling.Watcher.NONE);
                    yard.scene().arranging().transform("settled", settled.changes());
                }),
                operation("alternates", yard -> {
                    Alternates alternates = yard.scene().alternates();
                    alternates.add("layout", "wide");
                    alternates.keep("layout", "wide", List.of(yard.first()));
                    alternates.add("layout", "narrow");
                    alternates.keep("layout", "narrow", List.of(yard.tall()));
                    alternates.choose("layout", "wide");
                }));
    }

    @ParameterizedTest
    @MethodSource("still")
    void nothingMoves(Consumer<Yard> operation) {
        Map<String, List<Vec3>> drawn = ArrangingTest.vertices(scene);
        check(operation);
        assertThat(points(ArrangingTest.vertices(scene)))
                .usingElementComparator((a, b) -> a.minus(b).length() < 1e-6 ? 0 : 1)
                .containsExactlyInAnyOrderElementsOf(points(drawn));
    }

    @ParameterizedTest
    @MethodSource("changing")
    void isReadAlike(Consumer<Yard> operation) {
        check(operation);
    }

    private void check(Consumer<Yard> operation) {
        operation.accept(yard);
        scene.save();
        Layer flat = Flattener.flatten(scene.stage(), Flattener.Instances.EXPANDED, scene.file());
        assertThat(comparable(TinyUsdz.compose(List.of(scene.file())).getFirst()))
                .isEqualTo(comparable(TinyUsdz.facts(flat)));
    }

    /** Without targets, which tinyusdz leaves as the file that was brought in says them; 30 and 30.0 are the same. */
    private static Map<String, String> comparable(Map<String, String> facts) {
        Map<String, String> kept = new TreeMap<>();
        facts.forEach((path, says) -> {
            if (!path.contains(" -> ")) {
                kept.put(path, WHOLE.matcher(says).replaceAll(""));
            }
        });
        return kept;
    }

    private static List<Vec3> points(Map<String, List<Vec3>> drawn) {
        return drawn.values().stream().flatMap(List::stream).toList();
    }

    private record GltfUses(int errors, int meshes, Map<String, Integer> uses) {}

    /** Panels in a row, rows in a field: their product, counted by glTF-Transform in the exported file. */
    @Test
    void anExportedFieldHasAsManyUsesAsTheProductSays() {
        SdfPath row = scene.layouts()
                .lay(
                        yard.first(),
                        "Row",
                        new Layout.Grid(new int[] {7, 1, 1}, new Vec3(2, 0, 0)),
                        Layout.Variation.NONE);
        scene.layouts()
                .lay(row, "Field", new Layout.Grid(new int[] {1, 1, 6}, new Vec3(0, 0, 3)), Layout.Variation.NONE);
        Path file = folder.resolve("field.glb");
        ModelWriters.write(scene.model(), file);
        GltfUses report = Json.read(Oracle.run("validate-gltf.mjs", file.toString()), "report", GltfUses.class);
        assertThat(report.errors()).isZero();
        assertThat(report.meshes()).isEqualTo(2);
        // The second block hangs under the anchor still, and the mast is by itself.
        assertThat(report.uses().values()).containsExactlyInAnyOrder(7 * 6 + 1, 1);
        assertThat(scene.model().trianglesStored()).isEqualTo(24);
        assertThat(scene.model().trianglesDrawn()).isEqualTo(12 * (7 * 6 + 1) + 12);
    }
}
