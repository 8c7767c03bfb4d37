package pantry.library;

import java.io.IOException;
import java.nio.file.FileSystems;
import java.nio.file.StandardWatchEventKinds;
import java.nio.file.WatchService;
import java.time.Duration;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import pantry.base.PantryException;

/**
 * Notices what others change in a library, and that it goes away and comes back. What counts is the journal, which is
 * looked at again and again; the operating system's own notices, which network shares do not give, only make that
 * happen sooner. Ends with {@link #close}.
 */
public final class LibraryWatch implements AutoCloseable {
    private final Library library;
    private final Duration pause;
    private final Duration sweep;
    private final Consumer<Seen> listener;
    private final Set<String> known = new HashSet<>();
    private final Thread thread;
    private boolean away;
    private long swept = System.nanoTime();
    private volatile boolean closed;

    /**
     * What was noticed.
     *
     * @param entries what the journal tells anew
     * @param sweep whether it is time to look for changes by hand, which no journal tells
     */
    public record Seen(boolean away, List<JournalEntry> entries, boolean sweep) {}

    /**
     * @param pause between two looks
     * @param sweep how often changes by hand are looked for
     * @param listener called from the watch's own thread
     */
    public LibraryWatch(Library library, Duration pause, Duration sweep, Consumer<Seen> listener) {
        this.library = library;
        this.pause = pause;
        this.sweep = sweep;
        this.listener = listener;
        try {
            known.addAll(library.journal().names());
        } catch (PantryException e) {
            away = true;
        }
        this.thread = Thread.ofVirtual().name("watch " + library.info().name()).unstarted(this::run);
    }

    /** Begins to watch. */
    public LibraryWatch start() {
        thread.start();
        return this;
    }

    private void run() {
        try (WatchService hints = hints()) {
            while (!closed) {
                wait(hints);
                if (!closed) {
                    look();
                }
            }
        } catch (IOException e) {
            // Closing the notices fails: they were not needed.
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** Notices where the system gives them; otherwise none ever come. */
    private @Nullable WatchService hints() {
        try {
            WatchService service = FileSystems.getDefault().newWatchService();
            library.journal().folder().register(service, StandardWatchEventKinds.ENTRY_CREATE);
            return service;
        } catch (IOException | UnsupportedOperationException e) {
            return null;
        }
    }

    private void wait(@Nullable WatchService hints) throws InterruptedException {
        if (hints == null) {
            Thread.sleep(pause);
            return;
        }
        var key = hints.poll(pause.toMillis(), TimeUnit.MILLISECONDS);
        if (key != null) {
            key.pollEvents();
            key.reset();
        }
    }

    /** Looks once, and tells what is new. */
    void look() {
        if (!library.present()) {
            if (!away) {
                away = true;
                listener.accept(new Seen(true, List.of(), false));
            }
            return;
        }
        boolean back = away;
        away = false;
        Set<String> fresh;
        try {
            fresh = library.journal().names();
        } catch (PantryException e) {
            // Gone in this moment: the next look tells so.
            return;
        }
        fresh.removeAll(known);
        known.addAll(fresh);
        long now = System.nanoTime();
        boolean sweeps = back || now - swept >= sweep.toNanos();
        swept = sweeps ? now : swept;
        if (sweeps || !fresh.isEmpty()) {
            listener.accept(new Seen(false, library.journal().entries(fresh), sweeps));
        }
    }

    @Override
    public void close() {
        closed = true;
        thread.interrupt();
    }
}
