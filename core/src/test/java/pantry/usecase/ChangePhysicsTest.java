package pantry.usecase;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.library.LibraryException;
import pantry.library.Published;
import pantry.library.VersionStatus;
import pantry.model.PhysicalMaterial;
import pantry.prep.Made;
import pantry.render.RenderCache;
import pantry.scene.Prefab;
import pantry.scene.Scene;
import pantry.scene.Settling;
import pantry.testing.WithWorkshop;
import pantry.testing.Workshop;
import pantry.usd.Layer;
import pantry.usd.SdfPath;
import pantry.usd.file.LayerFiles;
import pantry.usd.schema.TransformComponents;
import pantry.workpiece.Shelving;
import pantry.workpiece.Workpiece;

/** Names and meanings of the properties are those of OpenUSD's UsdPhysics (physics materials). */
class ChangePhysicsTest extends WithWorkshop {
    private static final PhysicalMaterial WOOD = new PhysicalMaterial(
            Optional.empty(),
            OptionalDouble.of(0.5),
            OptionalDouble.of(0.4),
            OptionalDouble.of(0.25),
            OptionalDouble.of(700));

    private Asset block;
    private ChangePhysics physics;

    @BeforeEach
    void shelve() {
        block = workshop.block("Block", "Parts", 0.5);
        physics = new ChangePhysics(workshop.readers(), library);
    }

    private Workpiece copy(Asset asset) {
        return Workpiece.of(new Workpiece.Shelved(library, asset, asset.shown().orElseThrow()), Made.sources(workshop));
    }

    private Published publish(Asset asset, PhysicalMaterial material) {
        return physics.publish(new NextVersion(asset, VersionStatus.READY, "of wood"), material, Progress.NONE);
    }

    private PhysicalMaterial only(Asset asset) {
        Asset now = library.current(asset);
        List<PhysicalMaterial> told = physics.of(now, now.shown().orElseThrow());
        assertThat(told).hasSize(1);
        return told.getFirst();
    }

    @Test
    void whatNobodySaidIsSaidOfTheWhole() {
        assertThat(only(block)).isEqualTo(PhysicalMaterial.UNSAID);
        Published published = publish(block, WOOD);
        assertThat(published.version()).isEqualTo("v002");
        assertThat(only(block)).isEqualTo(WOOD.at(SdfPath.of("/Block/PhysicalMaterial")));
        assertThat(Library.check(published.asset(), "v002")).isEmpty();
        Layer entry = LayerFiles.read(published.asset().entryLayer("v002"));
        assertThat(entry.prim(SdfPath.of("/Block")).orElseThrow().property("material:binding:physics"))
                .isPresent();
        assertThat(library.history(published.asset()).stream()
                        .filter(each -> each.version().equals("v002"))
                        .findFirst()
                        .orElseThrow()
                        .note())
                .isEqualTo("of wood");
        // The same shape, and the sealed one before untouched.
        assertThat(published.asset().facts("v002"))
                .usingRecursiveComparison()
                .isEqualTo(published.asset().facts("v001"));
        assertThat(physics.of(published.asset(), "v001")).containsExactly(PhysicalMaterial.UNSAID);
    }

    @Test
    void whatIsNoLongerSaidIsBlocked() {
        publish(block, WOOD);
        PhysicalMaterial before = only(block);
        PhysicalMaterial heavy = new PhysicalMaterial(
                before.path(),
                before.staticFriction(),
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                OptionalDouble.of(7850));
        publish(block, heavy);
        assertThat(only(block)).isEqualTo(heavy);
        assertThat(heavy.words()).isEqualTo("friction 0.5 at rest, density 7850 kg/m³");
    }

    @Test
    void materialsThatAFileBroughtAreChangedWhereTheyStand() throws IOException {
        Path file = Files.writeString(folder.resolve("fender.usda"), """
                #usda 1.0
                ( defaultPrim = "Fender" metersPerUnit = 1 upAxis = "Y" )
                def Xform "Fender" {
                    def Cube "Hull" ( prepend apiSchemas = ["PhysicsCollisionAPI", "MaterialBindingAPI"] ) {
                        rel material:binding:physics = </Fender/Rubber>
                    }
                    def Cube "Ring" ( prepend apiSchemas = ["MaterialBindingAPI"] ) {
                        rel material:binding:physics = </Fender/Iron>
                    }
                    def Material "Rubber" ( prepend apiSchemas = ["PhysicsMaterialAPI"] ) {
                        float physics:dynamicFriction = 0.9
                        float physics:restitution = 0.75
                    }
                    def Material "Iron" ( prepend apiSchemas = ["PhysicsMaterialAPI"] ) {
                        float physics:density = 7200
                    }
                }
                """);
        Asset fender = workshop.received(file, "Parts");
        List<PhysicalMaterial> told = physics.of(fender, "v001");
        assertThat(told).extracting(PhysicalMaterial::name).containsExactly("Rubber", "Iron");
        publish(fender, told.getLast().withDensity(7400));
        List<PhysicalMaterial> now = physics.of(library.current(fender), "v002");
        assertThat(now.getFirst()).isEqualTo(told.getFirst());
        assertThat(now.getLast().density()).hasValue(7400);
    }

