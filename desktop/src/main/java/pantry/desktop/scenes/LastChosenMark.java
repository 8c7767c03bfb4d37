package pantry.desktop.scenes;

import java.util.Optional;
import javafx.scene.control.Label;
import javafx.scene.layout.Pane;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.desktop.controls.Controls;
import pantry.desktop.view3d.View3d;

/** Drawn over the view, a sign at the one of several chosen objects that was chosen last: others are put in line with it. */
final class LastChosenMark extends Pane {
    private static final double ABOVE = 4;

    private final ScenesModel model;
    private final View3d view;
    private final Label sign = Controls.label("last", "status", "last-chosen");

    LastChosenMark(ScenesModel model, View3d view) {
        this.model = model;
        this.view = view;
        setMouseTransparent(true);
        getChildren().add(sign);
        model.shownProperty().addListener(change -> draw());
        model.selectionProperty().addListener(change -> draw());
        view.cameraProperty().addListener(change -> draw());
        view.widthProperty().addListener(change -> draw());
        view.heightProperty().addListener(change -> draw());
        draw();
    }

    private void draw() {
        Optional<Vec3> at = model.selection()
                .lastOfSeveral()
                .map(model.display()::box)
                .filter(box -> !box.isEmpty())
                .map(LastChosenMark::top)
                .map(view::project)
                .filter(point -> point.z() > 0);
        sign.setVisible(at.isPresent());
        at.ifPresent(point -> {
            sign.autosize();
            sign.relocate(point.x() - sign.getWidth() / 2, point.y() - sign.getHeight() - ABOVE);
        });
    }

    private static Vec3 top(Box3 box) {
        return new Vec3(box.centre().x(), box.max().y(), box.centre().z());
    }
}
