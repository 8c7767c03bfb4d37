package pantry.desktop.shelves;

import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import javafx.scene.control.Label;
import javafx.scene.layout.VBox;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Fold;
import pantry.desktop.controls.Styles;
import pantry.model.AttachedData;

/** What a version carries and is not drawn, folded away: physics, scripts, sounds and data, each as text. */
final class AttachedPane extends VBox {
    AttachedPane(List<AttachedData> attached) {
        Fold fold = new Fold("Travels along", lines(attached));
        setId("card-attached");
        getChildren().add(fold);
        fold.tell(Arrays.stream(AttachedData.Kind.values())
                .filter(kind -> attached.stream().anyMatch(each -> each.kind() == kind))
                .map(AttachedData.Kind::word)
                .collect(Collectors.joining(", ")));
    }

    private static VBox lines(List<AttachedData> attached) {
        VBox lines = new VBox(6, Controls.wrapped("Kept with the version, shown as text, never run.", Styles.FAINT));
        for (AttachedData each : attached) {
            Label title = Controls.wrapped(each.object() + ", " + each.name());
            VBox line = new VBox(1, title);
            if (!each.text().isBlank()) {
                line.getChildren().add(Controls.wrapped(each.text(), Styles.FAINT));
            }
            line.setAccessibleText(
                    each.kind().word() + " of " + each.object() + ": " + each.name() + " " + each.text());
            lines.getChildren().add(line);
        }
        return lines;
    }
}
