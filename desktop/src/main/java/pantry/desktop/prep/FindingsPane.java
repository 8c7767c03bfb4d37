package pantry.desktop.prep;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.desktop.controls.Ask;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.OwnKeys;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;
import pantry.model.Weight;
import pantry.prep.inspect.Finding;
import pantry.prep.inspect.MaterialRules;
import pantry.prep.inspect.Rule;

/** What was found, by rule: what it is, why it matters, its fix, and what the fix would weigh. */
final class FindingsPane extends VBox {
    private final PrepModel model;
    private final Choice<Optional<Rule.Group>> group = new Choice<>();
    private final ListView<Row> list = new ListView<>();
    private final VBox detail = new VBox(6);
    private final Label nothing = Controls.label("", Styles.FAINT);
    private final Button tidy;
    private final Label weight = Controls.label("", Styles.FIGURE);
    private final CheckBox all = new CheckBox("Tick all");
    private final Set<String> open = new HashSet<>();
    private boolean filling;

    /** A rule with its findings, or one of them. */
    private sealed interface Row {
        /** A rule that found something. */
        record OfRule(Rule rule, List<Finding> findings, boolean open) implements Row {}

        /** One thing that was found. */
        record OfFinding(Finding finding) implements Row {}
    }

    FindingsPane(PrepModel model) {
        super(8);
        this.model = model;
        List<Optional<Rule.Group>> groups = new ArrayList<>(List.of(Optional.empty()));
        for (Rule.Group each : Rule.Group.values()) {
            groups.add(Optional.of(each));
        }
        group.getItems().setAll(groups);
        group.setValue(Optional.empty());
        group.setId("prep-group");
        group.setAccessibleText("Kinds of findings");
        group.getStyleClass().add("small");
        group.shownAs(value -> value.map(Rule.Group::title).orElse("All kinds"));
        group.setOnAction(event -> fill());
        all.setId("prep-tick-all");
        all.setMinWidth(USE_PREF_SIZE);
        Controls.hint(all, "Tick all that can be put right (Ctrl+A)");
        all.setOnAction(event -> model.chosen().tick(this::isListed, all.isSelected()));
        HBox head = new HBox(8, all, Controls.spring(), group);
        head.setAlignment(Pos.CENTER_LEFT);
        list.setId("prep-findings");
        list.setAccessibleText("Findings; Space ticks one");
        list.setCellFactory(cells -> new Cell());
        list.setPlaceholder(nothing);
        OwnKeys.claim(list, KeyCode.SPACE, KeyCode.LEFT, KeyCode.RIGHT);
        list.setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.SPACE) {
                tick(list.getSelectionModel().getSelectedItem());
                event.consume();
            } else if (event.getCode() == KeyCode.RIGHT || event.getCode() == KeyCode.LEFT) {
                unfold(event.getCode() == KeyCode.RIGHT);
                event.consume();
            }
        });
        VBox.setVgrow(list, Priority.ALWAYS);
        detail.setId("prep-detail");
        detail.getStyleClass().addAll("note-box", "info");
        detail.setMinHeight(USE_PREF_SIZE);
        tidy = Controls.button("Tidy", "remixmz-magic-line", "Put right what is ticked (Ctrl+Enter)", model::tidy);
        tidy.setId("prep-tidy");
        tidy.getStyleClass().add(Styles.PRIMARY);
        HBox foot = new HBox(8, weight, Controls.spring(), tidy);
        foot.setAlignment(Pos.CENTER_LEFT);
        getChildren().setAll(head, list, detail, foot);
        model.openedProperty().addListener(change -> fill());
        model.chosen().tickedProperty().addListener(change -> {
            list.refresh();
            tell();
        });
        model.chosen().foreseenProperty().addListener(change -> tell());
        model.busyProperty().addListener(change -> tell());
        list.getSelectionModel().selectedItemProperty().addListener((property, before, now) -> {
            if (!filling) {
                model.chosen().pointedProperty().set(now == null ? Optional.empty() : first(now));
                explain();
            }
        });
        model.chosen().pointedProperty().addListener((property, before, now) -> now.ifPresent(this::follow));
        fill();
    }

    /** Chooses the row of what is pointed at, where another one is chosen. */
    private void follow(Finding finding) {
        Row chosen = list.getSelectionModel().getSelectedItem();
        if (chosen == null || !first(chosen).filter(finding::equals).isPresent()) {
            list.getItems().stream()
                    .filter(row -> first(row).filter(finding::equals).isPresent())
                    .findFirst()
                    .ifPresent(row -> list.getSelectionModel().select(row));
        }
    }

    private static Optional<Finding> first(Row row) {
        return Optional.of(
                switch (row) {
                    case Row.OfRule rule -> rule.findings().getFirst();
                    case Row.OfFinding one -> one.finding();
                });
    }

    private boolean isListed(Finding finding) {
        return group.getValue().isEmpty()
                || group.getValue().get() == finding.rule().group();
    }

    private void fill() {
        filling = true;
        Optional<String> chosen =
                Optional.ofNullable(list.getSelectionModel().getSelectedItem()).map(FindingsPane::key);
        Map<Rule, List<Finding>> byRule = new LinkedHashMap<>();
        model.openedProperty().get().map(Opened::findings).orElse(List.of()).stream()
                .filter(this::isListed)
                .sorted(java.util.Comparator.comparing(Finding::severity).reversed())
                .forEach(finding -> byRule.computeIfAbsent(finding.rule(), rule -> new ArrayList<>())
                        .add(finding));
        List<Row> rows = new ArrayList<>();
        byRule.forEach((rule, findings) -> {
            boolean unfolded = open.contains(rule.id()) && findings.size() > 1;
            rows.add(new Row.OfRule(rule, findings, unfolded));
            if (unfolded) {
                findings.forEach(finding -> rows.add(new Row.OfFinding(finding)));
            }
        });
        nothing.setText(
                model.openedProperty().get().isEmpty()
                        ? "Nothing is inspected yet."
                        : group.getValue().isPresent() ? "Nothing of this kind was found." : "Nothing was found.");
        list.getItems().setAll(rows);
        chosen.flatMap(key -> rows.stream().filter(row -> key(row).equals(key)).findFirst())
                .ifPresent(row -> list.getSelectionModel().select(row));
        filling = false;
        explain();
        tell();
    }

    private static String key(Row row) {
        return switch (row) {
            case Row.OfRule rule -> rule.rule().id();
            case Row.OfFinding one -> one.finding().id();
        };
    }

    private void unfold(boolean wanted) {
        if (list.getSelectionModel().getSelectedItem() instanceof Row.OfRule rule) {
            if (wanted) {
                open.add(rule.rule().id());
            } else {
                open.remove(rule.rule().id());
            }
            fill();
        }
    }

    private void tick(Row row) {
        if (row == null) {
            return;
        }
        Set<String> ids = ids(row);
        boolean on = !model.chosen().tickedProperty().get().containsAll(ids);
        model.chosen().tick(finding -> ids.contains(finding.id()), on);
    }

    /** The ids of the findings of a row that can be put right. */
    private static Set<String> ids(Row row) {
        List<Finding> findings =
                switch (row) {
                    case Row.OfRule rule -> rule.findings();
                    case Row.OfFinding one -> List.of(one.finding());
                };
        Set<String> ids = new HashSet<>();
        findings.stream().filter(Finding::fixable).forEach(finding -> ids.add(finding.id()));
        return ids;
    }

    private void explain() {
        Row row = list.getSelectionModel().getSelectedItem();
        detail.getChildren().clear();
        if (row == null) {
            detail.getChildren()
                    .add(Controls.wrapped(
                            model.openedProperty().get().isEmpty()
                                    ? "Choose something to inspect at the left."
                                    : list.getItems().isEmpty()
                                            ? "There is nothing that the rules would say against it."
                                            : "Choose a finding to see it in the picture, why it matters, and what its"
                                                    + " fix would weigh.",
                            Styles.FAINT));
            return;
        }
        Finding finding = first(row).orElseThrow();
        detail.getChildren()
                .addAll(
                        Controls.wrapped(sentence(finding.message())),
                        Controls.wrapped(finding.rule().why(), Styles.FAINT));
        if (finding.fix().isPresent()) {
            Button one = Controls.button(
                    finding.fix().get().label(), "", "Put this one right", () -> model.tidy(List.of(finding)));
            one.setId("prep-fix-one");
            one.getStyleClass().add("small");
            one.disableProperty().bind(model.busyProperty());
            detail.getChildren().add(one);
        }
        if (finding.rule().id().equals(MaterialRules.MISSING)) {
            Button find = Controls.button(
                    "Find\u2026", "", "Look for the missing images in a folder and below it", this::findImages);
            find.setId("prep-find-images");
            find.getStyleClass().add("small");
            find.disableProperty().bind(model.busyProperty());
            detail.getChildren().add(find);
        } else if (finding.fix().isEmpty()) {
            detail.getChildren()
                    .add(Controls.wrapped("There is no fix: this is for a person to decide.", Styles.FAINT));
        }
    }

    private static String sentence(String message) {
        return message.substring(0, 1).toUpperCase(java.util.Locale.ROOT) + message.substring(1) + ".";
    }

    private void findImages() {
        Ask.of(this, "Look for missing images").folder().ifPresent(model::findImages);
    }

    private void tell() {
        int count = model.chosen().tickedProperty().get().size();
        tidy.setText(count == 0 ? "Tidy" : "Tidy " + Units.count(count));
        tidy.setDisable(count == 0 || model.busyProperty().get());
        long fixable = model.openedProperty().get().map(Opened::findings).orElse(List.of()).stream()
                .filter(finding -> finding.fixable() && isListed(finding))
                .count();
        all.setDisable(fixable == 0);
        all.setSelected(fixable > 0
                && model.openedProperty().get().map(Opened::findings).orElse(List.of()).stream()
                        .filter(finding -> finding.fixable() && isListed(finding))
                        .allMatch(
                                finding -> model.chosen().tickedProperty().get().contains(finding.id())));
        Optional<Weight> then = model.chosen().foreseenProperty().get();
        Optional<Weight> now = model.openedProperty().get().map(Opened::weight);
        weight.setText(
                now.isEmpty() || then.isEmpty()
                        ? ""
                        : Units.count(now.get().trianglesStored()) + " → "
                                + Units.count(then.get().trianglesStored()) + " triangles");
    }

    private final class Cell extends ListCell<Row> {
        @Override
        protected void updateItem(Row row, boolean empty) {
            super.updateItem(row, empty);
            setText(null);
            setGraphic(null);
            setPrefWidth(10);
            getStyleClass().remove("finding-below");
            if (empty || row == null) {
                return;
            }
            CheckBox tick = new CheckBox();
            Set<String> ids = ids(row);
            long on = ids.stream()
                    .filter(model.chosen().tickedProperty().get()::contains)
                    .count();
            tick.setSelected(!ids.isEmpty() && on == ids.size());
            tick.setIndeterminate(on > 0 && on < ids.size());
            tick.setDisable(ids.isEmpty());
            tick.setFocusTraversable(false);
            tick.setAccessibleText("To be put right");
            tick.setOnAction(event -> model.chosen().tick(finding -> ids.contains(finding.id()), tick.isSelected()));
            HBox line = new HBox(8, tick);
            line.setAlignment(Pos.CENTER_LEFT);
            switch (row) {
                case Row.OfRule rule -> {
                    Label title = Controls.label(rule.rule().title());
                    Label count = Controls.label(String.valueOf(rule.findings().size()), Styles.FIGURE);
                    count.setMinWidth(USE_PREF_SIZE);
                    line.getChildren()
                            .addAll(
                                    Severities.of(rule.findings().getFirst().severity()),
                                    title,
                                    Controls.spring(),
                                    count);
                    if (rule.findings().size() > 1) {
                        FontIcon fold =
                                new FontIcon(rule.open() ? "remixal-arrow-down-s-line" : "remixal-arrow-right-s-line");
                        Label sign = new Label("", fold);
                        sign.setOnMouseClicked(event -> {
                            list.getSelectionModel().select(row);
                            unfold(!rule.open());
                        });
                        line.getChildren().add(sign);
                    }
                }
                case Row.OfFinding one -> {
                    getStyleClass().add("finding-below");
                    line.getChildren().add(Controls.label(one.finding().message()));
                }
            }
            setGraphic(line);
        }
    }
}
