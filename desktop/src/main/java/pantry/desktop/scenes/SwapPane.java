package pantry.desktop.scenes;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.VBox;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.OwnKeys;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;
import pantry.library.Asset;
import pantry.scene.Placement;
import pantry.usd.SdfPath;

/** Lets the selected placements show another asset, which is found by its name; what would be lost is told before. */
final class SwapPane extends VBox {
    private static final int MOST_FOUND = 40;
    private static final double ROW = 34;
    private static final double LIST_EDGES = 12;
    private static final int MOST_ROWS = 4;
    private static final int MOST_TOLD = 3;

    private final ScenesModel model;
    private final TextField find = new TextField();
    private final ListView<IndexedAsset> found = new ListView<>();
    private final Label told = Controls.wrapped("", Styles.FAINT);
    private final Button swap = Controls.button("Swap", "", "", this::swap);

    SwapPane(ScenesModel model) {
        super(6);
        this.model = model;
        find.setId("swap-find");
        find.setPromptText("another asset's name or shelf");
        find.textProperty().addListener(change -> fill());
        find.setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.DOWN) {
                found.requestFocus();
                found.getSelectionModel().selectFirst();
                event.consume();
            }
        });
        find.setOnAction(event -> {
            found.getSelectionModel().selectFirst();
            swap.requestFocus();
        });
        found.setId("swap-found");
        found.setFixedCellSize(ROW);
        found.setCellFactory(cells -> new FoundCell());
        found.setPlaceholder(Controls.wrapped("No asset is called so.", Styles.FAINT));
        found.getSelectionModel().selectedItemProperty().addListener(change -> foresee());
        OwnKeys.onEnter(found, swap::fire);
        swap.setId("swap-go");
        swap.getStyleClass().addAll(Styles.PRIMARY, "small");
        swap.disableProperty()
                .bind(found.getSelectionModel().selectedItemProperty().isNull());
        getChildren().setAll(find, found, told, swap);
        show();
    }

    /** Shows it for what is selected now. */
    void show() {
        long count = model.several().placements().size();
        swap.setText(count == 1 ? "Swap this placement" : "Swap " + Units.count(count) + " placements");
        fill();
    }

    private void fill() {
        String words = find.getText().strip().toLowerCase(Locale.ROOT);
        boolean looking = !words.isEmpty();
        Controls.showOnly(found, looking);
        Controls.showOnly(swap, looking);
        if (looking) {
            found.getItems()
                    .setAll(model.session().shelving().finder().items().stream()
                            .filter(item -> (item.name() + " " + item.shelf())
                                    .toLowerCase(Locale.ROOT)
                                    .contains(words))
                            .limit(MOST_FOUND)
                            .toList());
        } else {
            found.getItems().clear();
        }
        double height = ROW * Math.clamp(found.getItems().size(), 1, MOST_ROWS) + LIST_EDGES;
        found.setMinHeight(height);
        found.setPrefHeight(height);
        foresee();
        if (looking) {
            Controls.reveal(swap);
        }
    }

    private Optional<IndexedAsset> chosen() {
        return Optional.ofNullable(found.getSelectionModel().getSelectedItem());
    }

    /** Says what would be lost; where nothing would, so. */
    private void foresee() {
        Controls.showOnly(told, chosen().isPresent());
        chosen().ifPresent(item -> model.session().attempt(() -> {
            Asset asset = model.session().shelving().asset(item);
            List<SdfPath> lost = model.sceneProperty()
                    .get()
                    .map(open -> open.placements().wouldLose(paths(), asset))
                    .orElse(List.of());
            told.setText(
                    lost.isEmpty()
                            ? "They stand where they stood; nothing that is said of them is lost."
                            : "What is said of these is lost, as they are not in it: "
                                    + lost.stream()
                                            .limit(MOST_TOLD)
                                            .map(model::title)
                                            .collect(Collectors.joining(", "))
                                    + (lost.size() > MOST_TOLD ? " and " + (lost.size() - MOST_TOLD) + " more" : "")
                                    + ".");
            Controls.reveal(swap);
        }));
    }

    private List<SdfPath> paths() {
        return model.several().placements().stream().map(Placement::path).toList();
    }

    private void swap() {
        chosen().ifPresent(item -> model.session().attempt(() -> {
            Asset asset = model.session().shelving().asset(item);
            find.clear();
            model.exports().swap(paths(), asset);
        }));
    }

    /** An asset and the shelf that it is on. */
    private static final class FoundCell extends ListCell<IndexedAsset> {
        @Override
        protected void updateItem(IndexedAsset item, boolean empty) {
            super.updateItem(item, empty);
            setPrefWidth(1);
            setText(empty || item == null ? null : item.name() + "  ·  " + item.shelf());
        }
    }
}
