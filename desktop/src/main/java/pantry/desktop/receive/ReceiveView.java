package pantry.desktop.receive;

import java.io.File;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import javafx.beans.InvalidationListener;
import javafx.beans.binding.Bindings;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.SplitPane;
import javafx.scene.input.DragEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.stage.DirectoryChooser;
import javafx.stage.FileChooser;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.desktop.look.Bits;
import pantry.desktop.look.Styles;
import pantry.desktop.look3d.View3d;
import pantry.desktop.session.Units;
import pantry.exchange.Axis;
import pantry.exchange.Facts;
import pantry.exchange.FileReaders;
import pantry.exchange.Model;
import pantry.intake.Archives;
import pantry.intake.Intake;
import pantry.intake.PartsMode;
import pantry.intake.Slip;
import pantry.render.Figure;
import pantry.render.RenderCache;
import pantry.render.RenderScene;

/** What arrived · a large look at it beside the figure · its slip. */
public final class ReceiveView extends BorderPane {
    private final ReceiveModel model;
    private final RenderCache cache;
    private final ListView<Arrival> list;
    private final View3d view = new View3d();
    private final VBox lacks = new VBox(4);
    private final HBox measures = new HBox(24);
    private final SlipView slip;
    private final StackPane middle = new StackPane();
    private final BorderPane look = new BorderPane();
    private final InvalidationListener shownChanged = change -> show();
    private Optional<Arrival> shown = Optional.empty();
    private Optional<Shape> shownShape = Optional.empty();
    private Box3 shownBox = Box3.EMPTY;

    /** What of an arrival and its slip decides how it looks. */
    private record Shape(Path file, double factor, Axis up, PartsMode parts) {
        /** Whether another stands in the same place and size, so that the view may stay. */
        boolean stands(Shape other) {
            return file.equals(other.file) && factor == other.factor && up == other.up;
        }
    }

    public ReceiveView(ReceiveModel model, RenderCache cache) {
        this.model = model;
        this.cache = cache;
        this.slip = new SlipView(model);
        this.list = new ListView<>(model.arrivals());
        list.setId("arrivals");
        list.setCellFactory(cells -> new ArrivalCell());
        list.getSelectionModel().selectedItemProperty().addListener((property, before, now) -> model.selectedProperty()
                .set(Optional.ofNullable(now)));
        view.optionsProperty().set(view.optionsProperty().get().withGrid(true));
        measures.getStyleClass().add("strip");
        measures.setAlignment(Pos.CENTER_LEFT);
        look.setCenter(view);
        look.setBottom(new VBox(lacks, measures));
        middle.getChildren().setAll(look);
        SplitPane parts = new SplitPane(left(), middle, slip);
        parts.setDividerPositions(0.24, 0.74);
        SplitPane.setResizableWithParent(parts.getItems().getFirst(), false);
        SplitPane.setResizableWithParent(slip, false);
        setCenter(parts);
        model.selectedProperty().addListener((property, before, now) -> {
            now.ifPresent(arrival -> list.getSelectionModel().select(arrival));
            select(now);
        });
        select(Optional.empty());
        setOnDragOver(this::over);
        setOnDragDropped(this::dropped);
        setOnDragExited(event -> getStyleClass().remove("drop-here"));
    }

