package pantry.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.intake.Pivot;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.LibraryException;
import pantry.mesh.Merging;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.testing.Workshop;
import pantry.usd.AssetPaths;
import pantry.usecase.MergeAssets;

/**
 * Assets that are the same thing are found and merged, and every vertex of every file stays where it was: known files and
 * unknown ones.
 */
class AssetTwinsTest extends WithProject {
    private static final Mesh SLED = Merging.of(List.of(
            Shapes.box(new Vec3(0, 0, 0), new Vec3(3, 0.2, 1)),
            Shapes.box(new Vec3(0, 0.2, 0), new Vec3(0.3, 1.4, 0.4)),
            Shapes.cylinder(0.2, 0.8, 9).transformed(Matrix4.translation(new Vec3(2, 0.2, 0.6)))));

    private static final Matrix4 OTHERWISE =
            Matrix4.rotation(0, 90).times(Matrix4.rotation(1, 25)).times(Matrix4.translation(new Vec3(4, -1, 2)));

    private static final Mesh LATHED =
            Shapes.lathe(new double[] {0, 0.5, 0.3, 0.6}, new double[] {0, 0, 1, 1.4}, 11, false);

    private Asset sled;
    private Asset same;
    private Asset turned;
    private Path sleds;
    private Path unknown;

    @BeforeEach
    void shelve() throws IOException {
        sled = shelve("Sled", "Sleds", SLED, Workshop.RED);
        same = shelve("Old sled", "Attic", SLED, Material.plain("Another red", Workshop.RED.base(), 0, 0.5));
        turned = shelve("Toboggan", "Attic", SLED.transformed(OTHERWISE), Workshop.RED);
        shelve("Small sled", "Sleds", SLED.transformed(Matrix4.scale(new Vec3(0.5, 0.5, 0.5))), Workshop.RED);
        sleds = project.resolve("sleds.usda");
        scene(sleds, scene -> {
            for (int i = 0; i < 4; i++) {
                place(scene, sled, Optional.empty());
            }
            place(scene, same, Optional.empty());
            place(scene, same, Optional.of("v001"));
            scene.placements()
                    .place(
                            turned,
                            Optional.empty(),
                            "Turned",
                            pantry.usd.schema.TransformComponents.ORIGIN,
                            Optional.empty());
        });
        unknown = Files.createDirectories(folder.resolve("elsewhere")).resolve("unknown.usda");
        scene(unknown, scene -> {
            place(scene, same, Optional.of("v001"));
            place(scene, turned, Optional.empty());
        });
    }

    private static Model model(String name, Mesh mesh, Material material) {
        return new Model(
                name,
                List.of(Model.Node.of("Body", Matrix4.IDENTITY, List.of(new Model.Part(mesh, material)), List.of())),
                Model.Extras.NONE);
    }

    private Asset shelve(String name, String shelf, Mesh mesh, Material material) {
        return workshop.intake()
                .shelve(
                        model(name, mesh, material),
                        Workshop.slip(name, shelf).withPivot(Pivot.KEEP),
                        library,
                        Progress.NONE)
                .asset();
    }

    /** All points of a file as they are composed, sorted. */
    private List<Vec3> points(Path file) {
        List<Vec3> points = new ArrayList<>();
        workshop.openScene(file).model().roots().forEach(root -> add(root, Matrix4.IDENTITY, points));
        points.sort(Comparator.comparingDouble((Vec3 point) -> Math.rint(point.x() * 1e4))
                .thenComparingDouble(point -> Math.rint(point.y() * 1e4))
                .thenComparingDouble(point -> Math.rint(point.z() * 1e4)));
        return points;
    }

    private static void add(Model.Node node, Matrix4 above, List<Vec3> points) {
        Matrix4 world = node.local().times(above);
        for (Model.Part part : node.parts()) {
            float[] all = part.mesh().points();
            for (int i = 0; i < all.length; i += 3) {
                points.add(world.point(new Vec3(all[i], all[i + 1], all[i + 2])));
            }
        }
        node.children().forEach(child -> add(child, world, points));
    }

