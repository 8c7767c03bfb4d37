package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import pantry.base.PantryException;
import pantry.exchange.Axis;
import pantry.exchange.Imported;
import pantry.intake.Archives;
import pantry.intake.Intake;
import pantry.intake.LengthUnit;
import pantry.intake.PartsMode;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.Published;
import pantry.library.Shelf;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "receive",
        description = "Take files into a library: measured, converted to USD in metres, pictured and sealed.")
final class ReceiveCommand extends PantryCommand<ReceiveCommand.Outcome> {
    @Parameters(
            arity = "1..*",
            paramLabel = "FILE|DIR",
            description = "Files, folders of files, and archives (zip, tar, tar.gz).")
    private List<Path> files = new ArrayList<>();

    @Option(names = "--library", required = true, paramLabel = "L", description = "The library's folder.")
    private Path library = Path.of("");

    @Option(names = "--shelf", paramLabel = "S", description = "The shelf, such as Instruments/Masts.")
    private String shelf = "";

    @Option(names = "--name", paramLabel = "N", description = "The asset's name; the file's own otherwise.")
    private Optional<String> name = Optional.empty();

    @Option(names = "--unit", paramLabel = "U", description = "The unit of the file's numbers: mm, cm, m, in or ft.")
    private Optional<String> unit = Optional.empty();

    @Option(names = "--scale", paramLabel = "F", description = "Metres per unit of the file, as a number.")
    private Optional<Double> scale = Optional.empty();

    @Option(names = "--up", paramLabel = "Y|Z", description = "The axis that points up in the file.")
    private Optional<Axis> up = Optional.empty();

    @Option(
            names = "--parts",
            paramLabel = "P",
            description = "keep the hierarchy (usual), one mesh by-material, or a single object.")
    private String parts = "keep";

    @Option(names = "--tag", paramLabel = "T", description = "A tag; may be given again.")
    private List<String> tags = new ArrayList<>();

    @Option(names = "--licence", paramLabel = "ID", description = "The licence's SPDX identifier.")
    private String licence = "";

    @Option(names = "--credit", paramLabel = "WHO", description = "Who made it.")
    private String credit = "";

    @Option(names = "--allow-missing-textures", description = "Shelve also where textures are not found.")
    private boolean allowMissing;

    @Option(names = "--dry-run", description = "Only tell the sizes that each unit would give; change nothing.")
    private boolean dryRun;

    private record Shelved(String file, String id, String name, String shelf, String version, String path) {}

    private record Refused(String file, String reason) {}

    /** What became of the files. */
    sealed interface Outcome {
        List<Refused> refused();
    }

    record Received(List<Shelved> shelved, List<Refused> refused) implements Outcome {}

    private record Candidate(double factor, String unit, double[] size, boolean likely, String reason) {}

    private record SlipLine(String file, double unit, double scale, String up, List<Candidate> candidates) {}

    record Slips(List<SlipLine> slips, List<Refused> refused) implements Outcome {}

    ReceiveCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Outcome work() {
        Optional<Double> factor = factor();
        PartsMode mode = mode();
        Library target = workbench.openLibrary(library);
        String shelfPath = Shelf.path(shelf);
        Intake intake = workbench.intake();
        List<Shelved> shelved = new ArrayList<>();
        List<SlipLine> slips = new ArrayList<>();
        List<Refused> refused = new ArrayList<>();
        List<Double> neighbours = Intake.neighbours(target, shelfPath);
        List<Path> found = gathered(refused);
        if (found.isEmpty() && refused.isEmpty()) {
            throw new PantryException(files.getFirst(), "holds no file of a known kind");
        }
        for (Path file : found) {
            try {
                Imported arrival = intake.read(file, output.progress());
                Slip slip = slip(arrival, shelfPath, neighbours, factor, mode);
                if (dryRun) {
                    slips.add(slipLine(arrival, slip, neighbours));
                } else {
                    Published published = intake.shelve(arrival, slip, target, output.progress());
                    shelved.add(line(file, published));
                }
            } catch (PantryException e) {
                refuse(file, e, refused);
            }
        }
        return dryRun ? new Slips(slips, refused) : new Received(shelved, refused);
    }

