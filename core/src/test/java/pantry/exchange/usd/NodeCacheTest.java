package pantry.exchange.usd;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.function.Consumer;
import java.util.random.RandomGenerator;
import java.util.stream.Stream;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import pantry.model.Model;
import pantry.usd.ListEdit;
import pantry.usd.SdfPath;
import pantry.usd.UsdException;
import pantry.usd.Value;
import pantry.usd.compose.Population;
import pantry.usd.compose.Stage;
import pantry.usd.edit.StageEditor;
import pantry.usd.edit.Transaction;
import pantry.usd.text.UsdaReader;

/** After any edit, what is read by what was read before is what is read of the stage from the start. */
class NodeCacheTest {
    private static final String YARD = """
            (
                defaultPrim = "Yard"
            )
            def Xform "Yard" {
                def Scope "Looks" {
                    def Material "Red" {
                        token outputs:surface.connect = </Shaders/Paint.outputs:surface>
                    }
                    def Material "Blue" {}
                }
                def Xform "Row" {
                    color3f[] primvars:displayColor = [(1, 0, 0)]
                    def Cube "First" { rel material:binding = </Yard/Looks/Red> }
                    def Xform "Second" (references = </Crate> instanceable = true) {}
                    def Xform "Third" (references = </Crate> instanceable = true) {
                        rel material:binding = </Yard/Looks/Blue>
                    }
                    def Cube "Fourth" {}
                }
                def Xform "Field" {
                    def Xform "Mast" (references = </Crate>) {}
                    def Sphere "Ball" (
                        variants = { string size = "small" }
                        prepend variantSets = "size"
                    ) {
                        variantSet "size" = {
                            "small" { double radius = 1 }
                            "large" { double radius = 3 }
                        }
                    }
                    def SphereLight "Lamp" {}
                    def Camera "Eye" {}
                    def PointInstancer "Flags" {
                        rel prototypes = </Pole>
                        int[] protoIndices = [0, 0]
                        point3f[] positions = [(0, 0, 0), (4, 0, 0)]
                    }
                    def Xform "Shed" {
                        def Cube "Fine" { uniform token purpose = "render" }
                        def Cube "Rough" { uniform token purpose = "proxy" }
                    }
                }
            }
            def Cylinder "Pole" {}
            def Scope "Shaders" {
                def Shader "Paint" {
                    uniform token info:id = "UsdPreviewSurface"
                    color3f inputs:diffuseColor = (1, 0, 0)
                    token outputs:surface
                }
            }
            class Xform "Crate" {
                def Cube "Body" {}
                def Xform "Lid" (references = </Handle> instanceable = true) {}
                def NurbsPatch "Strap" {}
            }
            class Xform "Handle" {
                def Cone "Grip" {}
                def SphereLight "Glow" {}
            }
            """;

    private final StageEditor editor = StageEditor.of(
            UsdaReader.parse("#usda 1.0\n" + YARD),
            location -> {
                throw new UsdException(location + " is not to be asked for here");
            },
            Population.ALL);
    private final NodeCache cache = new NodeCache();
    private final MeshCache meshes = new MeshCache();
    private Set<SdfPath> placements = Set.of();

    NodeCacheTest() {
        editor.onChange(cache::changed);
    }

    private static SdfPath path(String text) {
        return SdfPath.of(text);
    }

    private Model read(Viewing chosen) {
        return UsdModelReader.readAgain(editor.stage(), meshes, chosen, placements::contains, cache)
                .model();
    }

    private Model fresh(Viewing chosen) {
        return UsdModelReader.readAgain(
                        Stage.open(editor.rootLayer(), location -> {
                            throw new UsdException("nothing else is read");
                        }),
                        meshes,
                        chosen,
                        placements::contains,
                        new NodeCache())
                .model();
    }

    /** All that is shown, in words. Prototypes are numbered in the order in which they are met. */
    private static List<String> told(Model model) {
        List<String> told = new ArrayList<>();
        model.roots().forEach(root -> tell(root, 0, told));
        told.add(model.extras().hidden() + " hidden, " + model.extras().foreign() + ", "
                + model.extras().fixtures());
        told.replaceAll(line -> line.replaceAll(Stage.PROTOTYPE + "\\d+", Stage.PROTOTYPE));
        return told;
    }

