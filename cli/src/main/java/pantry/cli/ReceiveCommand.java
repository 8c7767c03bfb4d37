package pantry.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import pantry.base.Failures;
import pantry.base.PantryException;
import pantry.catalogue.Alike;
import pantry.exchange.format.FileKind;
import pantry.exchange.format.Imported;
import pantry.intake.ArrivalSummary;
import pantry.intake.Carried;
import pantry.intake.Intake;
import pantry.intake.Listing;
import pantry.intake.LostTextures;
import pantry.intake.Neighbours;
import pantry.intake.Presets;
import pantry.intake.Report;
import pantry.intake.Round;
import pantry.intake.ScaleCandidate;
import pantry.intake.Slip;
import pantry.intake.SlipPreset;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.library.Published;
import pantry.library.Shelf;
import pantry.model.Axis;
import pantry.model.ShapeDescriptor;
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
            double error) {}

    private record Refused(String file, String reason) {}

    /** What became of the files. */
    sealed interface Outcome {
        List<Refused> refused();
    }

    record Received(List<Shelved> shelved, List<Refused> refused) implements Outcome {}

    private record Candidate(double factor, String unit, double[] size, boolean likely, String reason) {}

    private record Carries(String kind, List<String> names, boolean kept) {}

    private record LooksLike(String id, String name, String shelf, double likeness) {}

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
            List<Carries> carries,
            List<LooksLike> looksLike,
            List<String> warnings) {}

    record Slips(List<SlipLine> slips, List<Refused> refused) implements Outcome {}

    /** What became of one file; exactly one is there. */
    private record Each(Optional<Shelved> shelved, Optional<SlipLine> slip, Optional<Refused> refused) {}

    ReceiveCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Outcome work() {
        check();
        Library target = workbench.openLibrary(library);
        if (dryRun) {
            // What looks alike is asked of the index.
            workbench.catalogue().refresh(target, output.progress());
        } else {
            keepChoices(target);
        }
        files.stream().filter(Files::isDirectory).forEach(workbench::allow);
        List<Each> results = new ArrayList<>();
        List<Path> found = gathered(results);
        if (found.isEmpty() && results.isEmpty()) {
            throw new PantryException(files.getFirst(), "holds no file of a known kind");
        }
        if (name.isPresent() && found.size() > 1) {
            throw wrongCall("--name is for a single file; there are " + found.size() + ".");
        }
        if (versionOf.isPresent() && found.size() > 1) {
            throw wrongCall("--version-of is for a single file; there are " + found.size() + ".");
        }
        Optional<Round> round = goOn.filter(file -> !dryRun).map(Round::open);
        List<Path> left = round.map(r -> remaining(r, found)).orElse(found);
        results.addAll(each(left, target, round));
        return outcome(results, target);
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
            round.arrived(found.stream().map(workbench::origin).toList());
            return found;
        }
        return round.waiting().keySet().stream()
                .map(origin -> workbench.located(origin, output.progress()))
                .toList();
    }

    /** Receives files on all cores; the results in the files' order. */
    private List<Each> each(List<Path> found, Library target, Optional<Round> round) {
        Intake intake = workbench.intake();
        Map<String, Neighbours> neighbours = new ConcurrentHashMap<>();
        Optional<LostTextures> lost =
                textures.isEmpty() ? Optional.empty() : Optional.of(LostTextures.in(textures, output.progress()));
        // More than there are cores: sealing waits for the disk.
        int workers = Math.min(found.size(), 2 * Runtime.getRuntime().availableProcessors());
        List<Each> results = new ArrayList<>();
        try (ExecutorService pool = Executors.newFixedThreadPool(Math.max(1, workers))) {
            List<Future<Each>> futures = found.stream()
                    .map(file -> pool.submit(() -> {
                        Each result = one(file, intake, target, neighbours, lost);
                        round.ifPresent(r -> r.over(workbench.origin(file)));
                        return result;
                    }))
                    .toList();
            for (Future<Each> future : futures) {
                results.add(future.get());
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new java.util.concurrent.CancellationException("interrupted");
        } catch (ExecutionException e) {
            throw e.getCause() instanceof RuntimeException known ? known : new IllegalStateException(e.getCause());
        }
        return results;
    }

    private Each one(
            Path file, Intake intake, Library target, Map<String, Neighbours> neighbours, Optional<LostTextures> lost) {
        try {
            Imported read = intake.read(file, output.progress());
            Imported arrival = lost.map(l -> l.on(read)).orElse(read);
            ArrivalSummary outline = ArrivalSummary.of(arrival);
            Slip slip = slip(outline, target, neighbours);
            if (dryRun) {
                SlipLine line = slipLine(arrival, outline, slip, target, neighbours(slip.shelf(), target, neighbours));
                return new Each(Optional.empty(), Optional.of(line), Optional.empty());
            }
            double error = slip.making().share() == 1
                    ? 0
                    : Intake.reduced(arrival.model(), slip.making().share()).error() * slip.factor();
            Intake.lostStructure(outline, slip)
                    .ifPresent(told -> output.say("pantry receive: " + workbench.origin(file) + ": " + told));
            Published published = intake.shelve(arrival, slip, target, output.progress());
            return new Each(
                    Optional.of(line(workbench.origin(file), slip, published, error)),
                    Optional.empty(),
                    Optional.empty());
        } catch (RuntimeException | Error e) {
            return new Each(Optional.empty(), Optional.empty(), Optional.of(refused(file, Failures.of(file, e))));
        }
    }

    private Outcome outcome(List<Each> results, Library target) {
        List<Refused> refused =
                results.stream().flatMap(each -> each.refused().stream()).toList();
        if (dryRun) {
            return new Slips(
                    results.stream().flatMap(each -> each.slip().stream()).toList(), refused);
        }
        Received received = new Received(
                results.stream().flatMap(each -> each.shelved().stream()).toList(), refused);
        report.ifPresent(file -> report(received, target).write(file));
        return received;
    }

    private static Report report(Received received, Library target) {
        List<Report.Line> lines = new ArrayList<>();
        received.shelved()
                .forEach(s -> lines.add(Report.Line.shelved(
                        Path.of(s.file()),
                        s.name(),
                        s.shelf(),
                        s.version(),
                        s.scale(),
                        s.triangles(),
                        s.error() > 0 ? String.format(Locale.ROOT, "reduced, error %.3g m", s.error()) : "")));
        received.refused().forEach(r -> lines.add(Report.Line.refused(Path.of(r.file()), r.reason())));
        return new Report(target.info().name(), Instant.now(), lines);
    }

    /** The files to take in; archives that cannot be unpacked are among the refused. */
    private List<Path> gathered(List<Each> results) {
        List<Path> found = new ArrayList<>();
        Listing listing = Listing.of(files, output.progress());
        listing.passedOver().forEach(left -> output.say("pantry receive: " + left.path() + ": " + left.why()));
        for (Listing.Entry entry : listing.entries()) {
            try {
                found.addAll(
                        entry.kind() == FileKind.ARCHIVE
                                ? workbench.unpacked(entry.file(), output.progress())
                                : List.of(entry.file()));
            } catch (PantryException e) {
                results.add(new Each(Optional.empty(), Optional.empty(), Optional.of(refused(entry.file(), e))));
            }
        }
        return found;
    }

    private Refused refused(Path file, PantryException e) {
        String line = workbench.told(e).line();
        output.say("pantry receive: " + line);
        return new Refused(workbench.origin(file).toString(), line);
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
        if (arrival.holds() == Imported.Holds.MODEL) {
            for (Alike each : workbench
                    .catalogue()
                    .finder(List.of(target))
                    .alike(ShapeDescriptor.of(arrival.model()), ALIKE, MOST_ALIKE)) {
                alike.add(new LooksLike(
                        each.item().id(), each.item().name(), each.item().shelf(), each.likeness()));
            }
        }
        List<String> warnings = new ArrayList<>();
        scales.stream()
                .filter(c -> Math.abs(c.factor() - slip.factor()) < slip.factor() * 1e-6 && c.unusual(neighbours))
                .findFirst()
                .ifPresent(c -> warnings.add(
                        String.format(Locale.ROOT, "%.4g m tall is out of the ordinary: %s", c.size()[1], c.reason())));
        Intake.lostStructure(outline, slip).ifPresent(warnings::add);
        if (outline.isFarOff()) {
            warnings.add("stands far off its origin; its pivot is set to the middle of its base");
        }
        return new SlipLine(
                workbench.origin(arrival.file()).toString(),
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
                carries,
                alike,
                warnings);
    }

    private static Shelved line(Path file, Slip slip, Published published, double error) {
        Asset asset = published.asset();
        return new Shelved(
                file.toString(),
                asset.card().id(),
                asset.card().name(),
                asset.shelf(),
                published.version(),
                asset.entryLayer(published.version()).toString(),
                slip.factor(),
                asset.facts(published.version()).triangles(),
                error);
    }

    @Override
    void tell(Outcome outcome) {
        switch (outcome) {
            case Received(List<Shelved> shelved, List<Refused> refused) -> shelved.forEach(this::tell);
            case Slips(List<SlipLine> slips, List<Refused> refused) -> slips.forEach(this::tell);
        }
    }

    private void tell(Shelved line) {
        String error = line.error() > 0 ? String.format(Locale.ROOT, ", reduced, error %.3g m", line.error()) : "";
        output.line("%s stands on %s as %s %s%s", line.file(), place(line.shelf()), line.name(), line.version(), error);
    }

    private void tell(SlipLine slip) {
        output.line("%s", slip.file());
        for (Candidate c : slip.candidates()) {
            output.line(
                    "  %s as %-14s %8.3f × %8.3f × %8.3f m  %s",
                    c.likely() ? "→" : " ", c.unit(), c.size()[0], c.size()[1], c.size()[2], c.reason());
        }
        slip.missing().forEach(texture -> output.line("  missing  %s", texture));
        for (Carries carries : slip.carries()) {
            output.line(
                    "  carries  %s: %s%s",
                    carries.kind(), String.join(", ", carries.names()), carries.kept() ? "" : " (left out)");
        }
        for (LooksLike alike : slip.looksLike()) {
            output.line("  looks like %s on %s, %.0f%%", alike.name(), place(alike.shelf()), 100 * alike.likeness());
        }
        slip.warnings().forEach(warning -> output.line("  !  %s", warning));
    }

    private static String place(String path) {
        return path.isEmpty() ? "the library's first shelf" : path;
    }
}
