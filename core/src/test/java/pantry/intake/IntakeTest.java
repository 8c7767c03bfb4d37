package pantry.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Png;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Card;
import pantry.library.Library;
import pantry.mesh.Shapes;
import pantry.model.Axis;
import pantry.model.Model;
import pantry.testing.Workshop;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;

class IntakeTest {
    @TempDir
    private Path folder;

    private Workshop workshop;

    @BeforeEach
    void open() {
        workshop = new Workshop(folder);
    }

    @AfterEach
    void close() {
        workshop.close();
    }

    private Imported arrival(String name, Model model) {
        Path file = folder.resolve(name);
        ModelWriters.write(model, file);
        return workshop.intake().read(file, Progress.NONE);
    }

    /** Common practice: exporters write where an image stood on the machine they ran on. */
    @Test
    void anImageOnTheDriveOfAnotherMachineIsToldByItsName() throws IOException {
        Files.writeString(folder.resolve("tank.mtl"), "newmtl Rust\nmap_Kd D:\\textures\\rust.png\n");
        Path tank = Files.writeString(
                folder.resolve("tank.obj"), "mtllib tank.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl Rust\nf 1 2 3\n");

        Imported arrival = workshop.intake().read(tank, Progress.NONE);

        assertThat(Intake.missing(arrival)).containsExactly("rust.png");
        Slip slip = Intake.suggested(arrival, "", Neighbours.NONE);
        assertThatThrownBy(() -> workshop.intake().shelve(arrival, slip, workshop.library(), Progress.NONE))
                .hasMessage("lacks a texture: rust.png; name a folder that has it, or allow shelving without it");
    }

    /** Common practice: a wrong unit shows as a factor of 10, 100, 1000, 2.54 or 12. */
    @Test
    void theLikelyUnitIsTheOneThatFitsTheShelf() {
        Neighbours masts = new Neighbours("Instruments/Masts", List.of(5.5, 6.0, 6.5));
        for (LengthUnit unit : LengthUnit.values()) {
            Vec3 extent = new Vec3(1, 6, 1).times(1 / unit.metres());
            ScaleCandidate likely =
                    ScaleCandidate.of(extent, Optional.empty(), masts).getFirst();
            assertThat(likely.unit()).as("6 m written in " + unit).isEqualTo(unit.word());
            assertThat(likely.likely()).isTrue();
            assertThat(likely.size()[1]).isCloseTo(6, within(1e-9));
        }
        assertThat(ScaleCandidate.of(new Vec3(1700, 3000, 1500), Optional.empty(), Neighbours.NONE)
                        .getFirst()
                        .unit())
                .as("without neighbours, 3 m rather than 30 m")
                .isEqualTo("millimetres");
        ScaleCandidate metres = ScaleCandidate.of(new Vec3(30, 300, 30), Optional.of(1.0), masts).stream()
                .filter(c -> c.factor() == 1)
                .findFirst()
                .orElseThrow();
        assertThat(metres.unusual(masts)).as("300 m between 6 m neighbours").isTrue();
    }

    @Test
    void aZUpFileInMillimetresIsShelvedUprightInMetres() {
        Model tall = Workshop.model("Post", Shapes.block(100, 2000, 200))
                .reframed(Axis.Z.toYUp().inverse());
        Imported arrival = arrival("post.ply", tall);
        Slip slip = Intake.suggested(arrival, "Posts", Neighbours.NONE)
                .withUp(Axis.Z)
                .withFactor(0.001);
        Asset asset = workshop.intake()
                .shelve(arrival, slip, workshop.library(), Progress.NONE)
                .published()
                .asset();
        Vec3 size = asset.facts("v001").bounds().size();
        assertThat(size.minus(new Vec3(0.1, 2, 0.2)).length()).isLessThan(1e-6);
        Box3 composed = workshop.readers()
                .read(asset.entryLayer("v001"), Progress.NONE)
                .model()
                .bounds();
        assertThat(composed.size().minus(size).length()).isLessThan(1e-6);
        assertThat(asset.data("v001").resolve("source/post.ply")).hasSameBinaryContentAs(folder.resolve("post.ply"));
    }

