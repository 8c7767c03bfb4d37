package pantry.workbench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.NaturalOrder;
import pantry.base.PantryException;

/**
 * What a user keeps for themselves: favourites, what they looked at last, and searches. In a file of their own, so that
 * read-only libraries do too. Safe for use by several threads.
 */
public final class Personal {
    private static final int RECENT = 40;

    private final Path file;
    private final Set<String> favourites = new LinkedHashSet<>();
    private final List<String> recent = new ArrayList<>();
    private final List<KeptSearch> searches = new ArrayList<>();

    /**
     * A search with a name.
     *
     * @param text as it was typed
     */
    public record KeptSearch(String name, String text) {}

    private record Kept(List<String> favourites, List<String> recent, List<KeptSearch> searches) {}

    /** @param file made when something is kept; one that cannot be understood counts as empty */
    Personal(Path file) {
        this.file = file;
        if (Files.exists(file)) {
            try {
                Kept kept = Json.read(file, Kept.class);
                favourites.addAll(kept.favourites() == null ? List.of() : kept.favourites());
                recent.addAll(kept.recent() == null ? List.of() : kept.recent());
                searches.addAll(kept.searches() == null ? List.of() : kept.searches());
            } catch (PantryException e) {
                // Written by something else: it is kept until the user keeps something new.
            }
        }
    }

    /** The ids of favourite assets, in the order in which they became so. */
    public synchronized List<String> favourites() {
        return List.copyOf(favourites);
    }

    public synchronized boolean isFavourite(String asset) {
        return favourites.contains(asset);
    }

    public synchronized void favourite(String asset, boolean wanted) {
        if (wanted ? favourites.add(asset) : favourites.remove(asset)) {
            write();
        }
    }

    /** The ids of the assets that were looked at last, the latest first. */
    public synchronized List<String> recent() {
        return List.copyOf(recent);
    }

    public synchronized void lookedAt(String asset) {
        if (!recent.isEmpty() && recent.getFirst().equals(asset)) {
            return;
        }
        recent.remove(asset);
        recent.addFirst(asset);
        while (recent.size() > RECENT) {
            recent.removeLast();
        }
        write();
    }

    /** The kept searches, by name. */
    public synchronized List<KeptSearch> searches() {
        return List.copyOf(searches);
    }

    /** Keeps a search, instead of one that has its name. */
    public synchronized void keep(KeptSearch search) {
        searches.removeIf(other -> other.name().equals(search.name()));
        searches.add(search);
        searches.sort(java.util.Comparator.comparing(KeptSearch::name, NaturalOrder.BY_NAME));
        write();
    }

    public synchronized void forget(KeptSearch search) {
        if (searches.remove(search)) {
            write();
        }
    }

    private void write() {
        try {
            Files.createDirectories(file.toAbsolutePath().getParent());
            AtomicFiles.write(file, Json.write(new Kept(List.copyOf(favourites), recent, searches)));
        } catch (IOException e) {
            throw new PantryException(file, "your own lists cannot be kept: " + IoProblems.describe(e), e);
        }
    }
}
