package pantry.desktop.reach;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.collections.SetChangeListener;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.util.StringConverter;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Vec3;
import pantry.desktop.controls.Ask;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.controls.TypeAhead;
import pantry.desktop.session.Units;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.project.Change;
import pantry.project.Credits;
import pantry.project.HandOver;
import pantry.project.Imagined;
import pantry.project.Lost;
import pantry.project.Reach;
import pantry.project.Relinking;
import pantry.project.RippleReport;
import pantry.project.WhatIf;

/** What would be changed, place by place; each line can be unticked before it is done. */
final class PlanPane extends VBox {
    /** Growth of a scene that is worth a word, metres. */
    private static final double GROWS = 0.01;

    private final ReachModel model;
    private final ListView<Line> lines = new ListView<>();
    private final ComboBox<Goal> goal = new Choice<>();
    private final Button carryOut =
            Controls.button("", "", "Make the ticked changes; the ledger takes them back", () -> {});
    private final VBox search = new VBox(6);
    private final ComboBox<Asset> instead = new Choice<>();
    private final Button report = Controls.button(
            "Save the report…", "", "A page with pictures of each scene before and after, or a table", () -> {});
    private final CheckBox keepBase = new CheckBox();
    private final CheckBox packages = new CheckBox("Each scene as one package");
    private final Label says = Controls.wrapped("", Styles.FAINT);

    /** A file's name, a change in it, something missing for which nothing sure was found, or what would become of a file. */
    private sealed interface Line {
        record Head(Path file, List<Change> changes) implements Line {}

        record One(Change change) implements Line {}

        record NotFound(Relinking.Missing missing) implements Line {}

        record Touched(WhatIf.Effect effect) implements Line {}

        /** @param wrong whether it should not be so */
        record Note(String says, String more, boolean wrong) implements Line {}
    }

