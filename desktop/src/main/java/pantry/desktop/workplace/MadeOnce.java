package pantry.desktop.workplace;

import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Supplier;

/**
 * What is made when it is first asked for, such as the node of a workplace: a window shows its first workplace sooner where
 * it need not make those that nobody looks at yet. For the interface's thread alone.
 *
 * @param <T> what is made
 */
public final class MadeOnce<T> implements Supplier<T> {
    private final Supplier<T> maker;
    private Optional<T> made = Optional.empty();

    public MadeOnce(Supplier<T> maker) {
        this.maker = maker;
    }

    /** The same at every call. */
    @Override
    public T get() {
        if (made.isEmpty()) {
            made = Optional.of(maker.get());
        }
        return made.get();
    }

    /** What does something with it, and makes it for that if need be. */
    public Runnable doing(Consumer<T> action) {
        return () -> action.accept(get());
    }

    /** Nothing where it was not asked for yet. */
    public Optional<T> ifMade() {
        return made;
    }
}