    private void standWhereTheyStood(Path file, List<Vec3> before) {
        List<Vec3> after = points(file);
        assertThat(after).hasSameSizeAs(before);
        for (int i = 0; i < before.size(); i++) {
            assertThat(after.get(i).minus(before.get(i)).length())
                    .as("point " + i + " of " + file)
                    .isCloseTo(0, within(1e-4));
        }
    }

    private MergeAssets merging() {
        return new MergeAssets(reach(), new ChangeRuns(folder.resolve("changes"), Clock.systemUTC()));
    }

    private List<AssetTwins.Pair> pairs() {
        return AssetTwins.find(reach(), Progress.NONE).stream()
                .filter(pair -> pair.kept().card().name().equals("Sled"))
                .toList();
    }

    private static MergeAssets.Result run(MergeAssets merging, List<AssetTwins.Pair> pairs) {
        return merging.run(pairs, file -> AssetPaths.PLAIN, file -> "", Progress.NONE);
    }

    @Test
    void theOnePlacedMostIsKeptAndSizesAreDifferentThings() {
        List<AssetTwins.Pair> pairs = pairs();
        assertThat(pairs)
                .extracting(pair -> pair.gone().card().name())
                .containsExactlyInAnyOrder("Old sled", "Toboggan");
        for (AssetTwins.Pair pair : pairs) {
            assertThat(pair.sameLook()).as("names of materials do not count").isTrue();
            assertThat(pair.isSamePlace()).isEqualTo(pair.gone().equals(same));
            assertThat(pair.placements()).isEqualTo(pair.gone().equals(same) ? 2 : 1);
        }
    }

    @Test
    void whatOffersSomethingElseBesidesItsShapeIsSomethingElse() {
        Slip prefab = Workshop.slip("Sled with a purpose", "Sleds")
                .withPivot(Pivot.KEEP)
                .withKind(AssetKind.PREFAB);
        workshop.intake().shelve(model("Sled with a purpose", SLED, Workshop.RED), prefab, library, Progress.NONE);
        assertThat(pairs()).extracting(pair -> pair.gone().card().name()).doesNotContain("Sled with a purpose");
    }

    @Test
    void whatWasExportedAndTakenInAgainIsTheSameThing() {
        Path exported = folder.resolve("exported.glb");
        ModelWriters.write(model("Exported", LATHED, Workshop.RED), exported);
        shelve("Vase", "Sleds", LATHED, Workshop.RED);
        workshop.intake()
                .shelve(
                        workshop.readers().read(exported, Progress.NONE),
                        Workshop.slip("Exported", "Attic").withPivot(Pivot.KEEP),
                        library,
                        Progress.NONE);
        assertThat(AssetTwins.find(reach(), Progress.NONE))
                .extracting(pair ->
                        pair.gone().card().name() + ", " + pair.kept().card().name())
                .as("its polygons are triangles now, and its corners have points of their own")
                .contains("Vase, Exported");
    }

    @Test
    void otherColoursAreToldAndStillAreOfOneShape() {
        shelve("Green sled", "Sleds", SLED, Material.plain("Red", new Colour(0, 0.5f, 0), 0, 0.5f));
        assertThat(pairs())
                .filteredOn(pair -> !pair.sameLook())
                .extracting(pair -> pair.gone().card().name())
                .containsExactly("Green sled");
    }

