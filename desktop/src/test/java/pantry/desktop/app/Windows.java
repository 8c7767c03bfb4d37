package pantry.desktop.app;

import java.util.Optional;
import javafx.scene.Parent;
import javafx.scene.Scene;
import javafx.stage.Stage;
import pantry.desktop.controls.Theme;
import pantry.desktop.session.FxThread;
import pantry.desktop.session.StallMonitor;

/** Shows the whole application in the upper left corner, as large as it begins. */
final class Windows {
    /** One for all tests of a run, where its switch is set. */
    private static final Optional<StallMonitor> STALLS = StallMonitor.ofSwitch(FxThread::later);

    private Windows() {}

    static Scene show(Stage stage, Parent frame) {
        Theme.load();
        Scene scene = new Scene(frame, PantryApp.WIDTH, PantryApp.HEIGHT);
        Theme.dress(scene);
        stage.setScene(scene);
        stage.setX(0);
        stage.setY(0);
        stage.show();
        return scene;
    }
}
