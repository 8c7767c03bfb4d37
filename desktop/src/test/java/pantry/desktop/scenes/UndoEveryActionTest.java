package pantry.desktop.scenes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.lang.reflect.Method;
import java.lang.reflect.Modifier;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestFactory;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.prep.PrepModel;
import pantry.desktop.receive.ArrivalShelving;
import pantry.desktop.receive.ReceiveModel;
import pantry.desktop.session.ArrivalSource;
import pantry.desktop.session.AssetSearch;
import pantry.desktop.session.Desk;
import pantry.desktop.session.Ledger;
import pantry.desktop.session.LedgerLine;
import pantry.desktop.session.Libraries;
import pantry.desktop.session.Session;
import pantry.desktop.shelves.LibraryActions;
import pantry.desktop.shelves.ShelvesModel;
import pantry.exchange.format.Imported;
import pantry.exchange.format.Samples;
import pantry.intake.Intake;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.library.VersionStatus;
import pantry.model.Axis;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.PhysicalMaterial;
import pantry.prep.tools.Proxy;
import pantry.scene.Anchors;
import pantry.scene.Arranging;
import pantry.scene.Drawers;
import pantry.scene.Focus;
import pantry.scene.Layout;
import pantry.scene.LayoutPlan;
import pantry.scene.Scene;
import pantry.scene.TransformStep;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;
import pantry.usd.text.UsdaWriter;
import pantry.usecase.MixParts;
import pantry.workbench.Personal;

/**
 * Every action of every workplace, taken back and done again: libraries, scene and files are as they were. The public
 * methods of the classes that act are the list of actions; one that is neither tried here nor said to be none fails.
 */
class UndoEveryActionTest {
    private static final TransformStep STEP = new TransformStep(
            new Vec3(1, 0, 0.5), new Vec3(0, 30, 0), 1, TransformStep.About.PIVOT, TransformStep.Axes.WORLD);

    private static final Focus.Eye EYE = new Focus.Eye(new double[] {0, 1, 0}, 30, 20, 5, false);

    @TempDir
    private Path folder;

    private int number;

    /** A library and a scene in which things are done. */
    private static final class Place implements AutoCloseable {
        final Path folder;
        final Desk desk;
        final ShelvesModel shelves;
        final LibraryActions library;
        final ScenesModel scenes;
        final ReceiveModel receive;
        final PrepModel prep;
        final SdfPath mast;
        final SdfPath crate;

        Place(Path folder) throws IOException {
            this.folder = Files.createDirectories(folder);
            desk = new Desk(folder);
            desk.shelve("Mast", "Masts", 3, "tall");
            desk.shelve("Crate", "Boxes", 1);
            shelves = new ShelvesModel(desk.session(), new AssetSearch(desk.session()));
            library = new LibraryActions(shelves);
            scenes = new ScenesModel(desk.session());
            receive = new ReceiveModel(desk.session());
            ArrivalSource arrivals = mock(ArrivalSource.class);
            when(arrivals.waitingFiles()).thenReturn(List.of());
            when(arrivals.target()).thenReturn(Optional.empty());
            prep = new PrepModel(desk.session(), arrivals);
            desk.open();
            scenes.create("Yard");
            mast = place("Mast", 0);
            crate = place("Crate", 4);
            choose(crate);
        }

        Asset asset(String name) {
            return desk.library().find(name);
        }

        SdfPath place(String name, double x) {
            scenes.place(asset(name), new Vec3(x, 0, x / 3));
            return scenes.selection().single().orElseThrow().path();
        }

        /** What is selected, elsewhere. */
        TransformComponents at(double x, double y, double z) {
            return scenes.selection().one().orElseThrow().placing().withMove(new Vec3(x, y, z));
        }

        void choose(SdfPath... paths) {
            scenes.selectionProperty().set(new LinkedHashSet<>(List.of(paths)));
        }

        List<IndexedAsset> items(String name) {
            return shelves.search().items().stream()
                    .filter(each -> each.name().equals(name))
                    .toList();
        }