    @Test
    void everyVertexStaysWhereItWasInKnownFilesAndInUnknownOnes() {
        List<Vec3> known = points(sleds);
        List<Vec3> others = points(unknown);
        MergeAssets.Result result = run(merging(), pairs());
        assertThat(result.files().failed()).isEmpty();
        assertThat(result.files().changed()).containsExactly(sleds);
        standWhereTheyStood(sleds, known);
        standWhereTheyStood(unknown, others);
        assertThat(library.byId(same.card().id())).isEmpty();
        assertThat(library.trash().items()).hasSize(2);
        assertThat(library.verify(Progress.NONE).problems()).isEmpty();
        assertThat(reach().uses(current(sled), Optional.empty()).stream()
                        .mapToLong(Reach.SceneUse::placements)
                        .sum())
                .isEqualTo(7);
        assertThat(library.owner(same.folder().resolve("v001/data/old-sled.usda"))
                        .orElseThrow()
                        .asset())
                .as("what names the old place is of the asset that is kept")
                .isEqualTo(current(sled));
    }

    @Test
    void whatIsMergedIsTakenBackAsAWhole() throws IOException {
        String before = Files.readString(sleds);
        List<Vec3> others = points(unknown);
        MergeAssets merging = merging();
        MergeAssets.Result result = run(merging, pairs());
        merging.takeBack(result);
        assertThat(Files.readString(sleds)).isEqualTo(before);
        assertThat(current(same).folder()).isEqualTo(same.folder());
        assertThat(current(turned).versions()).containsExactly("v001");
        assertThat(library.trash().items()).isEmpty();
        assertThat(library.verify(Progress.NONE).problems()).isEmpty();
        standWhereTheyStood(unknown, others);
        assertThat(pairs()).hasSize(2);
    }

    @Test
    void whatIsMadeOfTheOneThatGoesIsMadeOfTheOther() {
        Asset train = workshop.prefab("Train", "Trains", same);
        Path trains = project.resolve("trains.usda");
        scene(trains, scene -> place(scene, train, Optional.empty()));
        List<Vec3> before = points(trains);
        MergeAssets merging = merging();
        MergeAssets.Result result = run(
                merging, pairs().stream().filter(AssetTwins.Pair::isSamePlace).toList());
        assertThat(pantry.library.Uses.of(train.folder())).singleElement().satisfies(use -> assertThat(use.id())
                .isEqualTo(sled.card().id()));
        standWhereTheyStood(trains, before);
        assertThat(library.verify(Progress.NONE).problems()).isEmpty();
        merging.takeBack(result);
        assertThat(pantry.library.Uses.of(train.folder())).singleElement().satisfies(use -> assertThat(use.id())
                .isEqualTo(same.card().id()));
        standWhereTheyStood(trains, before);
    }

    @Test
    void whatIsMadeOfAnAssetAloneIsNotThatAsset() {
        Asset train = workshop.prefab("Train", "Trains", sled);
        assertThat(pairs()).extracting(AssetTwins.Pair::gone).doesNotContain(train);
    }

    @Test
    void whatWouldTurnWithinOthersIsRefusedAndAllStaysAsItWas() throws IOException {
        workshop.prefab("Train", "Trains", turned);
        String before = Files.readString(sleds);
        assertThatThrownBy(() -> run(merging(), pairs()))
                .isInstanceOf(LibraryException.class)
                .hasMessageContaining("is made of Toboggan");
        assertThat(Files.readString(sleds)).isEqualTo(before);
        assertThat(library.trash().items()).isEmpty();
        assertThat(current(same).versions()).containsExactly("v001");
    }

    @Test
    void whatIsTurnedWithinAVariantIsRefusedBeforeAnythingIsDone() throws IOException {
        Files.writeString(project.resolve("choice.usda"), """
                #usda 1.0
                ( defaultPrim = "Yard" metersPerUnit = 1 upAxis = "Y" )
                def Xform "Yard" (
                    variants = { string way = "a" }
                    prepend variantSets = "way"
                ) {
                    variantSet "way" = {
                        "a" { def "One" (references = @%s@) { } }
                    }
                }
                """.formatted(turned.readyLayer()));
        assertThatThrownBy(() -> run(merging(), pairs()))
                .isInstanceOf(PantryException.class)
                .hasMessageContaining("within a variant");
        assertThat(library.trash().items()).isEmpty();
    }
}
