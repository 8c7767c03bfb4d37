package pantry.prep.inspect;

import static org.assertj.core.api.Assertions.assertThat;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.exchange.ModelWriters;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Material.Slot;
import pantry.model.Model;
import pantry.model.Texture;
import pantry.prep.Made;
import pantry.prep.fix.Tidy;
import pantry.workpiece.Workpiece;

/** Packing numbers into one image as glTF has them (2.0, section 3.9.2: occlusion red, roughness green, metallic blue). */
class ChannelPackingTest {
    @TempDir
    private Path folder;

    private Texture image(String name, int side, int first, Texture.Sampling sampling) throws IOException {
        BufferedImage image = new BufferedImage(side, side, BufferedImage.TYPE_INT_RGB);
        for (int i = 0; i < side * side; i++) {
            int level = (first + i) % 256;
            // Only one channel is meant; the others say something else.
            image.setRGB(i % side, i / side, level << 16 | (255 - level) << 8 | 17);
        }
        Path file = folder.resolve(name);
        ImageIO.write(image, "png", file.toFile());
        return new Texture(name, Optional.of(file), sampling);
    }

    private Workpiece piece(Map<Slot, Texture> images) {
        Material material = new Material("Steel", Colour.WHITE, 1, 1, 1, Colour.BLACK, images);
        Model.Node plate = Model.Node.of(
                "Plate", Matrix4.IDENTITY, List.of(new Model.Part(Shapes.plate(1, 1), material)), List.of());
        Path file = folder.resolve("plate.usda");
        ModelWriters.write(new Model("Plate", List.of(plate), Model.Extras.NONE), file);
        return Workpiece.of(file, Made.sources(), Progress.NONE);
    }

    private static List<Finding> found(Workpiece piece) {
        return Made.inspect(piece).stream()
                .filter(finding -> finding.rule().id().equals("separate-numbers"))
                .toList();
    }

    private static Texture.Sampling red() {
        return Texture.Sampling.USUAL.with(Texture.Channel.RED);
    }

    @Test
    void eachNumberKeepsItsValuesInAChannelOfItsOwn() throws IOException {
        Map<Slot, Texture> images = Map.of(
                Slot.OCCLUSION, image("ao.png", 16, 10, Texture.Sampling.USUAL),
                Slot.ROUGHNESS, image("rough.png", 16, 80, red()),
                Slot.METALLIC, image("metal.png", 16, 200, red()));
        Workpiece piece = piece(images);
        List<Finding> findings = found(piece);
        assertThat(findings).hasSize(1);
        Tidy.Result result = Tidy.apply(piece, RuleSet.USUAL, Optional.empty(), findings, Progress.NONE);
        assertThat(result.done()).allMatch(done -> done.outcome() == Tidy.Outcome.FIXED);
        assertThat(found(piece)).isEmpty();
        Material packed = piece.model().materials().iterator().next();
        Path file = packed.texture(Slot.ROUGHNESS).orElseThrow().file().orElseThrow();
        assertThat(packed.texture(Slot.METALLIC).orElseThrow().file()).contains(file);
        assertThat(packed.texture(Slot.OCCLUSION).orElseThrow().file()).contains(file);
        for (Slot slot : images.keySet()) {
            assertThat(packed.texture(slot).orElseThrow().sampling().channel())
                    .as("as glTF has it: %s", slot)
                    .isEqualTo(Texture.Channel.OF_SLOT);
        }
        BufferedImage image = ImageIO.read(file.toFile());
        for (int i = 0; i < 256; i++) {
            int pixel = image.getRGB(i % 16, i / 16) & 0xffffff;
            assertThat(pixel).isEqualTo((10 + i) % 256 << 16 | (80 + i) % 256 << 8 | (200 + i) % 256);
        }
        piece.editor().undo();
        assertThat(piece.model()
                        .materials()
                        .iterator()
                        .next()
                        .texture(Slot.METALLIC)
                        .orElseThrow()
                        .baseName())
                .isEqualTo("metal.png");
    }

    @Test
    void imagesThatDoNotFitTogetherStayApart() throws IOException {
        assertThat(found(piece(Map.of(
                        Slot.ROUGHNESS, image("rough.png", 16, 80, red()),
                        Slot.METALLIC, image("small.png", 8, 200, red())))))
                .as("of other sizes")
                .isEmpty();
        Texture.Placement twice = new Texture.Placement(0, 2, 2, 0, 0, 0);
        assertThat(found(piece(Map.of(
                        Slot.ROUGHNESS, image("rough.png", 16, 80, red()),
                        Slot.METALLIC, image("metal.png", 16, 200, red().with(twice))))))
                .as("lying otherwise")
                .isEmpty();
        Texture both = image("both.png", 16, 80, Texture.Sampling.USUAL);
        assertThat(found(piece(Map.of(Slot.ROUGHNESS, both, Slot.METALLIC, both))))
                .as("packed already")
                .isEmpty();
    }
}
