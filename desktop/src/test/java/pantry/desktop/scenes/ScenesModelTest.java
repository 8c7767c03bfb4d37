package pantry.desktop.scenes;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.desktop.session.Desk;
import pantry.desktop.session.LedgerLine;
import pantry.exchange.Weight;
import pantry.library.Asset;
import pantry.scene.Arranging;
import pantry.scene.Layout;
import pantry.scene.Placement;
import pantry.usd.SdfPath;
import pantry.usd.schema.Placing;

class ScenesModelTest {
    @TempDir
    private Path folder;

    private Desk desk;
    private Asset mast;
    private ScenesModel model;

    @BeforeEach
    void open() throws IOException {
        desk = new Desk(folder);
        mast = desk.shelve("Mast", "Masts", 9);
        model = new ScenesModel(desk.session());
        desk.open();
        model.create("Winter yard");
    }

    @AfterEach
    void close() {
        desk.close();
    }

    private Placement placed(double x) {
        model.place(mast, new Vec3(x, 0, 0));
        return model.single().orElseThrow();
    }

    @Test
    void aNewSceneIsAFileOfTheProject() {
        assertThat(model.files()).containsExactly(folder.resolve("project/winter-yard.usda"));
        assertThat(model.sceneProperty().get()).isPresent();
        model.create("Winter yard");
        assertThat(desk.session().ledger().getFirst().text()).contains("already there");
        desk.session().projectProperty().set(Optional.empty());
        model.create("Other");
        assertThat(desk.session().ledger().getFirst().text()).contains("no project is open");
    }

    @Test
    void whatIsPlacedIsSelectedWeighedAndWrittenDown() {
        Placement placement = placed(2);
        assertThat(placement.held()).isEqualTo(Placement.Held.FOLLOWING);
        assertThat(model.changedProperty().get()).isTrue();
        assertThat(desk.session().weightProperty().get().trianglesDrawn()).isEqualTo(12);
        LedgerLine line = desk.session().ledger().getFirst();
        assertThat(line.text()).isEqualTo("placed Mast");
        line.undo().orElseThrow().run();
        assertThat(model.placements()).isEmpty();
        assertThat(model.selectionProperty().get()).isEmpty();
    }

    @Test
    void theScaleTellsWhatOneMoreWouldWeigh() {
        placed(0);
        Weight after = model.weightWith(mast);
        assertThat(after.trianglesStored())
                .as("the same again costs no triangles")
                .isEqualTo(12);
        assertThat(after.trianglesDrawn()).isEqualTo(24);
        assertThat(after.placements()).isEqualTo(2);
        assertThat(model.weightWith(desk.shelve("Other", "Masts", 1)).trianglesStored())
                .isEqualTo(24);
    }

    @Test
    void movingDuplicatingAndRemovingAreUndoneOneByOne() {
        Placement first = placed(0);
        model.move(first.path(), Placing.ORIGIN.withTurn(new Vec3(0, 30, 0)));
        model.duplicateSelected();
        assertThat(model.placements()).hasSize(2);
        assertThat(model.single().orElseThrow().placing().move()).isEqualTo(new Vec3(1, 0, 0));
        assertThat(model.like(first)).isEqualTo(2);
        model.selectionProperty()
                .set(Set.of(first.path(), model.placements().getLast().path()));
        assertThat(model.single()).isEmpty();
        model.nudge(new Vec3(0, 0, 5));
        assertThat(model.placements())
                .allSatisfy(p -> assertThat(p.placing().move().z()).isEqualTo(5));
        model.removeSelected();
        assertThat(model.placements()).isEmpty();
        model.undo();
        model.undo();
        assertThat(model.placements())
                .allSatisfy(p -> assertThat(p.placing().move().z()).isZero());
        model.undo();
        model.undo();
        assertThat(model.placements()).singleElement().satisfies(p -> assertThat(p.placing())
                .isEqualTo(Placing.ORIGIN));
        model.redo();
        model.redo();
        assertThat(model.placements()).hasSize(2);
    }

    @Test
    void savingClosingAndOpeningKeepsEverything() {
        Placement before = placed(3);
        model.save();
        assertThat(model.changedProperty().get()).isFalse();
        Path file = model.sceneProperty().get().orElseThrow().file();
        model.close();
        assertThat(model.sceneProperty().get()).isEmpty();
        assertThat(desk.session().weightProperty().get()).isEqualTo(Weight.NOTHING);
        model.open(file);
        assertThat(model.placements()).containsExactly(before);
        assertThat(model.shownProperty().get().drawn().triangles()).isEqualTo(12);
    }

