package pantry.usd.edit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import java.util.random.RandomGenerator;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.LayerOffset;
import pantry.usd.Layers;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.UsdException;
import pantry.usd.Value;
import pantry.usd.compose.Flattener;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Population;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.compose.StageChange;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;
import pantry.usd.text.UsdaReader;
import pantry.usd.text.UsdaWriter;

class StageEditorTest {
    @TempDir
    private Path folder;

    private final LayerCache layers = new LayerCache();
    private final List<StageChange> told = new ArrayList<>();
    private StageEditor editor;

    @BeforeEach
    void openYard() throws IOException {
        write("asset", """
                (defaultPrim="Mast")
                class "_Paint" { int coats = 2 }
                def Xform "Mast" (inherits = </_Paint>) { int height = 9 def Mesh "Pole" { int sides = 8 } }
                """);
        write("weak", "over \"Yard\" { over \"Shed\" { int doors = 1 over \"Roof\" { int tiles = 40 } } }");
        Path yard = write("yard", """
                (defaultPrim="Yard" subLayers=[@weak.usda@])
                def Xform "Yard" {
                    def Xform "Shed" (variantSets="size" variants={string size="small"}) {
                        rel light = </Yard/Lamp.glow>
                        def Mesh "Roof" {}
                        variantSet "size" = {
                            "small" { over "Roof" { int beams = 3 } }
                            "large" { over "Roof" { int beams = 5 } def Mesh "Porch" {} }
                        }
                    }
                    def Xform "Lamp" { float glow.connect = </Yard/Shed/Roof.out> rel own = </Yard/Lamp/Bulb> def Mesh "Bulb" {} }
                    def Xform "Mast" (references=@asset.usda@) {}
                    def Xform "Other" (references=</Yard/Shed>) {}
                }
                """);
        editor = StageEditor.open(yard, layers, Population.ALL);
        editor.onChange(told::add);
    }

    private Path write(String name, String text) throws IOException {
        return Files.writeString(folder.resolve(name + ".usda"), "#usda 1.0\n" + text);
    }

    private static SdfPath path(String text) {
        return SdfPath.of(text);
    }

    private Optional<Value> value(String attribute) {
        SdfPath at = path(attribute);
        return editor.stage().prim(at.prim()).flatMap(prim -> prim.value(at.name()));
    }

    private List<String> texts() {
        return texts(editor);
    }

    private static List<String> texts(StageEditor of) {
        return of.stage().layerStack().stream().map(UsdaWriter::write).toList();
    }

    private String flat(Stage stage) {
        return UsdaWriter.write(Flattener.flatten(stage, Flattener.Instances.SHARED, folder.resolve("flat.usda")));
    }

    @Test
    void aDefinedPrimIsThereWithThoseAboveIt() {
        editor.changeAll("define", edits -> edits.define(path("/Yard/Fence/Post"), "Cube"));
        assertThat(editor.stage().prim(path("/Yard/Fence/Post")))
                .map(Prim::typeName)
                .contains("Cube");
        assertThat(told).singleElement().satisfies(change -> assertThat(change.resynced())
                .as("the outermost of what is new")
                .containsExactly(path("/Yard/Fence")));
    }

    @Test
    void aChangedValueIsToldAsThatPropertyAloneAndLeavesThePrimsAsTheyAre() {
        Prim pole = editor.stage().prim(path("/Yard/Mast/Pole")).orElseThrow();
        editor.changeAll("sides", edits -> edits.set(path("/Yard/Mast/Pole.sides"), "int", new Value.Int(12)));
        assertThat(value("/Yard/Mast/Pole.sides")).contains(new Value.Int(12));
        assertThat(told.getFirst().resynced())
                .as("an override had to be made first")
                .isNotEmpty();
        editor.changeAll("sides", edits -> edits.set(path("/Yard/Mast/Pole.sides"), "int", new Value.Int(16)));
        assertThat(told.getLast()).isEqualTo(new StageChange(Set.of(), Set.of(path("/Yard/Mast/Pole.sides"))));
        assertThat(value("/Yard/Mast/Pole.sides")).contains(new Value.Int(16));
        assertThat(pole.path()).isEqualTo(path("/Yard/Mast/Pole"));
    }

    @Test
    void whatRefersInternallyToAnEditedPrimIsToldToo() {
        flat(editor.stage());
        editor.changeAll("doors", edits -> edits.set(path("/Yard/Shed.doors"), "int", new Value.Int(2)));
        assertThat(told.getFirst().changed()).contains(path("/Yard/Shed.doors"), path("/Yard/Other.doors"));
        assertThat(value("/Yard/Other.doors")).contains(new Value.Int(2));
    }

