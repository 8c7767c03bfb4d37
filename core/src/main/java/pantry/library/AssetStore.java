package pantry.library;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.file.LayerFiles;
import pantry.usd.text.UsdaWriter;

/**
 * The assets on a library's shelves: finding them, and writing their cards with the layers that followers reference.
 * What changes them all is above this: publishing, moving, the trash.
 */
final class AssetStore {
    /** So often may an asset have been moved that its first place still leads to it. */
    private static final int MOST_HOPS = 100;

    /** How often the shelves are walked until somebody is told that something is not there. */
    private static final int MOST_WALKS = 3;

    private final Path root;
    private final LibraryInfo info;
    private final LibraryLock lock;
    private final ShelfTree tree;
    private final Incoming incoming;
    private final Set<NameClaim> claimed = new HashSet<>();

    AssetStore(Path root, LibraryInfo info, Incoming incoming) {
        this.root = root;
        this.info = info;
        this.incoming = incoming;
        this.lock = new LibraryLock(root);
        this.tree = new ShelfTree(root);
    }

    Path root() {
        return root;
    }

    LibraryInfo info() {
        return info;
    }

    Incoming incoming() {
        return incoming;
    }

    ShelfTree tree() {
        return tree;
    }

    /** Does something while nobody else changes the library. */
    <T> T changing(Path what, String failure, LibraryLock.Action<T> action) {
        try {
            return lock.holding(action);
        } catch (IOException e) {
            throw new LibraryException(what, failure + ": " + IoProblems.describe(e), e);
        }
    }

    /** All assets, by shelf and folder name; those whose card cannot be understood are left out (see {@link Library#verify}). */
    List<Asset> assets() {
        return assets(folder -> true);
    }

    /** As above, of those whose folders are wanted; no other card is read. */
    List<Asset> assets(Predicate<Path> wanted) {
        List<Asset> assets = new ArrayList<>();
        for (Path folder : tree.assetFolders()) {
            if (!wanted.test(folder)) {
                continue;
            }
            try {
                assets.add(asset(folder));
            } catch (PantryException e) {
                // Said by verify; one bad card must not close the shelf.
            }
        }
        return assets;
    }

    /** The asset in a folder of this library. */
    Asset asset(Path folder) {
        return new Asset(
                folder,
                tree.shelfOf(folder.getParent()),
                Json.read(folder.resolve(LibraryLayout.CARD), Card.class),
                LibraryLayout.versions(folder));
    }

    /**
     * The asset that a person names: by its id, by shelf and name, or by a name that only one has.
     *
     * @throws LibraryException where there is none, or more than one
     */
    Asset find(String named) {
        return walkedAgain(() -> lookFor(named))
                .orElseThrow(
                        () -> new LibraryException(root, "has no asset \"" + named + "\"; give an id or Shelf/Name"));
    }

    /**
     * What a walk through the shelves finds. An asset that is being moved meanwhile may be met neither where it was nor
     * where it goes, so that what is not found is looked for again.
     */
    private static <T> Optional<T> walkedAgain(Supplier<Optional<T>> walk) {
        for (int attempt = 1; attempt < MOST_WALKS; attempt++) {
            Optional<T> found = walk.get();
            if (found.isPresent()) {
                return found;
            }
        }
        return walk.get();
    }

    private Optional<Asset> lookFor(String named) {
        List<Asset> assets = assets();
        List<Asset> hits = assets.stream()
                .filter(asset -> asset.card().id().equals(named)
                        || asset.address().equalsIgnoreCase(named)
                        || (asset.shelf() + "/" + asset.slug()).equalsIgnoreCase(named))
                .toList();
        if (hits.isEmpty()) {
            hits = assets.stream()
                    .filter(asset -> asset.card().name().equalsIgnoreCase(named)
                            || asset.slug().equalsIgnoreCase(named))
                    .toList();
        }
        if (hits.size() > 1) {
            throw new LibraryException(
                    root,
                    "has " + hits.size() + " assets \"" + named + "\": "
                            + String.join(
                                    ", ", hits.stream().map(Asset::address).toList()) + "; give Shelf/Name");
        }
        return hits.stream().findFirst();
    }

