package pantry.desktop.reach;

import java.nio.file.Path;
import java.util.Comparator;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.SplitPane;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.util.Duration;
import pantry.desktop.controls.Ask;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.controls.WhileShown;
import pantry.desktop.session.Units;
import pantry.library.Asset;
import pantry.project.ProjectWeight.Box;
import pantry.project.Reach;
import pantry.project.ReachGraph;
import pantry.project.ReachGraph.Column;
import pantry.project.Savings;
import pantry.project.UseIndex;

/** Projects and assets · what uses what, as columns with lines · what would be changed. */
public final class ReachView extends BorderPane {
    /** What others change in the files is looked for so often, while the workplace is shown. */
    private static final Duration LOOK_EVERY = Duration.seconds(4);

    private final ReachModel model;
    private final ReachLists lists;
    private final ColumnsPane columns = new ColumnsPane();
    private final Label title = Controls.path("", Styles.TITLE);
    private final Label said = Controls.label("", Styles.FAINT);
    private final HBox actions = new HBox(8);
    private final ToggleButton usesView = new ToggleButton("Uses");
    private final ToggleButton weightView = new ToggleButton("Weight");
    private final WeightPane weight;
    private final RipplePane pictures;
    private final PlanPane plan;
    private final StackPane middle = new StackPane();
    private final BorderPane shown = new BorderPane();
    private Consumer<Path> onOpenScene = file -> {};
    private Consumer<Asset> onShowAsset = asset -> {};
    private Consumer<Asset> onInspect = asset -> {};

    public ReachView(ReachModel model) {
        this.model = model;
        plan = new PlanPane(model);
        lists = new ReachLists(model, this::openProject, file -> onOpenScene.accept(file));
        VBox words = new VBox(title, said);
        words.setAlignment(Pos.CENTER_LEFT);
        HBox.setHgrow(words, Priority.ALWAYS);
        words.setMinWidth(0);
        actions.setAlignment(Pos.CENTER_RIGHT);
        actions.setMinWidth(Region.USE_PREF_SIZE);
        HBox head = new HBox(8, words, actions, views());
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().addAll(Styles.PANEL, Styles.PANEL_TITLE);
        pictures = new RipplePane(model.ripple());
        weight = new WeightPane(model.weight(), model);
        weight.setOnOpen(this::open);
        weight.setOnSaving(this::plan);
        shown.setTop(head);
        SplitPane parts = new SplitPane(lists, middle, plan);
        parts.setDividerPositions(0.22, 0.74);
        SplitPane.setResizableWithParent(parts.getItems().getFirst(), false);
        SplitPane.setResizableWithParent(plan, false);
        setCenter(parts);
        columns.setOnOpen(this::open);
        model.knownProperty().addListener(change -> show());
        model.graphProperty().addListener(change -> show());
        model.subjectProperty().addListener(change -> {
            model.ripple().close();
            show();
        });
        model.ripple().picturedProperty().addListener(change -> show());
        addEventFilter(KeyEvent.KEY_PRESSED, event -> {
            if (event.getCode() == KeyCode.ESCAPE
                    && model.ripple().picturedProperty().get().isPresent()) {
                model.ripple().close();
                event.consume();
            }
        });
        WhileShown.every(this, LOOK_EVERY, model::lookAgain);
        show();
    }

    /** Does what is planned. */
    void carryOut() {
        plan.carryOut();
    }

    private HBox views() {
        ToggleGroup group = new ToggleGroup();
        usesView.setId("reach-view-uses");
        weightView.setId("reach-view-weight");
        Controls.hint(usesView, "What uses what");
        Controls.hint(weightView, "What the scenes weigh, and what of that each asset is");
        usesView.setToggleGroup(group);
        weightView.setToggleGroup(group);
        group.selectToggle(usesView);
        group.selectedToggleProperty().addListener((property, before, now) -> {
            if (now == null) {
                group.selectToggle(before);
            } else {
                model.weight().shownProperty().set(now == weightView);
            }
        });
        model.weight().shownProperty().addListener((property, before, now) -> {
            group.selectToggle(now ? weightView : usesView);
            show();
        });
        HBox views = new HBox(usesView, weightView);
        views.setAlignment(Pos.CENTER_RIGHT);
        views.setMinWidth(Region.USE_PREF_SIZE);
        return views;
    }

    /** Called with a file whose scene is to be opened. */
    void setOnOpenScene(Consumer<Path> action) {
        onOpenScene = action;
    }

    /** Called with an asset whose card is to be shown. */
    void setOnShowAsset(Consumer<Asset> action) {
        onShowAsset = action;
    }

    /** The files and the assets on the left. */
    ReachLists lists() {
        return lists;
    }

    void openProject() {
        Ask.of(this, "A folder of scenes")
                .folder()
                .ifPresent(folder -> model.session().projectProperty().set(Optional.of(folder)));
    }

    /** Called with an asset that is to be opened in Prep. */
    void setOnInspect(Consumer<Asset> action) {
        onInspect = action;
    }

    /** A box becomes what is looked at. */
    private void open(Box box) {
        switch (box.kind()) {
            case ASSET ->
                model.weight()
                        .weightProperty()
                        .get()
                        .flatMap(all -> all.asset(box))
                        .ifPresent(asset -> model.subjectProperty()
                                .set(new Subject.OfAsset(asset.card().id())));
            case SCENE, FILE, OWN -> model.subjectProperty().set(new Subject.OfFile(box.path()));
            case PROJECT, PROJECTS -> model.subjectProperty().set(Subject.ALL);
        }
    }

