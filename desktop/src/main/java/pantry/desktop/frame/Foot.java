package pantry.desktop.frame;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.animation.PauseTransition;
import javafx.beans.binding.Bindings;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.util.Duration;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.LedgerLine;
import pantry.desktop.session.Session;
import pantry.desktop.session.Units;
import pantry.model.Weight;

/** The strip at the bottom: the scale at the left, the ledger's last line at the right. */
final class Foot extends HBox {
    private static final Duration NEWS = Duration.seconds(20);

    private final Session session;

    Foot(Session session, Runnable openLedger) {
        super(12);
        this.session = session;
        Label scale = Controls.label("", Styles.FIGURE);
        scale.setId("scale");
        // What is cut of it at a narrow window is in its hint.
        scale.setMinWidth(60);
        scale.textProperty().addListener((property, before, now) -> Controls.hint(scale, now));
        scale.textProperty()
                .bind(Bindings.createStringBinding(
                        () -> weigh(session.weightProperty().get()), session.weightProperty()));
        Label after = Controls.label("", Styles.FIGURE, "after");
        after.textProperty()
                .bind(Bindings.createStringBinding(
                        () -> session.weightAfterProperty()
                                .get()
                                .map(weight -> after(session.weightProperty().get(), weight))
                                .orElse(""),
                        session.weightAfterProperty(),
                        session.weightProperty()));
        FontIcon sign = new FontIcon("remixmz-scales-3-line");
        Label last = Controls.label("", Styles.FAINT);
        last.setId("ledger-last");
        last.setMaxWidth(420);
        // While something is prepared, its weight counts more than what was done last.
        last.minWidthProperty()
                .bind(Bindings.when(after.textProperty().isEmpty()).then(60).otherwise(0));
        Button undo = Controls.button("Undo", "", "Take it back (Ctrl+Z)", session.history()::undo);
        undo.setId("ledger-undo");
        undo.setMinWidth(USE_PREF_SIZE);
        undo.getStyleClass().add(Styles.QUIET);
        Button ledger = Controls.button("Ledger", "remixal-booklet-line", "All that was done (Ctrl+L)", openLedger);
        ledger.getStyleClass().add(Styles.QUIET);
        ledger.setMinWidth(USE_PREF_SIZE);
        PauseTransition fade = new PauseTransition(NEWS);
        fade.setOnFinished(event -> {
            last.getStyleClass().removeAll(Styles.WRONG, Styles.FAINT);
            last.getStyleClass().add(Styles.FAINT);
        });
        session.ledger().addListener((javafx.beans.InvalidationListener) change -> {
            Optional<LedgerLine> line = session.ledger().stream().findFirst();
            last.setText(line.map(LedgerLine::text).orElse(""));
            Controls.hint(last, line.map(LedgerLine::text).orElse(""));
            boolean wrong = line.filter(l -> l.kind() == LedgerLine.Kind.WRONG).isPresent();
            last.getStyleClass().removeAll(Styles.WRONG, Styles.FAINT);
            last.getStyleClass().add(wrong ? Styles.WRONG : Styles.FAINT);
            if (wrong) {
                // What went wrong a while ago is no longer news; the ledger keeps it.
                fade.playFromStart();
            }
            Optional<LedgerLine> undoable = session.history().undoable();
            undo.setDisable(undoable.isEmpty());
            Controls.hint(
                    undo,
                    undoable.map(each -> "Take back (Ctrl+Z): " + each.text()).orElse("Nothing can be taken back"));
        });
        undo.setDisable(true);
        getChildren().setAll(sign, scale, after, Controls.spring(), last, undo, ledger);
        setAlignment(Pos.CENTER_LEFT);
        getStyleClass().add(Styles.FOOT);
    }

    private static String weigh(Weight weight) {
        if (weight.equals(Weight.NOTHING)) {
            return "nothing on the scale";
        }
        return Units.count(weight.trianglesStored()) + " triangles stored, " + Units.count(weight.trianglesDrawn())
                + " drawn · " + Units.counted(weight.placements(), "placement") + " · "
                + Units.bytes(weight.textureBytes()) + " textures · " + Units.bytes(weight.fileBytes()) + " files";
    }

    /** Only what would be another figure. */
    private static String after(Weight now, Weight then) {
        List<String> changes = new ArrayList<>();
        if (then.trianglesStored() != now.trianglesStored()) {
            changes.add(Units.count(then.trianglesStored()) + " stored");
        }
        if (then.trianglesDrawn() != now.trianglesDrawn()) {
            changes.add(Units.count(then.trianglesDrawn()) + " drawn");
        }
        if (then.placements() != now.placements()) {
            changes.add(Units.counted(then.placements(), "placement"));
        }
        if (then.textureBytes() != now.textureBytes()) {
            changes.add(Units.bytes(then.textureBytes()) + " textures");
        }
        if (then.fileBytes() != now.fileBytes()) {
            changes.add(Units.bytes(then.fileBytes()) + " files");
        }
        return "→ " + (changes.isEmpty() ? "the same weight" : String.join(", ", changes));
    }
}
