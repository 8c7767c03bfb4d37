package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.format.Imported;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdModelReader;
import pantry.exchange.usd.UsdSkelReader;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.model.Axis;
import pantry.model.Model;
import pantry.model.Posing;
import pantry.motion.Motion;
import pantry.testing.Moving;
import pantry.testing.Workshop;
import pantry.usd.SdfPath;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerFiles;

/** What moves in an asset moves where it is placed. */
class MovingScenesTest extends WithYard {
    private Asset vane;

    @BeforeEach
    void shelveVane() throws IOException {
        Path file = Files.writeString(folder.resolve("vane.xyz"), "what it was read from");
        Imported arrival = new Imported(file, Moving.vane(), Optional.of(1.0), Optional.of(Axis.Y), List.of());
        vane = workshop.intake()
                .shelve(
                        arrival,
                        Slip.plain("Vane", AssetKind.MODEL, "Wind", 1, Axis.Y),
                        workshop.library(),
                        Progress.NONE)
                .published()
                .asset();
    }

    private Stage saved() {
        scene.save();
        return Stage.open(LayerFiles.read(scene.file()), new LayerCache());
    }

    private Prim prim(SdfPath path) {
        return saved().prim(path).orElseThrow();
    }

    @Test
    void aPlacementIsOfTheTypeThatMoves() {
        SdfPath first = Workshop.stand(scene, vane, 0);
        SdfPath still = Workshop.stand(scene, block, 5);
        assertThat(prim(first).typeName()).isEqualTo("SkelRoot");
        assertThat(prim(first).isInstance()).isTrue();
        assertThat(prim(still).typeName()).isEqualTo("Xform");
        scene.placements().replace(still, vane, Optional.of("v001"));
        assertThat(prim(still).typeName()).isEqualTo("SkelRoot");
        scene.placements().replace(still, block, Optional.empty());
        assertThat(prim(still).typeName()).isEqualTo("Xform");
        assertThat(scene.model().trianglesDrawn()).isEqualTo(24 + 12);
    }

    /** A broken out placement is the scene's own: its joints, bindings and motions point within the scene. */
    @Test
    void whatIsBrokenOutMovesAsItsAssetDoes() {
        SdfPath path = Workshop.stand(scene, vane, 7);
        scene.structure().breakOut(List.of(path));
        Stage stage = saved();
        Model read = UsdSkelReader.rigged(
                stage, UsdModelReader.read(stage, new MeshCache()).model());
        Posing here = Posing.of(Moving.vane()).orElseThrow();
        Posing there = Posing.of(read).orElseThrow();
        Matrix4 place = Matrix4.translation(new Vec3(7, 0, 0));
        for (int i = 0; i < 2; i++) {
            Motion motion = here.skeleton().motions().get(i);
            for (double time : new double[] {0, 0.6, 1.9}) {
                List<Vec3> expected = Moving.points(here.at(motion, time));
                List<Vec3> found =
                        Moving.points(there.at(there.skeleton().motions().get(i), time));
                assertThat(found).hasSameSizeAs(expected);
                for (int p = 0; p < found.size(); p++) {
                    assertThat(found.get(p).minus(place.point(expected.get(p))).length())
                            .isLessThan(1e-4);
                }
            }
        }
    }
}