        void card(String name) {
            List<IndexedAsset> items = items(name);
            shelves.choose(items, Optional.of(items.getFirst()));
        }

        Scene scene() {
            return scenes.sceneProperty().get().orElseThrow();
        }

        LayoutPlan row(int count) {
            return LayoutPlan.of(new Layout.Grid(new int[] {count, 1, 1}, new Vec3(2, 0, 0)), Layout.Variation.NONE);
        }

        /** What others see of libraries, scene and files. */
        String state() {
            Library shelf = desk.library();
            String cards = shelf.assets().stream()
                    .map(asset -> asset.shelf() + "/" + asset.card().name() + " "
                            + asset.card().tags() + " " + asset.card().licence() + " follows " + asset.ready()
                            + " held "
                            + shelf.reservations().of(asset).map(held -> held.who()))
                    .sorted()
                    .collect(Collectors.joining("\n"));
            String prepped = prep.openedProperty()
                    .get()
                    .map(now -> UsdaWriter.write(now.piece().layer()))
                    .orElse("");
            Personal personal = desk.workbench().personal();
            String own = personal.searches() + " "
                    + shelf.assets().stream()
                            .filter(asset -> personal.isFavourite(asset.card().id()))
                            .map(asset -> asset.card().name())
                            .toList();
            String open = desk.session().libraries().stream().map(Library::root).toList() + " "
                    + desk.session().projects();
            return own + open + cards + "\n" + shelf.shelves() + "\n" + files() + "\n"
                    + UsdaWriter.write(scene().layer()) + prepped;
        }

        long undoableLines() {
            return desk.session().ledger().stream()
                    .filter(line -> line.reversal().isPresent())
                    .count();
        }

        void history(long times, Consumer<Ledger> step) {
            for (long i = 0; i < times; i++) {
                step.accept(desk.session().history());
            }
        }

        private Set<String> files() {
            try (Stream<Path> files = Files.walk(folder.resolve("project"))) {
                return files.filter(file -> file.toString().endsWith(".usda"))
                        .map(file -> folder.relativize(file).toString())
                        .filter(file -> !file.contains("/."))
                        .collect(Collectors.toCollection(TreeSet::new));
            } catch (IOException e) {
                throw new java.io.UncheckedIOException(e);
            }
        }

        @Override
        public void close() {
            desk.close();
        }
    }

    /** What is there before, and what is done then. */
    private record Action(Consumer<Place> before, Consumer<Place> act) {}

    private static Action act(Consumer<Place> act) {
        return new Action(place -> {}, act);
    }

    private static Action act(Consumer<Place> before, Consumer<Place> act) {
        return new Action(before, act);
    }

    private static Action edit(Consumer<SelectionEdits> act) {
        return act(place -> act.accept(place.scenes.edits()));
    }

    private static Action edit(Consumer<Place> before, Consumer<SelectionEdits> act) {
        return act(before, place -> act.accept(place.scenes.edits()));
    }

    private static void both(Place place) {
        place.choose(place.mast, place.crate);
    }

    private static void grouped(Place place) {
        both(place);
        place.scenes.edits().group("Stack");
    }

    private static void card(Place place) {
        place.card("Mast");
    }

