package pantry.desktop.scenes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.desktop.session.Desk;
import pantry.library.Asset;
import pantry.scene.ConflictSides;
import pantry.scene.ImportSource;
import pantry.scene.Scene;
import pantry.scene.SceneImport;
import pantry.usd.SdfPath;

/** What is chosen of another file: its order, its links, the uses of one asset together, and where it comes to stand. */
class ImportModelTest {
    @TempDir
    private Path folder;

    private Desk desk;
    private Asset mast;
    private Asset crate;
    private ScenesModel scenes;
    private ImportModel bring;

    @BeforeEach
    void open() throws IOException {
        desk = new Desk(folder);
        mast = desk.shelve("Mast", "Masts", 9);
        crate = desk.shelve("Crate", "Stores", 1);
        scenes = new ScenesModel(desk.session());
        desk.open();
        bring = new ImportModel(scenes);
    }

    @AfterEach
    void close() {
        desk.close();
    }

    /** A scene of crates and one mast, all but the mast in a group. */
    private Path yard(int crates) {
        scenes.create("Yard");
        for (int i = 0; i < crates; i++) {
            scenes.place(crate, new Vec3(2 * i, 0, 0));
        }
        scenes.selection().selectAll();
        scenes.edits().group("Stores");
        scenes.place(mast, new Vec3(0, 0, 9));
        scenes.keeping().save();
        Path file = scenes.sceneProperty().get().orElseThrow().file();
        scenes.close();
        return file;
    }

    private List<String> names(List<ImportSource.Importable> things) {
        return things.stream().map(ImportSource.Importable::name).toList();
    }

    @Test
    void usesOfAnAssetAreTogetherAndChosenTogether() {
        bring.open(yard(3));
        List<ImportModel.Stack> stacks = bring.stacked(bring.importables());
        assertThat(stacks).extracting(stack -> stack.pieces().size()).containsExactly(3, 1);
        assertThat(stacks.getFirst().first().name()).startsWith("Crate");
        bring.choose(stacks.getFirst().paths(), false);
        assertThat(bring.chosenProperty().get()).hasSize(1);
        bring.choose(stacks.getFirst().paths().subList(0, 2), true);
        assertThat(bring.chosenProperty().get()).hasSize(3);
        assertThat(names(ImportModel.named(bring.importables(), "stores")))
                .as("by their group")
                .hasSize(3);
        assertThat(names(ImportModel.named(bring.importables(), "MAST"))).containsExactly("Mast");
        assertThat(ImportModel.named(bring.importables(), "tower")).isEmpty();
    }

    @Test
    void sharedAssetsTieNothingTogetherAndMaterialsOfTheFileDo() throws IOException {
        bring.open(yard(3));
        assertThat(bring.ordered(ImportModel.Order.LINKS)).as("all alone").hasSize(4);
        Path file = folder.resolve("painted.usda");
        Files.writeString(file, """
                #usda 1.0
                ( defaultPrim = "Site" metersPerUnit = 1 upAxis = "Y" )
                def Xform "Site" (kind = "assembly") {
                    def Scope "Materials" { def Material "Paint" {} def Material "Rust" {} }
                    def Cube "First" (prepend apiSchemas = ["MaterialBindingAPI"]) {
                        rel material:binding = </Site/Materials/Paint> }
                    def Cube "Second" (prepend apiSchemas = ["MaterialBindingAPI"]) {
                        rel material:binding = </Site/Materials/Paint> }
                    def Cube "Third" {}
                }
                """);
        bring.open(file);
        Map<String, List<ImportSource.Importable>> sets = bring.ordered(ImportModel.Order.LINKS);
        assertThat(sets.values())
                .extracting(this::names)
                .anySatisfy(set -> assertThat(set).containsExactlyInAnyOrder("Paint", "First", "Second"))
                .anySatisfy(set -> assertThat(set).containsExactly("Third"))
                .anySatisfy(set -> assertThat(set).containsExactly("Rust"));
        assertThat(bring.needs()).as("paint comes along with what it is on").hasSize(1);
    }

    @Test
    void aThousandThingsThatAreTiedAreOrderedAtOnce() throws IOException {
        StringBuilder text = new StringBuilder("""
                #usda 1.0
                ( defaultPrim = "Site" metersPerUnit = 1 upAxis = "Y" )
                def Xform "Site" (kind = "assembly") {
                    def Scope "Materials" { def Material "Paint" {} }
                """);
        for (int i = 0; i < 1000; i++) {
            text.append("def Cube \"Cube_").append(i).append("\" { rel material:binding = </Site/Materials/Paint> }\n");
        }
        Path file = Files.writeString(folder.resolve("many.usda"), text.append("}\n"));
        bring.open(file);
        Map<String, List<ImportSource.Importable>> sets = bring.ordered(ImportModel.Order.LINKS);
        assertThat(sets).hasSize(1);
        assertThat(sets.values().iterator().next()).hasSize(1001);
        assertThat(sets.keySet().iterator().next()).startsWith("1001 linked").endsWith("…");
    }

    private Box3 brought(ImportModel.Target target, Vec3 point) {
        bring.bring(ImportModel.Way.COPIED, "Brought", "", target, point);
        SdfPath path = scenes.selectionProperty().get().iterator().next();
        return scenes.display().box(path);
    }