    @Test
    void aSceneThatCannotBeReadIsSaidAndTheOpenOneStays() throws IOException {
        placed(0);
        Path broken = Files.writeString(folder.resolve("project/broken.usda"), "#usda 1.0\ndef Xform {");
        model.open(broken);
        assertThat(model.placements()).hasSize(1);
        assertThat(desk.session().ledger().getFirst().text()).startsWith("broken.usda: line 2");
    }

    @Test
    void whatIsSeenLeadsToItsPlacement() {
        Placement placement = placed(0);
        assertThat(model.placementOf(placement.path() + "/Body")).contains(placement.path());
        assertThat(model.placementOf(placement.path() + "2")).isEmpty();
        assertThat(model.placementOf("/elsewhere")).isEmpty();
        assertThat(model.shownProperty()
                        .get()
                        .drawn()
                        .boundsBelow(placement.path().toString())
                        .size()
                        .y())
                .isEqualTo(9);
    }

    @Test
    void placesBelowAGroupAreToldInTheGroupsSpace() throws IOException {
        Path file = Files.writeString(folder.resolve("project/grouped.usda"), """
                #usda 1.0
                ( defaultPrim = "W" metersPerUnit = 1 upAxis = "Y" )
                def Xform "W" {
                    def Xform "Group" {
                        double3 xformOp:translate = (10, 0, 0)
                        uniform token[] xformOpOrder = ["xformOp:translate"]
                        def Xform "Mast" ( references = @../library/assets/Masts/mast/ready.usda@ ) {}
                    }
                }
                """);
        model.open(file);
        SdfPath path = SdfPath.of("/W/Group/Mast");
        assertThat(model.placements()).extracting(Placement::path).containsExactly(path);
        assertThat(model.parentSpace(path)).isEqualTo(Matrix4.translation(new Vec3(10, 0, 0)));
        assertThat(model.shownProperty().get().drawn().bounds().centre().x()).isEqualTo(10);
    }

    @Test
    void aTransformOfAnotherFormIsNotOverwritten() throws IOException {
        Path file = Files.writeString(folder.resolve("project/matrix.usda"), """
                #usda 1.0
                ( defaultPrim = "W" metersPerUnit = 1 upAxis = "Y" )
                def Xform "W" {
                    def Xform "Mast" ( references = @../library/assets/Masts/mast/ready.usda@ ) {
                        matrix4d xformOp:transform = ( (1,0,0,0), (0,1,0,0), (0,0,1,0), (4,0,0,1) )
                        uniform token[] xformOpOrder = ["xformOp:transform"]
                    }
                }
                """);
        model.open(file);
        model.move(SdfPath.of("/W/Mast"), Placing.ORIGIN);
        assertThat(desk.session().ledger().getFirst().text()).contains("another form");
        assertThat(model.shownProperty().get().drawn().bounds().centre().x()).isEqualTo(4);
        assertThat(model.changedProperty().get()).isFalse();
    }

    @Test
    void whatIsSelectedIsGroupedLaidOutAndArranged() {
        model.create("field");
        model.place(mast, new Vec3(1, 0, 0));
        model.layOut("Row", new Layout.Grid(new int[] {3, 1, 1}, new Vec3(2, 0, 0)));
        assertThat(model.placements()).hasSize(3);
        SdfPath row = model.selectionProperty().get().iterator().next();
        assertThat(row.name()).isEqualTo("Row");
        model.layAgain(new Layout.Ring(5, 72, new Vec3(3, 0, 0), true));
        assertThat(model.placements()).hasSize(5);
        model.rename("Mast ring");
        model.ungroup();
        assertThat(model.selectionProperty().get()).hasSize(5);
        model.align(2, Arranging.Side.MIDDLE);
        model.mirror(0);
        model.spread(0);
        model.drop();
        model.breakOut();
        model.group("Again");
        assertThat(model.placements()).hasSize(5);
        int steps = 0;
        while (model.sceneProperty().get().orElseThrow().undoName().isPresent()) {
            model.undo();
            steps++;
        }
        assertThat(steps).isEqualTo(11);
        assertThat(model.placements()).isEmpty();
    }
}
