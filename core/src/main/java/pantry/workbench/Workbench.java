package pantry.workbench;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;
import pantry.base.AtomicFiles;
import pantry.base.FileGate;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.Scratch;
import pantry.catalogue.Catalogue;
import pantry.compare.Comparer;
import pantry.compare.Comparison;
import pantry.exchange.FileReaders;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.worker.ForeignReader;
import pantry.exchange.worker.WorkerLimits;
import pantry.intake.Archives;
import pantry.intake.Intake;
import pantry.intake.Presets;
import pantry.intake.Round;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.prep.inspect.KeptInspections;
import pantry.prep.inspect.RuleSet;
import pantry.prep.inspect.ShelfInspection;
import pantry.render.RenderCache;
import pantry.scene.ImportSource;
import pantry.scene.Prefab;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.usd.compose.LayerCache;
import pantry.workpiece.Workpiece;

/**
 * What a running Pantry works with: readers, caches and the index, each made when first needed. Safe for use by several
 * threads; {@link #close} ends the worker process.
 */
public final class Workbench implements AutoCloseable {
    private final String who;
    private final Clock clock;
    private final Path index;
    private final WorkerLimits limits;
    private final RenderCache renderCache = new RenderCache();
    private final MeshCache meshCache = new MeshCache();
    private final LayerCache layerCache = new LayerCache();
    private final Map<Path, Path> unpacked = new HashMap<>();
    private final Set<Path> given = ConcurrentHashMap.newKeySet();
    private @Nullable Path scratch;
    private @Nullable ForeignReader foreign;
    private @Nullable Catalogue catalogue;
    private @Nullable Personal personal;

    /**
     * @param who the name that journals give for changes
     * @param index the catalogue's file
     */
    public Workbench(String who, Clock clock, Path index, WorkerLimits limits) {
        this.who = who;
        this.clock = clock;
        this.index = index;
        this.limits = limits;
    }

    /** For the user of this machine, with the usual index and limits. */
    public static Workbench usual() {
        return new Workbench(
                System.getProperty("user.name", "unknown"),
                Clock.systemUTC(),
                Catalogue.usualFile(),
                WorkerLimits.ofEnvironment(System.getenv()));
    }

    /** The name that journals give for changes. */
    public String who() {
        return who;
    }

    public RenderCache renderCache() {
        return renderCache;
    }

    private synchronized ForeignReader foreign() {
        ForeignReader reader = foreign;
        if (reader == null) {
            reader = new ForeignReader(limits, scratch("worker"));
            foreign = reader;
        }
        return reader;
    }

    /** A new folder for what does not outlive this. */
    private synchronized Path scratch(String name) {
        try {
            Path folder = scratch;
            if (folder == null) {
                folder = Scratch.folder("workbench");
                scratch = folder;
            }
            return Files.createTempDirectory(folder, name + "-");
        } catch (IOException e) {
            throw new UncheckedIOException("no folder for scratch files can be made", e);
        }
    }

    /**
     * The files to be received in an archive, which is unpacked, once, into a folder that lasts as long as this.
     *
     * @throws pantry.intake.IntakeException where the archive cannot be read or is refused
     */
    public List<Path> unpacked(Path file, Progress progress) {
        Path archive = file.toAbsolutePath().normalize();
        Path known;
        synchronized (unpacked) {
            known = unpacked.get(archive);
        }
        if (known == null) {
            known = scratch("unpacked").resolve(Names.stem(archive.getFileName().toString()));
            new Archives(Archives.Limits.USUAL).unpack(archive, known, progress);
            synchronized (unpacked) {
                unpacked.put(archive, known);
            }
        }
        return Intake.files(List.of(known)).stream()
                .filter(inside -> !Archives.isArchive(inside))
                .toList();
    }

    private static final String PROJECT = "pantry-project.json";

    /** Between an archive and what stands in it, where both are told as one path. */
    private static final String INSIDE = "!/";

    /** Where a file comes from, told so that it means something later: of an unpacked one, its archive and its place there. */
    public Path origin(Path file) {
        synchronized (unpacked) {
            for (Map.Entry<Path, Path> each : unpacked.entrySet()) {
                if (file.startsWith(each.getValue())) {
                    String inside = each.getValue().relativize(file).toString().replace('\\', '/');
                    return Path.of(each.getKey() + INSIDE + inside);
                }
            }
        }
        return file;
    }

    /** A failure that names the archive a file came from, where it names an unpacked one. */
    public PantryException told(PantryException problem) {
        Optional<String> file = problem.file()
                .map(name -> origin(Path.of(name)).toString())
                .filter(name -> !name.equals(problem.file().get()));
        return file.isEmpty()
                ? problem
                : new PantryException(
                        file.get(), problem.place().orElse(null), String.valueOf(problem.getMessage()), problem);
    }

    /**
     * The file that an origin tells of; its archive is unpacked where that is needed.
     *
     * @throws pantry.intake.IntakeException where the archive cannot be read or is refused
     */
    public Path located(Path origin, Progress progress) {
        String told = origin.toString();
        int inside = told.lastIndexOf(INSIDE);
        if (inside < 0 || !Files.isRegularFile(Path.of(told.substring(0, inside)))) {
            return origin;
        }
        Path archive = Path.of(told.substring(0, inside));
        unpacked(archive, progress);
        return unpackedFolder(archive).orElseThrow().resolve(told.substring(inside + INSIDE.length()));
    }

    /** The folder that an archive was unpacked into. */
    public Optional<Path> unpackedFolder(Path archive) {
        synchronized (unpacked) {
            return Optional.ofNullable(unpacked.get(archive.toAbsolutePath().normalize()));
        }
    }