    @Test
    void whatIsBroughtInStandsWhereItIsToldTo() {
        Path file = yard(2);
        scenes.create("Hall");
        scenes.place(crate, new Vec3(20, 0, 5));
        SdfPath selected = scenes.selection().single().orElseThrow().path();
        for (ImportModel.Target target : ImportModel.Target.values()) {
            scenes.selectionProperty().set(Set.of(selected));
            bring.open(file);
            Vec3 point = new Vec3(-7, 2, 3);
            Box3 box = brought(target, point);
            Vec3 middle = box.centre();
            switch (target) {
                case AS_IT_STANDS -> assertThat(box.max().z()).isGreaterThan(9);
                case ORIGIN -> assertThat(Math.hypot(middle.x(), middle.z())).isLessThan(1e-6);
                case LOOKED_AT -> {
                    assertThat(Math.hypot(middle.x() + 7, middle.z() - 3)).isLessThan(1e-6);
                    assertThat(box.min().y()).as("heights stay").isLessThan(1e-6);
                }
                case PICKED -> assertThat(box.min().y()).as("on the point").isEqualTo(2);
                case SELECTED ->
                    assertThat(Math.hypot(middle.x() - 20, middle.z() - 5)).isLessThan(1e-6);
            }
            assertThat(bring.sourceProperty().get()).as("it is closed then").isEmpty();
            scenes.undo();
        }
    }

    @Test
    void whereNothingIsSelectedThePointIsAskedFor() {
        Path file = yard(2);
        scenes.create("Hall");
        bring.open(file);
        bring.bring(ImportModel.Way.COPIED, "Brought", "Late", ImportModel.Target.SELECTED, Vec3.ZERO);
        assertThat(scenes.placements()).as("nothing came in yet").isEmpty();
        assertThat(bring.sourceProperty().get()).isPresent();
        bring.askingProperty().get().orElseThrow().accept(new Vec3(4, 1, -6));
        Box3 box = scenes.display().box(scenes.selected().getFirst());
        assertThat(box.centre().x()).isCloseTo(4, within(1e-6));
        assertThat(box.min().y()).isCloseTo(1, within(1e-6));
        assertThat(bring.sourceProperty().get()).as("it is closed then").isEmpty();
        assertThat(bring.askingProperty().get()).isEmpty();
    }

    @Test
    void bothSidesOfAGroupAreSeen() {
        Path file = yard(2);
        scenes.create("Hall");
        scenes.place(mast, Vec3.ZERO);
        scenes.edits().group("Brought");
        bring.open(file);
        SceneImport.Conflict group = bring.clashes("Brought").getFirst();
        ConflictSides sides = bring.sides(group);
        assertThat(sides.own()).isEqualTo("1 thing");
        assertThat(sides.incoming()).isEqualTo("3 things");
        assertThat(bring.shownOf(group, sides).orElseThrow().trianglesDrawn()).isEqualTo(12);
        assertThat(bring.shownIncoming(group, sides).orElseThrow().trianglesDrawn())
                .isEqualTo(36);
    }

    @Test
    void aLiveLinkToOneThingIsToThatAlone() {
        Path file = yard(2);
        scenes.create("Hall");
        bring.open(file);
        List<SdfPath> poles = bring.importables().stream()
                .filter(piece -> piece.name().equals("Mast"))
                .map(ImportSource.Importable::path)
                .toList();
        assertThat(bring.part()).as("several are chosen").isEmpty();
        bring.choose(List.copyOf(bring.chosenProperty().get()), false);
        bring.choose(poles, true);
        assertThat(bring.part()).contains(poles.getFirst());
        bring.bring(ImportModel.Way.REFERRED, "Pole", "Links", ImportModel.Target.ORIGIN, Vec3.ZERO);
        Scene hall = scenes.sceneProperty().get().orElseThrow();
        assertThat(hall.placements().all()).singleElement().satisfies(placement -> assertThat(placement.layer())
                .isEqualTo(file));
        assertThat(scenes.shownProperty().get().drawn().triangles())
                .as("the mast alone")
                .isEqualTo(12);
        assertThat(hall.drawers().all()).singleElement().satisfies(drawer -> assertThat(drawer.name())
                .isEqualTo("Links"));
    }

    @Test
    void theScaleTellsWhatWouldBeThenAndForgetsItWhenNothingIsBroughtIn() {
        Path file = yard(3);
        scenes.create("Hall");
        bring.open(file);
        bring.weigh();
        assertThat(desk.session().weightAfterProperty().get().orElseThrow().trianglesDrawn())
                .isEqualTo(48);
        assertThat(desk.session().weightAfterProperty().get().orElseThrow().trianglesStored())
                .isEqualTo(24);
        bring.close();
        assertThat(desk.session().weightAfterProperty().get()).isEmpty();
        assertThat(bring.importables()).isEmpty();
    }

    @Test
    void apointIsAskedForAndLeftAsItWasWhereNoneIsGiven() {
        Path file = yard(1);
        scenes.create("Hall");
        bring.open(file);
        bring.bringToPoint(ImportModel.Way.COPIED, "Brought", "");
        assertThat(bring.askingProperty().get()).isPresent();
        bring.askNoMore();
        assertThat(bring.askingProperty().get()).isEmpty();
        assertThat(bring.sourceProperty().get()).as("what was chosen stays so").isPresent();
        bring.bringToPoint(ImportModel.Way.COPIED, "Brought", "");
        bring.askingProperty().get().orElseThrow().accept(new Vec3(4, 0, 4));
        assertThat(scenes.placements()).hasSize(2);
    }
}