    PlanPane(ReachModel model) {
        this.model = model;
        getStyleClass().addAll(Styles.PANEL, "right");
        setMinWidth(260);
        HBox head = new HBox(Controls.label("What would change", Styles.TITLE));
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add(Styles.PANEL_TITLE);
        goal.setId("reach-goal");
        goal.getItems().setAll(Goal.values());
        goal.setMaxWidth(Double.MAX_VALUE);
        goal.setConverter(new StringConverter<>() {
            @Override
            public String toString(@Nullable Goal of) {
                return of == null ? "" : of.words();
            }

            @Override
            public Goal fromString(String text) {
                throw new UnsupportedOperationException("goals are not typed");
            }
        });
        goal.setValue(model.goalProperty().get());
        goal.valueProperty()
                .addListener((property, before, now) -> model.goalProperty().set(now));
        model.goalProperty().addListener((property, before, now) -> goal.setValue(now));
        Button folder = Controls.button(
                "Search a folder…", "", "Look for what is missing in a folder, with all below it", this::searchFolder);
        folder.setId("reach-search");
        search.getChildren().setAll(folder);
        packages.setId("reach-packages");
        packages.setOnAction(event ->
                model.formProperty().set(packages.isSelected() ? HandOver.Form.PACKAGES : HandOver.Form.FOLDER));
        keepBase.setId("reach-keep-base");
        keepBase.selectedProperty().bindBidirectional(model.keepBaseProperty());
        Controls.hint(
                keepBase,
                "Their pivots differ: placements are moved so that the middle of the base stands where it stood;"
                        + " files are written anew for it");
        instead.setId("reach-instead");
        instead.setPromptText("The asset to use instead");
        instead.setMaxWidth(Double.MAX_VALUE);
        instead.setConverter(new StringConverter<>() {
            @Override
            public String toString(@Nullable Asset of) {
                return of == null ? "" : of.card().name() + " (" + of.shelf() + ")";
            }

            @Override
            public Asset fromString(String text) {
                throw new UnsupportedOperationException("assets are not typed");
            }
        });
        instead.valueProperty().addListener((property, before, now) -> model.insteadProperty()
                .set(Optional.ofNullable(now).map(asset -> asset.card().id())));
        instead.setOnShowing(event -> fillInstead());
        TypeAhead.in(instead, asset -> asset.card().name());
        report.setId("reach-report");
        report.setOnAction(event -> saveReport());
        VBox top = new VBox(8, goal, instead, search, packages, keepBase, says, report);
        top.getStyleClass().add("slip");
        lines.setId("reach-plan");
        lines.setCellFactory(list -> new LineCell());
        lines.setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.ENTER
                    && lines.getSelectionModel().getSelectedItem() instanceof Line.Touched(WhatIf.Effect effect)) {
                model.ripple().show(effect.file());
            }
        });
        VBox.setVgrow(lines, Priority.ALWAYS);
        carryOut.setId("reach-carry-out");
        carryOut.getStyleClass().add(Styles.PRIMARY);
        carryOut.setMaxWidth(Double.MAX_VALUE);
        carryOut.setOnAction(event -> carryOut());
        VBox foot = new VBox(carryOut);
        foot.getStyleClass().add("slip");
        getChildren().setAll(head, top, lines, foot);
        model.plannedProperty().addListener(change -> show());
        model.unticked().addListener((SetChangeListener<Change>) change -> count());
        show();
    }

    /** Does what is planned. */
    void carryOut() {
        if (!model.plannedProperty().get().unused().isEmpty()) {
            if (!model.ticked().changes().isEmpty()) {
                Ask.of(this, "The library that is the archive").folder().ifPresent(model::archive);
            }
        } else if (model.plannedProperty().get().handOver().isPresent()) {
            Ask.of(this, "A folder in which one is made").folder().ifPresent(model::handOver);
        } else {
            model.carryOut();
        }
    }

    private void fillInstead() {
        List<Asset> all = model.knownProperty().get().reach().stream()
                .flatMap(reach -> reach.assets().stream())
                .filter(asset -> asset.ready().isPresent() && isLike(asset))
                .sorted(Comparator.comparing(asset -> asset.card().name(), String.CASE_INSENSITIVE_ORDER))
                .toList();
        if (!instead.getItems().equals(all)) {
            instead.getItems().setAll(all);
        }
    }

    /** A material stands in for a material, and what can be placed for what can be placed. */
    private boolean isLike(Asset asset) {
        Optional<AssetKind> swapped = model.asset().map(each -> each.card().kind());
        AssetKind kind = asset.card().kind();
        boolean whole = kind != AssetKind.MATERIAL && kind != AssetKind.IMAGE;
        return swapped.filter(AssetKind.MATERIAL::equals).isPresent() ? kind == AssetKind.MATERIAL : whole;
    }

    private void saveReport() {
        Ask.of(this, "The report")
                .kind("A page", "html")
                .kind("A table", "csv")
                .named("what-if.html")
                .saveAs()
                .ifPresent(model.ripple()::report);
    }

    private void searchFolder() {
        Ask.of(this, "A folder to search").folder().ifPresent(folder -> {
            if (!model.searched().contains(folder)) {
                model.searched().add(folder);
            }
        });
    }

    private void show() {
        Planned planned = model.plannedProperty().get();
        List<Line> all = new ArrayList<>();
        planned.ripple().ifPresent(ripple -> ripple.effects().forEach(effect -> all.add(new Line.Touched(effect))));
        for (Map.Entry<Path, List<Change>> each : planned.plan().byFile().entrySet()) {
            all.add(new Line.Head(each.getKey(), each.getValue()));
            each.getValue().forEach(change -> all.add(new Line.One(change)));
        }
        planned.missing().stream()
                .filter(missing -> missing.best().isEmpty())
                .forEach(missing -> all.add(new Line.NotFound(missing)));
        planned.handOver().ifPresent(handOver -> all.addAll(notes(handOver)));
        planned.recurring()
                .forEach(recurring -> all.add(new Line.Note(
                        Units.count(recurring.copies().size()) + " copies of no asset, "
                                + Units.count(recurring.triangles()) + " triangles each",
                        recurring.copies().getFirst().file().getFileName() + " "
                                + recurring.copies().getFirst().path()
                                + ": put it on a shelf from Scenes, and the copies are found here",
                        false)));
        if (!lines.getItems().equals(all)) {
            lines.getItems().setAll(all);
        }
        showOnly(search, model.goalProperty().get() == Goal.RELINK);
        showOnly(instead, model.goalProperty().get() == Goal.SWAP);
        Optional<Vec3> offset = model.goalProperty().get() == Goal.SWAP ? model.swapOffset() : Optional.empty();
        showOnly(keepBase, offset.isPresent());
        offset.ifPresent(by -> keepBase.setText("Keep the base where it stands (" + Units.length(by.length()) + ")"));
        showOnly(
                report,
                planned.ripple().filter(ripple -> !ripple.effects().isEmpty()).isPresent());
        showOnly(packages, model.goalProperty().get() == Goal.HAND_OVER);
        says.setText(said(planned, model.goalProperty().get()));
        count();
    }

    private static void showOnly(Node node, boolean wanted) {
        node.setVisible(wanted);
        node.setManaged(wanted);
    }

    private static List<Line> notes(HandOver handOver) {
        List<Line> notes = new ArrayList<>();
        handOver.missing()
                .forEach(missing -> notes.add(new Line.Note(
                        missing.file().getFileName() + ": not all can be taken along", missing.why(), true)));
        handOver.credits().stream()
                .filter(Credits.Line::isLacking)
                .forEach(line -> notes.add(new Line.Note(
                        line.asset().card().name(),
                        line.unknown() ? "no licence is given" : "nobody is told who must be named",
                        true)));
        handOver.credits().stream()
                .filter(line -> !line.isLacking() && line.nonCommercial())
                .forEach(line -> notes.add(new Line.Note(
                        line.asset().card().name(),
                        line.asset().card().licence() + ": not for commercial use",
                        false)));
        handOver.scenes()
                .forEach(scene -> notes.add(
                        new Line.Note(String.valueOf(scene.getFileName()), String.valueOf(scene.getParent()), false)));
        return notes;
    }

    private static String said(Planned planned, Goal goal) {
        if (goal == Goal.LEFTOVERS) {
            return planned.leftovers().isEmpty()
                    ? "Nothing here that is not needed. Files that others use are not looked at."
                    : "Files that others use, or in which something is missing, are not looked at. Each file is written anew.";
        }
        if (goal == Goal.ARCHIVE) {
            long bytes = planned.unused().stream()
                    .mapToLong(Reach.UnusedAsset::bytes)
                    .sum();
            return planned.unused().isEmpty()
                    ? "Every asset here is used by a file of the open projects or by another asset."
                    : "No file of the open projects and no other asset uses them; all versions together "
                            + Units.bytes(bytes)
                            + ". In the archive they stay what they are; signposts stay where they stood.";
        }
        if (goal == Goal.HAND_OVER) {
            return planned.handOver()
                    .map(handOver -> Units.counted(handOver.scenes().size(), "scene") + " and all that they use: "
                            + Units.counted(handOver.files().size(), "file") + ", "
                            + Units.bytes(handOver.bytes())
                            + ". Once each, by relative paths, pinned to what is seen now, with a manifest and a page of"
                            + " credits.")
                    .orElse("No file here is to be handed over.");
        }
        if (goal == Goal.SWAP && planned.ripple().isEmpty()) {
            return "Choose an asset on the left, and the one to use instead.";
        }
        if (goal == Goal.RIPPLE || goal == Goal.RETIRED || goal == Goal.REMOVED || goal == Goal.SWAP) {
            return planned.ripple()
                    .map(PlanPane::told)
                    .orElse("Choose an asset on the left, or a version in the columns.");
        }
        if (goal == Goal.STRAYS) {
            return planned.plan().changes().isEmpty()
                    ? "No copies of assets were found here."
                    : "Copies are known by their shape. Every vertex stays where it is; their materials become the asset's.";
        }
        if (goal != Goal.RELINK) {
            return planned.plan().changes().isEmpty()
                    ? "Nothing to change here."
                    : "Only what a placement refers to is changed; the rest of each file stays to the letter.";
        }
        if (planned.missing().isEmpty()) {
            return "Nothing is missing here.";
        }
        List<Relinking.Move> moves = Relinking.moves(planned.missing());
        return moves.isEmpty()
                ? "Nothing was found that is surely it."
                : moves.getFirst().from() + " seems to stand in "
                        + moves.getFirst().to() + " now.";
    }

    private static String told(WhatIf.Ripple ripple) {
        Imagined change = ripple.change();
        if (change.kind() == Imagined.Kind.READY && change.asset().ready().equals(Optional.of(change.version()))) {
            return change.asset().card().name() + " " + change.version() + " is ready already.";
        }
        return "If " + change.words() + ": " + RippleReport.line(ripple) + "."
                + (ripple.effects().isEmpty() ? "" : " Click a scene for pictures.");
    }

    private void count() {
        Goal wanted = model.goalProperty().get();
        carryOut.setVisible(wanted != Goal.RETIRED && wanted != Goal.REMOVED);
        if (wanted == Goal.RIPPLE) {
            Optional<WhatIf.Ripple> ripple = model.plannedProperty().get().ripple();
            boolean can = ripple.isPresent()
                    && !ripple.get()
                            .asset()
                            .ready()
                            .equals(Optional.of(ripple.get().version()));
            int carried = model.ticked().changes().size();
            carryOut.setText(
                    ripple.map(each -> "Make " + each.version() + " ready").orElse("Make it ready")
                            + (carried == 0 ? "" : ", carry over " + Units.counted(carried, "override")));
            carryOut.setDisable(!can);
            lines.refresh();
            return;
        }
        if (model.goalProperty().get() == Goal.HAND_OVER) {
            carryOut.setText("Hand over to a folder…");
            carryOut.setDisable(model.plannedProperty().get().handOver().isEmpty());
            return;
        }
        int ticked = model.ticked().changes().size();
        if (model.goalProperty().get() == Goal.ARCHIVE) {
            carryOut.setText(ticked == 0 ? "Archive nothing" : "Archive " + Units.counted(ticked, "asset") + "…");
            carryOut.setDisable(ticked == 0);
            lines.refresh();
            return;
        }
        long files = model.ticked().byFile().size();
        carryOut.setText(
                ticked == 0
                        ? "Change nothing"
                        : "Change " + Units.counted(ticked, "place") + " in " + Units.counted(files, "file"));
        carryOut.setDisable(ticked == 0);
        lines.refresh();
    }

    private final class LineCell extends ListCell<Line> {
        @Override
        protected void updateItem(@Nullable Line line, boolean empty) {
            super.updateItem(line, empty);
            setText(null);
            setPrefWidth(1);
            setGraphic(empty || line == null ? null : node(line));
        }

        private Node node(Line line) {
            return switch (line) {
                case Line.Head(Path file, List<Change> changes) -> {
                    CheckBox all = new CheckBox(String.valueOf(file.getFileName()));
                    long off =
                            changes.stream().filter(model.unticked()::contains).count();
                    all.setSelected(off == 0);
                    all.setIndeterminate(off > 0 && off < changes.size());
                    all.getStyleClass().add(Styles.SECTION);
                    all.setOnAction(event -> changes.forEach(change -> tick(change, off > 0)));
                    Controls.hint(all, file.toString());
                    yield all;
                }
                case Line.One(Change change) -> {
                    CheckBox one = new CheckBox();
                    one.setSelected(!model.unticked().contains(change));
                    one.setOnAction(event -> tick(change, one.isSelected()));
                    Label says = Controls.label(change.says());
                    Label where = Controls.label(
                            change.place().isEmpty() ? "sublayer" : change.place(), Styles.FAINT, Styles.FIGURE);
                    VBox words = new VBox(says, where);
                    words.setMinWidth(0);
                    HBox box = new HBox(8, one, words);
                    box.getStyleClass().add("reach-change");
                    Controls.hint(box, change.before() + " → " + change.after());
                    yield box;
                }
                case Line.Touched(WhatIf.Effect effect) -> touched(effect);
                case Line.Note(String title, String more, boolean wrong) -> {
                    Label head = wrong ? Controls.label(title, Styles.WRONG) : Controls.label(title);
                    Label below = wrong ? Controls.wrapped(more, Styles.FAINT) : Controls.label(more, Styles.FAINT);
                    VBox words = new VBox(head, below);
                    words.setMinWidth(0);
                    words.getStyleClass().add("reach-change");
                    Controls.hint(words, more);
                    yield words;
                }
                case Line.NotFound(Relinking.Missing missing) -> {
                    Label says = Controls.label(String.valueOf(missing.target().getFileName()), Styles.WRONG);
                    Label where = Controls.label(
                            missing.candidates().isEmpty()
                                    ? "nothing like it was found"
                                    : missing.candidates().size() + " are as likely: "
                                            + missing.candidates().getFirst().path(),
                            Styles.FAINT);
                    VBox words = new VBox(says, where);
                    words.setMinWidth(0);
                    words.getStyleClass().add("reach-change");
                    Controls.hint(words, missing.file() + " names " + missing.target());
                    yield words;
                }
            };
        }

        private Node touched(WhatIf.Effect effect) {
            VBox words = new VBox(2, Controls.label(String.valueOf(effect.file().getFileName()), Styles.SECTION));
            words.setMinWidth(0);
            words.getStyleClass().add("reach-touched");
            words.setOnMouseClicked(event -> model.ripple().show(effect.file()));
            if (!effect.problem().isEmpty()) {
                words.getChildren().add(Controls.label(effect.problem(), Styles.WRONG));
                return words;
            }
            words.getChildren()
                    .add(Controls.label(
                            Units.counted(effect.placements(), "placement") + ", "
                                    + Units.count(effect.before().trianglesDrawn()) + " → "
                                    + Units.count(effect.after().trianglesDrawn()) + " triangles",
                            Styles.FAINT));
            for (Lost lost : effect.lost()) {
                Label line = Controls.label(lost.path() + " " + lost.detail(), Styles.CAUTION, Styles.FIGURE);
                Controls.hint(
                        line,
                        "Would lose what it is about"
                                + (lost.likely().isEmpty()
                                        ? ""
                                        : "; now perhaps " + lost.likely().getFirst()));
                words.getChildren().add(line);
            }
            if (effect.growth() > GROWS) {
                words.getChildren().add(Controls.label("grows by " + Units.length(effect.growth()), Styles.CAUTION));
            }
            Controls.hint(words, effect.file() + ": click for pictures before and after");
            return words;
        }

        private void tick(Change change, boolean on) {
            if (on) {
                model.unticked().remove(change);
            } else {
                model.unticked().add(change);
            }
        }
    }
}