    private static final Map<Class<?>, Map<String, Action>> ACTIONS = Map.of(
            SelectionEdits.class,
            Map.ofEntries(
                    Map.entry("move", act(place -> place.scenes.edits().move(place.crate, place.at(1, 2, 3)))),
                    Map.entry(
                            "moveEach",
                            act(place -> place.scenes.edits().moveEach(Map.of(place.crate, place.at(3, 2, 1))))),
                    Map.entry("nudge", edit(edits -> edits.nudge(new Vec3(0.1, 0, 0)))),
                    Map.entry("step", edit(edits -> edits.step(STEP))),
                    Map.entry("repeat", edit(place -> place.scenes.edits().step(STEP), SelectionEdits::repeat)),
                    Map.entry("givePlace", edit(UndoEveryActionTest::placeCopied, SelectionEdits::givePlace)),
                    Map.entry("lock", edit(edits -> edits.lock(1, true))),
                    Map.entry("cut", edit(SelectionEdits::cut)),
                    Map.entry("paste", edit(place -> place.scenes.edits().copy(), SelectionEdits::paste)),
                    Map.entry("hang", act(UndoEveryActionTest::mastGrouped, place -> place.scenes
                            .edits()
                            .hang(List.of(place.crate), place.scenes.selected().getFirst()))),
                    Map.entry("sort", edit(place -> place.choose(place.scene().root()), SelectionEdits::sort)),
                    Map.entry("switchOn", edit(edits -> edits.switchOn(false))),
                    Map.entry("hide", edit(edits -> edits.hide(true))),
                    Map.entry("share", edit(UndoEveryActionTest::brokenOut, SelectionEdits::share)),
                    Map.entry("anchor", edit(edits -> edits.anchor("Corner", Anchors.Mark.USUAL, Vec3.ZERO))),
                    Map.entry(
                            "settle",
                            edit(UndoEveryActionTest::lifted, edits -> edits.settle(Set.of(), true, seen -> {}))),
                    Map.entry("removeSelected", edit(SelectionEdits::removeSelected)),
                    Map.entry("group", edit(UndoEveryActionTest::both, edits -> edits.group("Stack"))),
                    Map.entry("ungroup", edit(UndoEveryActionTest::grouped, SelectionEdits::ungroup)),
                    Map.entry("rename", edit(edits -> edits.rename("Long crate"))),
                    Map.entry("breakOut", edit(UndoEveryActionTest::groupUsedTwice, SelectionEdits::breakOut)),
                    Map.entry("mirror", edit(edits -> edits.mirror(0))),
                    Map.entry("align", edit(UndoEveryActionTest::both, edits -> edits.align(0, Arranging.Side.MIDDLE))),
                    Map.entry("nextToLast", edit(UndoEveryActionTest::both, edits -> edits.nextToLast(0, true))),
                    Map.entry("centreOnLast", edit(UndoEveryActionTest::both, SelectionEdits::centreOnLast)),
                    Map.entry("spread", edit(UndoEveryActionTest::three, edits -> edits.spread(0))),
                    Map.entry("drop", edit(UndoEveryActionTest::lifted, SelectionEdits::drop)),
                    Map.entry("resetPlace", edit(SelectionEdits::resetPlace)),
                    Map.entry(
                            "layOut",
                            act(place -> place.scenes.edits().layOut(List.of(place.crate), "Row", place.row(3)))),
                    Map.entry(
                            "layAgain",
                            act(
                                    place -> place.scenes.edits().layOut(List.of(place.crate), "Row", place.row(3)),
                                    place -> place.scenes.edits().layAgain(place.row(5)))),
                    Map.entry("duplicateSelected", edit(SelectionEdits::duplicateSelected)),
                    Map.entry("copies", edit(edits -> edits.copies(3, STEP))),
                    Map.entry("copyAsOwn", edit(UndoEveryActionTest::groupUsedTwice, SelectionEdits::copyAsOwn))),
            SceneDrawers.class,
            Map.of(
                    "removeFocus",
                    act(
                            place -> place.scenes.keepFocus("Close", EYE),
                            place -> place.scenes.drawers().removeFocus("Close")),
                    "put",
                    act(place -> place.scenes.drawers().put("Boxes")),
                    "take",
                    act(
                            place -> place.scenes.drawers().put("Boxes"),
                            place -> place.scenes.drawers().take("Boxes")),
                    "remove",
                    act(
                            place -> place.scenes.drawers().put("Boxes"),
                            place -> place.scenes.drawers().remove("Boxes")),
                    "set",
                    act(
                            place -> place.scenes.drawers().put("Boxes"),
                            place -> place.scenes.drawers().set("Boxes", new Drawers.State(true, false, false)))),
            SceneExports.class,
            Map.of(
                    "replace",
                    act(place -> place.scenes.exports().replace(place.asset("Mast"), Optional.empty())),
                    "makeAsset",
                    act(
                            UndoEveryActionTest::both,
                            place -> place.scenes.exports().makeAsset("Corner", "Groups")),
                    "publish",
                    act(place -> place.scenes.exports().publish(place.asset("Mast"), place.desk.library(), "a crate")),
                    "writeBack",
                    act(
                            UndoEveryActionTest::overridden,
                            place -> place.scenes.exports().writeBack(place.crate, "up")),
                    "cutSection",
                    act(place -> place.scenes.exports().cutSection("corner")),
                    "joinSections",
                    act(
                            place -> place.scenes.exports().cutSection("corner"),
                            place -> place.scenes.exports().joinSections())),
            ScenesModel.class,
            Map.of(
                    "place",
                    act(place -> place.place("Mast", 8)),
                    "placeBeside",
                    act(
                            place -> place.place("Mast", 8),
                            place -> place.scenes.placeBeside(place.asset("Mast"), new Vec3(1, 0, 0), Vec3.ZERO)),
                    "switchTo",
                    act(UndoEveryActionTest::alternates, place -> place.scenes.switchTo("layout", "wide")),
                    "keepFocus",
                    act(place -> place.scenes.keepFocus("Close", EYE))),
            LibraryActions.class,
            Map.ofEntries(
                    Map.entry(
                            "edit",
                            act(place -> place.library.edit(
                                    place.items("Mast"), "tagged %s", card -> card.tagged("outdoor")))),
                    Map.entry("renameTag", act(place -> place.library.renameTag("tall", "high"))),
                    Map.entry(
                            "move",
                            act(place -> place.library.move(
                                    place.items("Mast"), place.desk.library().root(), "Boxes"))),
                    Map.entry(
                            "copy",
                            act(place -> place.library.copy(
                                    place.items("Mast"), place.desk.library().root(), "Boxes"))),
                    Map.entry("discard", act(place -> place.library.discard(place.items("Mast")))),
                    Map.entry(
                            "restore",
                            act(
                                    UndoEveryActionTest::discarded,
                                    place -> place.library.restore(
                                            place.desk.library(),
                                            place.desk.library().trash().items(),
                                            () -> {}))),
                    Map.entry("makeShelf", act(place -> place.library.makeShelf(place.desk.library(), "Ropes"))),
                    Map.entry(
                            "moveShelf", act(place -> place.library.moveShelf(place.desk.library(), "Masts", "Poles"))),
                    Map.entry(
                            "removeShelf",
                            act(
                                    place -> place.library.makeShelf(place.desk.library(), "Ropes"),
                                    place -> place.library.removeShelf(place.desk.library(), "Ropes"))),
                    Map.entry("reserve", act(UndoEveryActionTest::card, place -> place.library.reserve())),
                    Map.entry("release", act(UndoEveryActionTest::reserved, place -> place.library.release())),
                    Map.entry("takeOver", act(UndoEveryActionTest::heldByBen, place -> place.library.takeOver("lost"))),
                    Map.entry(
                            "setStatus",
                            act(
                                    UndoEveryActionTest::card,
                                    place -> place.library.setStatus("v001", VersionStatus.RETIRED))),
                    Map.entry(
                            "goBack",
                            act(
                                    UndoEveryActionTest::secondVersion,
                                    place -> place.library.goBack("v001", "better", VersionStatus.READY))),
                    Map.entry(
                            "publish",
                            act(
                                    UndoEveryActionTest::card,
                                    place -> place.library.publish(
                                            place.desk.file("mast.obj", 4), "taller", VersionStatus.READY))),
                    Map.entry(
                            "mix",
                            act(
                                    UndoEveryActionTest::paintAndRust,
                                    place -> place.library.mix(
                                            new MixParts.Change.In(place.asset("Rust"), 0.5, true),
                                            "rusted",
                                            VersionStatus.READY))),
                    Map.entry(
                            "changePhysics",
                            act(
                                    UndoEveryActionTest::card,
                                    place -> place.library.changePhysics(
                                            PhysicalMaterial.UNSAID.withDensity(700), "of wood", VersionStatus.READY))),
                    Map.entry("remake", act(UndoEveryActionTest::rustNewerThanPaint, place -> place.library.remake())),
                    Map.entry(
                            "publishCopy",
                            act(
                                    UndoEveryActionTest::copied,
                                    place -> place.library.publishCopy(
                                            place.library.copies().getFirst(), "edited", VersionStatus.READY)))),
            ShelvesModel.class,
            Map.of(
                    "toggleFavourites",
                    act(UndoEveryActionTest::card, place -> place.shelves.toggleFavourites()),
                    "keepSearch",
                    act(place -> place.shelves.keepSearch("Masts")),
                    "forget",
                    act(
                            place -> place.shelves.keepSearch("Masts"),
                            place -> place.shelves.forget(
                                    place.shelves.keptSearches().getFirst()))),
            Session.class,
            Map.of("closeProject", act(place -> place.desk.session().closeProject(place.folder.resolve("project")))),
            Libraries.class,
            Map.of("close", act(place -> place.desk.session().shelving().close(place.desk.library()))),
            PrepModel.class,
            Map.of(
                    "tidy",
                    act(UndoEveryActionTest::untidy, place -> place.prep.tidy()),
                    "findImages",
                    act(UndoEveryActionTest::lacking, place -> place.prep.findImages(place.folder.resolve("found"))),
                    "publish",
                    act(UndoEveryActionTest::tidied, place -> place.prep.publish("proxied", VersionStatus.READY))),
            ArrivalShelving.class,
            Map.of("shelve", act(UndoEveryActionTest::arrived, place -> place.receive
                    .shelving()
                    .shelve())));