    private static void tell(Model.Node node, int depth, List<String> told) {
        told.add("  ".repeat(depth) + node.name() + " " + node.path() + " " + node.local() + " " + node.shared());
        for (Model.Part part : node.parts()) {
            told.add("  ".repeat(depth) + "  of " + part.material() + ", "
                    + part.mesh().bounds());
        }
        node.children().forEach(child -> tell(child, depth + 1, told));
    }

    private void assertAsFresh(String after, Viewing... choices) {
        for (Viewing chosen : choices.length == 0 ? new Viewing[] {Viewing.WHOLE} : choices) {
            Model model = read(chosen);
            Model anew = fresh(chosen);
            assertEachIsInTheStage(model.roots(), after);
            assertThat(told(model)).as(after).isEqualTo(told(anew));
            assertThat(model.meshes()).as("meshes after " + after).hasSameSizeAs(anew.meshes());
            assertThat(model.trianglesStored()).as(after).isEqualTo(anew.trianglesStored());
        }
    }

    /** What is drawn is found again by its path, as what is clicked has to be. */
    private void assertEachIsInTheStage(List<Model.Node> nodes, String after) {
        for (Model.Node node : nodes) {
            assertThat(editor.stage().prim(path(node.path())))
                    .as(node.path() + " after " + after)
                    .isPresent();
            assertEachIsInTheStage(node.children(), after);
        }
    }

    private Model.Node node(Model model, String path) {
        return find(model.roots(), path).orElseThrow(() -> new AssertionError("no node at " + path));
    }

    private static Optional<Model.Node> find(List<Model.Node> nodes, String path) {
        return nodes.stream()
                .flatMap(node -> node.path().equals(path) ? Stream.of(node) : find(node.children(), path).stream())
                .findFirst();
    }

    private void edit(String name, Consumer<Transaction> work) {
        editor.changeAll(name, work);
    }

    /** An edit, whether what it changes is seen, and the nodes that stay the very same. */
    record Case(String name, Consumer<Transaction> edit, boolean isSeen, List<String> same) {
        @Override
        public String toString() {
            return name;
        }
    }

    private static Case seen(String name, Consumer<Transaction> edit, String... same) {
        return new Case(name, edit, true, List.of(same));
    }

    static Stream<Case> cases() {
        String row = "/Yard/Row";
        String field = "/Yard/Field";
        return Stream.of(
                seen(
                        "one that comes leaves its neighbours",
                        edits -> edits.define(path("/Yard/Row/Fifth"), "Cube"),
                        "/Yard/Row/First",
                        "/Yard/Row/Second",
                        field),
                seen("one that goes leaves its neighbours", edits -> edits.remove(path("/Yard/Row/First")), field),
                seen(
                        "a move of a group",
                        edits -> {
                            edits.set(path("/Yard/Row.xformOp:translate"), "double3", new Value.Tuple(new double[] {
                                1, 2, 3
                            }));
                            edits.set(
                                    path("/Yard/Row.xformOpOrder"),
                                    "token[]",
                                    new Value.Strings(List.of("xformOp:translate")));
                        },
                        field),
                seen(
                        "a group's colour reaches what has none",
                        edits -> edits.clear(path("/Yard/Row.primvars:displayColor")),
                        field),
                seen(
                        "a group that is hidden",
                        edits -> edits.set(path("/Yard/Row.visibility"), "token", new Value.Token("invisible")),
                        field),
                seen(
                        "a material's shader that stands elsewhere",
                        edits -> edits.set(
                                path("/Shaders/Paint.inputs:diffuseColor"),
                                "color3f",
                                new Value.Tuple(new double[] {0, 1, 0})),
                        field,
                        "/Yard/Row/Fourth"),
                seen("a material that goes", edits -> edits.remove(path("/Yard/Looks/Blue")), field, "/Yard/Row/First"),
                seen(
                        "what is shared, wherever it is used",
                        edits -> edits.remove(path("/Crate/Body")),
                        "/Yard/Row/First"),
                seen(
                        "what is shared within what is shared",
                        edits -> edits.set(path("/Handle/Grip.height"), "double", new Value.Real(5)),
                        "/Yard/Row/First"),
                seen(
                        "what a point instancer repeats",
                        edits -> edits.set(path("/Pole.height"), "double", new Value.Real(5)),
                        row,
                        "/Yard/Field/Mast"),
                seen(
                        "another variant",
                        edits -> edits.select(path("/Yard/Field/Ball"), "size", "large"),
                        row,
                        "/Yard/Field/Mast"),
                seen(
                        "one that is no longer shared",
                        edits -> edits.setField(path("/Yard/Row/Second"), "instanceable", new Value.Bool(false)),
                        "/Yard/Row/First",
                        "/Yard/Field/Ball"),
                seen("a lamp that goes", edits -> edits.remove(path("/Yard/Field/Lamp")), row, "/Yard/Field/Mast"),
                seen(
                        "another name on the screen leaves what is below",
                        edits -> edits.setField(path("/Yard/Row"), "displayName", new Value.Text("The row")),
                        field,
                        "/Yard/Row/First"),
                new Case(
                        "what nobody draws",
                        edits -> edits.setField(path("/Yard"), "customData", new Value.Dictionary(Map.of())),
                        false,
                        List.of(row, field)),
                seen(
                        "a row that is moved elsewhere",
                        edits -> edits.move(path("/Yard/Row"), path("/Yard/Field/Row")),
                        "/Yard/Field/Ball"));
    }

