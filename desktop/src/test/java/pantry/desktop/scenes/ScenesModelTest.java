package pantry.desktop.scenes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.desktop.session.Desk;
import pantry.desktop.session.LedgerLine;
import pantry.desktop.session.MovedFile;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.model.Axis;
import pantry.model.Weight;
import pantry.scene.Arranging;
import pantry.scene.Drawers;
import pantry.scene.Focus;
import pantry.scene.Layout;
import pantry.scene.LayoutPlan;
import pantry.scene.Placement;
import pantry.scene.Safekeeping;
import pantry.scene.Scene;
import pantry.scene.TransformStep;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

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
        return model.selection().single().orElseThrow();
    }

    @Test
    void aSceneThatIsMovedIsShownWhereItIsNow() throws IOException {
        Path old = model.sceneProperty().get().orElseThrow().file();
        Path deep = old.resolveSibling("deep");
        Path now = deep.resolve(old.getFileName());
        Files.createDirectories(deep);
        Files.move(old, now);
        MovedFile moved = new MovedFile(old, now);
        desk.session().movedProperty().set(Optional.of(moved));
        assertThat(model.sceneProperty().get().orElseThrow().file()).isEqualTo(now);
        desk.session().movedProperty().set(Optional.of(new MovedFile(old.resolveSibling("other.usda"), old)));
        assertThat(model.sceneProperty().get().orElseThrow().file())
                .as("something else was moved")
                .isEqualTo(now);
        Files.move(now, old);
        desk.session().movedProperty().set(Optional.of(new MovedFile(deep, old.getParent())));
        assertThat(model.sceneProperty().get().orElseThrow().file())
                .as("with its folder")
                .isEqualTo(old);
        assertThat(moved.back().now(now)).contains(old);
    }

    @Test
    void scenesThatOthersMakeMeanwhileAreListed() {
        desk.session().workbench().createScene(folder.resolve("project/tank-yard.usda"));
        desk.session().listScenes();
        assertThat(model.files())
                .extracting(file -> file.getFileName().toString())
                .containsExactly("tank-yard.usda", "winter-yard.usda");
        assertThat(model.sceneProperty().get()).isPresent();
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
        assertThat(model.shownProperty().get().weight().trianglesDrawn()).isEqualTo(12);
        LedgerLine line = desk.session().ledger().getFirst();
        assertThat(line.text()).isEqualTo("placed Mast");
        desk.session().history().undo(line);
        assertThat(model.placements()).isEmpty();
        assertThat(model.selectionProperty().get()).isEmpty();
    }

    private Vec3 placedBeside(Asset asset, Vec3 right) {
        model.placeBeside(asset, right, new Vec3(2, 0, 0));
        return model.selection().single().orElseThrow().placing().move();
    }

    @Test
    void placedAgainItStandsBesideTheLastOne() throws IOException {
        Vec3 first = placedBeside(mast, new Vec3(1, 0, 0));
        assertThat(first).as("nothing was chosen").isEqualTo(new Vec3(2, 0, 0));
        double wide = model.display()
                .box(model.selection().single().orElseThrow().path())
                .size()
                .x();
        Vec3 second = placedBeside(mast, new Vec3(0.8, 0, 0.5));
        assertThat(second.x() - first.x()).isGreaterThan(wide).isCloseTo(1.1 * wide, within(0.001));
        assertThat(second.y()).as("it stands no lower").isEqualTo(first.y());
        assertThat(second.z()).isEqualTo(first.z());
        Vec3 third = placedBeside(mast, new Vec3(0.2, 0.4, -0.9));
        assertThat(third.x()).isEqualTo(second.x());
        assertThat(second.z() - third.z()).as("away along z").isCloseTo(1.1 * wide, within(0.001));
        assertThat(placedBeside(desk.shelve("Other", "Masts", 1), new Vec3(1, 0, 0)))
                .as("another asset is no part of the row")
                .isEqualTo(new Vec3(2, 0, 0));
        assertThat(model.placements()).hasSize(4);
    }

    @Test
    void placedAgainBeforeItWasDrawnItStandsBesideToo() {
        desk.holdWork();
        Vec3 first = placedBeside(mast, new Vec3(1, 0, 0));
        Vec3 second = placedBeside(mast, new Vec3(1, 0, 0));
        desk.releaseWork();
        assertThat(second.x() - first.x()).isCloseTo(1.1, within(0.001));
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
        model.edits().move(first.path(), TransformComponents.ORIGIN.withTurn(new Vec3(0, 30, 0)));
        model.edits().duplicateSelected();
        assertThat(model.placements()).hasSize(2);
        assertThat(model.selection().single().orElseThrow().placing().move()).isEqualTo(new Vec3(1, 0, 0));
        assertThat(model.like(first)).isEqualTo(2);
        model.selectionProperty()
                .set(Set.of(first.path(), model.placements().getLast().path()));
        assertThat(model.selection().single()).isEmpty();
        model.edits().nudge(new Vec3(0, 0, 5));
        assertThat(model.placements())
                .allSatisfy(p -> assertThat(p.placing().move().z()).isEqualTo(5));
        model.edits().removeSelected();
        assertThat(model.placements()).isEmpty();
        model.undo();
        model.undo();
        assertThat(model.placements())
                .allSatisfy(p -> assertThat(p.placing().move().z()).isZero());
        model.undo();
        model.undo();
        assertThat(model.placements()).singleElement().satisfies(p -> assertThat(p.placing())
                .isEqualTo(TransformComponents.ORIGIN));
        model.redo();
        model.redo();
        assertThat(model.placements()).hasSize(2);
    }

    @Test
    void savingClosingAndOpeningKeepsEverything() {
        Placement before = placed(3);
        model.keeping().save();
        assertThat(model.changedProperty().get()).isFalse();
        Path file = model.sceneProperty().get().orElseThrow().file();
        model.close();
        assertThat(model.sceneProperty().get()).isEmpty();
        assertThat(model.shownProperty().get().weight()).isEqualTo(Weight.NOTHING);
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
        assertThat(model.objectOf(placement.path() + "/Body")).contains(placement.path());
        assertThat(model.objectOf(placement.path() + "2")).isEmpty();
        assertThat(model.objectOf("/elsewhere")).isEmpty();
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
        assertThat(model.selection().parentSpace(path)).isEqualTo(Matrix4.translation(new Vec3(10, 0, 0)));
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
        model.edits().move(SdfPath.of("/W/Mast"), TransformComponents.ORIGIN);
        assertThat(desk.session().ledger().getFirst().text()).contains("another form");
        assertThat(model.shownProperty().get().drawn().bounds().centre().x()).isEqualTo(4);
        assertThat(model.changedProperty().get()).isFalse();
    }

    @Test
    void whatIsSelectedIsGroupedLaidOutAndArranged() {
        model.create("field");
        model.place(mast, new Vec3(1, 0, 0));
        model.edits()
                .layOut(
                        model.selected(),
                        "Row",
                        LayoutPlan.of(new Layout.Grid(new int[] {3, 1, 1}, new Vec3(2, 0, 0)), Layout.Variation.NONE));
        assertThat(model.placements()).hasSize(3);
        SdfPath row = model.selectionProperty().get().iterator().next();
        assertThat(row.name()).isEqualTo("Row");
        model.edits().layAgain(LayoutPlan.of(new Layout.Ring(5, 72, new Vec3(3, 0, 0), true), Layout.Variation.NONE));
        assertThat(model.placements()).hasSize(5);
        model.edits().rename("Mast ring");
        model.edits().ungroup();
        assertThat(model.selectionProperty().get()).hasSize(5);
        model.edits().align(2, Arranging.Side.MIDDLE);
        model.edits().mirror(0);
        model.edits().spread(0);
        model.edits().drop();
        model.edits().breakOut();
        model.edits().group("Again");
        assertThat(model.placements()).hasSize(5);
        int steps = 0;
        while (model.sceneProperty().get().orElseThrow().undoName().isPresent()) {
            model.undo();
            steps++;
        }
        assertThat(steps).isEqualTo(11);
        assertThat(model.placements()).isEmpty();
    }

    private SdfPath only() {
        return model.selectionProperty().get().iterator().next();
    }

    @Test
    void whatIsOnlyMovedIsShownWithoutReadingTheSceneAnew() {
        SdfPath path = placed(2).path();
        int structure = model.display().structure();
        Weight weight = model.shownProperty().get().weight();
        model.edits().nudge(new Vec3(1, 0, 0));
        assertThat(model.display().structure()).isEqualTo(structure);
        assertThat(model.placements().getFirst().placing().move()).isEqualTo(new Vec3(3, 0, 0));
        assertThat(model.shownProperty()
                        .get()
                        .drawn()
                        .boundsBelow(path.toString())
                        .centre()
                        .x())
                .isEqualTo(3);
        assertThat(model.shownProperty().get().weight()).isEqualTo(weight);
        model.undo();
        assertThat(model.display().structure()).isEqualTo(structure);
        assertThat(model.shownProperty()
                        .get()
                        .drawn()
                        .boundsBelow(path.toString())
                        .centre()
                        .x())
                .isEqualTo(2);
        model.edits().removeSelected();
        assertThat(model.display().structure()).isGreaterThan(structure);
    }

    @Test
    void groupsHaveAPlaceAndMoveWhatHangsOnThem() {
        placed(0);
        model.edits().group("Pair");
        SceneSelection.Own group = model.selection().one().orElseThrow();
        assertThat(group.placement()).isEmpty();
        model.edits().move(group.path(), TransformComponents.ORIGIN.withMove(new Vec3(5, 0, 1)));
        assertThat(model.shownProperty()
                        .get()
                        .drawn()
                        .boundsBelow(group.path().toString())
                        .centre()
                        .x())
                .isEqualTo(5);
        model.selection().selectChildren();
        assertThat(only().parent()).isEqualTo(group.path());
        model.selection().selectAbove();
        assertThat(only()).isEqualTo(group.path());
        model.edits().duplicateSelected();
        assertThat(model.placements()).as("what a group holds is shared").hasSize(1);
        SdfPath second = only();
        assertThat(model.objectOf(second.toString())).contains(second);
        model.edits().breakOut();
        assertThat(model.placements()).hasSize(2);
    }

    @Test
    void lockedDrawersKeepWhatTheyHoldWhereItIs() {
        Placement placement = placed(2);
        model.drawers().put("Masts");
        model.drawers().set("Masts", new Drawers.State(false, true, false));
        model.edits().move(placement.path(), TransformComponents.ORIGIN);
        assertThat(desk.session().ledger().getFirst().text()).contains("locked by its drawer");
        model.edits().removeSelected();
        model.edits().nudge(new Vec3(1, 0, 0));
        assertThat(model.placements()).containsExactly(placement);
        model.drawers().set("Masts", new Drawers.State(true, false, false));
        assertThat(model.shownProperty().get().drawn().triangles()).isZero();
        assertThat(model.shownProperty().get().weight().placements()).isEqualTo(1);
        model.drawers().set("Masts", new Drawers.State(false, false, true));
        assertThat(model.shownProperty().get().drawn().triangles()).isZero();
        model.drawers().remove("Masts");
        model.edits().nudge(new Vec3(1, 0, 0));
        assertThat(model.placements().getFirst().placing().move().x()).isEqualTo(3);
    }

    /** A placement of a material would be nothing that can be seen. */
    @Test
    void aMaterialIsNotPlacedButSaysWhatItIsFor() {
        placed(1);
        Slip slip = Slip.plain("Paint", AssetKind.MATERIAL, "Materials", 1, Axis.Y);
        Asset paint = desk.workbench()
                .intake()
                .shelve(Desk.block("Sample", 1), slip, desk.library(), Progress.NONE)
                .asset();
        model.place(paint, Vec3.ZERO);
        assertThat(model.placements()).hasSize(1);
        assertThat(desk.session().ledger().getFirst().text()).contains("Paint is a material");
    }

    @Test
    void whatADrawerDidNotReadIsSeenAgainHoweverThatEnds() {
        SdfPath mast = placed(2).path();
        long whole = triangles();
        model.drawers().put("Masts");
        model.drawers().set("Masts", new Drawers.State(false, false, true));
        assertThat(triangles()).isZero();
        model.undo();
        assertThat(triangles()).as("taken back").isEqualTo(whole);
        model.redo();
        assertThat(triangles()).as("done again").isZero();
        model.selectionProperty().set(Set.of(mast));
        model.drawers().take("Masts");
        assertThat(triangles()).as("taken out of the drawer").isEqualTo(whole);
        model.drawers().put("Masts");
        assertThat(triangles()).as("put into it").isZero();
        model.drawers().remove("Masts");
        assertThat(triangles()).as("without the drawer").isEqualTo(whole);
    }

    private long triangles() {
        return model.shownProperty().get().drawn().triangles();
    }

    @Test
    void whatWasCopiedIsPastedInAnotherSceneWhereItStood() {
        placed(4);
        model.edits().copy();
        model.keeping().save();
        model.close();
        model.create("Other yard");
        model.edits().paste();
        assertThat(model.placements())
                .singleElement()
                .satisfies(placement -> assertThat(placement.placing().move()).isEqualTo(new Vec3(4, 0, 0)));
        model.edits().cut();
        assertThat(model.placements()).isEmpty();
        model.edits().paste();
        model.edits().paste();
        assertThat(model.placements()).hasSize(2);
    }

    @Test
    void stepsAreDoneAgainAndPlacesAreGivenToOthers() {
        placed(0);
        model.edits()
                .step(new TransformStep(
                        new Vec3(0, 0, 2), new Vec3(0, 30, 0), 1, TransformStep.About.PIVOT, TransformStep.Axes.WORLD));
        model.edits().repeat();
        TransformComponents twice = model.selection().one().orElseThrow().placing();
        assertThat(twice.move().z()).isEqualTo(4);
        assertThat(twice.turn().y()).isCloseTo(60, within(1e-4));
        model.edits().copyPlace();
        placed(9);
        model.edits().givePlace();
        assertThat(model.selection().one().orElseThrow().placing().move()).isEqualTo(twice.move());
        model.edits().lock(2, true);
        TransformComponents away = twice.withMove(new Vec3(7, 7, 7));
        assertThat(model.edits().locked(twice, away).move()).isEqualTo(new Vec3(7, 7, 4));
    }

    @Test
    void locksBelongToTheSceneAreUndoneAndKept() {
        placed(0);
        model.edits().lock(0, true);
        model.edits().lock(2, true);
        assertThat(model.edits().lockedAxes()).containsExactly(0, 2);
        model.undo();
        assertThat(model.edits().lockedAxes()).containsExactly(0);
        model.redo();
        model.keeping().save();
        Path file = model.sceneProperty().get().orElseThrow().file();
        model.create("Other");
        assertThat(model.edits().lockedAxes()).as("another scene has its own").isEmpty();
        model.open(file);
        assertThat(model.edits().lockedAxes()).containsExactly(0, 2);
        TransformComponents here = TransformComponents.ORIGIN.withMove(new Vec3(1, 2, 3));
        assertThat(model.edits().locked(here, here.withMove(new Vec3(7, 8, 9))).move())
                .isEqualTo(new Vec3(1, 8, 3));
        model.edits().lock(0, false);
        model.edits().lock(2, false);
        assertThat(model.edits().lockedAxes()).isEmpty();
    }

    @Test
    void focusesShowLessAndAreKept() {
        placed(0);
        model.drawers().put("Masts");
        Focus.Eye eye = new Focus.Eye(new double[] {0, 0, 0}, 10, 20, 30, false);
        model.drawers().set("Masts", new Drawers.State(true, false, false));
        model.keepFocus("Without masts", eye);
        model.drawers().set("Masts", Drawers.State.OPEN);
        assertThat(model.shownProperty().get().drawn().triangles()).isEqualTo(12);
        model.showFocus(Optional.of(
                model.sceneProperty().get().orElseThrow().focuses().all().getFirst()));
        assertThat(model.shownProperty().get().drawn().triangles()).isZero();
        model.showFocus(Optional.empty());
        assertThat(model.shownProperty().get().drawn().triangles()).isEqualTo(12);
        placed(5);
        model.display().isolate();
        assertThat(model.shownProperty().get().drawn().triangles()).isEqualTo(12);
        model.display().isolate();
        assertThat(model.shownProperty().get().drawn().triangles()).isEqualTo(24);
    }

    @Test
    void whatIsNotSavedIsKeptBesideTheFileAndOfferedAfterACrash() {
        placed(3);
        model.keeping().autosave();
        Path file = model.sceneProperty().get().orElseThrow().file();
        assertThat(Safekeeping.left(file)).isPresent();
        ScenesModel next = new ScenesModel(desk.session());
        next.open(file);
        assertThat(next.keeping().troubleProperty().get()).isEqualTo(Keeping.Trouble.LEFT_UNSAVED);
        assertThat(next.placements()).isEmpty();
        next.keeping().recover(true);
        assertThat(next.placements()).hasSize(1);
        next.keeping().save();
        assertThat(Safekeeping.left(file)).isEmpty();
        assertThat(model.files()).as("what is kept is no scene of the project").hasSize(1);
    }

    @Test
    void whatIsGivenUpOnPurposeIsNotOfferedAgain() {
        placed(3);
        model.keeping().autosave();
        Path file = model.sceneProperty().get().orElseThrow().file();
        model.keeping().giveUp();
        assertThat(Safekeeping.left(file)).isEmpty();
        model.keeping().autosave();
        model.close();
        assertThat(Safekeeping.left(file)).isEmpty();
    }

    @Test
    void selectedThingsBecomeAPrefabAndAreReplacedByIt() {
        SdfPath one = placed(0).path();
        SdfPath other = placed(4).path();
        model.selectionProperty().set(Set.of(one, other));
        model.exports().makeAsset("Pair", "Groups");
        assertThat(model.placements())
                .singleElement()
                .satisfies(placement -> assertThat(placement.layer().toString()).contains("pair"));
        assertThat(model.shownProperty().get().drawn().triangles()).isEqualTo(24);
        model.undo();
        assertThat(model.placements()).hasSize(2);
    }

    @Test
    void anotherScenesThingsAreOrderedAndBroughtIn() throws IOException {
        placed(0);
        placed(3);
        model.selectionProperty().set(Set.of(model.placements().get(1).path()));
        model.edits().group("Row");
        model.keeping().save();
        Path file = model.sceneProperty().get().orElseThrow().file();
        model.close();
        model.create("Hall");
        ImportModel bring = new ImportModel(model);
        bring.open(file);
        assertThat(bring.chosenProperty().get()).hasSize(2);
        assertThat(bring.ordered(ImportModel.Order.KIND)).containsOnlyKeys("models");
        assertThat(bring.ordered(ImportModel.Order.GROUP)).containsOnlyKeys("Row", "no group");
        assertThat(bring.ordered(ImportModel.Order.LINKS)).hasSize(2);
        bring.weigh();
        assertThat(desk.session().weightAfterProperty().get().orElseThrow().trianglesStored())
                .as("one asset, used twice")
                .isEqualTo(12);
        bring.choose(
                bring.ordered(ImportModel.Order.GROUP).get("Row").stream()
                        .map(piece -> piece.path())
                        .toList(),
                false);
        bring.bring(ImportModel.Way.COPIED, "Set", "", ImportModel.Target.LOOKED_AT, new Vec3(8, 0, 8));
        assertThat(model.shownProperty().get().drawn().triangles()).isEqualTo(12);
        assertThat(model.shownProperty().get().drawn().bounds().centre().x()).isCloseTo(8, within(1e-6));
        assertThat(desk.session().weightAfterProperty().get()).isEmpty();
        bring.open(folder.resolve("project/nothing.usda"));
        assertThat(desk.session().ledger().getFirst().kind()).isEqualTo(LedgerLine.Kind.WRONG);
    }

    @Test
    void whatLiesOutsideIsNotReadUntilSomebodySaysYesOnce() throws IOException {
        Path outside = Files.createDirectory(folder.resolve("outside"));
        Files.writeString(outside.resolve("prop.usda"), """
                #usda 1.0
                (
                    defaultPrim = "Prop"
                    metersPerUnit = 1
                    upAxis = "Y"
                )
                def Mesh "Prop"
                {
                    int[] faceVertexCounts = [3]
                    int[] faceVertexIndices = [0, 1, 2]
                    point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 1, 0)]
                }
                """);
        Path file = Files.writeString(folder.resolve("project/foreign.usda"), """
                #usda 1.0
                (
                    defaultPrim = "Yard"
                    metersPerUnit = 1
                    upAxis = "Y"
                )
                def Xform "Yard"
                {
                    def "Prop" (references = @../outside/prop.usda@) {}
                    def "Gone" (references = @./gone.usda@) {}
                }
                """);
        model.open(file);
        assertThat(model.placements())
                .extracting(Placement::held)
                .containsExactly(Placement.Held.REFUSED, Placement.Held.MISSING);
        assertThat(model.shownProperty().get().drawn().triangles()).isZero();
        model.allow(outside);
        assertThat(model.placements())
                .extracting(Placement::held)
                .containsExactly(Placement.Held.FILE, Placement.Held.MISSING);
        assertThat(model.shownProperty().get().drawn().triangles()).isOne();
        assertThat(desk.workbench().settings().allowed()).containsExactly(outside.toString());
    }

    @Test
    void whatAnAlternateTakesAwayIsNoLongerSelected() {
        SdfPath drum = placed(2).path();
        Scene open = model.sceneProperty().get().orElseThrow();
        model.change(scene -> {
            scene.alternates().add("layout", "wide");
            scene.alternates().keep("layout", "wide", List.of(drum));
            scene.alternates().add("layout", "narrow");
        });
        model.switchTo("layout", "wide");
        model.selectionProperty().set(Set.of(drum));
        model.switchTo("layout", "narrow");
        assertThat(model.selectionProperty().get()).isEmpty();
        model.edits().duplicateSelected();
        assertThat(open.spec(drum)).isEmpty();
        assertThat(desk.session().ledger()).noneMatch(line -> line.kind() == LedgerLine.Kind.WRONG);
    }

    @Test
    void aGroupAndWhatItHoldsAreUsedOnceMoreTogether() {
        SdfPath drum = placed(2).path();
        model.edits().group("Stack");
        SdfPath group = model.selected().getFirst();
        SdfPath inside = group.child(drum.name());
        model.selectionProperty().set(new LinkedHashSet<>(List.of(inside, group)));
        long before = model.shownProperty().get().weight().trianglesDrawn();
        model.edits().duplicateSelected();
        assertThat(model.shownProperty().get().weight().trianglesDrawn()).isEqualTo(2 * before);
        assertThat(model.selected()).hasSize(1);
        assertThat(desk.session().ledger()).noneMatch(line -> line.kind() == LedgerLine.Kind.WRONG);
    }
}
