package pantry.usecase;

import java.nio.file.Path;
import pantry.base.Failures;
import pantry.base.Progress;
import pantry.intake.Intake;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.Published;
import pantry.library.Reservations;
import pantry.library.VersionStatus;

/** Edits versions of assets in other programs: unpacks a copy, and publishes it once it was saved there. */
public final class EditCopies {
    private final HandOut handOut;
    private final Intake intake;

    public EditCopies(HandOut handOut, Intake intake) {
        this.handOut = handOut;
        this.intake = intake;
    }

    /**
     * What is unpacked.
     *
     * @param ending one of {@link HandOut#FORMATS}
     * @param folder missing or empty
     * @param reserve whether nobody else may publish the asset meanwhile
     */
    public record Options(Asset asset, String version, String ending, Path folder, boolean reserve) {}

    /**
     * Unpacks a version.
     *
     * @throws pantry.library.LibraryException where somebody else has reserved the asset that is to be reserved
     * @throws pantry.base.PantryException where the folder is not empty, or the copy cannot be written; the asset is free
     *     then as it was before
     */
    public WorkingCopy unpack(Library library, Options options, Progress progress) {
        Reservations reservations = library.reservations();
        boolean reserving =
                options.reserve() && reservations.of(options.asset()).isEmpty();
        if (options.reserve()) {
            reservations.reserve(options.asset());
        }
        try {
            return WorkingCopy.unpack(handOut, library, options, progress);
        } catch (RuntimeException | Error e) {
            if (reserving) {
                Failures.cleanUp(e, () -> reservations.release(options.asset()));
            }
            throw e;
        }
    }

    /**
     * Publishes a copy as the asset's next version, and gives the asset free where its user had reserved it.
     *
     * @param note what is said of the version; may be empty
     * @throws pantry.library.LibraryException where somebody else has reserved the asset
     */
    public Published publish(WorkingCopy copy, Library library, VersionStatus status, String note, Progress progress) {
        Published published = copy.publish(intake, library, status, note, progress);
        library.reservations().release(published.asset());
        return published;
    }
}
