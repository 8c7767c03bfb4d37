package pantry.usd.compose;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.testing.TinyUsdz;
import pantry.usd.Layer;
import pantry.usd.text.UsdaWriter;

/** Composition against tinyusdz 0.9.0-rc10, which Pantry's authors did not write. */
@Tag("oracle")
class OutsideCompositionTest {
    /** A case that it does not compose is told in its {@code case.txt}; where it does by now, that line has to go. */
    @Test
    void theCasesThatItSupportsComposeToTheSame() throws IOException {
        List<CompositionCase> cases = CompositionCase.all();
        List<Map<String, String>> theirs =
                TinyUsdz.compose(cases.stream().map(CompositionCase::main).toList());
        List<String> unexpected = new ArrayList<>();
        int agreeing = 0;
        for (int i = 0; i < cases.size(); i++) {
            CompositionCase one = cases.get(i);
            Map<String, String> ours =
                    TinyUsdz.facts(Flattener.flatten(one.stage(), Flattener.Instances.EXPANDED, one.main()));
            boolean agrees = ours.equals(theirs.get(i));
            Optional<String> told = one.option("tinyusdz");
            agreeing += agrees ? 1 : 0;
            if (agrees == told.isPresent()) {
                unexpected.add(one + "\n  ours   " + ours + "\n  theirs " + theirs.get(i));
            }
        }
        assertThat(String.join("\n", unexpected)).isEmpty();
        assertThat(agreeing).isGreaterThan(40);
    }

    /** Layers of references, payloads, sublayers and values, made from seeds. */
    @Test
    void generatedLayersComposeToTheSame(@TempDir Path folder) throws IOException {
        List<Path> files = new ArrayList<>();
        for (long seed = 0; seed < 60; seed++) {
            Path place = Files.createDirectories(folder.resolve("seed" + seed));
            for (Map.Entry<String, Layer> layer : GeneratedTrees.of(seed, true).entrySet()) {
                UsdaWriter.write(layer.getValue(), place.resolve(layer.getKey()));
            }
            files.add(place.resolve("file0.usda"));
        }
        List<Map<String, String>> theirs = TinyUsdz.compose(files);
        int facts = 0;
        for (int i = 0; i < files.size(); i++) {
            LayerCache layers = new LayerCache();
            Stage stage = Stage.open(layers.open(files.get(i)), layers);
            Map<String, String> ours =
                    TinyUsdz.facts(Flattener.flatten(stage, Flattener.Instances.EXPANDED, files.get(i)));
            assertThat(ours).as("seed " + i).isEqualTo(theirs.get(i));
            facts += ours.size();
        }
        assertThat(facts).isGreaterThan(600);
    }
}
