package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import pantry.base.AtomicFiles;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.exchange.usd.MeshCache;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.model.Model;
import pantry.render.RenderCache;
import pantry.testing.Moving;
import pantry.testing.WithWorkshop;
import pantry.testing.Workshop;
import pantry.usd.SdfPath;
import pantry.workpiece.Workpiece;

/**
 * Placements that do a motion of the library, {@link Moving#GALE}: the head of the vane sinks by a metre in two seconds, and
 * the tail, which hangs on it, with it.
 */
class BorrowedMotionsTest extends WithWorkshop {
    private Asset vane;
    private Asset gale;
    private Scene scene;
    private SdfPath first;
    private SdfPath second;

    @BeforeEach
    void place() throws IOException {
        Path file = folder.resolve("vane.glb");
        ModelWriters.write(Moving.vane(), file);
        vane = workshop.received(file, "Wind");
        gale = workshop.received(Files.writeString(folder.resolve("gale.usda"), Moving.GALE), "Wind");
        scene = workshop.newScene(folder.resolve("s.usda"));
        first = Workshop.stand(scene, vane, 0);
        second = Workshop.stand(scene, vane, 20);
    }

    private static String done(Scene scene, SdfPath path) {
        return scene.motions()
                .of(path)
                .flatMap(PlacedMotions.Playing::bound)
                .map(PlacedMotions.Motion::name)
                .orElse("at rest");
    }

    /** How far the tail of the vane at some x has sunk, metres: its lowest point that is not of the pole. */
    private static double sunk(Scene scene, double seconds, double x) {
        Model rest = Moving.vane();
        Model shown = SceneMotion.of(scene, scene.model()).orElseThrow().at(seconds);
        return lowest(rest, 0) - lowest(shown, x);
    }

    private static double lowest(Model model, double x) {
        return Moving.points(model).stream()
                .filter(point -> Math.abs(point.x() - x) > 0.2 && Math.abs(point.x() - x) < 5)
                .mapToDouble(Vec3::y)
                .min()
                .orElseThrow();
    }

    private void checkFirstSinks(Scene of) {
        assertThat(done(of, first)).isEqualTo("Gale");
        assertThat(sunk(of, 1, 0)).isCloseTo(0.5, within(1e-4));
        assertThat(sunk(of, 2, 0)).isCloseTo(1, within(1e-4));
        assertThat(done(of, second)).isEqualTo("Turn round");
        assertThat(of.stage().problems()).isEmpty();
    }

    @Test
    void aPlacementDoesAMotionOfTheLibraryAndIsStillAnInstance() {
        assertThat(scene.motions().borrow(List.of(first), gale, Optional.empty()))
                .isEmpty();
        checkFirstSinks(scene);
        assertThat(scene.stage().prim(first).orElseThrow().isInstance()).isTrue();
        assertThat(scene.model().meshes())
                .as("its surfaces are those of the other, and the bones of the motion are not drawn")
                .hasSize(Moving.vane().meshes().size());
        assertThat(scene.placements().at(first).orElseThrow().layer()).startsWith(vane.folder());
        scene.save();
        checkFirstSinks(workshop.openScene(folder.resolve("s.usda")));
    }

    @Test
    void itIsOneStepToUndoAndRedo() {
        scene.motions().borrow(List.of(first, second), gale, Optional.empty());
        assertThat(done(scene, second)).isEqualTo("Gale");
        scene.undo();
        assertThat(done(scene, first)).isEqualTo("Turn round");
        assertThat(scene.spec(first).orElseThrow().references()).hasSize(1);
        scene.redo();
        assertThat(done(scene, first)).isEqualTo("Gale");
    }

    @Test
    void itGoesInTheTimeOfItsPlacement() {
        scene.motions().time(List.of(first), 1, 0.5);
        scene.motions().borrow(List.of(first), gale, Optional.empty());
        assertThat(sunk(scene, 3, 0)).isCloseTo(0.5, within(1e-4));
        scene.motions().time(List.of(first), 0, 2);
        assertThat(sunk(scene, 0.5, 0)).isCloseTo(0.5, within(1e-4));
    }

    /** Bound to a motion of its own again, or at rest, it does not use the other asset any more. */
    @Test
    void whatIsNotDoneAnyMoreIsGivenBack() {
        scene.motions().borrow(List.of(first), gale, Optional.empty());
        scene.motions().borrow(List.of(first), gale, Optional.of("gale"));
        assertThat(scene.spec(first).orElseThrow().references()).hasSize(2);
        assertThat(scene.motions().names(List.of(first))).containsExactly("Turn round", "Gust", "Gale");
        scene.motions().bind(List.of(first), Optional.of("Gale"));
        assertThat(scene.spec(first).orElseThrow().references()).hasSize(2);
        scene.motions().bind(List.of(first), Optional.of("Gust"));
        assertThat(scene.spec(first).orElseThrow().references()).hasSize(1);
        assertThat(done(scene, first)).isEqualTo("Gust");
        scene.motions().borrow(List.of(first), gale, Optional.empty());
        scene.motions().bind(List.of(first), Optional.empty());
        assertThat(scene.spec(first).orElseThrow().references()).hasSize(1);
        assertThat(done(scene, first)).isEqualTo("at rest");
    }

