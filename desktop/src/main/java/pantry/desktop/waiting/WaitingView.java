package pantry.desktop.waiting;

import javafx.scene.Node;
import javafx.scene.layout.StackPane;
import pantry.desktop.look.Bits;
import pantry.desktop.look.Styles;

/** Says honestly what a workplace will do, and where to go meanwhile. */
public final class WaitingView extends StackPane {
    public WaitingView(String icon, String title, String text, Node action) {
        action.getStyleClass().add(Styles.PRIMARY);
        getChildren().add(Bits.empty(icon, title, text, action));
    }
}
