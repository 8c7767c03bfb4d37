package pantry.desktop.scenes;

import java.nio.file.Path;
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
    private final Runnable leaveSection;

    /** @param leaveSection goes back from a section to the scene around it, once it is saved or given up */
    WayLine(ScenesModel model, Runnable leaveSection) {
        super(6);
        this.model = model;
        this.leaveSection = leaveSection;
        setId("scene-way");
        setAlignment(Pos.CENTER_LEFT);
        getStyleClass().addAll(Styles.PANEL, "way-line");
        model.selection().insideProperty().addListener(change -> show());
        model.sceneProperty().addListener(change -> show());
        model.sections().holdersProperty().addListener(change -> show());
        show();
    }

    private void show() {
        List<SdfPath> way = model.selection().way();
        Optional<Scene> scene = model.sceneProperty().get();
        Optional<OpenScene.Surroundings> around = model.aroundProperty().get();
        boolean shown = scene.isPresent() && (!way.isEmpty() || around.isPresent());
        Controls.showOnly(this, shown);
        getChildren().clear();
        if (!shown) {
            return;
        }
        getChildren().addAll(new FontIcon("remixal-focus-3-line"), Controls.label("Inside", Styles.FAINT));
        around.ifPresent(outer -> getChildren().addAll(link(SceneNames.title(outer.file()), leaveSection), next()));
        String title = SceneNames.title(scene.get().file());
        if (way.isEmpty()) {
            getChildren().add(Controls.label(title, "here"));
            hold(scene.get().file());
        } else {
            getChildren().add(link(title, () -> model.selection().leaveTo(Optional.empty())));
            for (SdfPath path : way.subList(0, way.size() - 1)) {
                getChildren().addAll(next(), link(model.title(path), () -> model.selection()
                        .leaveTo(Optional.of(path))));
            }
            getChildren().addAll(next(), Controls.label(model.title(way.getLast()), "here"), Controls.spring());
        }
        Button out = Controls.button(
                "Out", "", "Go out of it (Esc)", way.isEmpty() ? leaveSection : model.selection()::leave);
        out.setId("scene-out");
        out.getStyleClass().add("small");
        getChildren().add(out);
    }

    /** Whose section it is that is worked on. */
    private void hold(Path file) {
        String me = model.session().workbench().who();
        Optional<String> holder =
                Optional.ofNullable(model.sections().holdersProperty().get().get(file));
        boolean mine = holder.filter(me::equals).isPresent();
        Label told = Controls.label(
                mine ? "held by you" : holder.map(who -> "held by " + who).orElse("held by nobody"),
                holder.isEmpty() || mine ? Styles.FAINT : Styles.CAUTION);
        told.setId("section-holder");
        Controls.hint(
                told,
                holder.isEmpty() || mine
                        ? "What is changed here is saved in " + file.getFileName()
                        : "It cannot be saved in " + file.getFileName() + " until they let go of it");
        Button hold = Controls.button(
                mine ? "Let go" : "Hold",
                "",
                mine ? "Let others work on it" : "Hold it for yourself, so that nobody else saves it",
                () -> {
                    model.exports().holdOpen(!mine);
                    model.sections().look();
                });
        hold.setId("section-hold-open");
        hold.getStyleClass().add("small");
        hold.setDisable(holder.isPresent() && !mine);
        getChildren().addAll(told, Controls.spring(), hold);
    }

    private static Label next() {
        return Controls.label("›", Styles.FAINT);
    }

    private static Hyperlink link(String text, Runnable to) {
        Hyperlink link = new Hyperlink(text);
        link.setOnAction(event -> to.run());
        return link;
    }
}
