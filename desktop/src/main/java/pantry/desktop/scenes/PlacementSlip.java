package pantry.desktop.scenes;

import java.util.Optional;
import java.util.Set;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import pantry.base.math.Vec3;
import pantry.desktop.look.Bits;
import pantry.desktop.look.Styles;
import pantry.desktop.session.Units;
import pantry.scene.Placement;
import pantry.usd.SdfPath;
import pantry.usd.schema.Placing;

/** The placement's slip: its place in typed figures, and what it shows. */
final class PlacementSlip extends BorderPane {
    private final ScenesModel model;
    private final TextField[] fields = new TextField[9];
    private final ArrangePane arrange;
    private Optional<Placement> shown = Optional.empty();

    PlacementSlip(ScenesModel model) {
        this.model = model;
        this.arrange = new ArrangePane(model);
        getStyleClass().addAll(Styles.PANEL, "right");
        setMinWidth(270);
        setPrefWidth(310);
        String[] names = {"move-x", "move-y", "move-z", "turn-x", "turn-y", "turn-z", "scale-x", "scale-y", "scale-z"};
        for (int i = 0; i < fields.length; i++) {
            fields[i] = field(names[i], i);
        }
        model.selectionProperty().addListener(change -> update());
        model.shownProperty().addListener(change -> update());
        update();
    }

    private TextField field(String id, int index) {
        TextField field = new TextField();
        field.setId(id);
        field.getStyleClass().add("number-field");
        field.setTooltip(new Tooltip("A figure; +0.5 adds to what it is, *2 multiplies it. Enter takes it over."));
        field.setOnAction(event -> take(field, index));
        field.focusedProperty().addListener((property, before, now) -> {
            if (!now) {
                take(field, index);
            }
        });
        return field;
    }

    private void take(TextField field, int index) {
        shown.ifPresent(placement -> {
            double before = figure(placement.placing(), index);
            Optional<Double> typed = Figures.typed(field.getText(), before);
            if (typed.isPresent() && (index < 6 || typed.get() != 0)) {
                if (typed.get() != before && !field.getText().equals(Figures.show(before))) {
                    model.move(placement.path(), with(placement.placing(), index, typed.get()));
                }
            } else {
                field.setText(Figures.show(before));
            }
        });
    }

    private static double figure(Placing placing, int index) {
        return part(placing, index / 3).get(index % 3);
    }

    private static Vec3 part(Placing placing, int number) {
        return switch (number) {
            case 0 -> placing.move();
            case 1 -> placing.turn();
            default -> placing.scale();
        };
    }

    private static Placing with(Placing placing, int index, double figure) {
        Vec3 old = part(placing, index / 3);
        Vec3 changed = new Vec3(
                index % 3 == 0 ? figure : old.x(),
                index % 3 == 1 ? figure : old.y(),
                index % 3 == 2 ? figure : old.z());
        return switch (index / 3) {
            case 0 -> placing.withMove(changed);
            case 1 -> placing.withTurn(changed);
            default -> placing.withScale(changed);
        };
    }

    private void update() {
        shown = model.single();
        int count = model.selectionProperty().get().size();
        HBox head = new HBox(Bits.label(
                shown.map(placement -> placement.name().replace('_', ' '))
                        .orElse(
                                count == 0
                                        ? "Slip"
                                        : count == 1
                                                ? name(model.selectionProperty().get())
                                                : count + " objects"),
                Styles.TITLE));
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add(Styles.PANEL_TITLE);
        setTop(head);
        VBox box = new VBox();
        box.getStyleClass().add("slip");
        if (shown.isPresent()) {
            fill(box, shown.get());
        } else if (count == 0) {
            box.getChildren()
                    .add(Bits.wrapped(
                            "Choose a placement in the view or in the list to see its place and what it shows.",
                            Styles.FAINT));
        }
        if (count > 0) {
            box.getChildren().addAll(actions(), arrange, Bits.section("As an asset of the library", asset()));
        }
        setCenter(Bits.scrolling(box));
    }

