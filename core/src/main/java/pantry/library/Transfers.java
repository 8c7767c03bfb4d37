package pantry.library;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Stream;
import pantry.base.Names;
import pantry.base.Progress;

/** Assets from one library into another, with all their versions and what they use. */
public final class Transfers {
    private final Library from;
    private final Library to;

    public Transfers(Library from, Library to) {
        this.from = from;
        this.to = to;
    }

    /**
     * Copies an asset, which gets an id of its own, also within one library. What it uses is copied too, unless a copy
     * of that stands there already.
     */
    public Asset copy(Asset asset, String shelf, Progress progress) {
        return copied(from.current(asset), Shelf.path(shelf), UUID.randomUUID().toString(), progress);
    }

    /**
     * Moves an asset, whose id stays. It goes to the trash of the library it comes from; what it uses stays there, and
     * is copied.
     *
     * @throws LibraryException where another holds it, or the other library has it already
     */
    public Asset move(Asset asset, String shelf, Progress progress) {
        if (from.root().equals(to.root())) {
            return from.places().move(asset, shelf);
        }
        Asset now = from.current(asset);
        from.reservations().requireFree(now);
        if (to.store().byId(now.card().id()).isPresent()) {
            throw new LibraryException(to.root(), "has the asset " + now.card().name() + " already");
        }
        Asset moved = copied(now, Shelf.path(shelf), now.card().id(), progress);
        from.trash().discard(now);
        return moved;
    }

    private Asset copied(Asset asset, String shelf, String id, Progress progress) {
        Map<String, Asset> used = new LinkedHashMap<>();
        for (Uses.Use use : Uses.of(asset.folder())) {
            if (!used.containsKey(use.id())) {
                progress.step("copying what " + asset.card().name() + " uses", -1);
                used.put(use.id(), there(use, progress));
            }
        }
        progress.step("copying " + asset.card().name(), -1);
        Card card = id.equals(asset.card().id()) ? asset.card() : asset.card().copied(id);
        NameClaim claim = to.claimName(shelf, card.name());
        try {
            Card named = card.withName(claim.name());
            return to.publishing()
                    .place(named, shelf, (building, slug) -> {
                        for (String version : asset.versions()) {
                            progress.step("copying " + asset.card().name() + " " + version, -1);
                            Map<String, String> seal = from.seal(asset, version);
                            Map<String, String> labels = Publishing.lastingLabels(seal);
                            labels.put("External-Identifier", id);
                            for (String kept : new String[] {
                                "Bagging-Date", Publishing.TIME_LABEL, "Contact-Name", Publishing.NOTE_LABEL
                            }) {
                                if (seal.containsKey(kept)) {
                                    labels.put(kept, seal.get(kept));
                                }
                            }
                            to.publishing()
                                    .seal(
                                            building.resolve(version),
                                            slug,
                                            new Reissue(asset, version, id),
                                            labels,
                                            progress);
                        }
                        relink(asset, building, to.store().tree().folder(shelf).resolve(slug), used);
                        copyBeside(asset, building);
                        return named;
                    })
                    .asset();
        } finally {
            to.release(claim);
        }
    }

    /** The asset that a use leads to, or its copy, in the library that is copied to. */
    private Asset there(Uses.Use use, Progress progress) {
        if (from.root().equals(to.root())) {
            return from.byId(use.id()).orElseThrow(() -> lost(use));
        }
        Optional<Asset> known = to.assets().stream()
                .filter(each -> each.card().id().equals(use.id())
                        || use.id().equals(each.card().copyOf()))
                .findFirst();
        if (known.isPresent()) {
            return known.get();
        }
        Asset original = from.byId(use.id()).orElseThrow(() -> lost(use));
        return copied(original, original.shelf(), UUID.randomUUID().toString(), progress);
    }

    private static LibraryException lost(Uses.Use use) {
        return new LibraryException(use.stub(), "uses an asset that is not in the library; check the library first");
    }

    private static void relink(Asset asset, Path building, Path standing, Map<String, Asset> used) throws IOException {
        for (Uses.Use use : Uses.of(asset.folder())) {
            Uses.copy(use, building, standing, used.get(use.id()));
        }
    }

    /** What people put beside a card is not lost. */
    private static void copyBeside(Asset asset, Path building) throws IOException {
        try (Stream<Path> files = Files.list(asset.folder())) {
            for (Path file : files.filter(Files::isRegularFile).toList()) {
                String name = file.getFileName().toString();
                if (!name.equals(LibraryLayout.CARD)
                        && !name.equals(LibraryLayout.READY_LAYER)
                        && !name.startsWith(".")) {
                    Files.copy(file, building.resolve(Names.title(name)));
                }
            }
        }
    }
}
