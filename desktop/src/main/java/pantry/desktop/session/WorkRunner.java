package pantry.desktop.session;

import java.util.function.Consumer;
import pantry.base.PantryException;

/** How work is run, such as {@link Session#run(String, Work, Consumer, Consumer)}. */
public interface WorkRunner {
    /** @param then on the interface's thread, as is {@code failed} */
    <R> void run(String what, Work<R> work, Consumer<R> then, Consumer<PantryException> failed);
}
