package pantry.desktop.session;

import pantry.base.Progress;

/** Work that takes time. */
@FunctionalInterface
public interface Work<T> {
    T run(Progress progress);
}
