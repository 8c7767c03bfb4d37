package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.model.Model;
import pantry.model.Posing;
import pantry.motion.Motion;
import pantry.testing.Moving;
import pantry.testing.WithWorkshop;
import pantry.testing.Workshop;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

/** What placements do over time, beside the model that they show, posed by itself. */
class PlacedMotionsTest extends WithWorkshop {
    private static final double ERROR = 1e-4;

    private Asset vane(String ending) {
        Path file = folder.resolve("vane." + ending);
        ModelWriters.write(Moving.vane(), file);
        return shelved(file);
    }

    private Asset shelved(Path file) {
        Imported arrival = workshop.readers().read(file, Progress.NONE);
        Slip slip = Intake.suggested(arrival, "Wind", Neighbours.on(library, "Wind"));
        return workshop.intake()
                .shelve(arrival, slip, library, Progress.NONE)
                .published()
                .asset();
    }

    private static Motion motion(String name) {
        return Moving.vane().extras().skeleton().orElseThrow().motions().stream()
                .filter(each -> each.name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    private static List<Vec3> expected(String name, double seconds, double x) {
        Posing posing = Posing.of(Moving.vane()).orElseThrow();
        Model model = name.isEmpty() ? posing.atRest() : posing.at(motion(name), seconds);
        Matrix4 there = Matrix4.translation(new Vec3(x, 0, 0));
        return Moving.points(model).stream().map(there::point).toList();
    }

    /** Each point that is shown around x comes to where one is expected. */
    private static void checkShown(Model shown, List<Vec3> expected, double x) {
        List<Vec3> near = Moving.points(shown).stream()
                .filter(point -> Math.abs(point.x() - x) < 5)
                .toList();
        assertThat(near).isNotEmpty();
        for (Vec3 point : near) {
            assertThat(expected.stream()
                            .mapToDouble(each -> each.minus(point).length())
                            .min()
                            .orElseThrow())
                    .isLessThan(ERROR);
        }
    }

    private void checkScene(Scene scene) {
        SceneMotion motion = SceneMotion.of(scene, scene.model()).orElseThrow();
        assertThat(motion.start()).isZero();
        assertThat(motion.end()).isCloseTo(3, within(1e-6));
        for (double time : new double[] {0, 0.2, 1, 1.25, 2.5, 9}) {
            Model shown = motion.at(time);
            checkShown(shown, expected("Turn round", time, 0), 0);
            checkShown(shown, expected("Gust", Math.max(0, (time - 2) * 0.5), 20), 20);
            checkShown(shown, expected("", 0, 40), 40);
        }
    }

    @Test
    void eachPlacementHasAMotionOfItsOwn() {
        Asset vane = vane("glb");
        Scene scene = workshop.newScene(folder.resolve("s.usda"));
        SdfPath first = Workshop.stand(scene, vane, 0);
        SdfPath second = Workshop.stand(scene, vane, 20);
        SdfPath third = Workshop.stand(scene, vane, 40);
        PlacedMotions motions = scene.motions();
        PlacedMotions.Playing usual = motions.of(first).orElseThrow();
        assertThat(usual.motions()).extracting(PlacedMotions.Motion::name).containsExactly("Turn round", "Gust");
        assertThat(usual.motions().getFirst().seconds()).isCloseTo(2, within(1e-6));
        assertThat(usual.bound().orElseThrow().name()).isEqualTo("Turn round");
        assertThat(usual.start()).isZero();
        assertThat(usual.speed()).isEqualTo(1);

        motions.bind(List.of(second), Optional.of("Gust"));
        motions.time(List.of(second), 2, 0.5);
        motions.bind(List.of(third), Optional.empty());

        PlacedMotions.Playing changed = motions.of(second).orElseThrow();
        assertThat(changed.bound().orElseThrow().name()).isEqualTo("Gust");
        assertThat(changed.bound().orElseThrow().seconds()).isCloseTo(0.5, within(1e-6));
        assertThat(changed.start()).isCloseTo(2, within(1e-9));
        assertThat(changed.speed()).isCloseTo(0.5, within(1e-9));
        assertThat(motions.of(third).orElseThrow().bound()).isEmpty();
        checkScene(scene);
        scene.save();
        Scene again = workshop.openScene(folder.resolve("s.usda"));
        checkScene(again);
        assertThat(again.stage().prim(second).orElseThrow().isInstance()).isTrue();
        assertThat(again.model().meshes())
                .as("surfaces are shared whatever placements do")
                .hasSize(Moving.vane().meshes().size());

        again.motions().time(List.of(first, third), 0, 4);
        again.undo();
        checkScene(again);
    }

    @Test
    void whatIsNotGivenStaysEachPlacementsOwn() {
        Asset vane = vane("glb");
        Scene scene = workshop.newScene(folder.resolve("s.usda"));
        SdfPath first = Workshop.stand(scene, vane, 0);
        SdfPath second = Workshop.stand(scene, vane, 20);
        PlacedMotions motions = scene.motions();
        motions.time(List.of(first), 1, 2);
        motions.time(List.of(second), 3, 0.5);

        motions.time(List.of(first, second), Optional.empty(), Optional.of(4.0));
        assertThat(motions.of(List.of(first, second), 2))
                .extracting(PlacedMotions.Playing::start, PlacedMotions.Playing::speed)
                .containsExactly(tuple(1.0, 4.0), tuple(3.0, 4.0));
        scene.undo();
        motions.time(List.of(first, second), Optional.of(5.0), Optional.empty());
        assertThat(motions.of(List.of(first, second), 2))
                .extracting(PlacedMotions.Playing::start, PlacedMotions.Playing::speed)
                .containsExactly(tuple(5.0, 2.0), tuple(5.0, 0.5));
    }

    /** Those that do the same at the same time are posed once. */
    @Test
    void whatDoesTheSameIsPosedOnce() {
        Asset vane = vane("usda");
        Scene scene = workshop.newScene(folder.resolve("s.usda"));
        for (int i = 0; i < 6; i++) {
            Workshop.stand(scene, vane, 20 * i);
        }
        Model shown = SceneMotion.of(scene, scene.model()).orElseThrow().at(0.3);
        assertThat(shown.meshes()).hasSize(Moving.vane().meshes().size());
        assertThat(Moving.points(shown))
                .hasSize(6 * Moving.points(Moving.vane()).size());
    }

    /** A crowd is posed once for each thing that it does. */
    @Test
    void whatDoesSomethingElseIsPosedOnceForThat() {
        Asset vane = vane("glb");
        Scene scene = workshop.newScene(folder.resolve("s.usda"));
        List<SdfPath> all = new ArrayList<>();
        for (int i = 0; i < 6; i++) {
            all.add(Workshop.stand(scene, vane, 20 * i));
        }
        scene.motions().bind(all.subList(2, 5), Optional.of("Gust"));
        Model shown = SceneMotion.of(scene, scene.model()).orElseThrow().at(0.3);
        assertThat(shown.meshes()).as("a pole, and two tails").hasSize(3);
        checkShown(shown, expected("Turn round", 0.3, 20), 20);
        checkShown(shown, expected("Gust", 0.3, 60), 60);
        checkShown(shown, expected("Turn round", 0.3, 100), 100);
    }

    /** Within a prefab that stands twice, a vane moves in both. */
    @Test
    void whatStandsInAPrefabMoves() {
        Asset prefab = workshop.prefab("Corner", "Wind", vane("glb"));
        Scene scene = workshop.newScene(folder.resolve("s.usda"));
        Workshop.stand(scene, prefab, 0);
        Workshop.stand(scene, prefab, 20);
        Model shown = SceneMotion.of(scene, scene.model()).orElseThrow().at(0.7);
        checkShown(shown, expected("Turn round", 0.7, 0), 0);
        checkShown(shown, expected("Turn round", 0.7, 20), 20);
    }

    /** As other programs bind it: at the skeleton itself, which counts before what is said above. */
    @Test
    void aMotionThatIsBoundWithinIsChangedThere() throws IOException {
        Path file = folder.resolve("vane.usda");
        ModelWriters.write(Moving.vane(), file);
        String text = Files.readString(file);
        String bound = "rel skel:animationSource = </Vane/Skeleton/Turn_round>";
        assertThat(text).contains(bound);
        Files.writeString(
                file,
                text.replace(bound, "").replaceFirst("(def Skeleton \"Skeleton\" \\([^)]*\\)\\s*\\{)", "$1\n" + bound));
        Asset vane = shelved(file);
        Scene scene = workshop.newScene(folder.resolve("s.usda"));
        SdfPath path = Workshop.stand(scene, vane, 0);
        SdfPath other = Workshop.stand(scene, vane, 20);
        assertThat(scene.motions().of(path).orElseThrow().bound().orElseThrow().name())
                .isEqualTo("Turn round");
        scene.motions().bind(List.of(path), Optional.of("Gust"));
        assertThat(scene.motions().of(path).orElseThrow().bound().orElseThrow().name())
                .isEqualTo("Gust");
        Model shown = SceneMotion.of(scene, scene.model()).orElseThrow().at(0.4);
        checkShown(shown, expected("Gust", 0.4, 0), 0);
        checkShown(shown, expected("Turn round", 0.4, 20), 20);
        assertThat(scene.stage().prim(other).orElseThrow().isInstance()).isTrue();
    }

    @Test
    void whatCannotMoveIsRefused() {
        Asset block = workshop.block("Block", "Blocks", 1);
        Scene scene = workshop.newScene(folder.resolve("s.usda"));
        SdfPath path = Workshop.stand(scene, block, 0);
        assertThat(scene.motions().of(path)).isEmpty();
        assertThat(SceneMotion.of(scene, scene.model())).isEmpty();
        assertThatThrownBy(() -> scene.motions().bind(List.of(path), Optional.empty()))
                .isInstanceOf(SceneException.class)
                .hasMessageContaining("cannot move");
        SdfPath vane = Workshop.stand(scene, vane("glb"), 5);
        assertThatThrownBy(() -> scene.motions().bind(List.of(vane), Optional.of("Swim")))
                .hasMessageContaining("has no motion \"Swim\"");
        assertThatThrownBy(() -> scene.motions().time(List.of(vane), 0, 0)).hasMessageContaining("speed above 0");
        scene.motions().bind(List.of(path, vane), Optional.of("Gust"));
        assertThat(scene.motions().of(vane).orElseThrow().bound().orElseThrow().name())
                .isEqualTo("Gust");
    }

    private static String done(Scene scene, SdfPath path) {
        return scene.motions()
                .of(path)
                .map(playing -> playing.bound().map(PlacedMotions.Motion::name).orElse("at rest") + " from "
                        + Math.round(playing.start()) + " at " + playing.speed())
                .orElse("cannot move");
    }

    /** Whatever becomes of a placement, it does what it did; a copy does the same by itself. */
    @Test
    void aMotionGoesWithItsPlacement() {
        String gust = "Gust from 2 at 0.5";
        Scene scene = workshop.newScene(folder.resolve("s.usda"));
        SdfPath vane = Workshop.stand(scene, vane("glb"), 0);
        scene.motions().bind(List.of(vane), Optional.of("Gust"));
        scene.motions().time(List.of(vane), 2, 0.5);
        assertThat(done(scene, vane)).isEqualTo(gust);

        SdfPath copy =
                scene.structure().duplicate(List.of(vane), new Vec3(20, 0, 0)).getFirst();
        assertThat(done(scene, copy)).isEqualTo(gust);
        scene.motions().bind(List.of(vane), Optional.of("Turn round"));
        assertThat(done(scene, copy)).as("it does not follow its pattern").isEqualTo(gust);

        SdfPath named = scene.structure().rename(copy, "North vane");
        assertThat(done(scene, named)).isEqualTo(gust);
        SdfPath group = scene.structure().group(List.of(named), "Wind");
        SdfPath within = group.child(named.name());
        assertThat(done(scene, within)).isEqualTo(gust);
        checkShown(SceneMotion.of(scene, scene.model()).orElseThrow().at(2.6), expected("Gust", 0.3, 20), 20);
        SdfPath second =
                scene.structure().duplicate(List.of(group), new Vec3(0, 0, 9)).getFirst();
        assertThat(done(scene, second.child(named.name()))).isEqualTo(gust);
        assertThat(scene.stage().problems()).isEmpty();

        Scene other = workshop.newScene(folder.resolve("other.usda"));
        SdfPath pasted = SceneClipboard.of(scene, List.of(within))
                .paste(other, Optional.empty())
                .getFirst();
        assertThat(done(other, pasted)).isEqualTo(gust);

        SdfPath free = scene.structure().ungroup(List.of(group)).getFirst();
        assertThat(done(scene, free)).isEqualTo(gust);
        scene.structure().breakOut(List.of(free));
        assertThat(done(scene, free)).as("broken out of what it refers to").isEqualTo(gust);
    }

    /** Another version keeps motion and time; an asset without that motion is at its own, and that is told. */
    @Test
    void whatIsShownInItsPlaceGoesOnWhereItCan() {
        Asset vane = vane("glb");
        Scene scene = workshop.newScene(folder.resolve("s.usda"));
        SdfPath path = Workshop.stand(scene, vane, 0);
        scene.motions().bind(List.of(path), Optional.of("Gust"));
        scene.motions().time(List.of(path), 2, 0.5);
        assertThat(scene.placements().replace(path, vane, Optional.of("v001")).dropped())
                .isEmpty();
        assertThat(done(scene, path)).isEqualTo("Gust from 2 at 0.5");
        Asset block = workshop.block("Block", "Blocks", 1);
        assertThat(scene.placements().replace(path, block, Optional.empty()).dropped())
                .containsExactly(path + ": motion Gust");
        assertThat(done(scene, path)).isEqualTo("cannot move");
        scene.undo();
        assertThat(done(scene, path)).isEqualTo("Gust from 2 at 0.5");
    }

    /** In a group that is used twice, the placement moves in both uses. */
    @Test
    void aMotionIsSharedWithItsGroup() {
        Scene scene = workshop.newScene(folder.resolve("s.usda"));
        SdfPath vane = Workshop.stand(scene, vane("glb"), 0);
        SdfPath group = scene.structure().group(List.of(vane), "Wind");
        scene.instancing()
                .instance(group, "Wind", TransformComponents.ORIGIN.withMove(new Vec3(20, 0, 0)), Optional.empty());
        SdfPath shared = scene.instancing()
                .contents(group)
                .map(contents -> contents.child(vane.name()))
                .orElseThrow();
        scene.motions().bind(List.of(shared), Optional.of("Gust"));
        assertThat(done(scene, shared)).isEqualTo("Gust from 0 at 1.0");
        Model shown = SceneMotion.of(scene, scene.model()).orElseThrow().at(0.4);
        checkShown(shown, expected("Gust", 0.4, 0), 0);
        checkShown(shown, expected("Gust", 0.4, 20), 20);
    }
}
