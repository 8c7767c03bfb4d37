package pantry.desktop.controls;

import java.util.List;
import java.util.function.Function;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javafx.geometry.Bounds;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyEvent;
import javafx.stage.Popup;

/**
 * Words that may be meant, in a list under a field while something is typed in it. Down opens the list and goes through
 * it, Enter or a click takes a word, Escape closes it; the field keeps the keys.
 */
public final class SuggestedWords {
    private static final int MOST_SEEN = 8;
    private static final double CELL_HEIGHT = 28;
    private static final double LEAST_WIDTH = 200;

    private final TextField field;
    private final Pattern last;
    private final Function<String, List<String>> ask;
    private final ListView<String> list = new ListView<>();
    private final Popup popup = new Popup();
    private boolean taking;

    private SuggestedWords(TextField field, Pattern last, Function<String, List<String>> ask) {
        this.field = field;
        this.last = last;
        this.ask = ask;
    }

    /** Suggests what may be meant by what stands behind the last comma of a field. */
    public static void behindCommas(TextField field, Function<String, List<String>> ask) {
        new SuggestedWords(field, Pattern.compile("[^,]*$"), ask).begin();
    }

    /** Suggests what may be meant by the last word of a field. */
    public static void ofWords(TextField field, Function<String, List<String>> ask) {
        new SuggestedWords(field, Pattern.compile("[^\\s(]*$"), ask).begin();
    }

    /** Suggests what may be meant by all that stands in a field. */
    public static void ofAll(TextField field, Function<String, List<String>> ask) {
        new SuggestedWords(field, Pattern.compile(".*$"), ask).begin();
    }

    private void begin() {
        list.getStyleClass().addAll(Styles.PANEL, "suggested");
        list.setFixedCellSize(CELL_HEIGHT);
        list.setFocusTraversable(false);
        list.setOnMouseClicked(event -> take());
        popup.setAutoHide(true);
        popup.setHideOnEscape(false);
        popup.getContent().setAll(list);
        Theme.dress(popup.getScene());
        field.textProperty().addListener(change -> {
            if (!taking && field.isFocused()) {
                suggest(false);
            }
        });
        field.focusedProperty().addListener((property, before, now) -> {
            if (!now) {
                popup.hide();
            }
        });
        field.addEventFilter(KeyEvent.KEY_PRESSED, this::key);
    }

    private void key(KeyEvent event) {
        int at = list.getSelectionModel().getSelectedIndex();
        switch (event.getCode()) {
            case DOWN -> {
                if (!popup.isShowing()) {
                    suggest(true);
                } else if (at + 1 < list.getItems().size()) {
                    select(at + 1);
                }
                event.consume();
            }
            case UP -> {
                if (popup.isShowing()) {
                    select(Math.max(at - 1, 0));
                    event.consume();
                }
            }
            case ENTER -> {
                if (popup.isShowing() && at >= 0) {
                    take();
                    event.consume();
                } else {
                    popup.hide();
                }
            }
            case ESCAPE -> {
                if (popup.isShowing()) {
                    popup.hide();
                    event.consume();
                }
            }
            default -> {}
        }
    }

    private void select(int index) {
        list.getSelectionModel().select(index);
        list.scrollTo(index);
    }

    /** @param asked whether also where nothing was typed yet */
    private void suggest(boolean asked) {
        String begun = begun().strip();
        List<String> words = begun.isEmpty() && !asked ? List.of() : ask.apply(begun);
        if (words.isEmpty() || words.equals(List.of(begun)) || field.getScene() == null) {
            popup.hide();
            return;
        }
        list.getItems().setAll(words);
        list.getSelectionModel().clearSelection();
        list.scrollTo(0);
        list.setPrefSize(Math.max(LEAST_WIDTH, field.getWidth()), Math.min(words.size(), MOST_SEEN) * CELL_HEIGHT + 12);
        Bounds place = field.localToScreen(field.getLayoutBounds());
        Theme.setNight(popup.getScene(), Theme.isNight(field.getScene()));
        popup.show(field, place.getMinX(), place.getMaxY() + 2);
        if (asked) {
            select(0);
        }
    }

    private String begun() {
        Matcher found = last.matcher(field.getText());
        return found.find() ? found.group() : "";
    }

    private void take() {
        String word = list.getSelectionModel().getSelectedItem();
        popup.hide();
        if (word == null) {
            return;
        }
        String begun = begun();
        String before = field.getText().substring(0, field.getText().length() - begun.length());
        boolean parted = before.endsWith(",");
        taking = true;
        field.setText(before + (parted ? " " : "") + word);
        field.end();
        taking = false;
    }
}