    @Test
    void whatRefersToAPrimThatComesLaterHasItFromThenOn() {
        SdfPath copy = SdfPath.of("/Yard/Copy");
        editor.changeAll("refer", edits -> {
            PrimSpec prim = new PrimSpec(Specifier.DEF, "Xform", "Copy");
            prim.setReferences(Reference.internal(SdfPath.of("/Yard/Later")));
            edits.add(SdfPath.of("/Yard"), prim);
        });
        assertThat(editor.stage().prim(copy).orElseThrow().children()).isEmpty();
        editor.changeAll("make", edits -> {
            edits.define(SdfPath.of("/Yard/Later"), "Xform");
            edits.define(SdfPath.of("/Yard/Later/Post"), "Mesh");
        });
        assertThat(editor.stage().prim(copy.child("Post"))).isPresent();
        assertThat(editor.stage().problems()).isEmpty();
        editor.undo();
        assertThat(editor.stage().prim(copy.child("Post"))).isEmpty();
    }

    @Test
    void editsGoToTheLayerThatIsTheTarget() {
        Layer weak = editor.stage().layerStack().get(1);
        editor.setTarget(EditTarget.of(weak));
        editor.changeAll("doors", edits -> edits.set(path("/Yard/Shed.doors"), "int", new Value.Int(7)));
        assertThat(UsdaWriter.write(weak)).contains("doors = 7");
        assertThat(UsdaWriter.write(editor.rootLayer())).doesNotContain("doors");
        assertThat(value("/Yard/Shed.doors")).contains(new Value.Int(7));
        assertThat(editor.unsaved()).containsExactly(weak);
        assertThat(layers.open(folder.resolve("weak.usda"))
                        .prim(path("/Yard/Shed"))
                        .orElseThrow()
                        .attribute("doors")
                        .orElseThrow()
                        .value())
                .as("layers that others use are left alone")
                .contains(new Value.Int(1));
    }

    @Test
    void editsInAVariantHoldWhereItIsSelected() {
        editor.setTarget(EditTarget.inVariant(editor.rootLayer(), path("/Yard/Shed"), "size", "large"));
        editor.changeAll("tiles", edits -> edits.set(path("/Yard/Shed/Roof.slope"), "int", new Value.Int(30)));
        assertThat(value("/Yard/Shed/Roof.slope")).isEmpty();
        editor.setTarget(EditTarget.of(editor.rootLayer()));
        editor.changeAll("large", edits -> edits.select(path("/Yard/Shed"), "size", "large"));
        assertThat(value("/Yard/Shed/Roof.slope")).contains(new Value.Int(30));
        assertThat(value("/Yard/Shed/Roof.beams")).contains(new Value.Int(5));
        assertThat(editor.stage().prim(path("/Yard/Other/Porch")))
                .as("also where the prim is referred to")
                .isPresent();
    }

    @Test
    void outsideOfItsPrimAVariantCannotBeTheTarget() {
        editor.setTarget(EditTarget.inVariant(editor.rootLayer(), path("/Yard/Shed"), "size", "large"));
        assertThatThrownBy(() -> editor.changeAll("no", edits -> edits.define(path("/Yard/Lamp/X"), "Cube")))
                .isInstanceOf(UsdException.class)
                .hasMessageContaining("/Yard/Shed");
    }

    @Test
    void aNewVariantCanBeSelected() {
        editor.changeAll("huge", edits -> {
            edits.addVariant(path("/Yard/Lamp"), "light", "bright");
            edits.select(path("/Yard/Lamp"), "light", "bright");
        });
        editor.setTarget(EditTarget.inVariant(editor.rootLayer(), path("/Yard/Lamp"), "light", "bright"));
        editor.changeAll("watts", edits -> edits.set(path("/Yard/Lamp.watts"), "int", new Value.Int(60)));
        assertThat(value("/Yard/Lamp.watts")).contains(new Value.Int(60));
        editor.undo();
        editor.undo();
        assertThat(UsdaWriter.write(editor.rootLayer()))
                .doesNotContain("light\" =")
                .doesNotContain("watts");
    }

