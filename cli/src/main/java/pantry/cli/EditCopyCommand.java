package pantry.cli;

import java.nio.file.Path;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.Published;
import pantry.library.VersionStatus;
import pantry.usecase.EditCopies;
import pantry.usecase.HandOut;
import pantry.usecase.WorkingCopy;
import pantry.workbench.Workbench;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "edit-copy",
        description = "Unpack a version for editing in another program, or publish such a copy when it was saved.")
final class EditCopyCommand extends PantryCommand<EditCopyCommand.Result> {
    /** Either of the two. */
    static final class Way {
        @ArgGroup(exclusive = false)
        private @Nullable Unpacking unpacking;

        @ArgGroup(exclusive = false)
        private @Nullable Publishing publishing;
    }

    /** What is unpacked. */
    static final class Unpacking {
        @Parameters(paramLabel = "ASSET", description = "The asset's id or Shelf/Name.")
        private String asset = "";

        @Option(names = "--library", required = true, paramLabel = "L", description = "The library's folder.")
        private Path library = Path.of("");

        @Option(names = "--dir", required = true, paramLabel = "D", description = "A new folder for the copy.")
        private Path folder = Path.of("");

        @Option(names = "--version", paramLabel = "V", description = "The version; the ready one if not given.")
        private Optional<String> version = Optional.empty();

        @Option(
                names = "--format",
                paramLabel = "F",
                description = "glb (usual), gltf, usdz, usdc, usda, obj, ply, stl.")
        private Optional<String> format = Optional.empty();

        @Option(names = "--reserve", description = "Reserve the asset meanwhile.")
        private boolean reserve;

        @Option(names = "--open-with", paramLabel = "PROGRAM", description = "Start this program with the file.")
        private Optional<String> program = Optional.empty();
    }

    /** What is published. */
    static final class Publishing {
        @Option(names = "--publish", required = true, paramLabel = "D", description = "The folder with a working copy.")
        private Path folder = Path.of("");

        @Option(names = "--note", required = true, paramLabel = "N", description = "What is new.")
        private String note = "";

        @Option(names = "--draft", description = "As a draft.")
        private boolean draft;
    }

    @ArgGroup(multiplicity = "1")
    private Way way = new Way();

    record Result(String file, String asset, String version, boolean published) {}

    EditCopyCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        return way.publishing != null
                ? publish(way.publishing)
                : unpack(Objects.requireNonNull(way.unpacking, "one of the two is always there"));
    }

    private Result unpack(Unpacking wanted) {
        String format = wanted.format.orElse(workbench.settings().copyFormat());
        if (!HandOut.FORMATS.contains(format)) {
            throw wrongCall("--format " + format + " is not one of " + String.join(", ", HandOut.FORMATS) + ".");
        }
        Library library = workbench.openLibrary(wanted.library);
        Asset asset = library.find(wanted.asset);
        String version = wanted.version.or(asset::shown).orElseThrow();
        WorkingCopy copy = copies().unpack(
                        library,
                        new EditCopies.Options(asset, version, format, wanted.folder, wanted.reserve),
                        output.progress());
        wanted.program.ifPresent(copy::openIn);
        return new Result(copy.file().toString(), copy.asset(), version, false);
    }

    private EditCopies copies() {
        return new EditCopies(new HandOut(workbench), workbench.intake());
    }

    private Result publish(Publishing wanted) {
        WorkingCopy copy = WorkingCopy.open(wanted.folder);
        Library library = workbench.openLibrary(copy.library());
        Published published = copies().publish(
                        copy,
                        library,
                        wanted.draft ? VersionStatus.DRAFT : VersionStatus.READY,
                        wanted.note,
                        output.progress());
        return new Result(copy.file().toString(), copy.asset(), published.version(), true);
    }

    @Override
    void tell(Result result) {
        output.line(
                result.published() ? "%s was published as %s" : "%s is the copy of %s",
                result.file(),
                result.version());
    }
}
