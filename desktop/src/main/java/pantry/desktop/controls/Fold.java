package pantry.desktop.controls;

import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import org.kordamp.ikonli.javafx.FontIcon;

/** A section that is folded away under its heading, which says what is set in it. */
public final class Fold extends VBox {
    private final String title;
    private final Button heading = new Button();
    private final Label told = Controls.label("", Styles.FAINT);
    private final FontIcon sign = new FontIcon("remixal-arrow-right-s-line");
    private final VBox content;

    public Fold(String title, Node... content) {
        super(6);
        this.title = title;
        this.content = new VBox(6, content);
        Label name = Controls.label(title, Styles.SECTION);
        name.setMinWidth(USE_PREF_SIZE);
        told.setMinWidth(0);
        HBox line = new HBox(4, sign, name, told);
        line.setAlignment(Pos.CENTER_LEFT);
        heading.setGraphic(line);
        heading.setMaxWidth(Double.MAX_VALUE);
        heading.setId("fold-" + title.toLowerCase(java.util.Locale.ROOT).replace(' ', '-'));
        heading.getStyleClass().addAll(Styles.QUIET, "fold");
        heading.setOnAction(event -> open(!isOpen()));
        getChildren().setAll(heading, this.content);
        open(false);
    }

    /** Says in the heading what is set in the section. */
    public void tell(String what) {
        told.setText(what);
        describe();
    }

    public boolean isOpen() {
        return content.isVisible();
    }

    /** Shows what is in the section, or its heading alone. */
    public void open(boolean wanted) {
        Controls.showOnly(content, wanted);
        sign.setIconLiteral(wanted ? "remixal-arrow-down-s-line" : "remixal-arrow-right-s-line");
        told.setVisible(!wanted);
        describe();
    }

    private void describe() {
        heading.setAccessibleText(title + (isOpen() ? ", open" : ": " + told.getText()));
    }
}
