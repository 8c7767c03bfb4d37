package pantry.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import java.util.stream.Collectors;
import pantry.base.Failures;
import pantry.base.PantryException;
import pantry.base.Parallel;
import pantry.catalogue.Alike;
import pantry.exchange.format.FileKind;
import pantry.exchange.format.Imported;
import pantry.intake.ArrivalSummary;
import pantry.intake.Carried;
import pantry.intake.Intake;
import pantry.intake.Listing;
import pantry.intake.LostTextures;
import pantry.intake.Neighbours;
import pantry.intake.Origin;
import pantry.intake.Presets;
import pantry.intake.Report;
import pantry.intake.Round;
import pantry.intake.ScaleCandidate;
import pantry.intake.Slip;
import pantry.intake.SlipPreset;
import pantry.intake.Survey;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.library.Shelf;
import pantry.model.Axis;
import pantry.model.ShapeDescriptor;
import pantry.usecase.KnownFiles;
import pantry.usecase.ReceiveFiles;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "receive",
        description = "Take files into a library: measured, converted to USD in metres, pictured and sealed.")
final class ReceiveCommand extends PantryCommand<ReceiveCommand.Outcome> {
    /** Likeness from which on an asset is named as looking like an arrival. */
    private static final double ALIKE = 0.9;

    private static final int MOST_ALIKE = 3;

    @Parameters(
            arity = "1..*",
            paramLabel = "FILE|DIR",
            description = "Files, folders of files, and archives (zip, tar, tar.gz).")
    private List<Path> files = new ArrayList<>();

    @Option(names = "--library", required = true, paramLabel = "L", description = "The library's folder.")
    private Path library = Path.of("");

    @Option(names = "--shelf", paramLabel = "S", description = "The shelf, such as Instruments/Masts.")
    private Optional<String> shelf = Optional.empty();

    @Option(names = "--name", paramLabel = "N", description = "The asset's name; the file's own otherwise.")
    private Optional<String> name = Optional.empty();

    @Mixin
    private SlipOptions options = new SlipOptions();

    @Option(
            names = "--textures",
            paramLabel = "DIR",
            description = "A folder in which missing textures are looked for; may be given again.")
    private List<Path> textures = new ArrayList<>();

    @Option(
            names = "--apart",
            description =
                    "Take each file by itself, also where their names make one material, or one thing in several states;"
                            + " and pictures of skies as images.")
    private boolean apart;

    @Option(
            names = "--version-of",
            paramLabel = "ASSET",
            description = "Publish as the next version of this asset (id or Shelf/Name).")
    private Optional<String> versionOf = Optional.empty();

    @Option(names = "--preset", paramLabel = "NAME", description = "Begin with the choices kept under this name.")
    private Optional<String> preset = Optional.empty();

    @Option(names = "--keep-preset", paramLabel = "NAME", description = "Keep these choices under a name.")
    private Optional<String> keepPreset = Optional.empty();

    @Option(names = "--usual", description = "Make these choices the usual ones of the shelf.")
    private boolean usual;

    @Option(names = "--report", paramLabel = "FILE", description = "Write what became of each file: .csv or .html.")
    private Optional<Path> report = Optional.empty();

    @Option(
            names = "--go-on",
            paramLabel = "FILE",
            description = "Write down in FILE how far it is; where FILE is there, go on from it.")
    private Optional<Path> goOn = Optional.empty();

    @Option(
            names = "--again",
            description =
                    "Take files in also where the library has an asset that was made of the very same file, with the same files beside it, or where the same is given twice.")
    private boolean again;

    @Option(names = "--dry-run", description = "Only tell each slip as it would be; change nothing.")
    private boolean dryRun;

    private record Shelved(
            String file,
            String id,
            String name,
            String shelf,
            String version,
            String path,
            double scale,
            long triangles,
            double error,
            Map<String, List<String>> variants) {
        static Shelved of(ReceiveFiles.Received received) {
            Asset asset = received.published().asset();
            String version = received.published().version();
            return new Shelved(
                    received.origin().toString(),
                    asset.card().id(),
                    asset.card().name(),
                    asset.shelf(),
                    version,
                    asset.entryLayer(version).toString(),
                    received.slip().factor(),
                    asset.facts(version).triangles(),
                    received.error(),
                    asset.facts(version).variants());
        }
    }

    private record Refused(String file, String reason) {}

    /** What became of the files. */
    sealed interface Outcome {
        List<Refused> refused();
    }

    private record LeftOut(String file, String why) {}

    record Received(List<Shelved> shelved, List<LeftOut> leftOut, List<Refused> refused) implements Outcome {}

    private record Candidate(double factor, String unit, double[] size, boolean likely, String reason) {}

    private record SeriesLine(String set, List<String> variants) {}