    private static String name(Set<SdfPath> one) {
        return one.iterator().next().name().replace('_', ' ');
    }

    private void fill(VBox box, Placement placement) {
        for (int i = 0; i < fields.length; i++) {
            fields[i].setText(Figures.show(figure(placement.placing(), i)));
        }
        box.getChildren()
                .addAll(
                        Bits.section("Place", table()),
                        Bits.section(
                                "Shows",
                                Bits.wrapped(source(placement)),
                                held(placement),
                                Bits.fact("placements of the same", Units.count(model.like(placement))),
                                light(placement)));
        if (placement.held() == Placement.Held.MISSING) {
            VBox note = new VBox(Bits.wrapped("The file is not there: " + placement.layer()
                    + ". The reference is kept, so that it shows again once the file is back."));
            note.getStyleClass().addAll("note-box", "wrong");
            box.getChildren().add(1, note);
        }
    }

    private CheckBox light(Placement placement) {
        CheckBox light = new CheckBox("by its proxy, while working");
        light.setId("placement-proxy");
        light.setSelected(model.isLight(placement.path()));
        light.setOnAction(event -> model.showLight(light.isSelected()));
        return light;
    }

    private GridPane table() {
        GridPane grid = new GridPane();
        grid.setHgap(6);
        grid.setVgap(6);
        grid.getColumnConstraints().add(new ColumnConstraints(58));
        for (int i = 0; i < 3; i++) {
            ColumnConstraints column = new ColumnConstraints(40, 70, Double.MAX_VALUE);
            column.setHgrow(Priority.ALWAYS);
            grid.getColumnConstraints().add(column);
            Label axis = Bits.label(new String[] {"x", "y", "z"}[i], Styles.FAINT);
            axis.setMaxWidth(Double.MAX_VALUE);
            axis.setAlignment(Pos.CENTER_RIGHT);
            grid.add(axis, i + 1, 0);
        }
        String[] rows = {"move, m", "turn, °", "scale, ×"};
        for (int row = 0; row < 3; row++) {
            grid.add(Bits.label(rows[row], Styles.FAINT), 0, row + 1);
            for (int column = 0; column < 3; column++) {
                grid.add(fields[row * 3 + column], column + 1, row + 1);
            }
        }
        return grid;
    }

    private static String source(Placement placement) {
        String path = placement.layer().toString().replace('\\', '/');
        int assets = path.indexOf("/assets/");
        return assets < 0 ? path : path.substring(assets + 8).replaceAll("/(v\\d+/data/.*|ready\\.usda)$", "");
    }

    private static Label held(Placement placement) {
        return switch (placement.held()) {
            case PINNED -> Bits.label("pinned to " + placement.version(), "status");
            case FOLLOWING -> Bits.label("follows the ready version", "status", "good");
            case FILE -> Bits.label("a file outside the libraries", "status", "caution");
            case MISSING -> Bits.label("missing", "status", "wrong");
        };
    }

    /** Makes what is selected an asset that can be placed as a whole. */
    private VBox asset() {
        TextField name = new TextField();
        name.setId("prefab-name");
        name.setPromptText("its name");
        TextField shelf = new TextField();
        shelf.setId("prefab-shelf");
        shelf.setPromptText("its shelf, such as Site/Groups");
        Button make = Bits.button(
                "Put it on the shelf",
                "remixal-archive-line",
                "The placements stay uses of their assets; how they stand to each other is kept",
                () -> model.makeAsset(name.getText().strip(), shelf.getText().strip()));
        make.setId("prefab-make");
        make.disableProperty()
                .bind(name.textProperty().isEmpty().or(shelf.textProperty().isEmpty()));
        return new VBox(6, name, shelf, make);
    }

    private HBox actions() {
        Button again = Bits.button(
                "Once more",
                "remixal-file-copy-line",
                "One more use of the same, a metre aside (Ctrl+D)",
                model::duplicateSelected);
        Button remove = Bits.button(
                "Remove", "remixal-delete-bin-line", "Take it out of the scene (Delete)", model::removeSelected);
        return new HBox(8, again, remove);
    }
}
