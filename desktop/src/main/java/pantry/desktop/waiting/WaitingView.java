package pantry.desktop.waiting;

import javafx.scene.Node;
import javafx.scene.layout.StackPane;
import pantry.desktop.look.Controls;
import pantry.desktop.look.Styles;

/** Says honestly what a workplace will do, and where to go meanwhile. */
public final class WaitingView extends StackPane {
    public WaitingView(String icon, String title, String text, Node action) {
        action.getStyleClass().add(Styles.PRIMARY);
        getChildren().add(Controls.empty(icon, title, text, action));
    }
}
