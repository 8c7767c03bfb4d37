package pantry.desktop.receive;

import java.io.File;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;
import javafx.beans.InvalidationListener;
import javafx.beans.binding.Bindings;
import javafx.collections.ListChangeListener;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.SplitPane;
import javafx.scene.input.DragEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.util.Duration;
import pantry.base.Names;
import pantry.base.math.Box3;
import pantry.desktop.controls.Ask;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.LibraryChoice;
import pantry.desktop.controls.Styles;
import pantry.desktop.controls.WhileShown;
import pantry.desktop.session.FxThread;
import pantry.desktop.session.LatestWork;
import pantry.desktop.session.Units;
import pantry.desktop.view3d.MotionBar;
import pantry.desktop.view3d.View3d;
import pantry.exchange.format.FileKind;
import pantry.exchange.format.Imported;
import pantry.intake.Archives;
import pantry.intake.DropFolder;
import pantry.intake.Origin;
import pantry.intake.PartsMode;
import pantry.intake.Pivot;
import pantry.intake.ProcessingOptions;
import pantry.intake.Slip;
import pantry.intake.Survey;
import pantry.library.AssetKind;
import pantry.model.Axis;
import pantry.model.Facts;
import pantry.render.RenderCache;

/** What arrived · a large look at it beside the figure · its slip. */
public final class ReceiveView extends BorderPane {
    private static final Duration WATCH_EVERY = Duration.seconds(2);

    private final ReceiveModel model;
    private final RenderCache cache;
    private final ArrivalTree tree;
    private final View3d view = new View3d();
    private final MotionBar motion;
    private final ArrivalNotes lacks;
    private final ReportPanel report;
    private final FlowPane measures = new FlowPane(24, 4);
    private final SlipView slip;
    private final StackPane middle = new StackPane();
    private final BorderPane shownModel = new BorderPane();
    private final Button watch = Controls.button("", "", "", this::chooseDropFolder);
    private final InvalidationListener shownChanged = change -> show();
    private Optional<Arrival> shown = Optional.empty();
    private final LatestWork drawing;
    private Optional<Shape> shownShape = Optional.empty();
    private Optional<ArrivalPicture> shownDrawn = Optional.empty();

    /** Whether what is drawn next stands elsewhere than what is seen; what was to be drawn before it may never have been. */
    private boolean toBeFramed;

    /** What of an arrival and its slip decides how it looks. */
    private record Shape(
            Path file, Survey survey, double factor, Axis up, PartsMode parts, Pivot pivot, ProcessingOptions making) {
        /** Whether another stands in the same place and size, so that the view may stay. */
        boolean stands(Shape other) {
            return file.equals(other.file)
                    && factor == other.factor
                    && up == other.up
                    && pivot == other.pivot
                    && making.levels() == other.making.levels();
        }
    }

    public ReceiveView(ReceiveModel model, RenderCache cache) {
        this.model = model;
        this.cache = cache;
        this.drawing = new LatestWork(model.session().background());
        this.motion = new MotionBar(view, cache, new LatestWork(model.session().background()));
        this.slip = new SlipView(model);
        this.tree = new ArrivalTree(model);
        this.lacks = new ArrivalNotes(model, this::findTextures);
        this.report = new ReportPanel(model);
        view.optionsProperty().set(view.optionsProperty().get().withGrid(true));
        measures.getStyleClass().add("strip");
        measures.setAlignment(Pos.CENTER_LEFT);
        shownModel.setCenter(new StackPane(view, motion.overlay()));
        shownModel.setBottom(new VBox(motion, lacks, measures));
        middle.getChildren().setAll(shownModel);
        SplitPane parts = new SplitPane(left(), middle, slip);
        parts.setDividerPositions(0.25, 0.73);
        SplitPane.setResizableWithParent(parts.getItems().getFirst(), false);
        SplitPane.setResizableWithParent(slip, false);
        setCenter(parts);
        model.selectedProperty().addListener((property, before, now) -> select(now));
        model.selection().addListener((ListChangeListener<Arrival>) change -> slip.show(model.selection()));
        model.watch().folderProperty().addListener(change -> describeWatch());
        model.arrivals().addListener((ListChangeListener<Arrival>) change -> {
            if (shown.isEmpty()) {
                show();
            }
        });
        model.unfinished().addListener((property, before, now) -> {
            if (shown.isEmpty()) {
                show();
            }
        });
        WhileShown.every(this, WATCH_EVERY, model.watch()::look);
        describeWatch();
        select(model.selectedProperty().get());
        setOnDragOver(this::over);
        setOnDragDropped(this::dropped);
        setOnDragExited(event -> getStyleClass().remove("drop-here"));
    }

