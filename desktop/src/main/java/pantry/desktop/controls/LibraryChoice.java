package pantry.desktop.controls;

import java.util.List;
import javafx.beans.InvalidationListener;
import javafx.geometry.Pos;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import pantry.desktop.session.Libraries;
import pantry.library.Library;

/** Which library things are put into; shown only while there is a choice. */
public final class LibraryChoice extends HBox {
    private final Libraries libraries;
    private final Choice<Library> choice =
            new Choice<Library>().shownAs(library -> library.info().name());
    private boolean filling;

    /** @param words what stands before the choice */
    public LibraryChoice(String id, String words, Libraries libraries) {
        super(8);
        this.libraries = libraries;
        choice.setId(id);
        choice.setAccessibleText("The library that things are put into");
        choice.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(choice, Priority.ALWAYS);
        setAlignment(Pos.CENTER_LEFT);
        getChildren().setAll(Controls.whole(words, Styles.FAINT), choice);
        choice.setOnAction(event -> {
            if (!filling && choice.getValue() != null) {
                libraries.putInto(choice.getValue());
            }
        });
        InvalidationListener changed = change -> fill();
        WhileShown.switched(
                this,
                () -> {
                    libraries.contentsProperty().addListener(changed);
                    fill();
                },
                () -> libraries.contentsProperty().removeListener(changed));
    }

    private void fill() {
        List<Library> writable = libraries.writable();
        filling = true;
        if (!choice.getItems().equals(writable)) {
            choice.getItems().setAll(writable);
        }
        libraries.target().ifPresent(choice::setValue);
        filling = false;
        Controls.showOnly(this, writable.size() > 1);
    }
}