    private record Carries(String kind, List<String> names, boolean kept) {}

    private record LooksLike(String id, String name, String shelf, double likeness, boolean sameFile) {}

    private record SlipLine(
            String file,
            double unit,
            double scale,
            String up,
            List<Candidate> candidates,
            String name,
            String kind,
            String shelf,
            String parts,
            String pivot,
            List<String> missing,
            Optional<SeriesLine> series,
            List<Carries> carries,
            List<LooksLike> looksLike,
            List<String> warnings) {}

    record Slips(List<SlipLine> slips, List<Refused> refused) implements Outcome {}

    /** What a dry run tells of one file; exactly one is there. */
    private record Told(Optional<SlipLine> slip, Optional<Refused> refused) {}

    ReceiveCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Outcome work() {
        check();
        Library target = workbench.openLibrary(library);
        // What is known and what looks alike is asked of the index.
        workbench.catalogue().refresh(target, output.progress());
        if (!dryRun) {
            keepChoices(target);
        }
        files.stream().filter(Files::isDirectory).forEach(workbench.access()::allow);
        List<Refused> refused = new ArrayList<>();
        List<Path> found = gathered(refused);
        if (found.isEmpty() && refused.isEmpty()) {
            throw new PantryException(files.getFirst(), "holds no file of a known kind");
        }
        if (name.isPresent() && found.size() > 1) {
            throw wrongCall("--name is for a single file; there are " + found.size() + ".");
        }
        if (versionOf.isPresent() && found.size() > 1) {
            throw wrongCall("--version-of is for a single file; there are " + found.size() + ".");
        }
        return dryRun ? slips(found, refused, target) : received(found, refused, target);
    }

    /** Keeps what was told here, where that is wanted. */
    private void keepChoices(Library target) {
        Slip told = options.on(Slip.plain(
                "Any",
                AssetKind.MODEL,
                shelfPath(),
                options.factor().orElse(1.0),
                options.up().orElse(Axis.Y)));
        if (usual) {
            Presets.makeUsual(target, told);
        }
        SlipPreset all = SlipPreset.of(told);
        keepPreset.ifPresent(kept -> workbench
                .presets()
                .keep(
                        kept,
                        new SlipPreset(
                                shelf.isPresent() ? all.shelf() : null,
                                options.factor().orElse(null),
                                options.up().orElse(null),
                                all.parts(),
                                all.pivot(),
                                all.tags(),
                                all.licence(),
                                all.credit(),
                                all.making())));
    }

    /** What is wrong with the call is said before anything is read. */
    private void check() {
        options.check();
        report.filter(file -> !file.toString().matches("(?i).*\\.(csv|html?)")).ifPresent(file -> {
            throw wrongCall("--report must end in .csv or .html.");
        });
    }

    private List<Path> remaining(Round round, List<Path> found) {
        if (round.waiting().isEmpty()) {
            round.arrived(found.stream().map(workbench.archives()::origin).toList());
            return found;
        }
        return round.waiting().keySet().stream()
                .map(origin -> workbench.archives().locate(origin, output.progress()))
                .toList();
    }

    /** Reads a file, with the textures that were found for it. */
    private Function<Path, Imported> reader() {
        Optional<LostTextures> lost =
                textures.isEmpty() ? Optional.empty() : Optional.of(LostTextures.in(textures, output.progress()));
        return file -> {
            Imported read = apart
                    ? workbench.intake().readAlone(file, output.progress())
                    : workbench.intake().read(file, output.progress());
            return lost.map(found -> found.on(read)).orElse(read);
        };
    }

    private Received received(List<Path> found, List<Refused> refused, Library target) {
        Optional<Round> round = goOn.map(Round::open);
        List<Path> left = round.map(open -> remaining(open, found)).orElse(found);
        Map<String, Neighbours> neighbours = new ConcurrentHashMap<>();
        Function<Path, Imported> reader = reader();
        Function<Imported, Optional<String>> known = known(left, target);
        List<ReceiveFiles.Entry> entries = left.stream()
                .map(file -> new ReceiveFiles.Entry(
                        file, progress -> reader.apply(file), summary -> slip(summary, target, neighbours), known))
                .toList();
        List<ReceiveFiles.Outcome> outcomes = new ReceiveFiles(workbench.intake(), workbench.archives())
                .run(
                        entries,
                        target,
                        outcome -> {
                            tellOver(outcome);
                            round.ifPresent(open -> open.over(outcome.origin()));
                        },
                        output.progress());
        List<Report.Line> lines = new ArrayList<>();
        refused.forEach(each -> lines.add(Report.Line.refused(Origin.of(Path.of(each.file())), each.reason())));
        List<Shelved> shelved = new ArrayList<>();
        List<LeftOut> leftOut = new ArrayList<>();
        for (ReceiveFiles.Outcome outcome : outcomes) {
            lines.add(outcome.line());
            switch (outcome) {
                case ReceiveFiles.Received received -> shelved.add(Shelved.of(received));
                case ReceiveFiles.LeftOut each ->
                    leftOut.add(new LeftOut(each.origin().toString(), each.why()));
                case ReceiveFiles.Refused each -> refused.add(refused(each));
            }
        }
        report.ifPresent(
                file -> new Report(target.info().name(), workbench.clock().instant(), lines).write(file));
        return new Received(shelved, leftOut, refused);
    }