    @ParameterizedTest
    @MethodSource("cases")
    void onlyWhatAnEditConcernsIsReadAnew(Case each) {
        Model before = read(Viewing.WHOLE);
        edit(each.name(), each.edit());
        Model after = read(Viewing.WHOLE);
        assertThat(told(after)).isEqualTo(told(fresh(Viewing.WHOLE)));
        if (each.isSeen()) {
            assertThat(told(after)).isNotEqualTo(told(before));
        }
        for (String same : each.same()) {
            assertThat(node(after, same)).as(same).isSameAs(node(before, same));
        }
        editor.undo();
        assertThat(told(read(Viewing.WHOLE))).isEqualTo(told(before));
        editor.redo();
        assertThat(told(read(Viewing.WHOLE))).isEqualTo(told(after));
    }

    @Test
    @DisplayName("what is shared keeps the material that lies around it when the first of those that share it goes")
    void materialsAroundWhatIsShared() {
        edit("a material", edits -> {
            edits.define(path("/Crate/Steel"), "Material");
            edits.changeRelationship(
                    path("/Handle/Grip.material:binding"),
                    spec -> spec.setTargets(ListEdit.explicit(List.of(path("/Crate/Steel")))));
        });
        assertThat(told(read(Viewing.WHOLE)))
                .filteredOn(line -> line.contains("Steel"))
                .hasSize(3);
        edit("the first goes", edits -> edits.remove(path("/Yard/Row/Second")));
        assertThat(told(read(Viewing.WHOLE)))
                .filteredOn(line -> line.contains("Steel"))
                .hasSize(2);
        assertAsFresh("the first went");
        edit(
                "the last is no longer shared",
                edits -> edits.setField(path("/Yard/Row/Third"), "instanceable", new Value.Bool(false)));
        assertThat(told(read(Viewing.WHOLE)))
                .filteredOn(line -> line.contains("Steel"))
                .hasSize(2);
        assertAsFresh("none is shared");
    }

    @Test
    @DisplayName("a change that fails leaves what is read, and where it stands in the stage, right")
    void failures() {
        read(Viewing.WHOLE);
        assertThatThrownBy(() -> edit("fails", edits -> {
                    edits.remove(path("/Yard/Row/Second"));
                    edits.remove(path("/Crate/Body"));
                    edits.stage().prims().forEach(prim -> prim.prototype());
                    throw new UsdException("it cannot be done");
                }))
                .hasMessageContaining("cannot be done");
        assertAsFresh("a change that failed");
    }

