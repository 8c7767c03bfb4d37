package pantry.library;

import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.PantryException;

/** Who holds which asset: a file each, made so that of several people exactly one succeeds. */
public final class Reservations {
    private final Path folder;
    private final Journal journal;
    private final String who;
    private final String host;
    private final Clock clock;

    Reservations(Path root, Journal journal, String who, String host, Clock clock) {
        this.folder = root.resolve("reservations");
        this.journal = journal;
        this.who = who;
        this.host = host;
        this.clock = clock;
    }

    private Path file(Asset asset) {
        return folder.resolve(asset.card().id() + ".json");
    }

    /** Who holds an asset; one that cannot be read holds nothing. */
    public Optional<Reservation> of(Asset asset) {
        return Files.exists(file(asset)) ? read(file(asset)) : Optional.empty();
    }

    private static Optional<Reservation> read(Path file) {
        try {
            return Optional.of(Json.read(file, Reservation.class));
        } catch (PantryException e) {
            // Released in this moment, or damaged; either way nobody can be named who holds it.
            return Optional.empty();
        }
    }

    /** All that are held. */
    public List<Reservation> all() {
        List<Reservation> all = new ArrayList<>();
        if (!Files.isDirectory(folder)) {
            return all;
        }
        try (Stream<Path> files = Files.list(folder)) {
            files.filter(file -> file.getFileName().toString().endsWith(".json"))
                    .sorted()
                    .forEach(file -> read(file).ifPresent(all::add));
            return all;
        } catch (IOException e) {
            throw new LibraryException(folder, "the reservations cannot be read: " + IoProblems.describe(e), e);
        }
    }

    /**
     * Holds an asset.
     *
     * @return since when; where it was held by the same person already, since then
     * @throws LibraryException where somebody else holds it
     */
    public Reservation reserve(Asset asset) {
        Reservation mine = new Reservation(asset.card().id(), who, host, clock.instant());
        try {
            Files.createDirectories(folder);
            AtomicFiles.create(file(asset), Json.write(mine));
            journal.about("reserved", asset).write();
            return mine;
        } catch (FileAlreadyExistsException e) {
            Optional<Reservation> other = of(asset);
            if (other.filter(held -> held.who().equals(who)).isPresent()) {
                return other.get();
            }
            throw heldBy(asset, other);
        } catch (IOException e) {
            throw new LibraryException(asset.folder(), "cannot be reserved: " + IoProblems.describe(e), e);
        }
    }

    private static LibraryException heldBy(Asset asset, Optional<Reservation> other) {
        String holder = other.map(held -> "by " + held.who() + " since " + held.since() + " (on " + held.host() + ")")
                .orElse("by a reservation that cannot be read");
        return new LibraryException(
                asset.folder(), "is reserved " + holder + "; ask for its release, or take the reservation over");
    }

    /**
     * Gives an asset free again; nothing where it is not held.
     *
     * @throws LibraryException where somebody else holds it
     */
    public void release(Asset asset) {
        Optional<Reservation> held = of(asset);
        if (held.filter(other -> !other.who().equals(who)).isPresent()) {
            throw heldBy(asset, held);
        }
        try {
            if (Files.deleteIfExists(file(asset))) {
                journal.about("released", asset).write();
            }
        } catch (IOException e) {
            throw new LibraryException(asset.folder(), "cannot be released: " + IoProblems.describe(e), e);
        }
    }

    /** Holds an asset instead of whoever holds it now; the journal says of whom it was taken. */
    public Reservation takeOver(Asset asset, String why) {
        Optional<Reservation> before = of(asset);
        Reservation mine = new Reservation(asset.card().id(), who, host, clock.instant());
        try {
            Files.createDirectories(folder);
            AtomicFiles.write(file(asset), Json.write(mine));
            journal.about("took over", asset)
                    .from(before.map(Reservation::who).orElse(""))
                    .note(why)
                    .write();
            return mine;
        } catch (IOException e) {
            throw new LibraryException(asset.folder(), "cannot be taken over: " + IoProblems.describe(e), e);
        }
    }

    /**
     * Makes sure that nobody else holds an asset.
     *
     * @throws LibraryException where somebody does
     */
    public void requireFree(Asset asset) {
        Optional<Reservation> held = of(asset);
        if (held.filter(other -> !other.who().equals(who)).isPresent()) {
            throw heldBy(asset, held);
        }
    }
}
