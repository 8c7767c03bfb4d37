package pantry.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.Published;
import pantry.library.VersionStatus;
import pantry.mesh.Shapes;
import pantry.model.Axis;
import pantry.testing.WithWorkshop;
import pantry.testing.Workshop;

/** Files that become the next version of an asset. */
class NextVersionTest extends WithWorkshop {
    private Asset mast;

    @BeforeEach
    void shelve() {
        mast = workshop.block("Mast", "Masts", 9);
    }

    private Imported read(Path file) {
        return workshop.intake().read(file, Progress.NONE);
    }

    private Published publish(Imported arrival, Slip slip, VersionStatus status, String note) {
        return workshop.intake().publish(arrival, slip, new Intake.Next(mast, status, note), library, Progress.NONE);
    }

    private Slip suggested(Imported arrival) {
        return Intake.suggested(arrival, "Masts", Neighbours.on(library, "Masts"));
    }

    @Test
    void aFileInMillimetresIsUnderstoodByTheAssetsOwnSize() {
        Path file = folder.resolve("mast.stl");
        ModelWriters.write(
                Workshop.model("Mast", Shapes.block(1, 10, 1)).reframed(Matrix4.scale(new Vec3(1000, 1000, 1000))),
                file);
        workshop.block("Other mast", "Masts", 8);
        Imported arrival = read(file);
        Published next = publish(arrival, suggested(arrival), VersionStatus.READY, "ten metres");
        assertThat(next.version()).isEqualTo("v002");
        assertThat(next.asset().facts("v002").bounds().size().y()).isCloseTo(10, within(1e-4));
        assertThat(next.asset().card().name())
                .as("the file's own name does not matter")
                .isEqualTo("Mast");
        assertThat(next.asset().shelf()).isEqualTo("Masts");
        assertThat(library.history(next.asset()).getLast().note()).isEqualTo("ten metres");
        assertThat(next.asset().data("v002").resolve("source/mast.stl")).exists();
        assertThat(next.asset().facts("v002").colours()).isNotEmpty();
        assertThat(next.asset().facts("v002").objects()).isNotEmpty();
    }

    @Test
    void aDraftIsSeenByNobodyWhoFollows() {
        Path file = folder.resolve("mast.glb");
        ModelWriters.write(Workshop.model("Mast", Shapes.block(1, 12, 1)), file);
        Imported arrival = read(file);
        Published draft = publish(arrival, suggested(arrival), VersionStatus.DRAFT, "a try");
        assertThat(draft.asset().ready()).contains("v001");
        assertThat(draft.asset().status("v002")).isEqualTo(VersionStatus.DRAFT);
        assertThat(draft.asset().shown()).contains("v001");
        assertThat(library.setStatus(draft.asset(), "v002", VersionStatus.READY).ready())
                .contains("v002");
    }

    @Test
    void whatLacksATextureOrLiesInTheLibraryIsRefusedAndNothingIsHalfDone() throws Exception {
        Path file = folder.resolve("crate.obj");
        Files.writeString(file, "mtllib crate.mtl\nusemtl A\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nf 1/1 2/1 3/1\n");
        Files.writeString(folder.resolve("crate.mtl"), "newmtl A\nmap_Kd lost.png\n");
        Imported arrival = read(file);
        assertThatThrownBy(() -> publish(arrival, suggested(arrival), VersionStatus.READY, "x"))
                .hasMessageContaining("lost.png");
        Imported own = read(mast.entryLayer("v001"));
        assertThatThrownBy(() -> publish(own, suggested(own), VersionStatus.READY, "x"))
                .hasMessageContaining("part of the library");
        assertThat(library.find("Mast").versions()).containsExactly("v001");
        assertThat(library.root().resolve("incoming")).isEmptyDirectory();
        publish(arrival, suggested(arrival).withAllowMissing(true), VersionStatus.READY, "without it");
        assertThat(library.find("Mast").versions()).containsExactly("v001", "v002");
    }

    @Test
    void somebodyElsesReservationStopsItAtTheEndToo() {
        Path file = folder.resolve("mast.glb");
        ModelWriters.write(Workshop.model("Mast", Shapes.block(1, 12, 1)), file);
        Imported arrival = read(file);
        Library ben = Library.open(library.root(), "ben", Clock.systemUTC());
        ben.reservations().reserve(mast);
        assertThatThrownBy(() -> publish(arrival, suggested(arrival), VersionStatus.READY, "x"))
                .hasMessageContaining("ben has reserved ");
        assertThat(library.root().resolve("incoming")).isEmptyDirectory();
        ben.reservations().release(mast);
        assertThat(publish(arrival, suggested(arrival), VersionStatus.READY, "x")
                        .version())
                .isEqualTo("v002");
    }

    @Test
    void aModelThatWasMadeIsPublishedToo() {
        Slip slip = Workshop.slip("Mast", "Masts").withUp(Axis.Y);
        Published next = workshop.intake()
                .publish(
                        Workshop.model("Mast", Shapes.block(2, 9, 2)),
                        slip,
                        new Intake.Next(mast, VersionStatus.READY, "thicker"),
                        library,
                        Progress.NONE);
        assertThat(next.asset().facts("v002").bounds().size().x()).isCloseTo(2, within(1e-6));
        assertThat(library.verify(Progress.NONE).ok()).isTrue();
    }
}
