package pantry.desktop.session;

import java.util.List;
import java.util.Set;
import java.util.concurrent.atomic.AtomicReference;
import org.jspecify.annotations.Nullable;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.Published;
import pantry.library.TrashItem;
import pantry.library.VersionStatus;

/** Assets and versions that were published, as the ledger tells them, takes them back and does them again. */
public final class Publications {
    private final Session session;

    /** Something that was published, as a part of what is taken back together. */
    public interface Part {
        void undo();

        void redo();
    }

    public Publications(Session session) {
        this.session = session;
    }

    /**
     * A new asset: taken back, it lies in the trash, and the shelf that was made for it is gone; done again, it is the same
     * asset, for others may refer to it.
     *
     * @param shelves those that there were before
     */
    public static Part ofAsset(Library library, Asset asset, Set<String> shelves) {
        AtomicReference<@Nullable TrashItem> trashed = new AtomicReference<>();
        return new Part() {
            @Override
            public void undo() {
                trashed.set(library.trash().discard(library.current(asset)));
                library.places().removeNew(asset.shelf(), shelves);
            }

            @Override
            public void redo() {
                TrashItem item = trashed.getAndSet(null);
                if (item != null) {
                    library.trash().restore(item);
                }
            }
        };
    }

    /**
     * A new version that is followed. A version never goes away again: taken back, it is a draft, and the one before is
     * followed again.
     */
    public static Part ofVersion(Library library, Published published) {
        return new Part() {
            @Override
            public void undo() {
                library.unfollow(library.current(published.asset()), published.version(), published.followed());
            }

            @Override
            public void redo() {
                library.setStatus(library.current(published.asset()), published.version(), VersionStatus.READY);
            }
        };
    }

    /** An asset that was given free: taken back, it is reserved again. */
    public static Part ofRelease(Library library, Asset asset) {
        return new Part() {
            @Override
            public void undo() {
                library.reservations().reserve(library.current(asset));
            }

            @Override
            public void redo() {
                library.reservations().release(library.current(asset));
            }
        };
    }

    /** What takes parts back together, and does them again. */
    public UndoableWork<List<Part>> together(String doing, Libraries.Touched touched, List<Part> parts) {
        return new UndoableWork<>(
                doing,
                session.shelving().changing(touched),
                progress -> {
                    parts.forEach(Part::redo);
                    return parts;
                },
                (same, progress) -> parts.reversed().forEach(Part::undo));
    }

    /**
     * Tells that a version was published.
     *
     * @param then is done each time that something else is followed
     */
    public void tell(String text, Library library, Published published, VersionStatus status, Runnable then) {
        String version = published.version();
        Asset asset = published.asset();
        String name = asset.card().name();
        if (status != VersionStatus.READY) {
            session.doneForGood(text, "nobody follows " + version + ", and versions are kept");
            return;
        }
        String undone = published
                        .followed()
                        .map(before -> before + " of " + name + " is followed again, ")
                        .orElse("")
                + version + " is a draft";
        UndoableWork<List<Part>> work = together(
                        "following " + version + " of " + name,
                        Libraries.Touched.shelf(library, asset.shelf()),
                        List.of(ofVersion(library, published)))
                .undone(parts -> undone)
                .after(parts -> then.run());
        session.done(text, work.done(session, List.of()));
    }
}