    @Test
    void aRenamedPrimTakesItsOpinionsTargetsAndReferencesAlongInEveryLayerAndVariant() {
        editor.changeAll("rename", edits -> edits.rename(path("/Yard/Shed"), "Barn"));
        assertThat(editor.stage().prim(path("/Yard/Shed"))).isEmpty();
        assertThat(value("/Yard/Barn.doors")).as("from the sublayer").contains(new Value.Int(1));
        assertThat(value("/Yard/Barn/Roof.beams")).as("from the variant").contains(new Value.Int(3));
        assertThat(value("/Yard/Other/Roof.beams"))
                .as("by the internal reference")
                .contains(new Value.Int(3));
        Prim lamp = editor.stage().prim(path("/Yard/Lamp")).orElseThrow();
        assertThat(lamp.attribute("glow").orElseThrow().connections()).containsExactly(path("/Yard/Barn/Roof.out"));
        assertThat(editor.stage().root().child("Yard").orElseThrow().children())
                .extracting(Prim::name)
                .as("at the place it had among its siblings")
                .containsExactly("Barn", "Lamp", "Mast", "Other");
        editor.undo();
        assertThat(value("/Yard/Shed.doors")).contains(new Value.Int(1));
    }

    @Test
    void aPrimSaidInVariantsIsRenamedInAllOfThem() {
        editor.changeAll("rename", edits -> edits.rename(path("/Yard/Shed/Roof"), "Top"));
        assertThat(value("/Yard/Shed/Top.beams")).contains(new Value.Int(3));
        editor.changeAll("large", edits -> edits.select(path("/Yard/Shed"), "size", "large"));
        assertThat(value("/Yard/Shed/Top.beams")).contains(new Value.Int(5));
        assertThatThrownBy(
                        () -> editor.changeAll("out", edits -> edits.move(path("/Yard/Shed/Top"), path("/Yard/Top"))))
                .isInstanceOf(UsdException.class)
                .hasMessageContaining("variant");
    }

    @Test
    void theDefaultPrimStaysTheDefaultUnderAnotherName() {
        editor.changeAll("rename", edits -> edits.rename(path("/Yard"), "Quay"));
        assertThat(editor.rootLayer().defaultPrim()).contains("Quay");
        assertThat(value("/Quay/Shed.doors")).contains(new Value.Int(1));
    }

    @Test
    void aMovedPrimStandsElsewhereWithItsTargets() {
        editor.changeAll("move", edits -> edits.move(path("/Yard/Lamp"), path("/Yard/Mast/Light")));
        Prim lamp = editor.stage().prim(path("/Yard/Mast/Light")).orElseThrow();
        assertThat(lamp.targets("own")).containsExactly(path("/Yard/Mast/Light/Bulb"));
        assertThat(editor.stage().prim(path("/Yard/Shed")).orElseThrow().targets("light"))
                .containsExactly(path("/Yard/Mast/Light.glow"));
    }

    @Test
    void aCopyRefersToItselfWithinAndToTheSameThingsOutside() {
        editor.changeAll("copy", edits -> edits.copy(path("/Yard/Lamp"), path("/Yard/Lamp2")));
        Prim copy = editor.stage().prim(path("/Yard/Lamp2")).orElseThrow();
        assertThat(copy.targets("own")).containsExactly(path("/Yard/Lamp2/Bulb"));
        assertThat(copy.attribute("glow").orElseThrow().connections()).containsExactly(path("/Yard/Shed/Roof.out"));
        assertThat(editor.stage().prim(path("/Yard/Lamp")).orElseThrow().targets("own"))
                .containsExactly(path("/Yard/Lamp/Bulb"));
    }

    @Test
    void whatAReferenceBringsInIsNotTakenApart() {
        for (Consumer<Transaction> edit : List.<Consumer<Transaction>>of(
                edits -> edits.remove(path("/Yard/Mast/Pole")),
                edits -> edits.rename(path("/Yard/Mast/Pole"), "Stick"),
                edits -> edits.move(path("/Yard/Other/Roof"), path("/Yard/Roof")),
                edits -> edits.copy(path("/Yard/Mast/Pole"), path("/Yard/Pole")))) {
            assertThatThrownBy(() -> editor.changeAll("no", edit))
                    .isInstanceOf(UsdException.class)
                    .hasMessageContaining("is brought in");
        }
        assertThat(editor.undoName()).isEmpty();
    }

