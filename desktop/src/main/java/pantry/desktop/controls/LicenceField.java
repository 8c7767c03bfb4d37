package pantry.desktop.controls;

import java.util.List;
import java.util.function.Function;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.VBox;
import pantry.base.PantryException;
import pantry.library.Licences;

/**
 * A field for a licence: identifiers are suggested, and what is not understood is said below it, as soon as nothing can be meant
 * any more by what was begun.
 */
public final class LicenceField extends VBox {
    private final TextField field = new TextField();
    private final Label wrong = Controls.wrapped("", Styles.WRONG);

    private final Function<String, List<String>> ask;

    /** @param ask identifiers that may be meant by what was typed */
    public LicenceField(String id, Function<String, List<String>> ask) {
        super(4);
        this.ask = ask;
        field.setId(id);
        field.setAccessibleText("Licence");
        field.setPromptText("such as CC-BY-4.0");
        SuggestedWords.ofWords(field, ask);
        field.textProperty().addListener(change -> check());
        field.focusedProperty().addListener(change -> check());
        check();
        getChildren().setAll(field, wrong);
    }

    private void check() {
        String problem = "";
        try {
            Licences.require(field.getText().strip());
        } catch (PantryException e) {
            problem = field.isFocused() && isBegun() ? "" : String.valueOf(e.getMessage());
        }
        wrong.setText(problem);
        wrong.setVisible(!problem.isEmpty());
        wrong.setManaged(!problem.isEmpty());
    }

    /** Whether what is being written may become a licence. */
    private boolean isBegun() {
        String text = field.getText();
        int word = Math.max(text.lastIndexOf(' '), text.lastIndexOf('(')) + 1;
        return !ask.apply(text.substring(word)).isEmpty();
    }

    public TextField field() {
        return field;
    }

    /** Whether what is written is a licence, or nothing. */
    public boolean isUnderstood() {
        return Licences.valid(field.getText().strip());
    }
}
