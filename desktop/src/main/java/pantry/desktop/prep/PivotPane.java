package pantry.desktop.prep;

import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import pantry.base.PantryException;
import pantry.base.math.Vec3;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;
import pantry.prep.tools.Pivots;
import pantry.prep.tools.RingCopies;
import pantry.usd.SdfPath;

/** Where things are held, how the whole stands, one root for all, and copies around a ring. */
final class PivotPane extends VBox {
    private final PrepModel model;
    private final PreviewPane preview;
    private final Label chosen = Controls.wrapped("", Styles.FAINT);
    private final FlowPane places = new FlowPane(6, 6);
    private final HBox along = new HBox(8);
    private final TextField part = new TextField("0.5");
    private final ComboBox<String> axis = new Choice<>();
    private final TextField rootName = new TextField();
    private final TextField count = new TextField("8");
    private final TextField angle = new TextField("45");
    private final TextField turn = new TextField("0");
    private final TextField size = new TextField("0");
    private final TextField lean = new TextField("0");
    private final TextField seed = new TextField("1");
    private final Button ring;

    PivotPane(PrepModel model, PreviewPane preview) {
        super(16);
        this.model = model;
        this.preview = preview;
        for (Pivots.Place place : Pivots.Place.values()) {
            Button button = Controls.button(name(place), "", hint(place), () -> set(place));
            button.setId("prep-pivot-" + place.word());
            places.getChildren().add(button);
        }
        Button point = Controls.button("Point…", "remixal-focus-3-line", "Click a point in the picture", this::pick);
        point.setId("prep-pivot-point");
        places.getChildren().add(point);
        axis.getItems().setAll("x", "y", "z");
        axis.setValue("y");
        Button setAlong = Controls.button("Along the axis", "", "Move the pivot along one axis", this::setAlong);
        Controls.hint(part, "0 is the least end of the object, 1 the greatest");
        narrow(part);
        along.getChildren().setAll(axis, part, setAlong);
        along.setAlignment(Pos.CENTER_LEFT);
        FlowPane stands = new FlowPane(6, 6);
        for (Pivots.Stand stand : Pivots.Stand.values()) {
            Button button = Controls.button(
                    name(stand), "", hint(stand), () -> model.change(name(stand), piece -> Pivots.stand(piece, stand)));
            button.setId("prep-stand-" + stand.word());
            button.disableProperty().bind(model.busyProperty());
            stands.getChildren().add(button);
        }
        rootName.setPromptText("name of the root");
        rootName.setId("prep-root-name");
        Button group = Controls.button("Group all", "", "Gather everything at the top under one root", this::group);
        group.setId("prep-group-all");
        HBox root = new HBox(8, rootName, group);
        ring = Controls.button(
                "Copy around", "remixmz-refresh-line", "Copies share the shape of the original", this::ring);
        ring.setId("prep-ring");
        GridPane grid = new GridPane();
        grid.setHgap(8);
        grid.setVgap(6);
        for (TextField field : List.of(count, angle, turn, size, lean, seed)) {
            narrow(field);
        }
        count.setId("prep-ring-count");
        angle.setId("prep-ring-angle");
        grid.addRow(
                0,
                Controls.label("Count", Styles.FAINT),
                count,
                Controls.label("step", Styles.FAINT),
                angle,
                unit("°"));
        grid.addRow(
                1,
                Controls.label("Turned by", Styles.FAINT),
                turn,
                Controls.label("leaned by", Styles.FAINT),
                lean,
                unit("°"));
        grid.addRow(2, Controls.label("Sized by", Styles.FAINT), size, Controls.label("seed", Styles.FAINT), seed);
        Controls.hint(size, "0.1 for up to a tenth larger or smaller");
        Controls.hint(turn, "Each copy is turned by up to so many degrees");
        Controls.hint(lean, "Each copy leans by up to so many degrees");
        getChildren()
                .setAll(
                        chosen,
                        Controls.section("Pivot of what is selected", places, along),
                        Controls.section("The whole", stands),
                        Controls.section("One root for all", root),
                        Controls.section("Ring around the upright axis", grid, new HBox(8, Controls.spring(), ring)));
        model.selectionProperty().addListener(change -> tell());
        model.openedProperty().addListener(change -> tell());
        model.busyProperty().addListener(change -> tell());
        tell();
    }

    private static Node unit(String text) {
        return Controls.label(text, Styles.UNIT);
    }

