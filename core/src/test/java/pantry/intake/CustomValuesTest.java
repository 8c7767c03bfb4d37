package pantry.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.exchange.usd.UsdAttachedData;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.model.AttachedData;
import pantry.model.Axis;
import pantry.model.CustomValue;
import pantry.testing.WithWorkshop;
import pantry.usd.compose.Stage;

/** What a glTF file says beyond its format ({@code extras}: glTF 2.0, 3.12) is kept with its version and handed on. */
class CustomValuesTest extends WithWorkshop {
    private static final String BUOY = """
            {"asset": {"version": "2.0", "extras": {"batch": "SP-7"}}, "scene": 0, "scenes": [{"nodes": [0]}],
             "nodes": [{"name": "Buoy \\"north\\"", "mesh": 0, "extras": %s}],
             "meshes": [{"primitives": [{"attributes": {"POSITION": 0}, "material": 0}],
                         "extras": {"lod": 2, "targetNames": ["never told"]}}],
             "materials": [{"name": "Red", "extras": "SP-R3"}],
             "buffers": [{"byteLength": 36, "uri":
               "data:application/octet-stream;base64,AAAAAAAAAAAAAAAAAACAPwAAAAAAAAAAAAAAAAAAgD8AAAAA"}],
             "bufferViews": [{"buffer": 0, "byteLength": 36}],
             "accessors": [{"bufferView": 0, "componentType": 5126, "count": 3, "type": "VEC3",
                            "min": [0, 0, 0], "max": [1, 1, 0]}]}
            """;

    private static final String USUAL =
            "{\"serial no.\": \"B-114\", \"mass kg\": 12.5, \"checked\": true, \"ports\": [1, 2], \"tick script\": \"spin()\"}";

    private Imported read(String extras) throws IOException {
        return workshop.readers()
                .read(Files.writeString(folder.resolve("buoy.gltf"), BUOY.formatted(extras)), Progress.NONE);
    }

    private static void check(List<CustomValue> values) {
        assertThat(values)
                .extracting(CustomValue::object, CustomValue::name, CustomValue::value)
                .containsExactlyInAnyOrder(
                        tuple("", "batch", "SP-7"),
                        tuple("Buoy \"north\"", "serial no.", "B-114"),
                        tuple("Buoy \"north\"", "mass kg", 12.5),
                        tuple("Buoy \"north\"", "checked", true),
                        tuple("Buoy \"north\"", "ports", "[1,2]"),
                        tuple("Buoy \"north\"", "tick script", "spin()"),
                        tuple("Buoy \"north\"", "lod", 2.0),
                        tuple("Red", "extras", "SP-R3"));
    }

    private Asset shelved(Imported arrival, Slip slip) {
        return workshop.intake()
                .shelve(arrival, slip, library, Progress.NONE)
                .published()
                .asset();
    }

    /** Also where the slip turns and scales the arrival, and makes one mesh of it. */
    @Test
    void theyAreKeptWithTheVersionAndShown() throws IOException {
        Imported arrival = read(USUAL);
        check(arrival.model().extras().custom());
        Slip plain = Slip.plain("Buoy", AssetKind.MODEL, "Sea", 1, Axis.Y);
        for (Slip slip : List.of(plain, plain.withName("Turned").withUp(Axis.Z).withFactor(0.01))) {
            Asset asset = shelved(arrival, slip);
            var layers = workshop.layers();
            Stage stage = Stage.open(layers.open(asset.entryLayer("v001")), layers);
            assertThat(UsdAttachedData.of(stage))
                    .extracting(AttachedData::object, AttachedData::name, AttachedData::text)
                    .contains(
                            tuple("Buoy \"north\"", "serial no.", "B-114"),
                            tuple("Buoy \"north\"", "mass kg", "12.5"),
                            tuple("Red", "extras", "SP-R3"));
            assertThat(UsdAttachedData.of(stage))
                    .filteredOn(each -> each.kind() == AttachedData.Kind.SCRIPT)
                    .extracting(AttachedData::text)
                    .containsExactly("spin()");
            check(workshop.readers()
                    .read(asset.entryLayer("v001"), Progress.NONE)
                    .model()
                    .extras()
                    .custom());
        }
    }

    @Test
    void theyGoOutToGltfAgain() throws IOException {
        Imported arrival = read(USUAL);
        Path out = folder.resolve("out.gltf");
        ModelWriters.write(arrival.model(), out);
        check(workshop.readers().read(out, Progress.NONE).model().extras().custom());
        // What is said of something that is gone is not lost.
        ModelWriters.write(
                arrival.model()
                        .with(arrival.model().extras().carrying(List.of(new CustomValue("Gone", "note", "kept")))),
                out);
        assertThat(workshop.readers().read(out, Progress.NONE).model().extras().custom())
                .containsExactly(new CustomValue("", "Gone note", "kept"));
    }

    /** Also of what stands in an instance that stands in another; once, however often it stands there. */
    @Test
    void propertiesWithinInstancesAreFoundAtAnyDepth() throws IOException {
        Path file = Files.writeString(folder.resolve("nested.usda"), """
                #usda 1.0
                ( defaultPrim = "Dock" metersPerUnit = 1 upAxis = "Y" )
                class Xform "_Bolt" {
                    def Cube "Head" { custom string userProperties:thread = "M8" }
                }
                class Xform "_Buoy" {
                    def Xform "Left" ( instanceable = true references = </_Bolt> ) {}
                    def Xform "Right" ( instanceable = true references = </_Bolt> ) {}
                    def Cube "Hull" { custom string userProperties:batch = "SP-7" }
                }
                def Xform "Dock" {
                    def Xform "One" ( instanceable = true references = </_Buoy> ) {}
                    def Xform "Two" ( instanceable = true references = </_Buoy> ) {}
                }
                """);
        assertThat(workshop.readers().read(file, Progress.NONE).model().extras().custom())
                .containsExactlyInAnyOrder(
                        new CustomValue("Hull", "batch", "SP-7"), new CustomValue("Head", "thread", "M8"));
    }

    @Test
    void thereIsABound() throws IOException {
        String many = IntStream.range(0, 20_000)
                .mapToObj(i -> "\"p" + i + "\": " + i)
                .collect(Collectors.joining(", ", "{", "}"));
        assertThat(read(many).model().extras().custom()).hasSize(CustomValue.MOST);
    }

    @Test
    void whatIsNoObjectIsOneValue() throws IOException {
        assertThat(read("null").model().extras().custom())
                .extracting(CustomValue::name)
                .containsExactlyInAnyOrder("batch", "lod", "extras");
        assertThat(read("[true, {\"a\": null}]").model().extras().custom())
                .contains(new CustomValue("Buoy \"north\"", "extras", "[true,{\"a\":null}]"));
    }
}
