package pantry.usecase;

import java.nio.file.Path;
import java.util.function.UnaryOperator;
import pantry.base.Progress;
import pantry.exchange.format.Imported;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.Published;

/** Publishes a file as an asset's next version. */
public final class PublishFile {
    private final Intake intake;

    public PublishFile(Intake intake) {
        this.intake = intake;
    }

    /**
     * What is published and how.
     *
     * @param choices changes what is suggested for the file
     */
    public record Options(NextVersion version, Path file, UnaryOperator<Slip> choices) {}

    /**
     * Publishes the file.
     *
     * @throws pantry.library.LibraryException where somebody else has reserved the asset, which is found out before the
     *     file is read, or the library refuses
     * @throws pantry.base.PantryException where the file cannot be read, or lacks textures
     */
    public Published run(Library library, Options options, Progress progress) {
        Asset asset = library.current(options.version().asset());
        library.reservations().requireFree(asset);
        Imported arrival = intake.read(options.file(), progress.part(0, 0.3));
        Slip suggested = Intake.suggested(arrival, asset.shelf(), Neighbours.on(library, asset.shelf()));
        return intake.publish(
                arrival,
                options.choices().apply(suggested),
                new Intake.Next(
                        asset, options.version().status(), options.version().note()),
                library,
                progress.part(0.3, 1));
    }
}
