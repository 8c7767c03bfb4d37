package pantry.library;

import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.Timestamps;

/** Who holds which asset: a file each, made so that of several people exactly one succeeds. */
public final class Reservations {
    private final Path folder;
    private final Journal journal;
    private final Author author;

    Reservations(Path root, Journal journal, Author author) {
        this.folder = root.resolve("reservations");
        this.journal = journal;
        this.author = author;
    }

    private Path file(Asset asset) {
        return file(asset.card().id());
    }

    Path file(String asset) {
        return folder.resolve(asset + ".json");
    }

    /** Who holds an asset; one that cannot be read holds it for somebody unknown. */
    public Optional<Reservation> of(Asset asset) {
        return Files.exists(file(asset), LinkOption.NOFOLLOW_LINKS) ? read(file(asset)) : Optional.empty();
    }

    private static Optional<Reservation> read(Path file) {
        try {
            Reservation read = Json.read(file, Reservation.class);
            if (read.asset() != null && read.who() != null && read.since() != null) {
                return Optional.of(read);
            }
        } catch (PantryException e) {
            if (!Files.exists(file, LinkOption.NOFOLLOW_LINKS)) {
                // Released in this moment.
                return Optional.empty();
            }
        }
        return Optional.of(new Reservation(
                Names.stem(file.getFileName().toString()), Reservation.UNKNOWN, "an unknown machine", written(file)));
    }

    private static Instant written(Path file) {
        try {
            return Files.getLastModifiedTime(file, LinkOption.NOFOLLOW_LINKS).toInstant();
        } catch (IOException e) {
            return Instant.EPOCH;
        }
    }

    /**
     * All that are held.
     *
     * @throws LibraryException where the reservations cannot be read
     */
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
        Reservation mine = new Reservation(asset.card().id(), author.who(), Incoming.host(), author.now());
        try {
            Files.createDirectories(folder);
            AtomicFiles.create(file(asset), Json.write(mine));
            journal.about("reserved", asset).write();
            return mine;
        } catch (FileAlreadyExistsException e) {
            Optional<Reservation> other = of(asset);
            if (other.filter(held -> held.who().equals(author.who())).isPresent()) {
                return other.get();
            }
            throw heldBy(asset, other);
        } catch (IOException e) {
            throw new LibraryException(asset.folder(), "cannot be reserved: " + IoProblems.describe(e), e);
        }
    }

    private static LibraryException heldBy(Asset asset, Optional<Reservation> other) {
        String title = asset.card().name();
        String held = other.map(each -> each.isReadable()
                        ? each.who() + " has reserved " + title + " since " + Timestamps.minutes(each.since()) + " (on "
                                + each.host() + ")"
                        : "somebody has reserved " + title + " since " + Timestamps.minutes(each.since())
                                + ", whose name cannot be read")
                .orElse("somebody had reserved " + title + " and releases it in this moment");
        return new LibraryException(held + "; ask for its release, or take the reservation over");
    }

    /**
     * Gives an asset free again; nothing where it is not held.
     *
     * @throws LibraryException where somebody else holds it
     */
    public void release(Asset asset) {
        Optional<Reservation> held = of(asset);
        if (held.filter(other -> !other.who().equals(author.who())).isPresent()) {
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

    /**
     * Holds an asset instead of whoever holds it now; the journal says of whom it was taken.
     *
     * @throws LibraryException where it cannot be written
     */
    public Reservation takeOver(Asset asset, String why) {
        Optional<Reservation> before = of(asset);
        Reservation mine = new Reservation(asset.card().id(), author.who(), Incoming.host(), author.now());
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
     * Lets whoever held an asset before it was taken over hold it again.
     *
     * @param before the reservation that was there; empty where there was none
     * @throws LibraryException where another holds it by now, or it cannot be written
     */
    public void giveBack(Asset asset, Optional<Reservation> before) {
        if (before.filter(Reservation::isReadable).isEmpty()) {
            release(asset);
            return;
        }
        Reservation theirs = before.get();
        Optional<Reservation> held = of(asset);
        if (held.filter(now -> !now.who().equals(author.who()) && !now.who().equals(theirs.who()))
                .isPresent()) {
            throw heldBy(asset, held);
        }
        try {
            AtomicFiles.write(file(asset), Json.write(theirs));
            journal.about("gave back", asset).note("to " + theirs.who()).write();
        } catch (IOException e) {
            throw new LibraryException(asset.folder(), "cannot be given back: " + IoProblems.describe(e), e);
        }
    }

    /**
     * Makes sure that nobody else holds an asset.
     *
     * @throws LibraryException where somebody does
     */
    public void requireFree(Asset asset) {
        Optional<Reservation> held = of(asset);
        if (held.filter(other -> !other.who().equals(author.who())).isPresent()) {
            throw heldBy(asset, held);
        }
    }
}
