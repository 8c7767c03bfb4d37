package pantry.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.usd.AssetLocation;
import pantry.usd.AssetPaths;
import pantry.usd.Layers;
import pantry.usd.SdfPath;
import pantry.usd.UsdException;
import pantry.usd.file.LayerFiles;
import pantry.usd.text.UsdaReader;
import pantry.usd.text.UsdaWriter;
import pantry.usd.text.WrittenAsset;

/** Asset paths in a layer's text: where they stand, whose they are, and that nothing else is touched. */
class WrittenAssetsTest {
    @TempDir
    private Path folder;

    private static final String TEXT = """
            #usda 1.0
            (
                subLayers = [ @./lamps.usda@ (offset = 1), @./more lamps.usda@ ]
            )
            # not @this@ one
            def Xform "Camp" (
                doc = "nor @this@"
                prepend references = [@./hut.usda@</Hut>, @./a.usdz[b.usda]@]
                variants = { string look = "red" }
                prepend variantSets = "look"
            )
            {
                asset inputs:file = @./rust.png@
                asset inputs:file.timeSamples = { 1: @./one.png@, 2: @./two.png@ }
                asset[] many = [@./x.png@, @./y.png@]
                variantSet "look" = {
                    "red" ( payload = @./red.usda@ ) {
                        def "In" ( references = @@@./at@sign.usda@@@ ) {}
                    }
                }
                def "After" ( references = @./hut.usda@ ) {}
            }
            """;

    private static List<String> told(String text) {
        return UsdaReader.assets(text.getBytes(StandardCharsets.UTF_8), AssetLocation.of(Path.of("/x/camp.usda")))
                .stream()
                .map(asset -> asset.place() + " " + asset.path())
                .toList();
    }

    @Test
    void eachIsToldWithThePrimOrPropertyThatHasIt() {
        assertThat(told(TEXT))
                .containsExactly(
                        "/ ./lamps.usda",
                        "/ ./more lamps.usda",
                        "/Camp ./hut.usda",
                        "/Camp ./a.usdz[b.usda]",
                        "/Camp.inputs:file ./rust.png",
                        "/Camp.inputs:file ./one.png",
                        "/Camp.inputs:file ./two.png",
                        "/Camp.many ./x.png",
                        "/Camp.many ./y.png",
                        "/Camp{look=red} ./red.usda",
                        "/Camp{look=red}In ./at@sign.usda",
                        "/Camp/After ./hut.usda");
        assertThatThrownBy(() -> told("#usda 1.0\ndef \"A\" ( references = @./a\n@ ) {}"))
                .isInstanceOf(UsdException.class);
    }

    private String rewritten(Change... changes) {
        Path file = folder.resolve("camp.usda");
        return new String(
                AssetRewriter.rewritten(
                        file, TEXT.getBytes(StandardCharsets.UTF_8), List.of(changes), AssetPaths.PLAIN),
                StandardCharsets.UTF_8);
    }

    private Change change(String place, String before, String after) {
        return new Change(folder.resolve("camp.usda"), place, folder.resolve(before), folder.resolve(after), "");
    }

    @Test
    void onlyTheNamesThatAreMeantAreChanged() {
        assertThat(rewritten(change("/Camp", "hut.usda", "sub/new hut.usda")))
                .isEqualTo(TEXT.replace("[@./hut.usda@</Hut>", "[@./sub/new hut.usda@</Hut>"));
        assertThat(rewritten(
                        change("", "more lamps.usda", "fewer.usda"),
                        change("/Camp.inputs:file", "two.png", "three.png"),
                        change("/Camp{look=red}In", "at@sign.usda", "plain.usda")))
                .isEqualTo(TEXT.replace("more lamps", "fewer")
                        .replace("two.png", "three.png")
                        .replace("@@@./at@sign.usda@@@", "@./plain.usda@"));
        assertThat(rewritten(change("/Camp", "a.usdz", "moved/a.usdz"))).contains("@./moved/a.usdz[b.usda]@");
        assertThat(rewritten(change("/Camp/After", "hut.usda", "odd@name.usda")))
                .contains("@@@./odd@name.usda@@@");
    }

    @Test
    void whatIsNoLongerThereIsRefusedByNamingThePlace() {
        assertThatThrownBy(() -> rewritten(change("/Camp", "gone.usda", "x.usda")))
                .hasMessageContaining("was changed since the plan was made")
                .hasMessageContaining("gone.usda");
    }

    /** Against the parsed layer, on layers that are made from seeds. */
    @Test
    void theTextNamesWhatTheLayerNames() throws IOException {
        Layers layers = LayerFiles::read;
        for (long seed = 0; seed < 12; seed++) {
            Path root = folder.resolve("seed" + seed);
            GeneratedProject.in(root, seed);
            List<Path> files = new ArrayList<>();
            try (Stream<Path> all = Files.walk(root)) {
                all.filter(file -> file.toString().endsWith(".usda")).forEach(files::add);
            }
            for (Path file : files) {
                byte[] text = Files.readAllBytes(file);
                Set<String> written = new TreeSet<>();
                for (WrittenAsset asset : UsdaReader.assets(text, AssetLocation.of(file))) {
                    assertThat(new String(text, asset.from(), asset.to() - asset.from(), StandardCharsets.UTF_8))
                            .isEqualTo(UsdaWriter.asset(asset.path()));
                    String place = asset.place().equals(SdfPath.ROOT)
                            ? ""
                            : asset.place().toString();
                    written.add(place + " " + file.resolveSibling(asset.path()).normalize());
                }
                Set<String> named = new TreeSet<>();
                for (LayerRecord.Arc arc :
                        LayerRecord.of(LayerFiles.read(file), layers).arcs()) {
                    List<String> places = arc.places().isEmpty() ? List.of("") : arc.places();
                    places.forEach(place -> named.add(place + " " + arc.target()));
                }
                assertThat(written).as(file.toString()).isEqualTo(named);
            }
        }
    }
}