    /**
     * The asset with an id, if one is met in one walk; {@link #expected} is for what should be there although it may be
     * moved meanwhile.
     */
    Optional<Asset> byId(String id) {
        return assets().stream().filter(asset -> asset.card().id().equals(id)).findFirst();
    }

    /** The asset with an id, which is on a shelf unless it was removed. */
    Optional<Asset> expected(String id) {
        return walkedAgain(() -> byId(id));
    }

    /** Whether a failure to read an asset says that it stands there no more: it was moved or removed meanwhile. */
    static boolean isGone(PantryException failure) {
        return failure.getCause() instanceof NoSuchFileException;
    }

    /** The asset in a folder; none where it was moved from there meanwhile. */
    private Optional<Asset> standing(Path folder) {
        try {
            return Optional.of(asset(folder));
        } catch (PantryException e) {
            if (isGone(e)) {
                return Optional.empty();
            }
            throw e;
        }
    }

    /** The asset that a file belongs to, also where it was moved since the file's path was written. */
    Optional<Owner> owner(Path file) {
        return walkedAgain(() -> ownerNow(file));
    }

    private Optional<Owner> ownerNow(Path file) {
        Path at = file.toAbsolutePath().normalize();
        Optional<String> version = Optional.empty();
        for (Path up = at; up != null && up.startsWith(root.resolve(LibraryLayout.ASSETS)); up = up.getParent()) {
            String name = up.getFileName().toString();
            if (VersionName.matches(name)) {
                version = Optional.of(name);
            }
            Path folder = up;
            Optional<Path> further = Redirects.target(folder);
            for (int hops = 0; hops < MOST_HOPS && further.isPresent(); hops++) {
                folder = further.get();
                further = Redirects.target(folder);
            }
            if (Files.exists(folder.resolve(LibraryLayout.CARD))) {
                Optional<String> inVersion = version;
                return standing(folder).map(asset -> new Owner(asset, inVersion));
            }
        }
        return Optional.empty();
    }

    /**
     * An asset as it is now, although it may have been moved or changed since it was read.
     *
     * @throws LibraryException where it is no longer on a shelf
     */
    Asset current(Asset asset) {
        return current(asset.folder(), asset.card().id());
    }

    /** As above, of an asset of which only the folder where it stood and its id are known. */
    Asset current(Path stood, String id) {
        return located(stood, id).orElseThrow(() -> new LibraryException(stood, "is no longer on a shelf"));
    }

    /** As above; empty where it is no longer on a shelf. */
    Optional<Asset> located(Path stood, String id) {
        Path folder = stood;
        for (int hops = 0; hops < MOST_HOPS; hops++) {
            if (Files.exists(folder.resolve(LibraryLayout.CARD))) {
                Optional<Asset> found =
                        standing(folder).filter(asset -> asset.card().id().equals(id));
                if (found.isPresent()) {
                    return found;
                }
                break;
            }
            Optional<Path> further = Redirects.target(folder);
            if (further.isEmpty()) {
                break;
            }
            folder = further.get();
        }
        return expected(id);
    }

    /**
     * Takes a name that no other asset on a shelf has, on disk or just being shelved by this process: the given one, or
     * that with a number behind it.
     *
     * @return to be {@link #release released} in the end
     */
    NameClaim claimName(String shelf, String name) {
        String path = Shelf.path(shelf);
        Path folder = root.resolve(LibraryLayout.ASSETS).resolve(path);
        // Equal names have equal slugs, but for a number behind.
        String slug = Names.slug(name);
        synchronized (claimed) {
            Set<String> taken = new HashSet<>();
            claimed.stream()
                    .filter(claim -> claim.shelf().equals(path))
                    .forEach(claim -> taken.add(folded(claim.name())));
            if (Files.isDirectory(folder)) {
                try (Stream<Path> inside = Files.list(folder)) {
                    for (Path asset : inside.filter(
                                    each -> each.getFileName().toString().startsWith(slug)
                                            && Files.exists(each.resolve(LibraryLayout.CARD)))
                            .toList()) {
                        nameIn(asset).ifPresent(taken::add);
                    }
                } catch (IOException e) {
                    throw new LibraryException(folder, "cannot be read: " + IoProblems.describe(e), e);
                }
            }
            NameClaim claim =
                    new NameClaim(path, Names.free(name, " ", candidate -> taken.contains(folded(candidate))));
            claimed.add(claim);
            return claim;
        }
    }

