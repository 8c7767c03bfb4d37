package pantry.catalogue;

import static org.assertj.core.api.Assertions.assertThat;

import java.awt.image.BufferedImage;
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
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.mesh.Shapes;
import pantry.model.ShapeDescriptor;
import pantry.testing.Workshop;

/** Which assets were made of a file, whatever it holds and is called now. */
class SameFilesTest {
    @TempDir
    private Path folder;

    private Workshop workshop;
    private Catalogue catalogue;

    @BeforeEach
    void open() {
        workshop = new Workshop(folder);
        catalogue = Catalogue.open(folder.resolve("index.sqlite"));
    }

    @AfterEach
    void close() {
        catalogue.close();
        workshop.close();
    }

    private void shelve(Path file) {
        Imported arrival = workshop.intake().read(file, Progress.NONE);
        workshop.intake()
                .shelve(
                        arrival,
                        Intake.suggested(arrival, "Things", Neighbours.NONE),
                        workshop.library(),
                        Progress.NONE);
    }

    private Finder finder() {
        catalogue.refresh(workshop.library(), Progress.NONE);
        return catalogue.finder(List.of(workshop.library()));
    }

    private List<String> likeOf(Path file, Optional<ShapeDescriptor> shape) {
        return catalogue.sameFiles().alike(file, shape, finder(), 0.5, 4).stream()
                .map(each -> each.item().name() + (each.sameFile() ? ", the same file" : ""))
                .toList();
    }

    private Path image(String name, int colour) throws IOException {
        BufferedImage image = new BufferedImage(8, 8, BufferedImage.TYPE_INT_RGB);
        image.setRGB(3, 3, colour);
        return Files.write(folder.resolve(name), Png.of(image));
    }

    @Test
    void whatHasNoShapeIsFoundByItsBytesUnderAnotherName() throws IOException {
        Path rust = image("rust.png", 0x904020);
        shelve(rust);
        shelve(image("snow.png", 0xfafaff));
        Path again = Files.copy(rust, folder.resolve("from-the-yard.png"));
        assertThat(likeOf(again, Optional.empty())).containsExactly("Rust, the same file");
        assertThat(likeOf(image("moss.png", 0x306020), Optional.empty())).isEmpty();
        assertThat(likeOf(folder.resolve("gone.png"), Optional.empty())).isEmpty();
    }

    @Test
    void aFileThatOnlyCameAlongIsNotWhatAnAssetWasMadeOf() throws IOException {
        Path lid = folder.resolve("lid.obj");
        ModelWriters.write(Workshop.model("Lid", Shapes.block(1, 0.1, 1)), lid);
        shelve(lid);
        assertThat(likeOf(lid, Optional.empty())).containsExactly("Lid, the same file");
        Path materials = folder.resolve("lid.mtl");
        assertThat(materials).exists();
        assertThat(likeOf(materials, Optional.empty())).isEmpty();
    }

    @Test
    void theSameFileComesBeforeTheSameShapeAndOnlyOnce() {
        Path post = folder.resolve("post.stl");
        ModelWriters.write(Workshop.model("Post", Shapes.block(0.2, 2, 0.2)), post);
        workshop.block("Pole", "Things", 10);
        shelve(post);
        Optional<ShapeDescriptor> shape = Optional.of(
                ShapeDescriptor.of(workshop.intake().read(post, Progress.NONE).model()));
        assertThat(likeOf(post, shape)).first().isEqualTo("Post, the same file");
        assertThat(likeOf(post, shape)).doesNotHaveDuplicates().contains("Pole");
    }

    @Test
    void aVersionThatWasAddedSinceIsFoundToo() throws IOException {
        Path rust = image("rust.png", 0x904020);
        shelve(rust);
        Path next = image("rust-bright.png", 0xd06030);
        assertThat(likeOf(next, Optional.empty())).isEmpty();
        Imported arrival = workshop.intake().read(next, Progress.NONE);
        String id = workshop.library().find("Rust").card().id();
        workshop.intake()
                .shelve(
                        arrival,
                        Intake.suggested(arrival, "Things", Neighbours.NONE).withVersionOf(Optional.of(id)),
                        workshop.library(),
                        Progress.NONE);
        assertThat(likeOf(next, Optional.empty())).containsExactly("Rust, the same file");
    }
}