    private static final String LACKING = """
                #usda 1.0
                (defaultPrim = "Sign" metersPerUnit = 1 upAxis = "Y")
                def Xform "Sign"
                {
                    def Mesh "Board" (apiSchemas = ["MaterialBindingAPI"])
                    {
                        int[] faceVertexCounts = [3]
                        int[] faceVertexIndices = [0, 1, 2]
                        point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 1, 0)]
                        rel material:binding = </Sign/Print>
                    }
                    def Material "Print"
                    {
                        token outputs:surface.connect = </Sign/Print/Surface.outputs:surface>
                        def Shader "Surface"
                        {
                            uniform token info:id = "UsdPreviewSurface"
                            color3f inputs:diffuseColor.connect = </Sign/Print/Image.outputs:rgb>
                            token outputs:surface
                        }
                        def Shader "Image"
                        {
                            uniform token info:id = "UsdUVTexture"
                            asset inputs:file = @lost.png@
                            float3 outputs:rgb
                        }
                    }
                }
                """;

    /** Of classes that show and look up more than they act, only what acts is listed. */
    private static final Map<String, String> ALL_THE_REST = Map.of("*", "shows, chooses or looks up");

    /** What acts in no way that could be taken back, and why. */
    private static final Map<Class<?>, Map<String, String>> NO_ACTIONS = Map.of(
            SelectionEdits.class,
            Map.of(
                    "copyPlace", "keeps figures aside",
                    "copy", "fills the clipboard",
                    "choose", "PartsTest takes it back: it needs an asset with variants",
                    "doMotion", "SceneMotionsTest takes it back: it needs an asset that moves",
                    "borrowMotion", "SceneMotionsTest takes it back: it needs an asset that moves",
                    "timeMotion", "SceneMotionsTest takes it back: it needs an asset that moves"),
            SceneDrawers.class,
            Map.of(),
            SceneExports.class,
            Map.of("hold", "its opposite stands beside it; others see at once who holds a section"),
            ScenesModel.class,
            Map.of(
                    "allow", "a setting, told with what it allows",
                    "create", "makes a file",
                    "open", "shows another file",
                    "close", "shows none",
                    "openSection", "shows another file",
                    "leaveSection", "shows the file before",
                    "undo", "takes back itself",
                    "redo", "does again itself",
                    "showFocus", "a way to look at it",
                    "selectSameMaterial", "selects"),
            ShelvesModel.class,
            ALL_THE_REST,
            Session.class,
            ALL_THE_REST,
            Libraries.class,
            ALL_THE_REST,
            LibraryActions.class,
            Map.of(
                    "lookAtCopies", "looks",
                    "editCopy", "writes a file for another program",
                    "giveUp", "the file stays, and the asset can be reserved again",
                    "handOut", "writes files"),
            PrepModel.class,
            Map.of(
                    "add", "lists files",
                    "openArrival", "opens",
                    "read", "opens anew, where nothing was changed yet",
                    "open", "opens",
                    "change", "what tidy and the tools are made with",
                    "undo", "takes back itself",
                    "redo", "does again itself",
                    "ask", "answers a question",
                    "save", "writes a file"),
            ArrivalShelving.class,
            Map.of("saveReport", "writes a file"));