    @Test
    void namesThatAreTakenAndPlacesThatAreNotThereAreRefused() {
        assertThatThrownBy(() -> editor.changeAll("no", edits -> edits.rename(path("/Yard/Shed"), "Mast")))
                .hasMessageContaining("already a prim at </Yard/Mast>");
        assertThatThrownBy(() -> editor.changeAll("no", edits -> edits.move(path("/Yard/Shed"), path("/No/Shed"))))
                .hasMessageContaining("</No>");
        assertThatThrownBy(() -> editor.changeAll("no", edits -> edits.move(path("/Yard"), path("/Yard/Shed/Yard"))))
                .hasMessageContaining("into itself");
        assertThatThrownBy(() -> editor.changeAll(
                        "no", edits -> edits.add(path("/Yard"), new PrimSpec(Specifier.DEF, "", "Lamp"))))
                .hasMessageContaining("already");
    }

    @Test
    void fieldsOfPrimsAndLayersAreSetAndTakenBack() {
        SdfPath yard = path("/Yard");
        List<String> before = texts();
        editor.changeAll("fields", edits -> {
            edits.setField(yard, "kind", new Value.Token("assembly"));
            edits.setLayerField("doc", new Value.Text("the yard"));
        });
        assertThat(editor.stage().prim(yard)).map(Prim::kind).contains("assembly");
        assertThat(editor.rootLayer().text("doc")).contains("the yard");
        editor.changeAll("back", edits -> {
            edits.clearField(yard, "kind");
            edits.setLayerField("doc", null);
        });
        assertThat(texts()).isEqualTo(before);
    }

    @Test
    void severalChangesAreDoneUndoneAndRedoneAsOne() {
        editor.changeAll("first", edits -> edits.define(path("/Yard/First"), "Xform"));
        List<String> before = texts();
        String made = editor.together("both", () -> {
            editor.changeAll("second", edits -> edits.define(path("/Yard/Second"), "Xform"));
            editor.changeAll("third", edits -> edits.define(path("/Yard/Second/Third"), "Xform"));
            return "made";
        });
        assertThat(made).isEqualTo("made");
        List<String> after = texts();
        assertThat(editor.undoName()).contains("both");
        editor.undo();
        assertThat(texts()).isEqualTo(before);
        assertThat(editor.undoName()).contains("first");
        editor.redo();
        assertThat(texts()).isEqualTo(after);
        assertThat(editor.together("nothing", () -> 1)).isEqualTo(1);
        assertThat(editor.undoName()).as("what changed nothing is no change").contains("both");
    }

    @Test
    void whatWasDoneSinceAChangeIsMadeOne() {
        editor.changeAll("first", edits -> edits.define(path("/Yard/First"), "Xform"));
        Optional<Object> first = editor.lastChange();
        List<String> before = texts();
        editor.changeAll("second", edits -> edits.define(path("/Yard/Second"), "Xform"));
        editor.joinSince(first);
        assertThat(editor.undoName()).as("one is one").contains("second");
        editor.changeAll("third", edits -> edits.define(path("/Yard/Third"), "Xform"));
        editor.joinSince(first);
        assertThat(editor.undoName()).contains("second, third");
        editor.undo();
        assertThat(texts()).isEqualTo(before);
        assertThat(editor.lastChange()).isEqualTo(first);
        editor.undo();
        assertThat(editor.lastChange()).isEmpty();
        assertThatThrownBy(() -> editor.joinSince(first)).isInstanceOf(IllegalStateException.class);
    }

    @Test
    void whatWasDoneSinceAChangeIsGivenUp() {
        editor.changeAll("first", edits -> edits.define(path("/Yard/First"), "Xform"));
        Optional<Object> first = editor.lastChange();
        List<String> before = texts();
        editor.changeAll("second", edits -> edits.define(path("/Yard/Second"), "Xform"));
        editor.changeAll("third", edits -> edits.define(path("/Yard/Third"), "Xform"));
        editor.giveUpSince(first);
        assertThat(texts()).isEqualTo(before);
        assertThat(editor.undoName()).contains("first");
        assertThat(editor.redoName()).as("it is not done again").isEmpty();
    }

    @Test
    void whereOneOfSeveralChangesFailsNoneOfThemStands() {
        editor.changeAll("first", edits -> edits.define(path("/Yard/First"), "Xform"));
        List<String> before = texts();
        assertThatThrownBy(() -> editor.together("both", () -> {
                    editor.changeAll("second", edits -> edits.define(path("/Yard/Second"), "Xform"));
                    throw new UsdException("it fails");
                }))
                .hasMessageContaining("it fails");
        assertThat(texts()).isEqualTo(before);
        assertThat(editor.undoName()).contains("first");
        assertThat(editor.redoName()).isEmpty();
    }