    /** Why what was read is left out; nothing is where it is said what becomes of a file. */
    private Function<Imported, Optional<String>> known(List<Path> batch, Library target) {
        if (again || versionOf.isPresent() || name.isPresent()) {
            return arrival -> Optional.empty();
        }
        return new KnownFiles(
                batch, workbench.catalogue().sameFiles(), workbench.catalogue().finder(List.of(target)))::place;
    }

    private void tellOver(ReceiveFiles.Outcome outcome) {
        switch (outcome) {
            case ReceiveFiles.Received received ->
                received.lost().ifPresent(lost -> output.say("pantry receive: " + received.origin() + ": " + lost));
            case ReceiveFiles.LeftOut each -> {}
            case ReceiveFiles.Refused each ->
                output.say("pantry receive: " + each.problem().line());
        }
    }

    private static Refused refused(ReceiveFiles.Refused refused) {
        return new Refused(refused.origin().toString(), refused.problem().line());
    }

    /** The slips as they would be; nothing is changed. */
    private Slips slips(List<Path> found, List<Refused> refused, Library target) {
        Map<String, Neighbours> neighbours = new ConcurrentHashMap<>();
        Function<Path, Imported> reader = reader();
        List<Told> told = Parallel.map(found, ReceiveFiles.AT_ONCE, file -> {
            try {
                Imported arrival = reader.apply(file);
                ArrivalSummary summary = ArrivalSummary.of(arrival);
                Slip slip = slip(summary, target, neighbours);
                return new Told(
                        Optional.of(
                                slipLine(arrival, summary, slip, target, neighbours(slip.shelf(), target, neighbours))),
                        Optional.empty());
            } catch (RuntimeException | Error e) {
                return new Told(Optional.empty(), Optional.of(refused(file, Failures.of(file, e))));
            }
        });
        told.forEach(each -> each.refused().ifPresent(refused::add));
        return new Slips(told.stream().flatMap(each -> each.slip().stream()).toList(), refused);
    }

    /** The files to take in; archives that cannot be unpacked are among the refused. */
    private List<Path> gathered(List<Refused> refused) {
        List<Path> found = new ArrayList<>();
        Listing listing = Listing.of(files, !apart, output.progress());
        listing.passedOver().forEach(left -> output.say("pantry receive: " + left.path() + ": " + left.why()));
        for (Listing.Entry entry : listing.entries()) {
            try {
                found.addAll(
                        entry.kind() == FileKind.ARCHIVE
                                ? workbench.archives().filesIn(entry.file(), output.progress())
                                : List.of(entry.file()));
            } catch (PantryException e) {
                refused.add(refused(entry.file(), e));
            }
        }
        return found;
    }

    private Refused refused(Path file, PantryException e) {
        String line = workbench.archives().told(e).line();
        output.say("pantry receive: " + line);
        return new Refused(workbench.archives().origin(file).toString(), line);
    }

    @Override
    boolean done(Outcome outcome) {
        return outcome.refused().isEmpty();
    }

    private String shelfPath() {
        return Shelf.path(shelf.orElse(""));
    }

    private static Neighbours neighbours(String shelf, Library target, Map<String, Neighbours> known) {
        return known.computeIfAbsent(shelf, s -> Neighbours.on(target, s));
    }

    /** Suggested, then as usual on the shelf, then as kept under a name, then as told here. */
    private Slip slip(ArrivalSummary outline, Library target, Map<String, Neighbours> known) {
        Optional<SlipPreset> kept = preset.map(workbench.presets()::get);
        String place =
                shelf.map(Shelf::path).or(() -> kept.map(SlipPreset::shelf)).orElse("");
        Neighbours neighbours = neighbours(place, target, known);
        Slip suggested = Intake.suggested(outline, place, neighbours);
        Slip usually = Presets.usualOf(target, place).map(p -> p.on(suggested)).orElse(suggested);
        Slip slip = kept.map(k -> k.on(usually)).orElse(usually);
        Optional<Axis> up = options.up();
        if (up.isPresent() && up.get() != slip.up()) {
            slip = slip.withUp(up.get());
            slip = slip.withFactor(
                    Intake.candidates(outline, up.get(), neighbours).getFirst().factor());
        }
        slip = options.on(slip.withShelf(place));
        slip = options.factor().map(slip::withFactor).orElse(slip);
        slip = slip.withVersionOf(
                versionOf.map(named -> target.find(named).card().id()));
        return name.map(slip::withName).orElse(slip);
    }

