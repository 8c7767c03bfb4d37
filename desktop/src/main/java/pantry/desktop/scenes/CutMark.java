package pantry.desktop.scenes;

import javafx.beans.InvalidationListener;
import javafx.geometry.Pos;
import javafx.scene.Cursor;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.shape.Circle;
import javafx.scene.shape.Polygon;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.view3d.View3d;

/** Drawn over the view while something is cut: the outline of the plane, and a knob that it is dragged by. */
final class CutMark extends Pane {
    private final View3d view;
    private final ViewCut cut;
    private final Polygon outline = new Polygon();
    private final Circle knob = new Circle(8);

    /** Where the mouse was when the knob was taken, in the scene, and where the plane stood. */
    private double[] taken = {0, 0, 0};

    CutMark(View3d view, ViewCut cut) {
        this.view = view;
        this.cut = cut;
        setPickOnBounds(false);
        outline.getStyleClass().add("layout-line");
        outline.setMouseTransparent(true);
        knob.getStyleClass().add("grip");
        knob.setId("cut-knob");
        knob.setCursor(Cursor.HAND);
        Controls.hint(knob, "Drag it to move the cut");
        knob.setOnMousePressed(event -> {
            taken = new double[] {
                event.getSceneX(), event.getSceneY(), cut.atProperty().get()
            };
            event.consume();
        });
        knob.setOnMouseDragged(this::drag);
        knob.setOnMouseReleased(MouseEvent::consume);
        knob.setOnMouseClicked(MouseEvent::consume);
        outline.setManaged(false);
        knob.setManaged(false);
        getChildren().setAll(outline, knob);
        visibleProperty().bind(cut.onProperty());
        InvalidationListener again = change -> draw();
        cut.onProperty().addListener(again);
        cut.atProperty().addListener(again);
        cut.axisProperty().addListener(again);
        cut.boundsProperty().addListener(again);
        view.cameraProperty().addListener(again);
        view.widthProperty().addListener(again);
        view.heightProperty().addListener(again);
        draw();
    }

    private void draw() {
        if (!cut.onProperty().get()) {
            return;
        }
        Vec3 centre = view.project(cut.centre());
        knob.setVisible(centre.z() > 0);
        knob.setCenterX(centre.x());
        knob.setCenterY(centre.y());
        outline.getPoints().clear();
        Box3 box = cut.boundsProperty().get();
        if (box.isEmpty()) {
            return;
        }
        for (Vec3 corner : corners(box)) {
            Vec3 on = view.project(corner);
            if (on.z() <= 0) {
                outline.getPoints().clear();
                return;
            }
            outline.getPoints().addAll(on.x(), on.y());
        }
    }

    /** The corners of the plane within a box, in the order of its outline. */
    private Vec3[] corners(Box3 box) {
        int along = cut.axisProperty().get();
        int one = (along + 1) % 3;
        int other = (along + 2) % 3;
        Vec3[] corners = new Vec3[4];
        for (int i = 0; i < 4; i++) {
            double[] at = new double[3];
            at[along] = cut.atProperty().get();
            at[one] = (i == 1 || i == 2 ? box.max() : box.min()).get(one);
            at[other] = (i >= 2 ? box.max() : box.min()).get(other);
            corners[i] = new Vec3(at[0], at[1], at[2]);
        }
        return corners;
    }

    /** As far along the axis as the mouse went in the direction in which the axis is seen. */
    private void drag(MouseEvent event) {
        Vec3 from = view.project(cut.centre());
        Vec3 to = view.project(cut.centre().plus(cut.direction()));
        double x = to.x() - from.x();
        double y = to.y() - from.y();
        double square = x * x + y * y;
        if (square > 1e-6) {
            double moved = ((event.getSceneX() - taken[0]) * x + (event.getSceneY() - taken[1]) * y) / square;
            cut.atProperty().set(PlaceFigures.rounded(taken[2] + moved));
        }
        event.consume();
    }

    /** The axis, the place in metres, and the side, to be laid over the view. */
    static HBox controls(ViewCut cut) {
        ComboBox<String> axis = new Choice<>();
        axis.getItems().setAll("across x", "across y", "across z");
        axis.setValue("across x");
        axis.setId("cut-axis");
        axis.setOnAction(event -> cut.axisProperty().set(axis.getItems().indexOf(axis.getValue())));
        TextField place = new TextField();
        place.setId("cut-place");
        place.getStyleClass().addAll("number-field", "small");
        place.setPrefColumnCount(5);
        place.setAccessibleText("place of the cut, m");
        Controls.hint(place, "Where the plane is, m; +0.5 moves it on");
        InvalidationListener told =
                change -> place.setText(Figures.show(cut.atProperty().get()));
        cut.atProperty().addListener(told);
        cut.onProperty().addListener(told);
        place.setOnAction(
                event -> Figures.typed(place.getText(), cut.atProperty().get())
                        .ifPresentOrElse(cut.atProperty()::set, () -> told.invalidated(cut.atProperty())));
        CheckBox side = new CheckBox("other side");
        side.setId("cut-side");
        Controls.hint(side, "Leave out what is on the other side of it");
        side.selectedProperty().bindBidirectional(cut.otherSideProperty());
        HBox row = new HBox(
                6,
                Controls.label("Cut", Styles.FAINT),
                axis,
                Controls.label("at", Styles.FAINT),
                place,
                Controls.label("m", Styles.FAINT),
                side);
        row.setAlignment(Pos.CENTER_LEFT);
        row.visibleProperty().bind(cut.onProperty());
        row.managedProperty().bind(cut.onProperty());
        return row;
    }
}