    @Test
    void whereTheWorkFailsNothingIsChanged() {
        List<String> before = texts();
        assertThatThrownBy(() -> editor.changeAll("half", edits -> {
                    edits.define(path("/Yard/New"), "Cube");
                    edits.remove(path("/Yard/Shed"));
                    throw new IllegalStateException("stop");
                }))
                .hasMessage("stop");
        assertThat(texts()).isEqualTo(before);
        assertThat(editor.stage().prim(path("/Yard/New"))).isEmpty();
        assertThat(editor.stage().prim(path("/Yard/Shed"))).isPresent();
        assertThat(told)
                .as("what was composed anew for it")
                .flatExtracting(StageChange::resynced)
                .contains(path("/Yard/New"), path("/Yard/Shed"));
    }

    @Test
    void subLayersThatComeAndGoChangeTheStage() throws IOException {
        write("tall", "over \"Yard\" { over \"Mast\" { int height = 12 } }");
        editor.changeAll(
                "sublayer",
                edits -> edits.setSubLayers(List.of(
                        new Layer.SubLayer("tall.usda", LayerOffset.NONE),
                        new Layer.SubLayer("weak.usda", LayerOffset.NONE))));
        assertThat(value("/Yard/Mast.height")).contains(new Value.Int(12));
        editor.undo();
        assertThat(value("/Yard/Mast.height")).contains(new Value.Int(9));
        assertThat(value("/Yard/Shed.doors")).contains(new Value.Int(1));
    }

    @Test
    void aSavedLayerIsUnsavedAgainAfterAnEditAndNoLongerAfterItsUndo() {
        assertThat(editor.unsaved()).isEmpty();
        editor.changeAll("kind", edits -> edits.setField(path("/Yard"), "kind", new Value.Token("assembly")));
        assertThat(editor.unsaved()).containsExactly(editor.rootLayer());
        editor.markSaved(editor.rootLayer());
        assertThat(editor.unsaved()).isEmpty();
        editor.undo();
        assertThat(editor.unsaved()).containsExactly(editor.rootLayer());
        editor.redo();
        assertThat(editor.unsaved()).isEmpty();
    }

    static Stream<Long> seeds() {
        return new Random(20261125).longs(40).boxed();
    }

    /** The stage after edits must be the one that the edited layers compose to from the start. */
    @ParameterizedTest
    @MethodSource("seeds")
    void anEditedStageEqualsAFreshOneAndUndoLeadsBack(long seed) {
        RandomGenerator random = new Random(seed);
        List<String> start = texts();
        flat(editor.stage());
        int changes = 0;
        for (int i = 0; i < 25; i++) {
            List<SdfPath> prims = Stream.concat(
                            Stream.of(path("/Yard")), editor.stage().prims().map(Prim::path))
                    .toList();
            try {
                editor.changeAll("edit", edits -> randomEdit(random, prims, edits));
                changes = random.nextInt(6) == 0 ? undone(changes + 1) : changes + 1;
            } catch (UsdException refused) {
                // Some edits cannot be made on what is there by now; what counts is that nothing is half done.
                assertThat(refused).hasMessageMatching("(?s).*(brought in|already|itself|variant|no <|no prim).*");
            }
            Stage fresh = Stage.open(editor.rootLayer(), sameLayers());
            assertThat(flat(editor.stage())).as("seed %d, step %d", seed, i).isEqualTo(flat(fresh));
        }
        while (editor.undoName().isPresent()) {
            editor.undo();
        }
        assertThat(texts()).isEqualTo(start);
        while (editor.redoName().isPresent()) {
            editor.redo();
        }
        assertThat(flat(editor.stage())).isEqualTo(flat(Stage.open(editor.rootLayer(), sameLayers())));
    }

    /** Makes random edits of an editor, those that can be made, and adds what its layers say after each. */
    private static void edit(StageEditor of, RandomGenerator random, int times, Deque<List<String>> said) {
        for (int i = 0; i < times; i++) {
            List<SdfPath> prims = Stream.concat(
                            Stream.of(path("/Yard")), of.stage().prims().map(Prim::path))
                    .toList();
            Optional<String> before = of.undoName();
            try {
                of.changeAll("edit " + random.nextInt(), edits -> randomEdit(random, prims, edits));
            } catch (UsdException refused) {
                continue;
            }
            if (!of.undoName().equals(before)) {
                said.push(texts(of));
            }
        }
    }

