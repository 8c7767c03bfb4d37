package pantry.exchange;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.concurrent.CancellationException;
import java.util.function.IntFunction;
import java.util.zip.CRC32;
import java.util.zip.DeflaterOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import pantry.base.ImageDecoder;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.testing.Cancelled;
import pantry.testing.WithWorkshop;
import pantry.usd.UsdException;
import pantry.usd.compose.Budget;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;

/** Small files that stand for more than any machine holds: each ends in one error that names it, soon. */
@Timeout(120)
class CostlyFilesTest extends WithWorkshop {
    private static final int DEEP = 40;
    private static final String HEAD = "#usda 1.0\n(\n    defaultPrim = \"A\"\n)\n";
    private static final String MESH = """
            def Mesh "M"
            {
                int[] faceVertexCounts = [3]
                int[] faceVertexIndices = [0, 1, 2]
                point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 1, 0)]
            }
            """;

    private Path file(String name, String text) throws IOException {
        return Files.writeString(folder.resolve(name), text);
    }

    /** Layers of which each says the same of the next. */
    private Path chain(IntFunction<String> layer) throws IOException {
        for (int i = DEEP - 1; i >= 0; i--) {
            file("l" + i + ".usda", layer.apply(i));
        }
        file("l" + DEEP + ".usda", HEAD + "def Xform \"A\"\n{\n" + MESH + "}\n");
        return folder.resolve("l0.usda");
    }

    private void refused(Path file, String... words) {
        assertThatThrownBy(() -> workshop.readers().read(file, Progress.NONE))
                .isInstanceOf(PantryException.class)
                .satisfies(problem ->
                        assertThat(((PantryException) problem).line()).contains(words));
    }

    @Test
    void layersThatReferenceTheNextOneTwice() throws IOException {
        refused(chain(i -> HEAD + """
                        def Xform "A"
                        {
                            def "B" (references = @l%1$d.usda@) {}
                            def "C" (references = @l%1$d.usda@) {}
                        }
                        """.formatted(i + 1)), "l0.usda", "sites to be composed", "the chain:");
    }

    @Test
    void layersThatBringInTheNextOneTwiceAsSublayers() throws IOException {
        refused(
                chain(i -> "#usda 1.0\n(\n    subLayers = [@l%1$d.usda@, @./l%1$d.usda@]\n)\n".formatted(i + 1)),
                "sublayers bring in each other too often");
    }

    @Test
    void instancesWithinInstances() throws IOException {
        refused(chain(i -> HEAD + """
                        def Xform "A"
                        {
                            def "B" (instanceable = true
                                references = @l%1$d.usda@) {}
                            def "C" (instanceable = true
                                references = @l%1$d.usda@) {}
                        }
                        """.formatted(i + 1)), "l0.usda", "stand for more than");
    }

    @Test
    void classesThatInheritTheNextOneTwice() throws IOException {
        StringBuilder text = new StringBuilder(HEAD);
        text.append("def Xform \"A\" (inherits = [</C0>]) {\n").append(MESH).append("}\n");
        for (int i = 0; i < DEEP; i++) {
            text.append("""
                    class "C%1$d"
                    {
                        def "X" (inherits = </C%2$d>) {}
                        def "Y" (inherits = </C%2$d>) {}
                    }
                    """.formatted(i, i + 1));
        }
        text.append("class \"C").append(DEEP).append("\" {}\n");
        refused(file("classes.usda", text.toString()), "classes.usda", "sites to be composed");
    }

    @Test
    void variantSetsAndPrimsNestedTooDeeply() throws IOException {
        int deep = 20_000;
        refused(
                file(
                        "variants.usda",
                        HEAD + "def Xform \"A\" {\n" + "variantSet \"s\" = { \"v\" {\n".repeat(deep)
                                + "} }\n".repeat(deep) + "}\n"),
                "variants.usda",
                "nested more than");
        refused(
                file("prims.usda", HEAD + "def \"A\" {\n".repeat(deep) + "}\n".repeat(deep)),
                "prims.usda",
                "nested more than");
    }

    @Test
    void aLongChainOfReferences() throws IOException {
        StringBuilder text = new StringBuilder(HEAD).append("def Xform \"A\" (references = </P0>) {}\n");
        for (int i = 0; i < 5000; i++) {
            text.append("def \"P%d\" (references = </P%d>) {}\n".formatted(i, i + 1));
        }
        text.append("def Xform \"P5000\" {\n").append(MESH).append("}\n");
        refused(file("long.usda", text.toString()), "long.usda", "deep");
    }

