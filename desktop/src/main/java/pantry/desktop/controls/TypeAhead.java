package pantry.desktop.controls;

import java.util.Locale;
import java.util.Optional;
import java.util.function.Function;
import javafx.animation.PauseTransition;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ListView;
import javafx.scene.control.skin.ComboBoxListViewSkin;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.util.Duration;

/** Letters that are typed in a list choose what begins with them, or has them in its name. */
public final class TypeAhead<T> {
    /** What is typed after so long begins anew. */
    private static final Duration PAUSE = Duration.seconds(1);

    private final ComboBox<T> box;
    private final Function<T, String> name;
    private final boolean closedToo;
    private final PauseTransition pause = new PauseTransition(PAUSE);
    private String typed = "";

    private TypeAhead(ComboBox<T> box, Function<T, String> name, boolean closedToo) {
        this.box = box;
        this.name = name;
        this.closedToo = closedToo;
        pause.setOnFinished(event -> typed = "");
        box.showingProperty().addListener(change -> typed = "");
        box.addEventFilter(KeyEvent.KEY_TYPED, this::take);
        // A space within a name neither opens nor closes the list.
        box.addEventFilter(KeyEvent.KEY_PRESSED, this::keepSpace);
        box.addEventFilter(KeyEvent.KEY_RELEASED, this::keepSpace);
    }

    /** Lets letters choose in a list, whether it is open or only has the keys. */
    public static <T> void in(ComboBox<T> box, Function<T, String> name) {
        new TypeAhead<>(box, name, true);
    }

    /** Lets letters choose in a list while it is open; otherwise they mean what they do everywhere. */
    static <T> void whileOpen(ComboBox<T> box) {
        new TypeAhead<>(
                box,
                item -> box.getConverter() == null
                        ? String.valueOf(item)
                        : box.getConverter().toString(item),
                false);
    }

    private void keepSpace(KeyEvent event) {
        if (event.getCode() == KeyCode.SPACE && !typed.isEmpty()) {
            event.consume();
        }
    }

    private void take(KeyEvent event) {
        String letter = event.getCharacter();
        if (!box.isShowing() && !closedToo
                || box.isEditable()
                || letter.isEmpty()
                || letter.codePointAt(0) < ' '
                || event.isShortcutDown()
                || event.isAltDown()
                || typed.isEmpty() && letter.isBlank()) {
            return;
        }
        typed += letter.toLowerCase(Locale.ROOT);
        pause.playFromStart();
        event.consume();
        find(true).or(() -> find(false)).ifPresent(this::choose);
    }

    private Optional<T> find(boolean beginning) {
        return box.getItems().stream()
                .filter(item -> {
                    String text = name.apply(item).toLowerCase(Locale.ROOT);
                    return beginning ? text.startsWith(typed) : text.contains(typed);
                })
                .findFirst();
    }

    private void choose(T item) {
        if (box.isShowing()
                && box.getSkin() instanceof ComboBoxListViewSkin<?> skin
                && skin.getPopupContent() instanceof ListView<?> list) {
            int at = box.getItems().indexOf(item);
            list.getSelectionModel().select(at);
            list.scrollTo(Math.max(0, at - 2));
        } else {
            box.getSelectionModel().select(item);
        }
    }
}
