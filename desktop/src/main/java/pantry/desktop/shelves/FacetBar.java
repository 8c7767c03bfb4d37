package pantry.desktop.shelves;

import java.util.List;
import java.util.Map;
import javafx.css.PseudoClass;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.FlowPane;
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

    private final ShelvesModel model;

    FacetBar(ShelvesModel model) {
        super(4, 4);
        this.model = model;
        setId("facets");
        getStyleClass().add("facets");
    }

    /** Shows how what the model shows divides. */
    void layOut() {
        getChildren().clear();
        Found found = model.search().foundProperty().get();
        for (String key : ORDER) {
            List<Found.Facet> facets = found.facets().getOrDefault(key, List.of());
            boolean narrowed = facets.stream().anyMatch(facet -> model.search().isNarrowed(key, facet.value()));
            if (facets.size() < 2 && !narrowed) {
                continue;
            }
            Label name = Controls.label(key, Styles.FAINT, "facet-name");
            getChildren().add(name);
            facets.stream().limit(SHOWN.get(key)).forEach(facet -> getChildren().add(chip(key, facet)));
        }
        setVisible(!getChildren().isEmpty());
        setManaged(isVisible());
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
