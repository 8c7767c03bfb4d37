package pantry.usd;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.usd.binary.UsdcReader;
import pantry.usd.binary.UsdcWriter;
import pantry.usd.file.LayerFiles;
import pantry.usd.text.UsdaReader;
import pantry.usd.text.UsdaWriter;

/** What one format says, the other says too. */
class LayerFormatsTest {
    @TempDir
    private Path folder;

    @Property(tries = 300)
    void textReadsBackEqual(@ForAll long seed) {
        Layer layer = new GeneratedLayers(new Random(seed)).layer();
        String text = UsdaWriter.write(layer);
        Layer read = UsdaReader.parse(text);
        assertThat(UsdaWriter.write(read)).isEqualTo(text);
        assertThat(read.sameAs(layer)).as(text).isTrue();
    }

    @Property(tries = 300)
    void binaryReadsBackEqual(@ForAll long seed) throws IOException {
        Layer layer = new GeneratedLayers(new Random(seed)).layer();
        Path file = Files.createTempFile("generated", ".usdc");
        try {
            UsdcWriter.write(layer, file);
            Layer read = UsdcReader.read(file);
            assertThat(UsdaWriter.write(read)).isEqualTo(UsdaWriter.write(layer));
            assertThat(read.sameAs(layer)).isTrue();
        } finally {
            Files.delete(file);
        }
    }

    @Test
    void theSameLayerMakesTheSameBytes() throws IOException {
        Path one = folder.resolve("one.usdc");
        Path other = folder.resolve("other.usdc");
        UsdcWriter.write(new GeneratedLayers(new Random(7)).layer(), one);
        UsdcWriter.write(new GeneratedLayers(new Random(7)).layer(), other);
        assertThat(other).hasSameBinaryContentAs(one);
        assertThat(Files.readAllBytes(one)).startsWith("PXR-USDC".getBytes()).contains(8);
    }

    @Test
    void formatsAreToldByWhatIsInTheFile() throws IOException {
        Layer layer = new GeneratedLayers(new Random(3)).layer();
        Path file = folder.resolve("either.usd");
        LayerFiles.write(layer, file);
        assertThat(LayerFiles.read(file).sameAs(layer)).isTrue();
        UsdaWriter.write(layer, file);
        assertThat(LayerFiles.read(file).sameAs(layer)).isTrue();
        Files.writeString(file, "neither");
        assertThatThrownBy(() -> LayerFiles.read(file))
                .isInstanceOf(UsdException.class)
                .hasMessageContaining("#usda 1.0");
        assertThatThrownBy(() -> LayerFiles.write(layer, folder.resolve("a.obj")))
                .isInstanceOf(UsdException.class)
                .hasMessageContaining(".usda");
    }

    @Test
    void anArrayIsReadWhenItIsAskedFor() throws IOException {
        Layer layer = Layer.anonymous();
        layer.root().define("Mesh", "M").set("float[]", "v", new Value.Floats(new float[] {1, 2, 3}, 1));
        Path file = folder.resolve("lazy.usdc");
        UsdcWriter.write(layer, file);
        AttributeSpec attribute = UsdcReader.read(file)
                .prim(SdfPath.of("/M"))
                .flatMap(prim -> prim.attribute("v"))
                .orElseThrow();
        assertThat(attribute.hasValue()).isTrue();
        assertThat(attribute.value()).contains(new Value.Floats(new float[] {1, 2, 3}, 1));
    }
}
