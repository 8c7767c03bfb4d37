package pantry.desktop.scenes;

import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Hyperlink;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.scene.Scene;
import pantry.usd.SdfPath;

/** Above the view, in what one works: the scene, a group in it, a placement in that, and so on; each leads back to it. */
final class WayLine extends HBox {
    private final ScenesModel model;

    WayLine(ScenesModel model) {
        super(6);
        this.model = model;
        setId("scene-way");
        setAlignment(Pos.CENTER_LEFT);
        getStyleClass().addAll(Styles.PANEL, "way-line");
        model.selection().insideProperty().addListener(change -> show());
        model.sceneProperty().addListener(change -> show());
        show();
    }

    private void show() {
        List<SdfPath> way = model.selection().way();
        Controls.showOnly(this, !way.isEmpty());
        getChildren().clear();
        Optional<Scene> scene = model.sceneProperty().get();
        if (way.isEmpty() || scene.isEmpty()) {
            return;
        }
        getChildren().addAll(new FontIcon("remixal-focus-3-line"), Controls.label("Inside", Styles.FAINT));
        getChildren().add(link(SceneNames.title(scene.get().file()), Optional.empty()));
        for (SdfPath path : way.subList(0, way.size() - 1)) {
            getChildren().addAll(Controls.label("›", Styles.FAINT), link(model.title(path), Optional.of(path)));
        }
        Label here = Controls.label(model.title(way.getLast()), "here");
        Button out = Controls.button("Out", "", "Go out of it (Esc)", model.selection()::leave);
        out.setId("scene-out");
        out.getStyleClass().add("small");
        getChildren().addAll(Controls.label("›", Styles.FAINT), here, Controls.spring(), out);
    }

    private Hyperlink link(String text, Optional<SdfPath> to) {
        Hyperlink link = new Hyperlink(text);
        link.setOnAction(event -> model.selection().leaveTo(to));
        return link;
    }
}
