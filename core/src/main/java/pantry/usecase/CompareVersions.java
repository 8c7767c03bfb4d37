package pantry.usecase;

import pantry.base.Progress;
import pantry.compare.Comparer;
import pantry.compare.Comparison;
import pantry.exchange.FileReaders;
import pantry.library.Asset;

/** Tells what differs between two versions of an asset. */
public final class CompareVersions {
    private final FileReaders readers;

    public CompareVersions(FileReaders readers) {
        this.readers = readers;
    }

    /**
     * Compares.
     *
     * @param before a version of the asset, such as {@code v001}
     * @param after another
     * @throws pantry.base.PantryException where one of them cannot be read
     */
    public Comparison run(Asset asset, String before, String after, Progress progress) {
        return Comparer.compare(
                state(asset, before, progress.part(0, 0.2)),
                state(asset, after, progress.part(0.2, 0.4)),
                progress.part(0.4, 1));
    }

    /** A version as it is compared. */
    public Comparer.State state(Asset asset, String version, Progress progress) {
        return new Comparer.State(
                readers.read(asset.entryLayer(version), progress).model(),
                asset.facts(version).variants());
    }
}