    /** A paint, whose card is open, and a rust of nodes that can be mixed into it. */
    private static void paintAndRust(Place place) {
        Intake intake = place.desk.workbench().intake();
        Material grey = Material.plain("Paint", new Colour(0.2f, 0.4f, 0.6f), 0, 0.3);
        intake.shelve(
                Samples.balls("Paint", List.of(grey)),
                Slip.plain("Paint", AssetKind.MATERIAL, "Materials", 1, Axis.Y),
                place.desk.library(),
                Progress.NONE);
        intake.shelve(
                rust(place),
                Slip.plain("Rust", AssetKind.MATERIAL_PART, "Materials", 1, Axis.Y),
                place.desk.library(),
                Progress.NONE);
        open(place, "Paint");
    }

    private static Imported rust(Place place) {
        try {
            Path file = Files.writeString(place.folder.resolve("rust.mtlx"), """
                    <materialx version="1.39"><nodegraph name="Rust">
                      <constant name="c" type="color3"><input name="value" type="color3" value="0.4, 0.1, 0.05"/></constant>
                      <output name="base_color" type="color3" nodename="c"/>
                    </nodegraph></materialx>
                    """);
            return place.desk.workbench().intake().read(file, Progress.NONE);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static void open(Place place, String name) {
        place.desk.session().refreshCatalogue(place.desk.library());
        place.shelves.selectedProperty().set(place.items(name).stream().findFirst());
    }

    private static void rustNewerThanPaint(Place place) {
        paintAndRust(place);
        place.library.mix(new MixParts.Change.In(place.asset("Rust"), 0.5, true), "rusted", VersionStatus.READY);
        place.desk
                .workbench()
                .intake()
                .publish(
                        rust(place),
                        Slip.plain("Rust", AssetKind.MATERIAL_PART, "Materials", 1, Axis.Y),
                        new Intake.Next(place.asset("Rust"), VersionStatus.READY, "again"),
                        place.desk.library(),
                        Progress.NONE);
        open(place, "Rust");
    }

    private static void placeCopied(Place place) {
        place.choose(place.mast);
        place.scenes.edits().copyPlace();
        place.choose(place.crate);
    }

    private static void lifted(Place place) {
        place.scenes.edits().nudge(new Vec3(0, 2, 0));
    }

    private static void three(Place place) {
        SdfPath third = place.place("Crate", 5);
        place.choose(place.mast, place.crate, third);
    }

    private static void mastGrouped(Place place) {
        place.choose(place.mast);
        place.scenes.edits().group("Stack");
    }

    private static void groupUsedTwice(Place place) {
        grouped(place);
        place.scenes.edits().duplicateSelected();
    }

    private static void brokenOut(Place place) {
        place.scenes.edits().breakOut();
        place.choose(place.crate);
    }

    private static void overridden(Place place) {
        SdfPath part = place.scene().parts().below(place.crate).getFirst();
        place.choose(part);
        place.scenes.edits().step(STEP);
        place.choose(place.crate);
    }

    private static void alternates(Place place) {
        place.scenes.change(scene -> {
            scene.alternates().add("layout", "wide");
            scene.alternates().keep("layout", "wide", List.of(place.crate));
            scene.alternates().add("layout", "narrow");
        });
    }

    private static void discarded(Place place) {
        place.library.discard(place.items("Crate"));
    }

    private static void reserved(Place place) {
        card(place);
        place.library.reserve();
    }

    private static void heldByBen(Place place) {
        Library.open(place.desk.library().root(), "ben", Clock.systemUTC())
                .reservations()
                .reserve(place.asset("Mast"));
        card(place);
    }

    private static void secondVersion(Place place) {
        card(place);
        place.library.publish(place.desk.file("mast.obj", 4), "taller", VersionStatus.READY);
    }

    private static void copied(Place place) {
        card(place);
        place.library.editCopy(place.folder.resolve("copy"), "obj");
    }

    /** A working copy that names an image which is elsewhere. */
    private static void lacking(Place place) {
        try {
            Path image = Files.createDirectories(place.folder.resolve("found")).resolve("lost.png");
            ImageIO.write(new BufferedImage(8, 8, BufferedImage.TYPE_INT_RGB), "png", image.toFile());
            place.prep.add(List.of(Files.writeString(place.folder.resolve("lacking.usda"), LACKING)));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static void untidy(Place place) {
        place.prep.add(List.of(place.desk.file("block.obj", 2)));
        place.prep.chosen().tick(finding -> true, true);
    }

    private static void tidied(Place place) {
        place.prep.open(place.desk.library(), place.items("Mast").getFirst());
        place.prep.change("Proxy", piece -> Proxy.write(piece, Proxy.boxes(piece.model(), 1, Progress.NONE)));
    }

    private static void arrived(Place place) {
        place.receive.add(List.of(place.desk.file("drum.obj", 1), place.desk.file("post.obj", 2)));
    }

    @Test
    void theListHoldsAllThatActs() {
        ACTIONS.forEach((type, actions) -> {
            if (NO_ACTIONS.getOrDefault(type, Map.of()).equals(ALL_THE_REST)) {
                return;
            }
            Set<String> known = new TreeSet<>(actions.keySet());
            known.addAll(NO_ACTIONS.getOrDefault(type, Map.of()).keySet());
            Set<String> there = Stream.of(type.getDeclaredMethods())
                    .filter(method -> Modifier.isPublic(method.getModifiers()))
                    .filter(method -> method.getReturnType() == void.class && !method.isSynthetic())
                    .map(Method::getName)
                    .collect(Collectors.toCollection(TreeSet::new));
            assertThat(known).as("actions of " + type.getSimpleName()).isEqualTo(there);
        });
    }

    @TestFactory
    Stream<DynamicTest> isTakenBackAndDoneAgain() {
        return ACTIONS.entrySet().stream()
                .sorted(Comparator.comparing(entry -> entry.getKey().getSimpleName()))
                .flatMap(entry -> new TreeMap<>(entry.getValue())
                        .entrySet().stream()
                                .map(action -> DynamicTest.dynamicTest(
                                        entry.getKey().getSimpleName() + "." + action.getKey(),
                                        () -> tried(action.getValue()))));
    }

    private void tried(Action action) throws IOException {
        try (Place place = new Place(folder.resolve("place" + number++))) {
            action.before().accept(place);
            String before = place.state();
            long lines = place.undoableLines();
            action.act().accept(place);
            String after = place.state();
            long made = place.undoableLines() - lines;
            assertThat(after).as("it does something").isNotEqualTo(before);
            assertThat(made).as("lines that tell it").isBetween(1L, 2L);
            for (int round = 0; round < 2; round++) {
                place.history(made, Ledger::undo);
                assertThat(place.state()).as("taken back").isEqualTo(before);
                place.history(made, Ledger::redo);
                assertThat(place.state()).as("done again").isEqualTo(after);
            }
            assertThat(place.desk.session().ledger())
                    .as("nothing went wrong")
                    .noneMatch(line -> line.kind() == LedgerLine.Kind.WRONG);
        }
    }
}