    /** Whatever was done before and after it, a fork is taken back step by step to where the original began. */
    @ParameterizedTest
    @MethodSource("seeds")
    void whatAForkCameToIsTakenBackAndDoneAgainAsIfItHadBeenDoneHere(long seed) {
        RandomGenerator random = new Random(seed);
        Deque<List<String>> said = new ArrayDeque<>();
        said.push(texts(editor));
        edit(editor, random, 12, said);
        editor.undo();
        editor.redo();
        List<String> atTheFork = texts(editor);
        StageEditor fork = editor.fork();
        edit(fork, random, 6, said);
        assertThat(texts(editor)).as("while the fork is edited").isEqualTo(atTheFork);
        told.clear();
        assertThat(editor.adopt(fork)).as("whether its stage is taken over").isTrue();
        assertThat(told).hasSize(1);
        assertThat(texts(editor)).isEqualTo(said.peek());
        edit(editor, random, 4, said);
        List<String> end = said.peek();
        for (List<String> state : said) {
            assertThat(texts(editor))
                    .as("seed %d, with %s next", seed, editor.undoName())
                    .isEqualTo(state);
            editor.undo();
        }
        for (List<String> state : (Iterable<List<String>>) said::descendingIterator) {
            assertThat(texts(editor))
                    .as("seed %d, with %s done again", seed, editor.undoName())
                    .isEqualTo(state);
            editor.redo();
        }
        assertThat(texts(editor)).isEqualTo(end);
        assertThat(flat(editor.stage())).isEqualTo(flat(Stage.open(editor.rootLayer(), sameLayers())));
    }

    /** A group of 30, of which the weaker layer and a variant say something too, and what refers to some of them. */
    private StageEditor crowd(String name) throws IOException {
        StringBuilder posts = new StringBuilder();
        StringBuilder weak = new StringBuilder();
        for (int i = 0; i < 30; i++) {
            posts.append("def Xform \"P%d\" { rel next = </Crowd/Row/P%d> def Cube \"Top\" {} }\n"
                    .formatted(i, (i + 1) % 30));
            weak.append("over \"P%d\" { int number = %d }\n".formatted(i, i));
        }
        write(name + "-weak", "over \"Crowd\" { over \"Row\" {\n" + weak + "} }");
        Path file = write(name, """
                (defaultPrim="Crowd" subLayers=[@%s-weak.usda@])
                def Xform "Crowd" (variantSets="size" variants={string size="small"}) {
                    def Xform "Row" { reorder nameChildren = ["P3", "P1"]
                %s }
                    def Xform "Other" { rel tops = [</Crowd/Row/P4/Top>, </Crowd/Row/P5.number>] }
                    def Xform "Use" (references=</Crowd/Row/P6>) {}
                    variantSet "size" = { "small" { over "Row" { over "P7" { int small = 1 } } } "large" {} }
                }
                """.formatted(name, posts));
        return StageEditor.open(file, layers, Population.ALL);
    }

    private static List<SdfPath> posts(int... numbers) {
        return IntStream.of(numbers).mapToObj(i -> path("/Crowd/Row/P" + i)).toList();
    }

    private static int[] most() {
        return IntStream.range(1, 28).toArray();
    }

    private void assertSame(
            StageEditor many, Consumer<Transaction> atOnce, StageEditor each, Consumer<Transaction> one) {
        List<String> start = texts(many);
        flat(many.stage());
        many.changeAll("at once", atOnce);
        each.changeAll("one by one", one);
        List<String> end = texts(many);
        assertThat(end)
                .isEqualTo(texts(each).stream()
                        .map(text -> text.replace("each", "many"))
                        .toList());
        assertThat(end).isNotEqualTo(start);
        assertThat(flat(many.stage())).isEqualTo(flat(each.stage()).replace("each", "many"));
        many.undo();
        assertThat(texts(many)).isEqualTo(start);
        many.redo();
        assertThat(texts(many)).isEqualTo(end);
        StageEditor fork = many.fork();
        fork.undo();
        assertThat(texts(fork)).isEqualTo(start);
    }

    @Test
    void manyPrimsAreMovedAtOnceAsOneByOne() throws IOException {
        Map<SdfPath, SdfPath> moves = new LinkedHashMap<>();
        posts(most()).forEach(post -> moves.put(post, path("/Crowd/Other/" + post.name() + "b")));
        assertSame(crowd("many"), edits -> edits.moveAll(moves), crowd("each"), edits -> moves.forEach(edits::move));
    }

    @Test
    void manyPrimsAreRemovedAtOnceAsOneByOne() throws IOException {
        List<SdfPath> posts = posts(most());
        assertSame(
                crowd("many"), edits -> edits.removeAll(posts), crowd("each"), edits -> posts.forEach(edits::remove));
    }

