package pantry.desktop.shelves;

import java.util.List;
import java.util.Map;
import javafx.beans.value.ObservableValue;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import pantry.catalogue.Found;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;

/** How what was found divides: kinds, statuses, tags, colours, licences, each with its count; a click narrows to it. */
final class FacetBar extends FlowPane {
    private static final PseudoClass CHOSEN = PseudoClass.getPseudoClass("chosen");

    /** As many values of each fact as are shown. */
    private static final Map<String, Integer> SHOWN =
            Map.of("kind", 6, "status", 3, "tag", 6, "colour", 4, "licence", 3);

    private static final List<String> ORDER = List.of("kind", "status", "tag", "colour", "licence");

    /** The height of a window that has room for all of them, pixels. */
    private static final double ROOMY = 700;

    private final ShelvesModel model;

    /** Whether the window is low: then only the first fact that divides is shown, until more is asked for. */
    private final ObservableValue<Boolean> low =
            sceneProperty().flatMap(Scene::heightProperty).map(height -> height.doubleValue() < ROOMY);

    private boolean opened;

    FacetBar(ShelvesModel model) {
        super(4, 4);
        this.model = model;
        setId("facets");
        getStyleClass().add("facets");
        low.addListener(change -> layOut());
    }

    /** Shows how what the model shows divides. */
    void layOut() {
        getChildren().clear();
        Found found = model.search().foundProperty().get();
        boolean folds = Boolean.TRUE.equals(low.getValue());
        boolean folded = folds && !opened;
        boolean more = false;
        for (String key : ORDER) {
            List<Found.Facet> facets = found.facets().getOrDefault(key, List.of());
            boolean narrowed = facets.stream().anyMatch(facet -> model.search().isNarrowed(key, facet.value()));
            if (facets.size() < 2 && !narrowed) {
                continue;
            }
            if (folded && !narrowed && !getChildren().isEmpty()) {
                more = true;
                continue;
            }
            Label name = Controls.label(key, Styles.FAINT, "facet-name");
            List<Button> chips = facets.stream()
                    .limit(SHOWN.get(key))
                    .map(facet -> chip(key, facet))
                    .toList();
            // A name does not end a line: its first chip goes with it.
            HBox first = new HBox(4, name, chips.getFirst());
            first.setAlignment(Pos.CENTER_LEFT);
            getChildren().add(first);
            getChildren().addAll(chips.subList(1, chips.size()));
        }
        if (more || folds && opened) {
            getChildren().add(fold());
        }
        setVisible(!getChildren().isEmpty());
        setManaged(isVisible());
    }

    private Button fold() {
        Button fold = new Button(opened ? "less" : "more…");
        fold.setId("more-facets");
        fold.getStyleClass().add("chip");
        Controls.hint(fold, opened ? "Only the first line" : "Also what else it can be narrowed by");
        fold.setOnAction(event -> {
            opened = !opened;
            layOut();
            lookup("#more-facets").requestFocus();
        });
        return fold;
    }

    private Button chip(String key, Found.Facet facet) {
        Button chip = new Button(facet.value() + "  " + Units.count(facet.count()));
        boolean narrowed = model.search().isNarrowed(key, facet.value());
        chip.getStyleClass().add("chip");
        chip.pseudoClassStateChanged(CHOSEN, narrowed);
        Controls.hint(
                chip,
                narrowed
                        ? "No longer only " + key + " " + facet.value()
                        : "Only " + key + " " + facet.value() + " (" + key + ":" + facet.value() + ")");
        chip.setOnAction(event -> model.search().narrow(key, facet.value()));
        return chip;
    }
}