    /** The files to take in; archives that cannot be unpacked are among the refused. */
    private List<Path> gathered(List<Refused> refused) {
        List<Path> found = new ArrayList<>();
        for (Path file : Intake.files(files)) {
            try {
                found.addAll(Archives.isArchive(file) ? workbench.unpacked(file, output.progress()) : List.of(file));
            } catch (PantryException e) {
                refuse(file, e, refused);
            }
        }
        return found;
    }

    private void refuse(Path file, PantryException e, List<Refused> refused) {
        refused.add(new Refused(file.toString(), e.line()));
        output.say("pantry receive: " + e.line());
    }

    @Override
    boolean done(Outcome outcome) {
        return outcome.refused().isEmpty();
    }

    private Optional<Double> factor() {
        if (unit.isPresent() && scale.isPresent()) {
            throw wrongCall("Give --unit or --scale, not both.");
        }
        if (scale.isPresent() && !(scale.get() > 0)) {
            throw wrongCall("--scale must be greater than 0.");
        }
        return scale.or(() -> unit.map(written -> LengthUnit.of(written)
                .orElseThrow(() -> wrongCall("--unit " + written + " is not one of mm, cm, m, in, ft."))
                .metres()));
    }

    private PartsMode mode() {
        return switch (parts) {
            case "keep" -> PartsMode.KEEP;
            case "by-material" -> PartsMode.BY_MATERIAL;
            case "single" -> PartsMode.SINGLE;
            default -> throw wrongCall("--parts " + parts + " is not one of keep, by-material, single.");
        };
    }

    private Slip slip(
            Imported arrival, String shelfPath, List<Double> neighbours, Optional<Double> factor, PartsMode mode) {
        Slip slip = Intake.suggested(arrival, shelfPath, neighbours)
                .withTags(tags)
                .withCredit(licence, credit)
                .withParts(mode)
                .withAllowMissing(allowMissing);
        if (up.isPresent()) {
            slip = slip.withUp(up.get());
            slip = slip.withFactor(
                    Intake.candidates(arrival, up.get(), neighbours).getFirst().factor());
        }
        if (factor.isPresent()) {
            slip = slip.withFactor(factor.get());
        }
        return name.isPresent() ? slip.withName(name.get()) : slip;
    }

    private static SlipLine slipLine(Imported arrival, Slip slip, List<Double> neighbours) {
        List<Candidate> candidates = Intake.candidates(arrival, slip.up(), neighbours).stream()
                .map(c -> new Candidate(c.factor(), c.unit(), c.size(), c.likely(), c.reason()))
                .toList();
        return new SlipLine(
                arrival.file().toString(),
                arrival.unit().orElse(0.0),
                slip.factor(),
                slip.up().name(),
                candidates);
    }

    private static Shelved line(Path file, Published published) {
        Asset asset = published.asset();
        return new Shelved(
                file.toString(),
                asset.card().id(),
                asset.card().name(),
                asset.shelf(),
                published.version(),
                asset.entryLayer(published.version()).toString());
    }

    @Override
    void tell(Outcome outcome) {
        switch (outcome) {
            case Received(List<Shelved> shelved, List<Refused> refused) ->
                shelved.forEach(line -> output.line(
                        "%s stands on %s as %s %s", line.file(), place(line.shelf()), line.name(), line.version()));
            case Slips(List<SlipLine> slips, List<Refused> refused) -> slips.forEach(this::tell);
        }
    }

    private void tell(SlipLine slip) {
        output.line("%s", slip.file());
        for (Candidate c : slip.candidates()) {
            output.line(
                    "  %s as %-14s %8.3f × %8.3f × %8.3f m  %s",
                    c.likely() ? "→" : " ", c.unit(), c.size()[0], c.size()[1], c.size()[2], c.reason());
        }
    }

    private static String place(String path) {
        return path.isEmpty() ? "the library's first shelf" : path;
    }
}