    private VBox left() {
        Button choose = Controls.button("Files\u2026", "", "Choose files to take in (Ctrl+O)", this::chooseFiles);
        choose.setId("choose-files");
        Button folder =
                Controls.button("Folder\u2026", "", "Choose a folder with files (Ctrl+Shift+O)", this::chooseFolder);
        HBox head = new HBox(8, Controls.whole("Arrivals", Styles.TITLE), Controls.spring(), choose, folder);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add(Styles.PANEL_TITLE);
        VBox.setVgrow(tree, Priority.ALWAYS);
        Button shelve = Controls.button(
                "Shelve",
                "remixal-inbox-archive-line",
                "Shelve all ticked arrivals (Ctrl+Enter)",
                model.shelving()::shelve);
        shelve.setId("shelve");
        shelve.getStyleClass().add(Styles.PRIMARY);
        shelve.textProperty().bind(Bindings.createStringBinding(() -> shelving(model.shelving()), model.arrivals()));
        shelve.disableProperty()
                .bind(Bindings.createBooleanBinding(
                        () -> model.shelving().ready().isEmpty(), model.arrivals()));
        Label lacking = Controls.wrapped("", Styles.CAUTION);
        lacking.setId("lacking");
        lacking.textProperty().bind(Bindings.createStringBinding(() -> lacking(model.shelving()), model.arrivals()));
        lacking.textProperty()
                .addListener(
                        change -> Controls.showOnly(lacking, !lacking.getText().isEmpty()));
        Controls.showOnly(lacking, false);
        Button clear =
                Controls.button("Clear", "", "Take what is shelved or refused off the list", model::clearFinished);
        LibraryChoice into =
                new LibraryChoice("receive-into", "Into", model.session().shelving());
        VBox actions = new VBox(6, lacking, into, new HBox(8, shelve, Controls.spring(), clear));
        actions.getStyleClass().add("strip");
        watch.setId("watch");
        watch.getStyleClass().add(Styles.QUIET);
        HBox watching = new HBox(watch);
        watching.setPadding(new Insets(0, 12, 4, 12));
        VBox left = new VBox(head, tree, watching, actions, report);
        left.getStyleClass().addAll(Styles.PANEL, "left");
        Controls.width(left, 21.5, 24);
        return left;
    }

    /** What the button does: only what will go through is counted, unless nothing will. */
    private static String shelving(ArrivalShelving shelving) {
        int ticked = shelving.ready().size();
        int whole = ticked - shelving.lacking();
        return "Shelve " + Names.counted(whole == 0 ? ticked : whole, "arrival");
    }

    private static String lacking(ArrivalShelving shelving) {
        int count = shelving.lacking();
        boolean all = count == shelving.ready().size();
        if (count == 0) {
            return "";
        }
        if (count == 1) {
            return all ? "It lacks textures and will be refused" : "1 more lacks textures and stays here";
        }
        return all ? "All of them lack textures and will be refused" : count + " more lack textures and stay here";
    }

    private void describeWatch() {
        Optional<DropFolder> folder = model.watch().folderProperty().get();
        watch.setText(folder.map(f -> "Watching " + f.folder().getFileName() + "; stop")
                .orElse("Watch a folder\u2026"));
        Controls.hint(
                watch,
                folder.isPresent() ? "Stop watching" : "What is put into the folder later arrives here by itself");
    }

    /** Lets the user choose the folder that is watched; stops watching where one is. */
    public void chooseDropFolder() {
        if (model.watch().folderProperty().get().isPresent()) {
            model.watch().watch(Optional.empty());
            return;
        }
        folder("Watch a folder").ifPresent(chosen -> model.watch().watch(Optional.of(chosen)));
    }

    private Optional<Path> folder(String title) {
        return Ask.of(this, title).folder();
    }

    /** Lets the user choose where the report goes. */
    public void saveReport() {
        report.saveReport();
    }