    private VBox left() {
        Button choose = Bits.button("Files…", "", "Choose files to take in (Ctrl+O)", this::chooseFiles);
        choose.setId("choose-files");
        Button folder = Bits.button("Folder…", "", "Choose a folder with files", this::chooseFolder);
        HBox head = new HBox(8, Bits.label("Arrivals", Styles.TITLE), Bits.spring(), choose, folder);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add(Styles.PANEL_TITLE);
        list.setPlaceholder(Bits.wrapped(
                "Drop files here, or choose them above: " + String.join(", ", FileReaders.endings()) + ".",
                Styles.FAINT));
        VBox.setVgrow(list, Priority.ALWAYS);
        ListView<String> report = new ListView<>(model.report());
        report.getStyleClass().add("report");
        report.setPrefHeight(110);
        report.setMinHeight(60);
        report.setPlaceholder(Bits.label("Nothing was shelved or refused yet.", Styles.FAINT));
        report.setCellFactory(cells -> new WrappingCell());
        Button shelve = Bits.button(
                "Shelve", "remixal-inbox-archive-line", "Shelve all ticked arrivals (Ctrl+Enter)", model::shelve);
        shelve.setId("shelve");
        shelve.getStyleClass().add(Styles.PRIMARY);
        shelve.textProperty()
                .bind(Bindings.createStringBinding(
                        () -> model.ready().size() == 1
                                ? "Shelve 1 arrival"
                                : "Shelve " + model.ready().size() + " arrivals",
                        model.arrivals()));
        shelve.disableProperty()
                .bind(Bindings.createBooleanBinding(() -> model.ready().isEmpty(), model.arrivals()));
        Button clear = Bits.button("Clear", "", "Take what is shelved or refused off the list", model::clearFinished);
        HBox actions = new HBox(8, shelve, Bits.spring(), clear);
        actions.getStyleClass().add("strip");
        HBox reportHead = new HBox(Bits.label("Shelved and refused", Styles.SECTION));
        reportHead.setPadding(new Insets(8, 12, 2, 12));
        VBox left = new VBox(head, list, actions, reportHead, report);
        left.getStyleClass().addAll(Styles.PANEL, "left");
        left.setMinWidth(230);
        return left;
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

    /** Lets the user choose files. */
    public void chooseFiles() {
        FileChooser chooser = new FileChooser();
        chooser.setTitle("Take in files");
        chooser.getExtensionFilters()
                .setAll(
                        new FileChooser.ExtensionFilter(
                                "Models and archives",
                                Stream.concat(FileReaders.endings().stream(), Archives.ENDINGS.stream())
                                        .map(ending -> "*." + ending)
                                        .toList()),
                        new FileChooser.ExtensionFilter("All files", "*"));
        List<File> chosen = chooser.showOpenMultipleDialog(getScene().getWindow());
        if (chosen != null) {
            model.add(chosen.stream().map(File::toPath).toList());
        }
    }

    private void chooseFolder() {
        File chosen = new DirectoryChooser().showDialog(getScene().getWindow());
        if (chosen != null) {
            model.add(List.of(chosen.toPath()));
        }
    }

    private void select(Optional<Arrival> arrival) {
        shown.ifPresent(before -> {
            before.contentsProperty().removeListener(shownChanged);
            before.slipProperty().removeListener(shownChanged);
            before.stateProperty().removeListener(shownChanged);
            before.messageProperty().removeListener(shownChanged);
        });
        shown = arrival;
        shownShape = Optional.empty();
        arrival.ifPresent(now -> {
            now.contentsProperty().addListener(shownChanged);
            now.slipProperty().addListener(shownChanged);
            now.stateProperty().addListener(shownChanged);
            now.messageProperty().addListener(shownChanged);
        });
        slip.show(arrival);
        show();
    }

    private void show() {
        if (shown.isEmpty()) {
            middle.getChildren()
                    .setAll(Bits.empty(
                            "remixal-inbox-line",
                            "Nothing has arrived",
                            "Drop files or folders anywhere here. Each is measured and shown beside a figure of"
                                    + " 1.75 m before it goes onto a shelf.",
                            primary("Choose files…", this::chooseFiles)));
            return;
        }
        Arrival arrival = shown.get();
        switch (arrival.stateProperty().get()) {
            case WAITING, READING ->
                middle.getChildren()
                        .setAll(Bits.empty(
                                "remixal-eye-line", "Reading " + arrival.name(), "It is shown when it is read."));
            case REFUSED ->
                middle.getChildren()
                        .setAll(Bits.empty(
                                "remixal-error-warning-line",
                                arrival.name() + " was refused",
                                sentence(arrival.messageProperty().get()) + " Nothing of it is in the library."));
            case READY, SHELVING, SHELVED -> {
                middle.getChildren().setAll(look);
                arrival.slipProperty().get().ifPresent(choices -> showModel(arrival, choices));
            }
        }
    }

    private static String sentence(String words) {
        String ended = words.replaceAll("[.\\s]+$", "") + ".";
        return Character.toUpperCase(ended.charAt(0)) + ended.substring(1);
    }

    private static Button primary(String text, Runnable action) {
        Button button = Bits.button(text, "", "", action);
        button.getStyleClass().add(Styles.PRIMARY);
        return button;
    }

    private void showModel(Arrival arrival, Slip choices) {
        Shape shape = new Shape(arrival.file(), choices.factor(), choices.up(), choices.parts());
        if (shownShape.filter(shape::equals).isEmpty()) {
            // Names, shelves and tags change nothing of what is seen: only then is the model prepared anew.
            boolean reframe = shownShape.filter(shape::stands).isEmpty();
            shownShape = Optional.of(shape);
            drawModel(arrival, choices);
            if (reframe) {
                javafx.application.Platform.runLater(view::frameAll);
            }
        }
        showMeasures(arrival, choices, shownBox);
        showLacks(arrival, choices, shownBox);
    }

    private void drawModel(Arrival arrival, Slip choices) {
        Model prepared = Intake.prepared(arrival.contentsProperty().get().orElseThrow(), choices);
        Box3 box = prepared.bounds();
        shownBox = box;
        double aside = Math.max(0.35, box.size().x() * 0.08);
        Vec3 feet = new Vec3(
                box.min().x() - aside - 0.3, box.min().y(), box.centre().z());
        List<Model.Node> together = new java.util.ArrayList<>(prepared.roots());
        together.add(Figure.at(feet));
        view.drawnProperty().set(RenderScene.of(new Model("Arrival", together, prepared.extras()), cache));
    }

    private void showMeasures(Arrival arrival, Slip choices, Box3 box) {
        Facts facts = arrival.facts().orElseThrow();
        double f = choices.factor();
        measures.getChildren()
                .setAll(
                        measure(
                                "wide × tall × deep",
                                Units.size(
                                        box.size().x(),
                                        box.size().y(),
                                        box.size().z())),
                        measure("triangles", Units.count(facts.triangles())),
                        measure("points", Units.count(facts.vertices())),
                        measure("parts", Units.count(facts.parts())),
                        measure("surface", String.format(java.util.Locale.ROOT, "%.4g\u202fm²", facts.area() * f * f)),
                        facts.closed()
                                ? measure(
                                        "volume",
                                        String.format(
                                                java.util.Locale.ROOT, "%.4g\u202fm³", facts.volume() * f * f * f))
                                : measure("volume", "not closed"));
    }

    private static VBox measure(String name, String figure) {
        VBox box = new VBox(1, Bits.label(name, Styles.FAINT), Bits.label(figure, Styles.FIGURE));
        box.setMinWidth(javafx.scene.layout.Region.USE_PREF_SIZE);
        return box;
    }

    private void showLacks(Arrival arrival, Slip choices, Box3 box) {
        lacks.getChildren().clear();
        lacks.setPadding(new Insets(0, 12, 8, 12));
        Facts facts = arrival.facts().orElseThrow();
        for (String missing : arrival.missing()) {
            lacks.getChildren().add(note("wrong", "remixal-error-warning-line", "Texture not found: " + missing));
        }
        model.sizeWarning(arrival).ifPresent(why -> lacks.getChildren()
                .add(note(
                        "caution", "remixal-alert-line", Units.length(box.size().y()) + " tall is " + why)));
        if (facts.lights() + facts.cameras() > 0) {
            lacks.getChildren()
                    .add(note(
                            "caution",
                            "remixal-information-line",
                            facts.lights() + " lights and " + facts.cameras() + " cameras stay behind"));
        }
        if (arrival.stateProperty().get() == Arrival.State.SHELVED) {
            lacks.getChildren()
                    .add(note(
                            "good",
                            "remixal-check-line",
                            arrival.messageProperty().get()));
        }
    }

    private static HBox note(String style, String icon, String text) {
        HBox box = new HBox(8, new FontIcon(icon), Bits.wrapped(text));
        box.setAlignment(Pos.CENTER_LEFT);
        box.getStyleClass().addAll("note-box", style);
        return box;
    }

    /** The view, for those who look at it from outside. */
    public View3d view() {
        return view;
    }

    private static final class WrappingCell extends ListCell<String> {
        @Override
        protected void updateItem(String text, boolean empty) {
            super.updateItem(text, empty);
            setText(empty ? null : text);
            setWrapText(true);
            setPrefWidth(10);
        }
    }

    /** A line of the list: tick, name, and how far it is. */
    private static final class ArrivalCell extends ListCell<Arrival> {
        private final CheckBox tick = new CheckBox();
        private final javafx.scene.control.Label name = Bits.label("");
        private final javafx.scene.control.Label state = Bits.label("", Styles.FAINT);
        private final HBox line = new HBox(8, tick, new VBox(1, name, state));
        private final InvalidationListener changed = change -> describe();
        private Optional<Arrival> shown = Optional.empty();

        ArrivalCell() {
            line.setAlignment(Pos.CENTER_LEFT);
            setPrefWidth(10);
        }

        @Override
        protected void updateItem(Arrival arrival, boolean empty) {
            super.updateItem(arrival, empty);
            shown.ifPresent(before -> {
                tick.selectedProperty().unbindBidirectional(before.tickedProperty());
                before.stateProperty().removeListener(changed);
                before.messageProperty().removeListener(changed);
            });
            shown = empty ? Optional.empty() : Optional.of(arrival);
            setGraphic(empty ? null : line);
            shown.ifPresent(now -> {
                tick.selectedProperty().bindBidirectional(now.tickedProperty());
                now.stateProperty().addListener(changed);
                now.messageProperty().addListener(changed);
                describe();
            });
        }

        private void describe() {
            Arrival arrival = shown.orElseThrow();
            Path folder = arrival.file().getParent();
            name.setText(arrival.name());
            state.getStyleClass().removeAll(Styles.WRONG, Styles.FAINT);
            state.getStyleClass()
                    .add(arrival.stateProperty().get() == Arrival.State.REFUSED ? Styles.WRONG : Styles.FAINT);
            state.setText(
                    switch (arrival.stateProperty().get()) {
                        case WAITING -> "waiting, from " + folder;
                        case READING -> "being read";
                        case READY ->
                            arrival.missing().isEmpty()
                                    ? "ready"
                                    : arrival.missing().size() + " texture missing";
                        case SHELVING -> "being shelved";
                        case SHELVED -> arrival.messageProperty().get();
                        case REFUSED -> "refused: " + arrival.messageProperty().get();
                    });
            tick.setDisable(
                    switch (arrival.stateProperty().get()) {
                        case WAITING, READING, READY -> false;
                        case SHELVING, SHELVED, REFUSED -> true;
                    });
        }
    }
}