    /** A file that becomes the next version, a tidied copy and a prefab made anew rarely say it. */
    @Test
    void whatWasSaidHoldsOnInTheNextVersionWhereverThatComesFrom() throws IOException {
        publish(block, WOOD);
        Path taller = Files.writeString(folder.resolve("taller.obj"), "v 0 0 0\nv 1 0 0\nv 0 2 0\nf 1 2 3\n");
        new PublishFile(workshop.intake())
                .run(
                        library,
                        new PublishFile.Options(new NextVersion(block, VersionStatus.READY, "taller"), taller, s -> s),
                        Progress.NONE);
        assertThat(only(block).density()).hasValue(700);
        Asset now = library.current(block);
        Workpiece piece = copy(now);
        Shelving.publish(piece, VersionStatus.READY, "tidied", new RenderCache(), Progress.NONE);
        assertThat(library.current(block).versions()).hasSize(4);
        assertThat(only(block).staticFriction()).hasValue(0.5);
        // Gone back to what was before it was said, it is not said.
        library.goBack(block, "v001", "", Progress.NONE);
        assertThat(only(block)).isEqualTo(PhysicalMaterial.UNSAID);
    }

    @Test
    void aPrefabKeepsItToo() {
        Scene scene = workshop.newScene(folder.resolve("yard.usda"));
        SdfPath placed = Workshop.stand(scene, block, 0);
        Prefab stack = new Prefab(scene, workshop.layers(), List.of(placed), library, new RenderCache());
        Asset shelved = stack.shelve("Stack", AssetKind.PREFAB, "Parts", List.of(), Progress.NONE)
                .asset();
        publish(shelved, WOOD);
        stack.publish(library.current(shelved), VersionStatus.READY, "again", Progress.NONE);
        assertThat(library.current(shelved).versions()).hasSize(3);
        assertThat(only(shelved).restitution()).hasValue(0.25);
    }

    @Test
    void prepFindsNothingWrongWithIt() {
        publish(block, WOOD);
        Asset now = library.current(block);
        Workpiece piece = copy(now);
        assertThat(piece.model().meshes()).hasSize(1);
        assertThat(Made.inspect(piece)).noneMatch(finding -> finding.toString().contains("Physical"));
    }

    @Test
    void settlingSlidesAsItSays() {
        PhysicalMaterial ice = new PhysicalMaterial(
                Optional.empty(),
                OptionalDouble.of(0.02),
                OptionalDouble.of(0.02),
                OptionalDouble.empty(),
                OptionalDouble.empty());
        assertThat(slid(block)).isLessThan(0.5);
        publish(block, ice);
        assertThat(slid(library.current(block))).isGreaterThan(1);
    }

    /** How far it slides down a slope of 20° in 1.5 s, metres; without friction {@code g sin(20°) t² / 2 = 3.8 m}. */
    private double slid(Asset what) {
        Scene scene = workshop.newScene(folder.resolve("slope" + what.versions().size() + ".usda"));
        Asset ground = workshop.block("Ground", "Parts", 0.5);
        SdfPath slope = scene.placements()
                .place(
                        ground,
                        Optional.empty(),
                        "Slope",
                        new TransformComponents(new Vec3(0, -2, 0), new Vec3(0, 0, -20), new Vec3(60, 1, 20)),
                        Optional.empty());
        SdfPath path = scene.placements()
                .place(
                        what,
                        Optional.empty(),
                        "Falling",
                        new TransformComponents(new Vec3(-4, 0.42, 0), new Vec3(0, 0, -20), Vec3.ONE),
                        Optional.empty());
        Settling.Settled settled = Settling.of(scene, List.of(path), List.of(slope), false)
                .fall(1.5, Progress.NONE, Settling.Watcher.NONE);
        Vec3 before = scene.arranging().box(path).centre();
        double way = settled.changes().get(path).point(before).minus(before).length();
        assertThat(way).isLessThan(9.81 * Math.sin(Math.toRadians(20)) * 1.5 * 1.5 / 2 + 0.2);
        return way;
    }

    @Test
    void numbersThatCannotBeAreRefusedAndNothingIsPublished() {
        for (PhysicalMaterial wrong : List.of(
                WOOD.withDensity(-1),
                WOOD.withDensity(Double.NaN),
                WOOD.withDensity(1e9),
                new PhysicalMaterial(
                        Optional.empty(),
                        OptionalDouble.of(11),
                        OptionalDouble.empty(),
                        OptionalDouble.of(1.5),
                        OptionalDouble.empty()))) {
            assertThatThrownBy(() -> publish(block, wrong))
                    .isInstanceOf(PantryException.class)
                    .hasMessageContaining("is a number from 0 to");
        }
        assertThat(library.current(block).versions()).containsExactly("v001");
    }

    @Test
    void whatTouchesNothingHasNone() {
        assertThat(ChangePhysics.isFor(AssetKind.MATERIAL)).isFalse();
        library.edit(List.of(block), card -> card.withKind(AssetKind.MATERIAL), Progress.NONE);
        Asset paint = library.current(block);
        assertThatThrownBy(() -> publish(paint, WOOD))
                .isInstanceOf(LibraryException.class)
                .hasMessageContaining("touches nothing");
    }
}