    /**
     * Makes sure that no other asset on a shelf has a name, in whatever case.
     *
     * @throws LibraryException where one has
     */
    void requireFreeName(Asset asset, String name) {
        boolean taken = tree.assetFolders(Set.of(asset.shelf())).stream()
                .filter(folder -> !folder.equals(asset.folder()))
                .anyMatch(folder -> nameIn(folder).filter(folded(name)::equals).isPresent());
        if (taken) {
            throw new LibraryException(
                    asset.folder(), "cannot be called \"" + name + "\": another asset on its shelf is");
        }
    }

    /** The name on a card; none where that cannot be understood. */
    private static Optional<String> nameIn(Path folder) {
        try {
            return Optional.of(folded(
                    Json.read(folder.resolve(LibraryLayout.CARD), Card.class).name()));
        } catch (PantryException e) {
            return Optional.empty();
        }
    }

    /** Gives a name free again: it stands on a card now, or is not needed. */
    void release(NameClaim claim) {
        synchronized (claimed) {
            claimed.remove(claim);
        }
    }

    private static String folded(String name) {
        return name.toLowerCase(Locale.ROOT);
    }

    /** Changes a card, and the layer that followers reference with it; the journal says nothing of it. */
    Asset changeCard(Asset asset, UnaryOperator<Card> change) {
        return changing(asset.folder(), "the card cannot be changed", () -> {
            Asset before = current(asset);
            return writeCard(before, change.apply(before.card()));
        });
    }

    /** Writes a card and what depends on it; to be called while nobody else changes the library. */
    Asset writeCard(Asset asset, Card card) throws IOException {
        Card placed = placed(card, asset.shelf());
        Asset changed = new Asset(asset.folder(), asset.shelf(), placed, LibraryLayout.versions(asset.folder()));
        Path file = asset.folder().resolve(LibraryLayout.CARD);
        if (!Objects.equals(asset.card().ready(), placed.ready()) || !Files.exists(changed.readyLayer())) {
            incoming.intending(asset.folder(), () -> {
                AtomicFiles.write(file, Json.write(placed));
                writeReadyLayer(changed);
                return file;
            });
        } else if (!placed.equals(asset.card())) {
            AtomicFiles.write(file, Json.write(placed));
        }
        return changed;
    }

    /** A card of an asset on a shelf, as this library's format keeps it. */
    Card placed(Card card, @Nullable String shelf) {
        return card.on(info.cardsSayShelf() ? shelf : null);
    }

    void writeReadyLayer(Asset asset) {
        Optional<String> ready = asset.ready();
        if (ready.isEmpty()) {
            // Whoever follows keeps what was ready last; that it is retired is said where it is used.
            return;
        }
        LayerFiles.write(readyLayer(asset, ready.get()), asset.readyLayer());
    }

    /** The layer that leads those who follow an asset to a version. */
    private static Layer readyLayer(Asset asset, String version) {
        Path entry = asset.entryLayer(version);
        String prim = LayerFiles.read(entry)
                .defaultPrim()
                .orElseThrow(() -> new LibraryException(entry, "the entry layer has no default prim"));
        Layer layer = Layer.inMetres(asset.readyLayer(), prim);
        PrimSpec spec = layer.root().define("", prim);
        spec.setReferences(Reference.to("./" + version + "/data/" + entry.getFileName()));
        return layer;
    }

    /**
     * Whether the layer that followers reference leads to the ready version, and says nothing else. True too where that
     * version cannot be read, which is its own damage and not the layer's.
     */
    boolean leadsToReady(Asset asset) {
        String expected;
        try {
            expected = UsdaWriter.write(readyLayer(asset, asset.ready().orElseThrow()));
        } catch (PantryException e) {
            return true;
        }
        try {
            return !Files.isSymbolicLink(asset.readyLayer())
                    && UsdaWriter.write(LayerFiles.read(asset.readyLayer())).equals(expected);
        } catch (PantryException e) {
            return false;
        }
    }

    static void requireVersion(Asset asset, String version) {
        if (!asset.versions().contains(version)) {
            throw new LibraryException(
                    asset.folder(), "has no version " + version + "; it has " + String.join(", ", asset.versions()));
        }
    }
}