    private static void narrow(TextField field) {
        field.setPrefWidth(64);
        field.getStyleClass().add("number-field");
    }

    private static String name(Pivots.Place place) {
        return switch (place) {
            case BASE -> "Base";
            case CENTRE -> "Centre";
            case CORNER -> "Corner";
        };
    }

    private static String hint(Pivots.Place place) {
        return switch (place) {
            case BASE -> "The middle of its base";
            case CENTRE -> "The middle of its box";
            case CORNER -> "The left, lower, rear corner of its box";
        };
    }

    private static String name(Pivots.Stand stand) {
        return switch (stand) {
            case GROUND -> "On the ground";
            case CENTRE -> "Base at the origin";
            case ALIGN -> "Along the axes";
        };
    }

    private static String hint(Pivots.Stand stand) {
        return switch (stand) {
            case GROUND -> "Its lowest point comes to the ground";
            case CENTRE -> "The middle of its base comes to the origin";
            case ALIGN -> "It is turned until its sides run along the axes";
        };
    }

    private List<SdfPath> selected() {
        return List.copyOf(model.selectionProperty().get());
    }

    private void tell() {
        List<SdfPath> paths = selected();
        boolean none = paths.isEmpty() || model.busyProperty().get();
        places.getChildren().forEach(button -> button.setDisable(none));
        along.setDisable(none);
        ring.setDisable(paths.size() != 1 || model.busyProperty().get());
        chosen.setText(
                switch (paths.size()) {
                    case 0 -> "Select objects in the picture or in the list; nothing moves when a pivot is set.";
                    case 1 ->
                        model.openedProperty()
                                .get()
                                .flatMap(now -> now.contents().find(paths.getFirst()))
                                .map(thing -> thing.title() + " is held at "
                                        + Units.length(thing.pivot().x()) + ", "
                                        + Units.length(thing.pivot().y()) + ", "
                                        + Units.length(thing.pivot().z()))
                                .orElse("");
                    default -> paths.size() + " objects are selected.";
                });
    }

    private void set(Pivots.Place place) {
        List<SdfPath> paths = selected();
        model.change(
                "Pivot: " + name(place).toLowerCase(java.util.Locale.ROOT), piece -> Pivots.set(piece, paths, place));
    }

    private void pick() {
        List<SdfPath> paths = selected();
        chosen.setText("Click a point of the object in the picture: the nearest corner is taken.");
        preview.pick(point ->
                model.change("Pivot to a point", piece -> paths.forEach(path -> Pivots.set(piece, path, point))));
    }

    private void setAlong() {
        List<SdfPath> paths = selected();
        int number = axis.getItems().indexOf(axis.getValue());
        figure(part)
                .ifPresent(share -> model.change(
                        "Pivot along " + axis.getValue(),
                        piece -> paths.forEach(path -> Pivots.set(piece, path, number, share))));
    }

    private void group() {
        String name = rootName.getText().isBlank()
                ? model.selectedProperty().get().map(InspectionItem::title).orElse("Root")
                : rootName.getText();
        model.change("Grouped under " + name, piece -> Pivots.group(piece, name));
    }

    private void ring() {
        List<SdfPath> paths = selected();
        Optional<Double> n = figure(count);
        Optional<Double> step = figure(angle);
        Optional<Double> turned = figure(turn);
        Optional<Double> sized = figure(size);
        Optional<Double> leaned = figure(lean);
        Optional<Double> from = figure(seed);
        if (n.isPresent()
                && step.isPresent()
                && turned.isPresent()
                && sized.isPresent()
                && leaned.isPresent()
                && from.isPresent()) {
            model.change("Ring of " + n.get().intValue(), piece -> new RingCopies(
                            n.get().intValue(),
                            step.get(),
                            Vec3.ZERO,
                            new RingCopies.Variation(turned.get(), sized.get(), leaned.get()),
                            from.get().longValue())
                    .make(piece, paths.getFirst()));
        }
    }

    /** The figure of a field; what is none is said in the ledger. */
    private Optional<Double> figure(TextField field) {
        try {
            return Optional.of(Double.parseDouble(field.getText().strip().replace(',', '.')));
        } catch (NumberFormatException e) {
            model.session().wrong(new PantryException("\"" + field.getText() + "\" is not a number"));
            field.requestFocus();
            return Optional.empty();
        }
    }
}