    @Test
    void manyPrimsAreCopiedAtOnceAsOneByOne() throws IOException {
        Map<SdfPath, SdfPath> sources = new LinkedHashMap<>();
        posts(most()).forEach(post -> sources.put(path("/Crowd/Row/" + post.name() + "c"), post));
        assertSame(
                crowd("many"),
                edits -> edits.copyAll(sources),
                crowd("each"),
                edits -> sources.forEach((to, from) -> edits.copy(from, to)));
    }

    @Test
    void manyPrimsAreAddedAtOnceAsOneByOne() throws IOException {
        List<PrimSpec> specs = IntStream.range(0, 20)
                .mapToObj(i -> new PrimSpec(Specifier.DEF, "Sphere", "S" + i))
                .toList();
        SdfPath row = path("/Crowd/Row");
        assertSame(
                crowd("many"),
                edits -> edits.addAll(row, specs),
                crowd("each"),
                edits -> specs.forEach(spec -> edits.add(row, spec)));
    }

    @Test
    void whatMovesBelowWhatMovesItselfOrToOnePlaceIsRefused() throws IOException {
        StageEditor crowd = crowd("many");
        List<String> before = texts(crowd);
        Map<SdfPath, SdfPath> within =
                Map.of(path("/Crowd/Row/P1"), path("/Crowd/Other/P1"), path("/Crowd/Row/P2"), path("/Crowd/Row/P1/P2"));
        Map<SdfPath, SdfPath> same =
                Map.of(path("/Crowd/Row/P1"), path("/Crowd/Other/P"), path("/Crowd/Row/P2"), path("/Crowd/Other/P"));
        for (Map<SdfPath, SdfPath> moves : List.of(within, same)) {
            assertThatThrownBy(() -> crowd.changeAll("move", edits -> edits.moveAll(moves)))
                    .isInstanceOf(UsdException.class);
            assertThat(texts(crowd)).isEqualTo(before);
        }
    }

    @Test
    void aForkOfWhatWasEditedSinceIsNotAdopted() {
        StageEditor fork = editor.fork();
        editor.changeAll("kind", edits -> edits.setField(path("/Yard"), "kind", new Value.Token("assembly")));
        assertThatThrownBy(() -> editor.adopt(fork)).isInstanceOf(IllegalStateException.class);
        assertThat(editor.undoName()).contains("kind");
    }

    @ParameterizedTest(name = "saved before the fork is adopted: {0}")
    @ValueSource(booleans = {true, false})
    void whatIsSavedWhileAForkIsEditedIsKnownAfterItIsAdopted(boolean before) {
        editor.changeAll("kind", edits -> edits.setField(path("/Yard"), "kind", new Value.Token("assembly")));
        LayerMark written = editor.mark(editor.rootLayer());
        StageEditor fork = editor.fork();
        fork.changeAll("define", edits -> edits.define(path("/Yard/Post"), "Cube"));
        if (before) {
            editor.markSaved(written);
        }
        editor.adopt(fork);
        if (!before) {
            editor.markSaved(written);
        }
        assertThat(editor.unsavedNames()).containsExactly("define");
        editor.undo();
        assertThat(editor.unsaved()).isEmpty();
        assertThat(editor.redoSize()).as("prims that come back").isEqualTo(1);
    }

    @Test
    void whatIsReadAnewWhileAForkIsEditedIsSeenAfterItIsAdopted() throws IOException {
        StageEditor fork = editor.fork();
        fork.changeAll("define", edits -> edits.define(path("/Yard/Post"), "Cube"));
        write("asset", "(defaultPrim=\"Mast\")\ndef Xform \"Mast\" { int height = 12 }\n");
        editor.reload();
        assertThat(editor.adopt(fork)).as("whether its stage is taken over").isFalse();
        assertThat(value("/Yard/Mast.height")).contains(new Value.Int(12));
    }

    private int undone(int changes) {
        editor.undo();
        return changes - 1;
    }

    private Layers sameLayers() {
        List<Layer> own = editor.stage().layerStack();
        return location -> own.stream()
                .filter(layer -> layer.location().filter(location::equals).isPresent())
                .findFirst()
                .orElseGet(() -> layers.open(location));
    }

