package pantry.desktop.reach;

import java.io.ByteArrayInputStream;
import java.util.Locale;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.image.Image;
import javafx.scene.image.ImageView;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;

/** A scene before and after, from its focuses, with what differs marked. */
final class RipplePane extends BorderPane {
    private static final double GAP = 12;

    private final VBox views = new VBox(16);
    private final Label title = Controls.label("", Styles.SECTION);

    RipplePane(RippleModel model) {
        Button close = Controls.button("Close", "", "Back to what uses what (Esc)", model::close);
        close.setId("reach-pictures-close");
        title.setMinWidth(0);
        HBox head = new HBox(12, title, Controls.spring(), close);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add("weight-head");
        views.getStyleClass().add("ripple-views");
        setTop(head);
        setCenter(Controls.scrolling(views));
        setId("reach-pictures");
        model.picturedProperty().addListener((property, before, now) -> show(now));
    }

    private void show(Optional<RippleModel.Pictured> pictured) {
        views.getChildren().clear();
        if (pictured.isEmpty()) {
            return;
        }
        RippleModel.Pictured of = pictured.get();
        title.setText(of.file().getFileName() + ", if " + of.change().words());
        if (of.views().isEmpty()) {
            views.getChildren().add(Controls.label("Drawing…", Styles.FAINT));
        }
        for (RippleModel.Shown view : of.views()) {
            String name = view.name().isEmpty() ? "The whole scene" : view.name();
            views.getChildren()
                    .add(Controls.section(
                            name + String.format(Locale.ROOT, ": %.1f %% of the picture differs", 100 * view.changed()),
                            pair(view)));
        }
    }

    private FlowPane pair(RippleModel.Shown view) {
        return new FlowPane(
                GAP,
                GAP,
                picture("Now", view.before()),
                picture("Then", view.after()),
                picture("What differs", view.marked()));
    }

    private VBox picture(String caption, byte[] png) {
        ImageView picture = new ImageView(new Image(new ByteArrayInputStream(png)));
        picture.setPreserveRatio(true);
        picture.fitWidthProperty().bind(widthProperty().subtract(5 * GAP).divide(2));
        VBox whole = new VBox(2, picture, Controls.label(caption, Styles.FAINT));
        whole.setMaxWidth(Region.USE_PREF_SIZE);
        return whole;
    }
}
