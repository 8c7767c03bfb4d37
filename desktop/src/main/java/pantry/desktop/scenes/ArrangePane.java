package pantry.desktop.scenes;

import java.util.Locale;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import pantry.base.PantryException;
import pantry.base.math.Vec3;
import pantry.desktop.look.Bits;
import pantry.desktop.look.Styles;
import pantry.scene.Arranging;
import pantry.scene.Layout;

/** What can be done with the selected objects: how they hang together, how they stand, and laying them out. */
final class ArrangePane extends VBox {
    private static final String GRID = "in a grid";
    private static final String RING = "in a ring";
    private static final String SCATTERED = "scattered";

    private final ScenesModel model;
    private final TextField name = new TextField();
    private final ComboBox<String> axis = new ComboBox<>();
    private final ComboBox<String> way = new ComboBox<>();
    private final GridPane figures = new GridPane();
    private final TextField[] fields = new TextField[6];

    ArrangePane(ScenesModel model) {
        super(16);
        this.model = model;
        name.setId("group-name");
        name.setPromptText("name of the group, or new name");
        Button group = button(
                "Group", "group", "Put them on an anchor of their own (Ctrl+G)", () -> model.group(named("Group")));
        Button ungroup = button("Ungroup", "ungroup", "Take a group apart (Ctrl+Shift+G)", model::ungroup);
        Button rename =
                button("Rename", "rename", "Give the one that is selected this name", () -> model.rename(named("")));
        Button breakOut = button(
                "Break out",
                "break-out",
                "Let it no longer share its insides, so that it can be changed alone",
                model::breakOut);
        FlowPane structure = new FlowPane(6, 6, group, ungroup, rename, breakOut);
        axis.getItems().setAll("x", "y", "z");
        axis.setValue("x");
        axis.setId("arrange-axis");
        FlowPane arrange = new FlowPane(
                6,
                6,
                button("Mirror", "mirror", "Exchange its sides along the axis", () -> model.mirror(axis())),
                button(
                        "Least",
                        "align-least",
                        "Bring their least sides in line with the first",
                        () -> model.align(axis(), Arranging.Side.LEAST)),
                button(
                        "Middle",
                        "align-middle",
                        "Bring their middles in line with the first",
                        () -> model.align(axis(), Arranging.Side.MIDDLE)),
                button(
                        "Greatest",
                        "align-greatest",
                        "Bring their greatest sides in line with the first",
                        () -> model.align(axis(), Arranging.Side.GREATEST)),
                button("Spread", "spread", "Leave equal gaps between them", () -> model.spread(axis())),
                button("Drop", "drop", "Let it down onto what is below", model::drop),
                button("Reset", "reset", "Take its own transform away", model::resetPlace));
        HBox along = new HBox(8, Bits.label("along", Styles.FAINT), axis);
        along.setAlignment(Pos.CENTER_LEFT);
        way.getItems().setAll(GRID, RING, SCATTERED);
        way.setValue(GRID);
        way.setId("layout-way");
        way.setOnAction(event -> layOut());
        ColumnConstraints titles = new ColumnConstraints();
        titles.setMinWidth(USE_PREF_SIZE);
        figures.getColumnConstraints().setAll(titles);
        figures.setHgap(6);
        figures.setVgap(6);
        for (int i = 0; i < fields.length; i++) {
            fields[i] = new TextField();
            fields[i].setId("layout-" + i);
            fields[i].getStyleClass().add("number-field");
            fields[i].setPrefWidth(56);
        }
        Button lay = button("Lay out", "lay-out", "Many uses of it; the figures are kept with the group", this::lay);
        lay.getStyleClass().add(Styles.PRIMARY);
        Button again =
                button("Change", "lay-again", "Lay the selected group out by these figures instead", this::again);
        HBox laying = new HBox(8, way, Bits.spring(), again, lay);
        laying.setAlignment(Pos.CENTER_LEFT);
        layOut();
        getChildren()
                .setAll(
                        Bits.section("Structure", name, structure),
                        Bits.section("Arrange", along, arrange),
                        Bits.section("Lay out", figures, laying));
    }

    private static Button button(String text, String id, String hint, Runnable action) {
        Button button = Bits.button(text, "", hint, action);
        button.setId("scene-" + id);
        button.getStyleClass().add("small");
        return button;
    }

    private String named(String otherwise) {
        return name.getText().isBlank() ? otherwise : name.getText().strip();
    }

    private int axis() {
        return axis.getItems().indexOf(axis.getValue());
    }

    /** Shows the figures of a kind of layout. */
    private void layOut() {
        figures.getChildren().clear();
        switch (way.getValue()) {
            case GRID -> {
                row(0, "count", "5", "1", "1");
                row(1, "step, m", "2", "1", "2");
            }
            case RING -> {
                row(0, "count, °", "8", "45", null);
                row(1, "axis, m", "2", "0", null);
            }
            default -> {
                row(0, "count, m apart", "20", "1", null);
                row(1, "area, m; seed", "10", "10", "1");
            }
        }
    }

    private void row(int row, String title, String... usual) {
        figures.add(Bits.label(title, Styles.FAINT), 0, row);
        for (int i = 0; i < 3; i++) {
            if (i < usual.length && usual[i] != null) {
                fields[3 * row + i].setText(usual[i]);
                figures.add(fields[3 * row + i], i + 1, row);
            }
        }
        fields[3 * row].setAccessibleText(title);
        fields[3 * row].setTooltip(new Tooltip(title));
    }

    /** The layout of the figures; what is no number is said in the ledger. */
    private Optional<Layout> typed() {
        double[] n = new double[fields.length];
        for (int i = 0; i < fields.length; i++) {
            if (fields[i].getParent() == null) {
                continue;
            }
            try {
                n[i] = Double.parseDouble(fields[i].getText().strip().replace(',', '.'));
            } catch (NumberFormatException e) {
                model.session().wrong(new PantryException("\"" + fields[i].getText() + "\" is not a number"));
                fields[i].requestFocus();
                return Optional.empty();
            }
        }
        try {
            return Optional.of(
                    switch (way.getValue()) {
                        case GRID ->
                            new Layout.Grid(new int[] {(int) n[0], (int) n[1], (int) n[2]}, new Vec3(n[3], n[4], n[5]));
                        case RING -> new Layout.Ring((int) n[0], n[1], new Vec3(n[3], 0, n[4]), true);
                        default -> new Layout.Scatter(n[3], n[4], (int) n[0], n[1], (long) n[5]);
                    });
        } catch (PantryException e) {
            model.session().wrong(e);
            return Optional.empty();
        }
    }

    private void lay() {
        typed().ifPresent(layout ->
                model.layOut(named("Laid out " + way.getValue().toLowerCase(Locale.ROOT)), layout));
    }

    private void again() {
        typed().ifPresent(model::layAgain);
    }
}