    @Test
    void composingStopsWhenItIsCancelled() throws IOException {
        Path first = chain(i -> HEAD + """
                def Xform "A"
                {
                    def "B" (references = @l%1$d.usda@) {}
                    def "C" (references = @l%1$d.usda@) {}
                }
                """.formatted(i + 1));
        Progress cancelled = new Cancelled();
        LayerCache layers = new LayerCache();
        Stage stage = Stage.open(layers.open(first), layers, Budget.forReading(Budget.Limits.USUAL, cancelled));
        assertThatThrownBy(() -> stage.prims().count()).isInstanceOf(CancellationException.class);
    }

    @Test
    void aStageWhoseComposingWasCancelledCanBeAskedOn() throws IOException {
        StringBuilder text = new StringBuilder(HEAD);
        int prims = 20_000;
        for (int i = 0; i < prims; i++) {
            text.append("def \"P%d\" {}\n".formatted(i));
        }
        LayerCache layers = new LayerCache();
        Stage stage = Stage.open(layers.open(file("many.usda", text.toString())), layers);
        assertThatThrownBy(() -> stage.budget()
                        .watched(new Cancelled(), () -> stage.prims().count()))
                .isInstanceOf(CancellationException.class);
        assertThat(stage.prims().count()).isEqualTo(prims);
    }

    @Test
    void theMostThatComposingMayCostCanBeChanged() throws IOException {
        Budget.Limits few = Budget.Limits.ofEnvironment(Map.of("PANTRY_COMPOSE_SITES", "100"));
        Path first = chain(
                i -> HEAD + "def Xform \"A\"\n{\n    def \"B\" (references = @l%d.usda@) {}\n}\n".formatted(i + 1));
        LayerCache layers = new LayerCache();
        assertThatThrownBy(() -> Stage.open(layers.open(first), layers, Budget.of(few))
                        .prims()
                        .count())
                .isInstanceOf(UsdException.class)
                .hasMessageContaining("more than 100 sites");
        assertThat(Stage.open(layers.open(first), layers).prims().count()).isEqualTo(DEEP + 2);
        assertThatThrownBy(() -> Budget.Limits.ofEnvironment(Map.of("PANTRY_COMPOSE_SITES", "many")))
                .hasMessageContaining("PANTRY_COMPOSE_SITES");
    }

    /** A PNG of black pixels, of which a million take a kilobyte (PNG specification, section 5). */
    private Path png(int width, int height) throws IOException {
        ByteArrayOutputStream packed = new ByteArrayOutputStream();
        try (DeflaterOutputStream out = new DeflaterOutputStream(packed)) {
            byte[] row = new byte[1 + width / 8];
            for (int y = 0; y < Math.min(height, 2000); y++) {
                out.write(row);
            }
        }
        ByteArrayOutputStream head = new ByteArrayOutputStream();
        DataOutputStream fields = new DataOutputStream(head);
        fields.writeInt(width);
        fields.writeInt(height);
        fields.write(new byte[] {1, 0, 0, 0, 0});
        Path file = folder.resolve("huge-" + width + ".png");
        try (DataOutputStream out = new DataOutputStream(Files.newOutputStream(file))) {
            out.write(new byte[] {(byte) 0x89, 'P', 'N', 'G', 13, 10, 26, 10});
            chunk(out, "IHDR", head.toByteArray());
            chunk(out, "IDAT", packed.toByteArray());
            chunk(out, "IEND", new byte[0]);
        }
        return file;
    }

    private static void chunk(DataOutputStream out, String type, byte[] data) throws IOException {
        CRC32 sum = new CRC32();
        sum.update(type.getBytes(StandardCharsets.US_ASCII));
        sum.update(data);
        out.writeInt(data.length);
        out.writeBytes(type);
        out.write(data);
        out.writeInt((int) sum.getValue());
    }

    @Test
    void anImageIsMeasuredBeforeItIsDecoded() throws IOException {
        Path square = png(30_000, 30_000);
        refused(square, "huge-30000.png", "30,000 × 30,000 pixels");
        assertThatThrownBy(() -> ImageDecoder.read(square)).hasMessageContaining("pixels");
        refused(png(2_000_000_000, 1), "2,000,000,000 × 1 pixels");
        assertThat(ImageDecoder.read(png(4096, 1024), 256).getWidth()).isEqualTo(512);
    }
}
