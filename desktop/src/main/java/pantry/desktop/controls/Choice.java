package pantry.desktop.controls;

import java.util.function.Function;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import javafx.scene.Node;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Skin;
import javafx.scene.control.skin.ComboBoxListViewSkin;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.util.StringConverter;
import org.jspecify.annotations.Nullable;

/**
 * A combo box from which nobody can take the choice by hand: with Ctrl, its list lets go of what is chosen otherwise. Letters
 * that are typed while it is open choose in it. Space opens it, or Down where one may write in it.
 */
public final class Choice<T> extends ComboBox<T> {
    public Choice() {
        this(FXCollections.observableArrayList());
    }

    public Choice(ObservableList<T> items) {
        super(items);
        TypeAhead.whileOpen(this);
        addEventFilter(KeyEvent.KEY_PRESSED, event -> {
            if (!isShowing()
                    && !event.isShortcutDown()
                    && !event.isAltDown()
                    && event.getCode() == (isEditable() ? KeyCode.DOWN : KeyCode.SPACE)) {
                event.consume();
                show();
            }
        });
    }

    /** Says what stands for a choice; for none, nothing does. */
    public Choice<T> shownAs(Function<T, String> words) {
        setConverter(new StringConverter<>() {
            @Override
            public String toString(@Nullable T of) {
                return of == null ? "" : words.apply(of);
            }

            @Override
            public T fromString(String text) {
                throw new UnsupportedOperationException("what is chosen is not typed");
            }
        });
        return this;
    }

    @Override
    protected Skin<?> createDefaultSkin() {
        ComboBoxListViewSkin<T> skin = new ComboBoxListViewSkin<>(this);
        Node list = skin.getPopupContent();
        list.addEventFilter(MouseEvent.ANY, event -> {
            if (event.isShortcutDown()) {
                event.consume();
            }
        });
        list.addEventFilter(KeyEvent.KEY_PRESSED, event -> {
            if (event.isShortcutDown() && event.getCode() == KeyCode.SPACE) {
                event.consume();
            }
        });
        return skin;
    }
}
