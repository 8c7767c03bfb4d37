package pantry.desktop.workplace;

import java.util.List;
import java.util.Optional;
import javafx.beans.binding.LongExpression;
import javafx.beans.property.SimpleLongProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.value.ObservableValue;
import javafx.scene.Node;
import pantry.catalogue.IndexedAsset;
import pantry.model.Weight;

/**
 * One of the places that the window is divided into. The frame shows it, its commands and what waits in it, and knows
 * nothing else of it. All methods are called on the interface's thread.
 *
 * <p>Implementations do not know each other; what one wants of another is a {@link Request}.
 */
public interface Workplace {
    /** One word, which stands on the rail and groups the commands. */
    String name();

    /** An icon's literal in the icon fonts that are part of the application. */
    String icon();

    /** What it is for, in a few words. */
    String hint();

    /** Always the same node; made when it is first asked for, if the workplace is not the first one that is shown. */
    Node node();

    /** What can be done here; the same list at every call. Their keys count only while the workplace is shown. */
    List<Command> commands();

    /** Keys that are handled by the node itself, told in the list of keys. */
    default List<KeyHint> keyHints() {
        return List.of();
    }

    /** How many things wait here for somebody; not shown where it is 0. */
    default LongExpression waiting() {
        return new SimpleLongProperty();
    }

    /** What is shown weighs so much. */
    default ObservableValue<Weight> weight() {
        return new SimpleObjectProperty<>(Weight.NOTHING);
    }

    /** Takes the keys to the list or the view that most is done in. */
    default void enter() {
        node().requestFocus();
    }

    /** Called whenever the frame begins to show the workplace. */
    default void shown() {}

    /** Whether the node lists what the search finds, so that no list of hits is needed beside the search field. */
    default boolean listsFoundAssets() {
        return false;
    }

    /** Takes the keys to what the search found, where the node lists it. */
    default void enterFoundAssets() {}

    /**
     * Takes what was chosen of the search's hits, where it is of use here.
     *
     * @return whether it was taken; otherwise its card is shown
     */
    default boolean takeFound(IndexedAsset item) {
        return false;
    }

    /** Lies over the whole window, for what is dragged; lets the mouse through. */
    default Optional<Node> overlay() {
        return Optional.empty();
    }

    /**
     * Goes on once nothing here would be lost. Where something is unsaved, the workplace shows itself and asks, and goes
     * on later or never.
     */
    default void leave(Runnable then) {
        then.run();
    }

    /** How a request is fulfilled, once the workplace is shown; absent where it is not for this workplace. */
    default Optional<Runnable> accept(Request request) {
        return Optional.empty();
    }
}