    private void over(DragEvent event) {
        if (event.getDragboard().hasFiles()) {
            event.acceptTransferModes(TransferMode.COPY);
            if (!getStyleClass().contains("drop-here")) {
                getStyleClass().add("drop-here");
            }
            event.consume();
        }
    }

    private void dropped(DragEvent event) {
        model.add(event.getDragboard().getFiles().stream().map(File::toPath).toList());
        event.setDropCompleted(true);
        event.consume();
    }

    /** Takes the keys to the arrivals. */
    void enter() {
        tree.requestFocus();
    }

    /** Lets the user choose files. */
    public void chooseFiles() {
        String[] endings = Stream.concat(FileKind.endings().stream(), Archives.ENDINGS.stream())
                .toArray(String[]::new);
        model.add(Ask.of(this, "Take in files")
                .kind("Models, materials, images and archives", endings)
                .orAny()
                .files());
    }

    /** Lets the user choose a folder of files. */
    public void chooseFolder() {
        folder("Take in a folder").ifPresent(chosen -> model.add(List.of(chosen)));
    }

    private void select(Optional<Arrival> arrival) {
        shown.ifPresent(before -> {
            before.surveyProperty().removeListener(shownChanged);
            before.slipProperty().removeListener(shownChanged);
            before.stateProperty().removeListener(shownChanged);
            before.messageProperty().removeListener(shownChanged);
        });
        shown = arrival;
        shownShape = Optional.empty();
        arrival.ifPresent(now -> {
            now.surveyProperty().addListener(shownChanged);
            now.slipProperty().addListener(shownChanged);
            now.stateProperty().addListener(shownChanged);
            now.messageProperty().addListener(shownChanged);
        });
        slip.show(model.selection().isEmpty() ? arrival.stream().toList() : model.selection());
        show();
    }

    private void show() {
        if (shown.isEmpty()) {
            middle.getChildren().setAll(nothing());
            return;
        }
        Arrival arrival = shown.get();
        boolean read = arrival.surveyProperty().get().isPresent()
                && arrival.slipProperty().get().isPresent();
        switch (arrival.state()) {
            case REFUSED ->
                middle.getChildren()
                        .setAll(Controls.empty(
                                "remixal-error-warning-line",
                                arrival.name() + " was refused",
                                sentence(arrival.messageProperty().get()) + " Nothing of it is in the library."));
            case WAITING, READING, READY, SHELVING, SHELVED -> {
                if (read && arrival.contents().isPresent()) {
                    middle.getChildren().setAll(shownModel);
                    showModel(arrival, arrival.slipProperty().get().orElseThrow());
                } else {
                    middle.getChildren()
                            .setAll(Controls.empty(
                                    "remixal-eye-line", "Reading " + arrival.name(), "It is shown when it is read."));
                }
            }
        }
    }

    private VBox nothing() {
        List<Origin> interrupted = model.interrupted();
        if (!interrupted.isEmpty()) {
            Button forget = Controls.button("Forget them", "", "Begin with an empty list", () -> {
                model.forgetInterrupted();
            });
            return Controls.empty(
                    "remixal-history-line",
                    interrupted.size() == 1
                            ? "1 arrival was not finished"
                            : interrupted.size() + " arrivals were not finished",
                    "Receiving was interrupted. It can go on where it stopped, with the choices made then.",
                    primary("Go on", model::goOn),
                    forget);
        }
        if (!model.arrivals().isEmpty()) {
            return Controls.empty(
                    "remixal-inbox-line", "No arrival is chosen", "Choose one in the list to see it and its choices.");
        }
        return Controls.empty(
                "remixal-inbox-line",
                "Nothing has arrived",
                "Drop files, folders or archives anywhere here. Each is measured and shown beside a figure of"
                        + " 1.75\u202fm before it goes onto a shelf. USD, glTF, OBJ, PLY, STL, COLLADA, FBX, 3DS, DXF and"
                        + " other models are read, MaterialX, images, and zip and tar archives.",
                primary("Choose files\u2026", this::chooseFiles));
    }

    private static String sentence(String words) {
        String ended = words.replaceAll("[.\\s]+$", "") + ".";
        return Character.toUpperCase(ended.charAt(0)) + ended.substring(1);
    }