    @Test
    void everyWayOfTreatingPartsLeavesEveryPointInItsPlace() {
        Model.Node inner = Model.Node.of(
                "Inner",
                Matrix4.scale(new Vec3(-1, 2, 0.5)).times(Matrix4.translation(new Vec3(0, 1, 3))),
                List.of(new Model.Part(Shapes.block(1, 1, 2), Workshop.RED)),
                List.of());
        Model.Node outer = Model.Node.of(
                "Outer",
                Matrix4.rotationXyz(new Vec3(10, 200, -45)),
                List.of(new Model.Part(Shapes.sphere(1, 12, 6), Workshop.RED)),
                List.of(inner));
        Model model = new Model("Nested", List.of(outer), Model.Extras.NONE);
        for (PartsMode mode : PartsMode.values()) {
            Model arranged = Parts.arranged(model, mode);
            assertThat(arranged.bounds().min().minus(model.bounds().min()).length())
                    .as(mode.name())
                    .isLessThan(1e-6);
            assertThat(arranged.bounds().max().minus(model.bounds().max()).length())
                    .as(mode.name())
                    .isLessThan(1e-6);
            assertThat(arranged.measures().volume()).isCloseTo(model.measures().volume(), within(1e-5));
            assertThat(arranged.measures().closed()).isTrue();
        }
        assertThat(Parts.arranged(model, PartsMode.SINGLE).objects()).isEqualTo(1);
    }

    @Test
    void aMissingTextureIsSaidAndNothingIsShelvedUnlessAllowed() throws IOException {
        Imported arrival = arrival("crate.obj", Workshop.model("Crate", Shapes.block(1, 1, 1)));
        Files.writeString(folder.resolve("crate.mtl"), "newmtl Red\nKd 1 0 0\nmap_Kd label.png\n");
        Imported lacking = workshop.intake().read(arrival.file(), Progress.NONE);
        Slip slip = Intake.suggested(lacking, "Crates", Neighbours.NONE);
        assertThatThrownBy(() -> workshop.intake().shelve(lacking, slip, workshop.library(), Progress.NONE))
                .isInstanceOf(IntakeException.class)
                .hasMessageContaining("label.png");
        assertThat(workshop.library().assets()).isEmpty();
        workshop.intake().shelve(lacking, slip.withAllowMissing(true), workshop.library(), Progress.NONE);
        assertThat(workshop.library().assets()).hasSize(1);
    }

    @Test
    void aLicenceThatIsNoneIsRefusedBeforeAnythingIsShelved() {
        Library library = workshop.library();
        Imported mast = arrival("mast.obj", Workshop.model("Mast", Shapes.block(1, 9, 1)));
        Slip slip = Slip.plain("Mast", AssetKind.MODEL, "Masts", 1, Axis.Y);
        assertThatThrownBy(
                        () -> workshop.intake().shelve(mast, slip.withCredit("Freeware", ""), library, Progress.NONE))
                .hasMessageContaining("Freeware")
                .hasMessageContaining("SPDX");
        assertThat(library.assets()).isEmpty();
        Slip good = slip.withCredit("cc0-1.0", "").withTags(List.of("tall,steel", "Tall"));
        Card card = workshop.intake()
                .shelve(mast, good, library, Progress.NONE)
                .published()
                .asset()
                .card();
        assertThat(card.licence()).isEqualTo("CC0-1.0");
        assertThat(card.tags()).containsExactly("tall", "steel");
    }

    @Test
    void equalImagesAreStoredOnceAndNamedRelatively() throws IOException {
        byte[] png = Png.of(new java.awt.image.BufferedImage(2, 2, 1));
        Files.write(folder.resolve("one.png"), png);
        Files.write(folder.resolve("two.png"), png);
        Imported plain = arrival("crate.obj", Workshop.model("Crate", Shapes.block(1, 1, 1)));
        Files.writeString(plain.file(), Files.readString(plain.file()) + "usemtl B\nf 1 2 3\n");
        Files.writeString(folder.resolve("crate.mtl"), "newmtl Red\nmap_Kd one.png\nnewmtl B\nmap_Kd two.png\n");
        Imported arrival = workshop.intake().read(plain.file(), Progress.NONE);
        Asset asset = workshop.intake()
                .shelve(
                        arrival,
                        Intake.suggested(arrival, "Crates", Neighbours.NONE),
                        workshop.library(),
                        Progress.NONE)
                .published()
                .asset();
        try (var images = Files.list(asset.data("v001").resolve("textures"))) {
            assertThat(images).hasSize(1);
        }
        assertThat(LayerAssets.of(LayerFiles.read(asset.data("v001").resolve("crate.geom.usdc"))))
                .containsExactly("./textures/one.png");
        assertThat(workshop.readers()
                        .read(asset.entryLayer("v001"), Progress.NONE)
                        .model()
                        .textures())
                .allMatch(texture -> texture.found());
    }
}
