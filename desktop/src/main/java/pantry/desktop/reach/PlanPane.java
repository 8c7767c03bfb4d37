package pantry.desktop.reach;

import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import javafx.collections.SetChangeListener;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import pantry.base.NaturalOrder;
import pantry.base.math.Vec3;
import pantry.desktop.controls.Ask;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.OwnKeys;
import pantry.desktop.controls.Styles;
import pantry.desktop.controls.TypeAhead;
import pantry.desktop.session.Units;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.project.Change;
import pantry.project.HandOver;
import pantry.project.WhatIf;

/** What would be changed, place by place; each line can be unticked before it is done. */
final class PlanPane extends VBox {
    private final ReachModel model;
    private final ListView<PlanLine> lines = new ListView<>();
    private final Choice<Goal> goal = new Choice<>();
    private final Button carryOut =
            Controls.button("", "", "Make the ticked changes; the ledger takes them back", () -> {});
    private final VBox search = new VBox(6);
    private final Choice<Asset> instead = new Choice<>();
    private final Button report = Controls.button(
            "Save the report…", "", "A page with pictures of each scene before and after, or a table", () -> {});
    private final CheckBox keepBase = new CheckBox();
    private final CheckBox packages = new CheckBox("Each scene as one package");
    private final Label says = Controls.wrapped("", Styles.FAINT);

    PlanPane(ReachModel model) {
        this.model = model;
        getStyleClass().addAll(Styles.PANEL, "right");
        Controls.width(this, 20, 24);
        HBox head = new HBox(Controls.label("What would change", Styles.TITLE));
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add(Styles.PANEL_TITLE);
        goal.setId("reach-goal");
        goal.setAccessibleText("What is to be done");
        goal.getItems().setAll(Goal.values());
        goal.setMaxWidth(Double.MAX_VALUE);
        goal.shownAs(Goal::words);
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
        instead.shownAs(asset -> asset.card().name() + " (" + asset.shelf() + ")");
        instead.valueProperty().addListener((property, before, now) -> model.insteadProperty()
                .set(Optional.ofNullable(now).map(asset -> asset.card().id())));
        instead.setOnShowing(event -> fillInstead());
        TypeAhead.in(instead, asset -> asset.card().name());
        report.setId("reach-report");
        report.setOnAction(event -> saveReport());
        VBox top = new VBox(8, goal, instead, search, packages, keepBase, says, report);
        top.getStyleClass().add("slip");
        lines.setId("reach-plan");
        lines.setCellFactory(list -> new PlanCell(model));
        lines.setAccessibleText("What would be done; Space ticks a line");
        OwnKeys.claim(lines, KeyCode.SPACE, KeyCode.ENTER);
        lines.addEventFilter(KeyEvent.KEY_PRESSED, event -> {
            PlanLine line = lines.getSelectionModel().getSelectedItem();
            if (event.getCode() == KeyCode.ENTER && line instanceof PlanLine.Touched(WhatIf.Effect effect)) {
                model.ripple().show(effect.file());
                event.consume();
            } else if (event.getCode() == KeyCode.SPACE) {
                tick(line);
                event.consume();
            }
        });
        VBox.setVgrow(lines, Priority.ALWAYS);
        carryOut.setId("reach-carry-out");
        carryOut.getStyleClass().add(Styles.PRIMARY);
        carryOut.setMaxWidth(Double.MAX_VALUE);
        carryOut.setWrapText(true);
        carryOut.setOnAction(event -> carryOut());
        VBox foot = new VBox(carryOut);
        foot.getStyleClass().add("slip");
        getChildren().setAll(head, top, lines, foot);
        model.plannedProperty().addListener(change -> show());
        model.unticked().addListener((SetChangeListener<Change>) change -> count());
        show();
    }

    /** Ticks a change, or all of a file, and takes the ticks off where all are on. */
    private void tick(@Nullable PlanLine line) {
        List<Change> changes =
                switch (line) {
                    case PlanLine.Head(Path file, List<Change> all) -> all;
                    case PlanLine.One(Change change) -> List.of(change);
                    case null, default -> List.of();
                };
        if (changes.stream().anyMatch(model.unticked()::contains)) {
            changes.forEach(model.unticked()::remove);
        } else {
            model.unticked().addAll(changes);
        }
        lines.refresh();
    }

    /** Does what is planned. */
    void carryOut() {
        if (model.goalProperty().get() == Goal.ARCHIVE) {
            if (!model.ticked().changes().isEmpty()) {
                Ask.of(this, "The library that is the archive").folder().ifPresent(model::archive);
            }
        } else if (model.plannedProperty().get().handOver().isPresent()) {
            Ask.of(this, "A folder in which one is made").folder().ifPresent(model::handOver);
        } else if (!model.plannedProperty().get().pairs().isEmpty()) {
            model.merge();
        } else {
            model.carryOut();
        }
    }

    private void fillInstead() {
        List<Asset> all = model.knownProperty().get().reach().stream()
                .flatMap(reach -> reach.assets().stream())
                .filter(asset -> asset.ready().isPresent() && isLike(asset))
                .sorted(Comparator.comparing(asset -> asset.card().name(), NaturalOrder.BY_NAME))
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
        List<PlanLine> all = PlanLine.of(planned);
        if (!lines.getItems().equals(all)) {
            lines.getItems().setAll(all);
        }
        Controls.showOnly(search, model.goalProperty().get() == Goal.RELINK);
        Controls.showOnly(instead, model.goalProperty().get() == Goal.SWAP);
        Optional<Vec3> offset = model.goalProperty().get() == Goal.SWAP ? model.swapOffset() : Optional.empty();
        Controls.showOnly(keepBase, offset.isPresent());
        offset.ifPresent(by -> keepBase.setText("Keep the base where it stands (" + Units.length(by.length()) + ")"));
        Controls.showOnly(
                report,
                planned.ripple().filter(ripple -> !ripple.effects().isEmpty()).isPresent());
        Controls.showOnly(packages, model.goalProperty().get() == Goal.HAND_OVER);
        says.setText(PlanWords.said(planned, model.goalProperty().get()));
        count();
    }

    private void count() {
        Goal wanted = model.goalProperty().get();
        carryOut.setVisible(wanted != Goal.RETIRED && wanted != Goal.REMOVED && wanted != Goal.CHECK);
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
            carryOut.setText(ticked == 0 ? "Archive nothing" : "Archive " + Units.counted(ticked, "thing") + "…");
            carryOut.setDisable(ticked == 0);
            lines.refresh();
            return;
        }
        if (model.goalProperty().get() == Goal.MERGE) {
            carryOut.setText(ticked == 0 ? "Merge nothing" : "Merge " + Units.counted(ticked, "asset"));
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
}