    private static Button primary(String text, Runnable action) {
        Button button = Controls.button(text, "", "", action);
        button.getStyleClass().add(Styles.PRIMARY);
        return button;
    }

    private void showModel(Arrival arrival, Slip choices) {
        Shape shape = new Shape(
                arrival.file(),
                arrival.surveyProperty().get().orElseThrow(),
                choices.factor(),
                choices.up(),
                choices.parts(),
                choices.pivot(),
                choices.making());
        if (shownShape.filter(shape::equals).isPresent()) {
            // Names, shelves and tags change nothing of what is seen.
            showFigures(arrival, choices);
            return;
        }
        toBeFramed |= shownShape.filter(shape::stands).isEmpty();
        shownShape = Optional.of(shape);
        Imported read = arrival.contents().orElseThrow();
        drawing.answer("drawing " + arrival.name(), progress -> ArrivalPicture.of(read, choices, cache), drawn -> {
            shownDrawn = Optional.of(drawn);
            view.drawnProperty().set(drawn.scene());
            motion.show(drawn.model());
            if (toBeFramed) {
                toBeFramed = false;
                FxThread.later(view::frameAll);
            }
            showFigures(arrival, arrival.slipProperty().get().orElse(choices));
        });
    }

    private void showFigures(Arrival arrival, Slip choices) {
        shownDrawn.ifPresent(drawn -> {
            showMeasures(arrival, choices, drawn);
            lacks.show(arrival, choices, drawn.box(), drawn.figure());
        });
    }

    private void showMeasures(Arrival arrival, Slip choices, ArrivalPicture drawn) {
        Box3 box = drawn.box();
        boolean reduced = choices.making().share() < 1;
        Facts facts = arrival.surveyProperty()
                .get()
                .orElseThrow()
                .facts(choices.making().kept());
        double f = choices.factor();
        measures.getChildren()
                .setAll(measure(
                        "wide × tall × deep",
                        Units.size(box.size().x(), box.size().y(), box.size().z())));
        if (choices.kind() == AssetKind.MOTION) {
            // What is drawn of it only shows its bones.
            measures.getChildren().add(measure("bones", Units.count(facts.bones())));
            facts.motions().forEach(each -> measures.getChildren()
                    .add(measure(each.name(), String.format(Locale.ROOT, "%.2f s", each.seconds()))));
            return;
        }
        measures.getChildren()
                .addAll(
                        measure(
                                "triangles",
                                Units.count(facts.triangles())
                                        + (reduced ? " \u2192 " + Units.count(drawn.triangles()) : "")),
                        measure("points", Units.count(facts.vertices())),
                        measure("parts", Units.count(facts.parts())),
                        measure("surface", Units.area(facts.area() * f * f)),
                        facts.closed()
                                ? measure("volume", Units.volume(facts.volume() * f * f * f))
                                : measure("volume", "not closed"));
        facts.strands().forEach(words -> measures.getChildren().add(measure("shown are", words)));
        if (reduced) {
            measures.getChildren().add(measure("surface moved by at most", Units.length(drawn.error())));
        }
        drawn.collision().ifPresent(triangles -> measures.getChildren()
                .add(measure("collision shape", Units.counted(triangles, "triangle"))));
        for (ArrivalPicture.Level level : drawn.levels()) {
            measures.getChildren()
                    .add(measure(
                            level.name() + ", surface moved by at most",
                            Units.counted(level.triangles(), "triangle") + ", " + Units.length(level.error())));
        }
        if (choices.making().levels() && drawn.levels().isEmpty()) {
            boolean own = arrival.contents().filter(Imported::hasLevels).isPresent();
            measures.getChildren()
                    .add(measure(
                            "levels of detail", own ? "those of its files" : "none: one mesh of several materials"));
        }
    }

    private static VBox measure(String name, String figure) {
        VBox box = new VBox(1, Controls.label(name, Styles.FAINT), Controls.label(figure, Styles.FIGURE));
        box.setMinWidth(javafx.scene.layout.Region.USE_PREF_SIZE);
        return box;
    }

    /** Lets the user choose a folder in which missing textures are looked for. */
    public void findTextures() {
        folder("Look for missing textures").ifPresent(model::findTextures);
    }

    /** The view, for those who look at it from outside. */
    public View3d view() {
        return view;
    }
}