    private SlipLine slipLine(
            Imported arrival, ArrivalSummary outline, Slip slip, Library target, Neighbours neighbours) {
        List<ScaleCandidate> scales = Intake.candidates(outline, slip.up(), neighbours);
        List<Candidate> candidates = scales.stream()
                .map(c -> new Candidate(c.factor(), c.unit(), c.size(), c.likely(), c.reason()))
                .toList();
        List<Carries> carries = Carried.of(arrival.model(), slip.up()).stream()
                .map(c -> new Carries(
                        c.kind().word(), c.names(), slip.making().kept().contains(c.kind())))
                .toList();
        List<LooksLike> alike = new ArrayList<>();
        Optional<ShapeDescriptor> shape = Survey.of(arrival).shape();
        for (Alike each : workbench
                .catalogue()
                .sameFiles()
                .alike(arrival.file(), shape, workbench.catalogue().finder(List.of(target)), ALIKE, MOST_ALIKE)) {
            alike.add(new LooksLike(
                    each.item().id(), each.item().name(), each.item().shelf(), each.likeness(), each.sameFile()));
        }
        List<String> warnings = new ArrayList<>();
        scales.stream()
                .filter(c -> !outline.isShapeless())
                .filter(c -> Math.abs(c.factor() - slip.factor()) < slip.factor() * 1e-6 && c.unusual(neighbours))
                .findFirst()
                .ifPresent(c -> warnings.add(
                        String.format(Locale.ROOT, "%.4g m tall is out of the ordinary: %s", c.size()[1], c.reason())));
        Intake.lostStructure(outline, slip).ifPresent(warnings::add);
        if (outline.isFarOff()) {
            warnings.add("stands far off its origin; its pivot is set to the middle of its base");
        }
        return new SlipLine(
                workbench.archives().origin(arrival.file()).toString(),
                arrival.unit().orElse(0.0),
                slip.factor(),
                slip.up().name(),
                candidates,
                slip.name(),
                slip.kind().word(),
                slip.shelf(),
                slip.parts().word(),
                SlipOptions.word(slip.pivot()),
                Intake.missing(arrival),
                arrival.series().map(series -> new SeriesLine(series.set(), series.names())),
                carries,
                alike,
                warnings);
    }

    @Override
    void tell(Outcome outcome) {
        switch (outcome) {
            case Received(List<Shelved> shelved, List<LeftOut> leftOut, List<Refused> refused) -> {
                shelved.forEach(this::tell);
                leftOut.forEach(each ->
                        output.line("%s %s, and is left out; --again takes it in as well", each.file(), each.why()));
            }
            case Slips(List<SlipLine> slips, List<Refused> refused) -> slips.forEach(this::tell);
        }
    }

    private void tell(Shelved line) {
        String error = line.error() > 0 ? String.format(Locale.ROOT, ", reduced, error %.3g m", line.error()) : "";
        String variants = line.variants().entrySet().stream()
                .map(set -> "; " + set.getKey() + " " + String.join(", ", set.getValue()))
                .collect(Collectors.joining());
        output.line(
                "%s is shelved on %s as %s %s%s%s",
                line.file(), place(line.shelf()), line.name(), line.version(), error, variants);
    }

    private void tell(SlipLine slip) {
        output.line("%s", slip.file());
        for (Candidate c : slip.candidates()) {
            output.line(
                    "  %s as %-14s %8.3f × %8.3f × %8.3f m  %s",
                    c.likely() ? "→" : " ", c.unit(), c.size()[0], c.size()[1], c.size()[2], c.reason());
        }
        slip.missing().forEach(texture -> output.line("  missing  %s", texture));
        slip.series()
                .ifPresent(series -> output.line("  %s    %s", series.set(), String.join(", ", series.variants())));
        for (Carries carries : slip.carries()) {
            output.line(
                    "  carries  %s: %s%s",
                    carries.kind(), String.join(", ", carries.names()), carries.kept() ? "" : " (left out)");
        }
        for (LooksLike alike : slip.looksLike()) {
            if (alike.sameFile()) {
                output.line("  was shelved as %s on %s, from the same file", alike.name(), place(alike.shelf()));
            } else {
                output.line(
                        "  looks like %s on %s, %.0f%%", alike.name(), place(alike.shelf()), 100 * alike.likeness());
            }
        }
        slip.warnings().forEach(warning -> output.line("  !  %s", warning));
    }

    private static String place(String path) {
        return path.isEmpty() ? "the library's first shelf" : path;
    }
}
