package pantry.desktop.reach;

import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.layout.StackPane;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.workplace.Command;
import pantry.desktop.workplace.Workplace;

/** The workplace that will tell which scene uses what; until it is built, it says so. */
public final class ReachWorkplace implements Workplace {
    private final StackPane view;

    /** @param onScenes goes to the scenes */
    public ReachWorkplace(Runnable onScenes) {
        Button scenes = Controls.button("Go to Scenes", "", "", onScenes);
        scenes.getStyleClass().add(Styles.PRIMARY);
        view = new StackPane(Controls.empty(
                icon(),
                "Reach is not built yet",
                "Here you will see which scene uses what, in which version, and what an update would change."
                        + " Until then, Scenes shows how each placement is held.",
                scenes));
    }

    @Override
    public String name() {
        return "Reach";
    }

    @Override
    public String icon() {
        return "remixal-git-branch-line";
    }

    @Override
    public String hint() {
        return "Which scene uses what";
    }

    @Override
    public Node node() {
        return view;
    }

    @Override
    public List<Command> commands() {
        return List.of();
    }
}