    private void plan(Savings.Saving saving) {
        Asset asset = saving.asset();
        switch (saving.kind()) {
            case PLACE_COPIES, ONE_VERSION -> {
                model.goalProperty().set(saving.kind() == Savings.Kind.PLACE_COPIES ? Goal.STRAYS : Goal.READY);
                model.subjectProperty().set(new Subject.OfAsset(asset.card().id()));
            }
            case USE_PROXY -> onShowAsset.accept(asset);
            case MAKE_PROXY, SHARE_TWINS, SMALLER_TEXTURES -> onInspect.accept(asset);
        }
    }

    /** A row of the columns becomes what is looked at. */
    private void open(ReachRows.Row row) {
        if (row.column() == Column.FILES) {
            model.subjectProperty().set(new Subject.OfFile(row.path()));
        } else {
            model.knownProperty()
                    .get()
                    .reach()
                    .flatMap(reach -> reach.asset(row.path()))
                    .ifPresent(asset -> model.subjectProperty()
                            .set(new Subject.OfAsset(asset.card().id())));
        }
    }

    private void show() {
        actions.getChildren().clear();
        ReachGraph graph = model.graphProperty().get();
        switch (model.subjectProperty().get()) {
            case Subject.Everything everything -> overview();
            case Subject.OfAsset(String id) ->
                model.asset()
                        .ifPresentOrElse(
                                asset -> {
                                    title.setText(asset.card().name());
                                    UseIndex.Total total = model.knownProperty()
                                            .get()
                                            .totals()
                                            .getOrDefault(asset.folder(), UseIndex.Total.NONE);
                                    said.setText(
                                            total.files() == 0
                                                    ? "No file of the open projects uses it"
                                                    : "Used " + Units.count(total.placements()) + " × in "
                                                            + Units.counted(total.files(), "file"));
                                    Button card = Controls.button(
                                            "Card",
                                            "",
                                            "Show its card on the shelves",
                                            () -> onShowAsset.accept(asset));
                                    card.setId("reach-card");
                                    actions.getChildren().setAll(card);
                                    columns.show(
                                            graph,
                                            Map.of(
                                                    Column.VERSIONS, "Versions",
                                                    Column.COMPOSITES, "Made with it",
                                                    Column.FILES, "Files that use it"));
                                    shown.setCenter(wanted(columns));
                                    middle.getChildren().setAll(shown);
                                },
                                this::overview);
            case Subject.OfFile(Path file) -> {
                title.setText(String.valueOf(file.getFileName()));
                said.setText(ReachLists.told(
                        model.knownProperty().get().waiting().getOrDefault(file, Reach.Waiting.NOTHING)));
                Button open = Controls.button(
                        "Open in Scenes", "", "Open this scene (Enter)", () -> onOpenScene.accept(file));
                open.setId("reach-open");
                actions.getChildren().setAll(open);
                columns.show(
                        graph,
                        Map.of(
                                Column.VERSIONS, "Assets that it uses",
                                Column.COMPOSITES, "Made of others",
                                Column.FILES, "File"));
                shown.setCenter(wanted(columns));
                middle.getChildren().setAll(shown);
            }
        }
    }

    /** What is shown in the middle, which is what uses what unless something else is wanted. */
    private Node wanted(Node uses) {
        if (model.ripple().picturedProperty().get().isPresent()) {
            return pictures;
        }
        return model.weight().shownProperty().get() ? weight : uses;
    }

    /** All projects at a glance: what waits in each file, the fullest first. */
    private void overview() {
        KnownProjects known = model.knownProperty().get();
        if (known.projects().isEmpty()) {
            Button open = Controls.button("Open a project…", "", "", this::openProject);
            open.getStyleClass().add(Styles.PRIMARY);
            middle.getChildren()
                    .setAll(Controls.empty(
                            "remixal-git-branch-line",
                            "No project is open",
                            "A project is a folder with scenes. Open one, or several, to see which file uses what, and what"
                                    + " is behind or missing.",
                            open));
            return;
        }
        long files = known.projects().stream()
                .mapToLong(project -> project.files().size())
                .sum();
        long waiting = model.waitingProperty().get();
        title.setText("All projects");
        said.setText(Units.counted(files, "file")
                + (waiting == 0 ? ", and nothing waits" : ", " + Units.counted(waiting, "thing") + " to look at"));
        VBox lines = new VBox(2);
        lines.getStyleClass().add("reach-overview");
        known.unreadable().forEach(each -> lines.getChildren().add(Controls.wrapped(each.problem(), Styles.WRONG)));
        known.waiting().entrySet().stream()
                .sorted(Comparator.comparingInt((Map.Entry<Path, Reach.Waiting> entry) ->
                                -entry.getValue().total())
                        .thenComparing(Map.Entry::getKey))
                .forEach(entry -> lines.getChildren().add(overviewLine(entry.getKey(), entry.getValue())));
        Node content = lines.getChildren().isEmpty()
                ? Controls.empty(
                        "remixal-checkbox-circle-line",
                        "Nothing waits",
                        "No placement is behind, no version that is used is retired, and nothing is missing."
                                + " Choose a file or an asset on the left to see what it uses, or what uses it.")
                : Controls.scrolling(lines);
        shown.setCenter(wanted(content));
        middle.getChildren().setAll(shown);
    }

    private Node overviewLine(Path file, Reach.Waiting waiting) {
        Label name = Controls.path(String.valueOf(file.getFileName()));
        name.setMinWidth(160);
        Label what = Controls.whole(ReachLists.told(waiting), waiting.missing() > 0 ? Styles.WRONG : Styles.CAUTION);
        HBox line = new HBox(12, name, what);
        line.getStyleClass().add("reach-overview-line");
        line.setOnMouseClicked(event -> model.subjectProperty().set(new Subject.OfFile(file)));
        Controls.hint(line, file + ": click for all that it uses");
        return line;
    }
}