    @Test
    void itGoesWithItsPlacementWhereverThatGoes() throws IOException {
        scene.motions().borrow(List.of(first), gale, Optional.empty());
        SdfPath copy =
                scene.structure().duplicate(List.of(first), new Vec3(40, 0, 0)).getFirst();
        assertThat(done(scene, copy)).isEqualTo("Gale");
        SdfPath named = scene.structure().rename(copy, "North vane");
        SdfPath group = scene.structure().group(List.of(named), "Wind");
        SdfPath within = group.child(named.name());
        assertThat(done(scene, within)).isEqualTo("Gale");
        assertThat(sunk(scene, 2, 40)).isCloseTo(1, within(1e-4));

        Files.createDirectories(folder.resolve("deeper"));
        Scene other = workshop.newScene(folder.resolve("deeper/other.usda"));
        SdfPath pasted = SceneClipboard.of(scene, List.of(within))
                .paste(other, Optional.empty())
                .getFirst();
        assertThat(done(other, pasted)).isEqualTo("Gale");
        other.save();
        assertThat(done(workshop.openScene(folder.resolve("deeper/other.usda")), pasted))
                .isEqualTo("Gale");

        scene.structure().breakOut(List.of(within));
        assertThat(done(scene, within)).as("broken out of what it refers to").isEqualTo("Gale");
        assertThat(sunk(scene, 2, 40)).isCloseTo(1, within(1e-4));
    }

    @Test
    void itGoesIntoPrefabsAndOtherScenes() throws IOException {
        scene.motions().borrow(List.of(first), gale, Optional.empty());
        scene.save();
        Files.createDirectories(folder.resolve("deeper"));
        Scene other = workshop.newScene(folder.resolve("deeper/other.usda"));
        for (ImportSource.Links links : ImportSource.Links.values()) {
            ImportSource source = ImportSource.of(
                    scene.file(),
                    links,
                    new Workpiece.Sources(workshop.readers(), workshop.layers(), new MeshCache()),
                    Progress.NONE);
            SceneImport.Result result =
                    SceneImport.bring(other, source, Set.of(first), SceneImport.Options.named(links.name()));
            SdfPath brought = result.copied().get(first);
            assertThat(done(other, brought)).as(links.name()).isEqualTo("Gale");
        }
        Asset prefab = new Prefab(scene, workshop.layers(), List.of(first), library, new RenderCache())
                .shelve("Corner", AssetKind.PREFAB, "Wind", List.of(), Progress.NONE)
                .asset();
        SdfPath corner = Workshop.stand(other, prefab, 60);
        assertThat(done(other, corner)).isEqualTo("Gale");
        assertThat(sunk(other, 2, 60)).isCloseTo(1, within(1e-4));
        assertThat(other.stage().problems()).isEmpty();
    }

    /** What a placement shows is there all the same, and it can do something else. */
    @Test
    void aMotionThatIsAwayStandsInNobodysWay() throws IOException {
        scene.motions().borrow(List.of(first), gale, Optional.empty());
        scene.save();
        AtomicFiles.deleteTree(gale.folder());
        Scene again = workshop.openScene(folder.resolve("s.usda"));
        assertThat(again.model().meshes()).hasSize(Moving.vane().meshes().size());
        assertThat(again.stage().problems()).isNotEmpty();
        assertThat(done(again, first)).isEqualTo("at rest");
        again.motions().bind(List.of(first), Optional.of("Gust"));
        assertThat(done(again, first)).isEqualTo("Gust");
        assertThat(again.stage().problems()).isEmpty();
    }

    @Test
    void whatIsShownInItsPlaceGoesOnWhereItHasTheJoints() throws IOException {
        scene.motions().borrow(List.of(first, second), gale, Optional.empty());
        scene.placements().replace(first, vane, Optional.of("v001"));
        assertThat(done(scene, first)).isEqualTo("Gale");
        Path flag = folder.resolve("flag.usda");
        ModelWriters.write(Moving.vane(), flag);
        Files.writeString(flag, Files.readString(flag).replace("Head", "Mast"));
        Replaced replaced = scene.placements().replace(second, workshop.received(flag, "Wind"), Optional.empty());
        assertThat(replaced.dropped()).singleElement().asString().contains("motion Gale");
        assertThat(done(scene, second)).isEqualTo("Turn round");
        assertThat(scene.spec(second).orElseThrow().references()).hasSize(1);
        Asset block = workshop.block("Block", "Blocks", 1);
        scene.placements().replace(first, block, Optional.empty());
        assertThat(scene.spec(first).orElseThrow().references()).hasSize(1);
        assertThat(scene.stage().problems()).isEmpty();
    }

    @Test
    void whatDoesNotFitIsToldOrRefused() throws IOException {
        Asset half = workshop.received(
                Files.writeString(
                        folder.resolve("half.usda"),
                        Moving.GALE
                                .replace("Head/Tail_end", "Head/Hand")
                                .replace("(1, 0, 0)] }", "(3, 0, 0)] }")
                                .replace("Gale", "Half")),
                "Wind");
        assertThat(scene.motions().borrow(List.of(first), half, Optional.empty()))
                .singleElement()
                .asString()
                .contains("has no Head/Hand");
        Asset none = workshop.received(
                Files.writeString(
                        folder.resolve("none.usda"),
                        Moving.GALE.replace("Head", "Arm").replace("Gale", "None")),
                "Wind");
        assertThatThrownBy(() -> scene.motions().borrow(List.of(first), none, Optional.empty()))
                .isInstanceOf(SceneException.class)
                .hasMessageContaining("has no joint that None moves");
        assertThatThrownBy(() -> scene.motions().borrow(List.of(first), gale, Optional.of("Swim")))
                .hasMessageContaining("\"Gale\" has no motion \"Swim\"");
        assertThatThrownBy(() -> scene.motions().borrow(List.of(first), vane, Optional.empty()))
                .hasMessageContaining("\"Vane\" has a surface");
        SdfPath block = Workshop.stand(scene, workshop.block("Block", "Blocks", 1), 60);
        assertThatThrownBy(() -> scene.motions().borrow(List.of(block), gale, Optional.empty()))
                .isInstanceOf(SceneException.class);
    }
}