    private static void randomEdit(RandomGenerator random, List<SdfPath> prims, Transaction edits) {
        SdfPath one = prims.get(random.nextInt(prims.size()));
        SdfPath other = prims.get(random.nextInt(prims.size()));
        String name = "N" + random.nextInt(4);
        switch (random.nextInt(12)) {
            case 0 -> edits.define(one.child(name), "Xform");
            case 1 -> edits.remove(one);
            case 2 -> edits.rename(one, name);
            case 3 -> edits.move(one, other.child(one.name()));
            case 4 -> edits.copy(one, other.child(name));
            case 5 -> edits.set(one.property("size"), "int", new Value.Int(random.nextInt(9)));
            case 6 -> edits.select(one, "size", random.nextBoolean() ? "small" : "large");
            case 7 -> edits.setField(one, "active", new Value.Bool(random.nextBoolean()));
            case 8 ->
                edits.changeRelationship(one.property("to"), spec -> spec.setTargets(ListEdit.prepend(List.of(other))));
            case 9 ->
                edits.change(
                        one,
                        spec -> spec.setReferences(
                                random.nextBoolean() ? Reference.to("asset.usda") : Reference.internal(other)));
            case 10 -> edits.setField(one, "instanceable", new Value.Bool(random.nextBoolean()));
            default -> edits.clearPrim(one);
        }
    }

    @Test
    void layersInPackagesAreNotEdited() {
        LayerFiles.write(new Layer(folder.resolve("a.usda")), folder.resolve("a.usdz"));
        Layer root = new Layer(folder.resolve("root.usda"));
        root.subLayers().add(new Layer.SubLayer("./a.usdz", LayerOffset.NONE));
        StageEditor of = StageEditor.of(root, layers, Population.ALL);
        Layer packed = of.stage().layerStack().getLast();
        assertThatThrownBy(() -> of.setTarget(EditTarget.of(packed)))
                .isInstanceOf(UsdException.class)
                .hasMessageContaining("package");
    }

    @Test
    void textThatWasEditedReadsBackEqual() {
        editor.changeAll("many", edits -> {
            edits.copy(path("/Yard/Shed"), path("/Yard/Shed2"));
            edits.setAt(path("/Yard/Lamp.glow"), "float", 24, new Value.Real(2));
            edits.block(path("/Yard/Mast.height"), "int");
        });
        Layer read = UsdaReader.parse(UsdaWriter.write(editor.rootLayer()));
        assertThat(read.sameAs(editor.rootLayer())).isTrue();
        assertThat(value("/Yard/Mast.height")).isEmpty();
    }

    @Test
    void aListenerThatFailsNeitherTakesTheChangeBackNorLeavesAStepThatWasNeverTaken() {
        List<String> before = texts();
        Runnable end = editor.onChange(change -> {
            throw new IllegalStateException("the view is gone");
        });
        List<StageChange> later = new ArrayList<>();
        editor.onChange(later::add);
        assertThatThrownBy(() -> editor.changeAll("define", edits -> edits.define(path("/Yard/Post"), "Cube")))
                .hasMessage("the view is gone");
        assertThat(later).as("the others are told").hasSize(1);
        assertThat(editor.stage().prim(path("/Yard/Post"))).isPresent();
        assertThat(editor.undoName()).contains("define");
        end.run();
        editor.undo();
        assertThat(texts()).isEqualTo(before);
        assertThat(editor.undoName()).isEmpty();
    }

    @Test
    void whatIsReadUndisturbedIsAlwaysAStateBetweenTwoChanges() throws Exception {
        SdfPath one = SdfPath.of("/Yard/One");
        SdfPath two = SdfPath.of("/Yard/Two");
        editor.changeAll("two prims", edits -> {
            edits.define(one, "Xform");
            edits.define(two, "Xform");
        });
        AtomicBoolean done = new AtomicBoolean();
        CompletableFuture<Integer> reading = CompletableFuture.supplyAsync(() -> {
            int read = 0;
            while (!done.get() || read == 0) {
                Layer copy = editor.undisturbed(() -> LayerAssets.copied(editor.rootLayer()));
                assertThat(said(copy, one)).isEqualTo(said(copy, two));
                read++;
            }
            return read;
        });
        for (int i = 0; i < 300; i++) {
            Value value = new Value.Int(i);
            editor.changeAll("both", edits -> {
                edits.set(one.property("height"), "int", value);
                edits.set(two.property("height"), "int", value);
            });
            if (i % 3 == 2) {
                editor.undo();
            }
        }
        done.set(true);
        assertThat(reading.get(30, TimeUnit.SECONDS)).isPositive();
    }

    private static Optional<Value> said(Layer layer, SdfPath prim) {
        return layer.prim(prim).flatMap(spec -> spec.attribute("height")).flatMap(AttributeSpec::value);
    }
}
