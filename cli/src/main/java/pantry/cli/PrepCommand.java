package pantry.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.base.PantryException;
import pantry.intake.LengthUnit;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.Published;
import pantry.library.VersionStatus;
import pantry.model.Axis;
import pantry.model.Weight;
import pantry.prep.inspect.RuleSet;
import pantry.usd.SdfPath;
import pantry.workbench.Workbench;
import pantry.workpiece.Shelving;
import pantry.workpiece.Surroundings;
import pantry.workpiece.Workpiece;
import picocli.CommandLine.Option;

/**
 * A command that inspects or changes a working copy of a file or an asset. What was changed becomes a file, or the
 * asset's next version.
 *
 * @param <R> the result, whose fields' names scripts rely on
 */
abstract class PrepCommand<R> extends PantryCommand<R> {
    @Option(names = "--library", paramLabel = "L", description = "The library to look for the asset in.")
    private Optional<Path> folder = Optional.empty();

    @Option(names = "--version", paramLabel = "V", description = "The asset's version; usually the one that is shown.")
    private Optional<String> version = Optional.empty();

    @Option(
            names = "--unit",
            paramLabel = "U",
            description = "The unit of a file's numbers: mm, cm, m, in or ft; usually what it says, or else is likely.")
    private Optional<String> unit = Optional.empty();

    @Option(names = "--up", paramLabel = "Y|Z", description = "The axis that points up in a file.")
    private Optional<Axis> up = Optional.empty();

    private @Nullable Library opened;

    /** Where a change goes. */
    static final class Target {
        @Option(names = "--out", paramLabel = "F", description = "Save as this file; its ending tells the format.")
        private Optional<Path> out = Optional.empty();

        @Option(names = "--publish", description = "Publish as the asset's next version.")
        private boolean publish;

        @Option(names = "--note", paramLabel = "N", description = "What to say of the new version.")
        private Optional<String> note = Optional.empty();

        static Target of(Optional<Path> out, boolean publish) {
            Target target = new Target();
            target.out = out;
            target.publish = publish;
            return target;
        }

        boolean isGiven() {
            return out.isPresent() || publish;
        }
    }

    /**
     * Where a change went.
     *
     * @param file empty where it was published
     * @param version empty where it was saved as a file
     * @param left what the file's format cannot hold
     */
    record Saved(String file, String version, List<String> left) {
        static final Saved NOTHING = new Saved("", "", List.of());
    }

    PrepCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    Optional<Library> library() {
        if (opened == null && folder.isPresent()) {
            opened = workbench.openLibrary(folder.get());
        }
        return Optional.ofNullable(opened);
    }

    /** A working copy of what a person names: a file, or with a library an asset. */
    Workpiece workpiece(String what) {
        Path file = Path.of(what);
        if (library().isPresent() && !Files.exists(file)) {
            Asset asset = library().get().find(what);
            String wanted = version.or(asset::shown)
                    .orElseThrow(() -> new PantryException(asset.folder(), "has no version yet"));
            if (!asset.versions().contains(wanted)) {
                throw wrongCall(asset.card().name() + " has no version " + wanted + "; it has "
                        + String.join(", ", asset.versions()) + ".");
            }
            return workbench.workpiece(library().get(), asset, wanted);
        }
        if (!Files.exists(file)) {
            throw new PantryException(file, "there is no such file; for an asset, say in which --library it is");
        }
        Optional<Double> metres = unit.map(this::metres);
        Workpiece piece = workbench.workpiece(
                file,
                likely -> new Workpiece.Reading(metres.orElse(likely.unit()), up.orElse(likely.up())),
                output.progress());
        if (piece.reading().isEmpty() && (metres.isPresent() || up.isPresent())) {
            throw wrongCall(what + " says itself in what unit and axes it is.");
        }
        return piece;
    }

    private double metres(String written) {
        return LengthUnit.of(written)
                .orElseThrow(() -> wrongCall("There is no unit “" + written + "”; say mm, cm, m, in or ft."))
                .metres();
    }

    /** The rules of a file, or else those of the library, or the usual ones. */
    RuleSet rules(Optional<Path> file) {
        return file.map(RuleSet::read).or(() -> library().map(RuleSet::of)).orElse(RuleSet.USUAL);
    }

    Optional<Surroundings> surroundings() {
        return library().map(Surroundings::of);
    }

    /** Fails before any work is done where a change has nowhere to go. */
    void requireTarget(Target target, Workpiece piece) {
        if (!target.isGiven()) {
            throw wrongCall(
                    "Say where the change goes: --out F" + (piece.shelved().isPresent() ? " or --publish." : "."));
        }
        if (target.publish && piece.shelved().isEmpty()) {
            throw wrongCall("Only an asset of a --library can be published; save a file with --out F.");
        }
    }

    /** Saves or publishes what was changed. */
    Saved save(Workpiece piece, Target target, String note) {
        if (target.out.isPresent()) {
            return saved(piece, target.out.get());
        }
        Published published = Shelving.publish(
                piece, VersionStatus.READY, target.note.orElse(note), workbench.renderCache(), output.progress());
        return new Saved("", published.version(), List.of());
    }

    static Saved saved(Workpiece piece, Path file) {
        return new Saved(file.toString(), "", piece.save(file));
    }

    void tell(Saved saved) {
        if (!saved.file().isEmpty()) {
            output.line("saved as %s", saved.file());
            saved.left().forEach(line -> output.line("  %s", line));
        } else if (!saved.version().isEmpty()) {
            output.line("published as %s", saved.version());
        }
    }

    void tell(Weight before, Weight after) {
        output.line("triangles stored %,14d → %,d", before.trianglesStored(), after.trianglesStored());
        output.line("triangles drawn  %,14d → %,d", before.trianglesDrawn(), after.trianglesDrawn());
        output.line("objects          %,14d → %,d", before.objects(), after.objects());
        output.line("textures         %,14d → %,d bytes", before.textureBytes(), after.textureBytes());
    }

    /** The prim that a person names by its path, or by its name where only one has it. */
    SdfPath path(Workpiece piece, String named) {
        if (named.startsWith("/")) {
            if (!SdfPath.isWellFormed(named)) {
                throw wrongCall(named + " is no path of an object, such as /Mast/Tube.");
            }
            return SdfPath.of(named);
        }
        List<SdfPath> found = piece.editor()
                .stage()
                .prims()
                .filter(prim -> prim.name().equals(named)
                        || prim.text("displayName").filter(named::equals).isPresent())
                .map(prim -> prim.path())
                .toList();
        if (found.size() != 1) {
            throw new PantryException(
                    piece.source(),
                    found.isEmpty()
                            ? "there is no object called " + named
                            : "there are " + found.size() + " objects called " + named + "; give a path, such as "
                                    + found.getFirst());
        }
        return found.getFirst();
    }
}
