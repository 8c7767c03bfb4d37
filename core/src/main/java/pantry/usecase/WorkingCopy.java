package pantry.usecase;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Set;
import pantry.base.AtomicFiles;
import pantry.base.FileStamp;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.exchange.format.Imported;
import pantry.intake.Carried;
import pantry.intake.CollisionShape;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.intake.Pivot;
import pantry.intake.ProcessingOptions;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.Published;
import pantry.library.VersionStatus;

/**
 * A version of an asset as a file in a folder, for editing in another program. The folder remembers what it is a copy
 * of, so that it can be published later, also by another run of Pantry.
 */
public final class WorkingCopy {
    private static final String LABEL = "working-copy.json";

    private final Path folder;
    private final Label label;

    /**
     * @param library its folder
     * @param base the version that was unpacked
     * @param written when the file was last written by Pantry, milliseconds since 1970
     */
    private record Label(
            String library, String asset, String name, String base, String file, long written, long size) {}

    private WorkingCopy(Path folder, Label label) {
        this.folder = folder;
        this.label = label;
    }

    /** Unpacks a version; see {@link EditCopies}. */
    static WorkingCopy unpack(HandOut handOut, Library library, EditCopies.Options options, Progress progress) {
        Path folder = options.folder();
        Asset asset = options.asset();
        try {
            if (Files.isDirectory(folder)) {
                try (var inside = Files.list(folder)) {
                    if (inside.findAny().isPresent()) {
                        throw new PantryException(folder, "is not empty; a working copy needs a folder of its own");
                    }
                }
            }
            Path file = handOut.write(asset, options.version(), options.ending(), folder, progress)
                    .file();
            FileStamp stamp = FileStamp.of(file);
            Label label = new Label(
                    library.root().toString(),
                    asset.card().id(),
                    asset.card().name(),
                    options.version(),
                    file.getFileName().toString(),
                    stamp.written().toMillis(),
                    stamp.size());
            AtomicFiles.write(folder.resolve(LABEL), Json.write(label));
            return new WorkingCopy(folder, label);
        } catch (IOException e) {
            throw new PantryException(folder, "the copy cannot be unpacked: " + IoProblems.describe(e), e);
        }
    }

    /**
     * The working copy in a folder.
     *
     * @throws PantryException where there is none
     */
    public static WorkingCopy open(Path folder) {
        if (!Files.exists(folder.resolve(LABEL))) {
            throw new PantryException(folder, "is not a working copy: it has no " + LABEL);
        }
        return new WorkingCopy(folder, Json.read(folder.resolve(LABEL), Label.class));
    }

    public Path folder() {
        return folder;
    }

    /** The file that is edited. */
    public Path file() {
        return folder.resolve(label.file());
    }

    /** The asset's id. */
    public String asset() {
        return label.asset();
    }

    /** The asset's name when it was unpacked. */
    public String name() {
        return label.name();
    }

    /** The version that was unpacked. */
    public String base() {
        return label.base();
    }

    /** The library's folder. */
    public Path library() {
        return Path.of(label.library());
    }

    /** Whether the file was saved since it was unpacked or published last. */
    public boolean changed() {
        try {
            FileStamp stamp = FileStamp.of(file());
            return stamp.written().toMillis() != label.written() || stamp.size() != label.size();
        } catch (IOException e) {
            // Being saved just now, perhaps: programs replace their files.
            return false;
        }
    }

    /**
     * Opens the file in a program.
     *
     * @param program a command with its options, see {@link ExternalProgram}; the file is put behind
     * @throws PantryException where the program cannot be started
     */
    public Process openIn(String program) {
        return ExternalProgram.of(program).open(file());
    }

    /**
     * Publishes the file as the asset's next version. All that it holds is kept as it is.
     *
     * @throws pantry.library.LibraryException where somebody else has reserved the asset
     */
    Published publish(Intake intake, Library library, VersionStatus status, String note, Progress progress) {
        Asset asset = library.byId(label.asset())
                .orElseThrow(() -> new PantryException(
                        folder,
                        "is a copy of " + label.name() + ", which is no longer in "
                                + library.info().name()));
        Imported arrival = intake.read(file(), progress);
        ProcessingOptions whole = new ProcessingOptions(Set.of(Carried.Kind.values()), CollisionShape.NONE, 1, false);
        Slip slip = Intake.suggested(arrival, asset.shelf(), Neighbours.NONE)
                .withPivot(Pivot.KEEP)
                .withMaking(whole);
        if (arrival.unit().isEmpty()) {
            // Formats that tell no unit were written in metres.
            slip = slip.withFactor(1);
        }
        Published published = intake.publish(arrival, slip, new Intake.Next(asset, status, note), library, progress);
        rememberPublished(published.version());
        return published;
    }

    private void rememberPublished(String version) {
        try {
            FileStamp stamp = FileStamp.of(file());
            AtomicFiles.write(
                    folder.resolve(LABEL),
                    Json.write(new Label(
                            label.library(),
                            label.asset(),
                            label.name(),
                            version,
                            label.file(),
                            stamp.written().toMillis(),
                            stamp.size())));
        } catch (IOException e) {
            throw new PantryException(folder, "the copy cannot be marked as published: " + IoProblems.describe(e), e);
        }
    }
}
