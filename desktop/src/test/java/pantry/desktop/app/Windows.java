package pantry.desktop.app;

import javafx.scene.Parent;
import javafx.scene.Scene;
import javafx.stage.Stage;
import pantry.desktop.look.Look;

/** Shows the whole application in the upper left corner, as large as it begins. */
final class Windows {
    private Windows() {}

    static void show(Stage stage, Parent frame) {
        Scene scene = new Scene(frame, PantryApp.WIDTH, PantryApp.HEIGHT);
        Look.dress(scene);
        stage.setScene(scene);
        stage.setX(0);
        stage.setY(0);
        stage.show();
    }
}
