package pantry.desktop.controls;

import java.util.Optional;
import javafx.scene.TraversalDirection;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import pantry.desktop.session.Followers;
import pantry.desktop.session.Session;
import pantry.library.VersionStatus;

/** Asks for the note that a new version needs, and whether it is ready or a draft; tells who would show it at once. */
public final class PublishForm extends VBox {
    private final HBox buttons = new HBox(6);
    private final TextField note = new TextField();
    private String suggested;

    /** What is done with the answers. */
    public interface Publishing {
        void publish(String note, VersionStatus status);
    }

    /**
     * @param asset the id of the asset that gets a version; empty where it is not known yet
     * @param usual the note that stands there to begin with
     */
    public PublishForm(Session session, Optional<String> asset, String usual, Publishing publishing) {
        super(8);
        note.setId("publish-note");
        note.setPromptText("what is new in it");
        note.setText(usual);
        suggested = usual;
        // Enter goes on to what publishes it, where it is seen; another one does.
        note.setOnAction(event -> note.requestFocusTraversal(TraversalDirection.NEXT));
        Button ready = button(
                "Publish as ready",
                "publish-ready",
                "Scenes that follow get it",
                () -> publishing.publish(note.getText().strip(), VersionStatus.READY));
        ready.getStyleClass().add(Styles.PRIMARY);
        Button draft = button(
                "As a draft",
                "publish-draft",
                "Scenes that follow keep what they have",
                () -> publishing.publish(note.getText().strip(), VersionStatus.DRAFT));
        Label follow = Controls.wrapped("", Styles.FAINT);
        follow.setId("publish-followers");
        Controls.showOnly(follow, false);
        asset.ifPresent(id -> Followers.ask(session, id, followers -> {
            follow.setText(
                    followers.isNobody()
                            ? "Nobody in the open projects follows it."
                            : "As ready, " + followers.words() + " show it at once. As a draft, the card first tells"
                                    + " what it does to them.");
            Controls.showOnly(follow, true);
        }));
        buttons.getChildren().setAll(ready, draft);
        getChildren().setAll(Controls.wrapped("A version needs a note.", Styles.FAINT), note, follow, buttons);
    }

    /** Puts a note there, unless the user has written another one than was suggested last. */
    public void suggest(String usual) {
        if (note.getText().equals(suggested)) {
            note.setText(usual);
        }
        suggested = usual;
    }

    /** Puts a button behind those that publish. */
    public void add(Button button) {
        buttons.getChildren().add(button);
    }

    private Button button(String text, String id, String hint, Runnable action) {
        Button button = Controls.button(text, "", hint, action);
        button.setId(id);
        button.disableProperty().bind(note.textProperty().map(String::isBlank));
        return button;
    }

    /** Takes the keys to the note. */
    public void enter() {
        note.requestFocus();
        note.selectAll();
    }
}