    @Test
    @DisplayName("what is left out, alone or shown by its proxy is read apart, and each choice keeps what it read")
    void choices() {
        placements = Set.of(path("/Yard/Field/Shed"));
        Viewing alone = new Viewing(Set.of(), Set.of(path("/Yard/Field/Shed")), false, Set.of());
        Viewing light = new Viewing(Set.of(), Set.of(), true, Set.of());
        assertAsFresh("at first", Viewing.WHOLE, alone, light);
        Model.Node row = node(read(Viewing.WHOLE), "/Yard/Row");
        assertThat(told(read(light))).anyMatch(line -> line.contains("Rough")).noneMatch(line -> line.contains("Fine"));
        assertThat(told(read(alone))).noneMatch(line -> line.contains("Row"));
        assertThat(node(read(Viewing.WHOLE), "/Yard/Row")).isSameAs(row);
        edit("one goes", edits -> edits.remove(path("/Yard/Field/Shed/Rough")));
        assertAsFresh("the proxy went", Viewing.WHOLE, alone, light);
        assertThat(node(read(Viewing.WHOLE), "/Yard/Row")).isSameAs(row);
        assertAsFresh("a fourth choice", new Viewing(Set.of(path("/Yard/Row")), Set.of(), false, Set.of()));
    }

    @Test
    @DisplayName("where a collection binds a material, all is read anew: what it holds depends on prims anywhere")
    void collections() {
        edit("a collection", edits -> {
            edits.changeRelationship(
                    path("/Yard/Field.collection:some:includes"),
                    spec -> spec.setTargets(ListEdit.explicit(List.of(path("/Yard/Field/Ball")))));
            edits.changeRelationship(
                    path("/Yard.material:binding:collection:some"),
                    spec -> spec.setTargets(
                            ListEdit.explicit(List.of(path("/Yard/Field.collection:some"), path("/Yard/Looks/Blue")))));
        });
        assertAsFresh("a collection came");
        edit(
                "others in it",
                edits -> edits.changeRelationship(
                        path("/Yard/Field.collection:some:includes"),
                        spec -> spec.setTargets(ListEdit.explicit(List.of(path("/Yard/Row/First"))))));
        assertAsFresh("it holds others");
    }

    static Stream<Long> seeds() {
        return new Random(20261130).longs(30).boxed();
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void anySequenceOfEditsIsReadAsFromTheStart(long seed) {
        RandomGenerator random = new Random(seed);
        read(Viewing.WHOLE);
        for (int step = 0; step < 30; step++) {
            List<SdfPath> prims =
                    editor.stage().prims().map(prim -> prim.path()).toList();
            SdfPath one = prims.get(random.nextInt(prims.size()));
            SdfPath other = prims.get(random.nextInt(prims.size()));
            int kind = random.nextInt(12);
            String after = "seed %d, step %d: %d of %s and %s".formatted(seed, step, kind, one, other);
            try {
                if (kind == 10) {
                    editor.undo();
                } else if (kind == 11) {
                    editor.redo();
                } else {
                    int number = step;
                    edit(after, edits -> edit(edits, kind, one, other, number));
                }
            } catch (UsdException refused) {
                assertThat(refused).hasMessageMatching("(?s).*(brought in|already|itself|no <|no prim).*");
            }
            if (random.nextInt(3) > 0) {
                assertAsFresh(after);
            }
        }
        assertAsFresh("the end");
    }

    private static void edit(Transaction edits, int kind, SdfPath one, SdfPath other, int number) {
        switch (kind) {
            case 0 -> edits.define(one.child("Made" + number), "Cube");
            case 1 -> edits.remove(one);
            case 2 -> edits.move(one, other.child(one.name()));
            case 3 -> edits.copy(one, other.child(one.name() + number));
            case 4 ->
                edits.set(
                        one.property("visibility"),
                        "token",
                        new Value.Token(number % 2 == 0 ? "invisible" : "inherited"));
            case 5 ->
                edits.set(
                        one.property("primvars:displayColor"),
                        "color3f[]",
                        new Value.Floats(new float[] {number / 30f, 0, 0}, 3));
            case 6 ->
                edits.changeRelationship(
                        one.property("material:binding"), spec -> spec.setTargets(ListEdit.explicit(List.of(other))));
            case 7 -> edits.setField(one, "instanceable", new Value.Bool(number % 2 == 0));
            case 8 -> edits.setField(one, "active", new Value.Bool(number % 3 > 0));
            default -> edits.set(one.property("radius"), "double", new Value.Real(number + 1));
        }
    }
}
