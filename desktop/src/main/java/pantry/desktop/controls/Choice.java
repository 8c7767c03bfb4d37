package pantry.desktop.controls;

import javafx.collections.ObservableList;
import javafx.scene.Node;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Skin;
import javafx.scene.control.skin.ComboBoxListViewSkin;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;

/** A combo box from which nobody can take the choice by hand: with Ctrl, its list lets go of what is chosen otherwise. */
public final class Choice<T> extends ComboBox<T> {
    public Choice() {}

    public Choice(ObservableList<T> items) {
        super(items);
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