    /** The user's round of receiving, written down beside the index; one that was interrupted is taken up. */
    public Round round() {
        return Round.open(index.resolveSibling("receiving.jsonl"));
    }

    /** The user's own kept choices, beside the index. */
    public Presets presets() {
        return new Presets(index.resolveSibling("presets"));
    }

    public Intake intake() {
        return new Intake(readers(), renderCache);
    }

    public FileReaders readers() {
        return new FileReaders(foreign(), this::gate);
    }

    /**
     * Lets files that are read from now on name others in a folder and all below it. Their own folders, their project
     * and all libraries may be named anyhow.
     */
    public void allow(Path folder) {
        given.add(folder.toAbsolutePath().normalize());
    }

    /**
     * What a file may name: what stands below its own folder, its project, folders that the user gave, and in libraries,
     * which are there to be named.
     */
    public FileGate gate(Path file) {
        Path own = file.toAbsolutePath().normalize();
        List<Path> folders = new ArrayList<>(given);
        projectOf(own).ifPresent(folders::add);
        synchronized (unpacked) {
            unpacked.values().stream().filter(own::startsWith).forEach(folders::add);
        }
        return FileGate.beside(own).and(folders).orWhere(Library::isWithin);
    }

    /** The nearest folder above a file that is marked as a project. */
    private static Optional<Path> projectOf(Path file) {
        for (Path at = file.getParent(); at != null; at = at.getParent()) {
            if (Files.isRegularFile(at.resolve(PROJECT))) {
                return Optional.of(at);
            }
        }
        return Optional.empty();
    }

    /** The layers that a file may be made of. */
    public LayerCache layers(Path file) {
        return layerCache.through(gate(file));
    }

    /** The index: the user's own, or the team's where {@code PANTRY_INDEX} names a database. */
    public synchronized Catalogue catalogue() {
        Catalogue open = catalogue;
        if (open == null) {
            String team = System.getenv("PANTRY_INDEX");
            open = team == null || team.isBlank() ? Catalogue.open(index) : Catalogue.open(team);
            catalogue = open;
        }
        return open;
    }

    private Path settingsFile() {
        return index.resolveSibling("settings.json");
    }

    /** What the user has set. */
    public Settings settings() {
        return Settings.read(settingsFile());
    }

    public void keep(Settings settings) {
        settings.write(settingsFile());
    }

    /** What the user keeps for themselves. */
    public synchronized Personal personal() {
        Personal known = personal;
        if (known == null) {
            known = new Personal(index.resolveSibling("personal.json"));
            personal = known;
        }
        return known;
    }

    public FileExport handOut() {
        return new FileExport(this);
    }

    /** Unpacks a version of an asset for editing in another program; see {@link WorkingCopy}. */
    public WorkingCopy unpack(
            Library library, Asset asset, String version, String ending, Path folder, Progress progress) {
        return WorkingCopy.unpack(handOut(), library, asset, version, ending, folder, progress);
    }

    /** How a version of an asset looks. */
    public AssetPreview look(Asset asset, String version) {
        return new AssetPreview(asset, version, layers(asset.entryLayer(version)), meshCache);
    }

    /** What differs between two versions of an asset. */
    public Comparison compare(Asset asset, String before, String after, Progress progress) {
        return Comparer.compare(state(asset, before), state(asset, after), progress);
    }

    /** A version as it is compared. */
    public Comparer.State state(Asset asset, String version) {
        return new Comparer.State(
                readers().read(asset.entryLayer(version), Progress.NONE).model(),
                asset.facts(version).variants());
    }

    public Library openLibrary(Path folder) {
        return Library.open(folder, who, clock);
    }

    public Library createLibrary(Path folder, String name) {
        return Library.create(folder, name, who, clock);
    }

    public Scene openScene(Path file) {
        return Scene.open(file, layers(file), meshCache);
    }

    public Scene createScene(Path file) {
        return Scene.create(file, layers(file), meshCache);
    }

    /** Chosen objects of a scene, to be made an asset. */
    public Prefab prefab(Scene scene, List<SdfPath> chosen, Library library) {
        return new Prefab(scene, layers(scene.file()), chosen, library, renderCache);
    }

    /** A working copy of a file, to be inspected and cleaned. */
    public Workpiece workpiece(Path file, Progress progress) {
        return Workpiece.of(file, prepSources(), progress);
    }

    /** A working copy of a version of an asset. */
    public Workpiece workpiece(Library library, Asset asset, String version) {
        return Workpiece.of(new Workpiece.Shelved(library, asset, version), prepSources());
    }

    /** A file that things are brought into scenes from. */
    public ImportSource source(Path file, ImportSource.Links links, Progress progress) {
        return ImportSource.of(file, links, prepSources(), progress);
    }

    /** What workpieces are read with. */
    public Workpiece.Sources prepSources() {
        return new Workpiece.Sources(readers(), layerCache, meshCache);
    }

    /** Inspections of assets, those that were made before included. */
    public ShelfInspection shelfInspection(Library library, RuleSet rules) {
        Path folder = index.toAbsolutePath().resolveSibling("inspections");
        return new ShelfInspection(library, rules, new KeptInspections(folder), prepSources());
    }

    @Override
    public synchronized void close() {
        if (foreign != null) {
            foreign.close();
            foreign = null;
        }
        if (catalogue != null) {
            catalogue.close();
            catalogue = null;
        }
        Path folder = scratch;
        if (folder != null) {
            scratch = null;
            try {
                AtomicFiles.deleteTree(folder);
            } catch (IOException e) {
                throw new UncheckedIOException("scratch files stay in " + folder, e);
            }
        }
    }
}
