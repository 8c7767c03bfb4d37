package pantry.library;

import java.util.List;
import java.util.Optional;
import pantry.base.Progress;

/**
 * Assets and versions that nobody needs now, in a library of their own: their ids, versions and seals stay what they are to the
 * byte, and signposts where they stood lead there, so that scenes which use them after all go on opening. Calling them back
 * is the same the other way.
 */
public final class Archive {
    private final Library library;
    private final Library archive;

    /** @throws LibraryException where both are the same library, or one is a copy of the other */
    public Archive(Library library, Library archive) {
        if (library.root().equals(archive.root())
                || library.info().id().equals(archive.info().id())) {
            throw new LibraryException(archive.root(), "is the library itself, or a copy of it");
        }
        this.library = library;
        this.archive = archive;
    }

    /**
     * Takes an asset to the archive. One that was stopped half way is taken up.
     *
     * @return the asset as it stands there
     * @throws LibraryException where somebody has reserved it, its seal is broken, or its place there is taken
     */
    public Asset put(Asset asset, Progress progress) {
        return archiving().move(asset, progress);
    }

    /** Brings an asset back to where it stood; see {@link #put}. */
    public Asset callBack(Asset asset, Progress progress) {
        return callingBack().move(asset, progress);
    }

    /**
     * Takes one version to the archive, where its asset stands with those versions that were taken there; where it stood, its
     * layer leads to it.
     *
     * @return the asset as it stands in the archive
     * @throws LibraryException where it is the version that is ready or the newest one, somebody has reserved the asset, or
     *     the version's seal is broken
     */
    public Asset putVersion(Asset asset, String version, Progress progress) {
        Asset now = library.current(asset);
        if (now.ready().equals(Optional.of(version)) || now.newest().equals(Optional.of(version))) {
            throw new LibraryException(
                    now.folder().resolve(version), "is the ready version or the newest one, and stays");
        }
        return archiving().moveVersion(now, version, progress);
    }

    /** Brings a version back to where it stood; see {@link #putVersion}. Where it was the last, its asset goes too. */
    public Asset callBackVersion(Asset asset, String version, Progress progress) {
        Asset there = archive.byId(asset.card().id())
                .orElseThrow(() -> new LibraryException(
                        archive.root(), "has no versions of " + asset.card().name()));
        return there.versions().equals(List.of(version))
                ? callBack(there, progress)
                : callingBack().moveVersion(there, version, progress);
    }

    private Relocation archiving() {
        return new Relocation(library, archive, Journal.ARCHIVED);
    }

    private Relocation callingBack() {
        return new Relocation(archive, library, Journal.CALLED_BACK);
    }
}
