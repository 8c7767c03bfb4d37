package pantry.usd.compose;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.ShrinkingMode;
import pantry.testing.TinyUsdz;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.Layers;
import pantry.usd.PrimSpec;
import pantry.usd.Specifier;
import pantry.usd.text.UsdaReader;
import pantry.usd.text.UsdaWriter;

/** Generated layers, composed by the stage and by the plain composer. */
class GeneratedCompositionTest {
    private static final Path FOLDER = Path.of("generated").toAbsolutePath();

    @Property(tries = 1000, seed = "20261125", shrinking = ShrinkingMode.OFF)
    void theStageAgreesWithThePlainComposer(@ForAll long seed) {
        Map<String, Layer> layers = GeneratedTrees.of(seed, false);
        Map<String, Layer> placed = placed(layers);
        Stage stage = Stage.open(placed.get("file0.usda"), in(placed));
        Map<String, String> ours =
                TinyUsdz.facts(Flattener.flatten(stage, Flattener.Instances.EXPANDED, FOLDER.resolve("flat.usda")));
        Map<String, String> plain = new PlainComposer(layers, "file0.usda").facts();
        assertThat(ours).as(() -> "seed " + seed + "\n" + text(layers)).isEqualTo(plain);
    }

    @Property(tries = 1000, seed = "20261129", shrinking = ShrinkingMode.OFF)
    void whatIsDefinedNeverBecomesAClassThroughWhatItInherits(@ForAll long seed) {
        Map<String, Layer> layers = GeneratedTrees.of(seed, false);
        Map<String, Layer> placed = placed(layers);
        Stage stage = Stage.open(placed.get("file0.usda"), in(placed));
        stage.prims().forEach(prim -> {
            List<Specifier> own = prim.opinions().stream()
                    .filter(opinion -> opinion.chain().stream()
                            .noneMatch(site -> site.arc().isClass()))
                    .map(opinion -> ((PrimSpec) opinion.spec()).specifier())
                    .toList();
            if (own.contains(Specifier.DEF) && !own.contains(Specifier.CLASS)) {
                assertThat(prim.specifier())
                        .as(() -> "seed " + seed + " <" + prim.path() + ">\n" + text(layers))
                        .isEqualTo(Specifier.DEF);
            }
        });
    }

    /** The layers as if they had been read from files. */
    private static Map<String, Layer> placed(Map<String, Layer> layers) {
        Map<String, Layer> placed = new LinkedHashMap<>();
        layers.forEach((name, layer) -> placed.put(
                name,
                UsdaReader.read(
                        UsdaWriter.write(layer).getBytes(StandardCharsets.UTF_8),
                        AssetLocation.of(FOLDER.resolve(name)))));
        return placed;
    }

    private static Layers in(Map<String, Layer> layers) {
        return location -> layers.get(location.file().getFileName().toString());
    }

    private static String text(Map<String, Layer> layers) {
        StringBuilder text = new StringBuilder();
        layers.forEach(
                (name, layer) -> text.append("--- ").append(name).append('\n').append(UsdaWriter.write(layer)));
        return text.toString();
    }
}
