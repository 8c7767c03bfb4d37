package pantry.exchange;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import pantry.base.Failures;
import pantry.base.FileGate;
import pantry.base.FileStamp;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.exchange.format.ExchangeException;
import pantry.exchange.format.FileKind;
import pantry.exchange.format.FileSeries;
import pantry.exchange.format.Imported;
import pantry.exchange.format.Samples;
import pantry.exchange.format.SkyImages;
import pantry.exchange.format.TextureSet;
import pantry.exchange.gltf.GltfReader;
import pantry.exchange.materialx.MaterialXReader;
import pantry.exchange.obj.ObjReader;
import pantry.exchange.ply.PlyReader;
import pantry.exchange.stl.StlReader;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdCustomValues;
import pantry.exchange.usd.UsdModelReader;
import pantry.exchange.usd.UsdSkelReader;
import pantry.exchange.worker.ForeignReader;
import pantry.model.Axis;
import pantry.model.Fixture;
import pantry.model.Model;
import pantry.model.UdimTiles;
import pantry.motion.Skeleton;
import pantry.usd.Layer;
import pantry.usd.compose.Budget;
import pantry.usd.compose.CompositionProblem;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;

/** Reads any file that Pantry knows: USD, glTF, OBJ, PLY, STL and MaterialX by itself, the rest through the worker. */
public final class FileReaders {
    /** Ten thousand times the way to the sun in millimetres: beyond, numbers are damaged. */
    private static final double MOST_UNITS = 1e18;

    private final ForeignReader foreign;
    private final Function<Path, FileGate> gates;
    private final MeshCache meshes = new MeshCache();
    private final Budget.Limits limits = Budget.Limits.ofEnvironment(System.getenv());

    /** Reads files that may name others below their own folders only. */
    public FileReaders(ForeignReader foreign) {
        this(foreign, FileGate::beside);
    }

    /** @param gates which other files each file that is read may name */
    public FileReaders(ForeignReader foreign, Function<Path, FileGate> gates) {
        this.foreign = foreign;
        this.gates = gates;
    }

    /** A new gate to the other files that a file may name. */
    public FileGate gate(Path file) {
        return gates.apply(file);
    }

    /**
     * Reads a file.
     *
     * @throws pantry.base.PantryException naming the file and saying what is wrong: missing, empty, of no known kind,
     *     damaged, without any surface, or changed while it was read
     */
    public Imported read(Path file, Progress progress) {
        return read(file, false, progress);
    }

    /** As above, but of a file for itself, whatever it makes together with those beside it. */
    public Imported readAlone(Path file, Progress progress) {
        return read(file, true, progress);
    }

    private Imported read(Path file, boolean alone, Progress progress) {
        try {
            if (!Files.exists(file)) {
                throw new ExchangeException(file, "there is no such file");
            }
            if (!Files.isRegularFile(file)) {
                throw new ExchangeException(file, "is not a file");
            }
            if (Files.size(file) == 0) {
                throw new ExchangeException(file, "is empty (0 bytes)");
            }
            FileStamp before = FileStamp.of(file);
            FileGate gate = gate(file);
            Imported imported = readKnown(file, alone, gate, progress);
            if (!FileStamp.of(file).equals(before)) {
                throw new ExchangeException(file, "was changed while it was read; try again when it is finished");
            }
            List<FileGate.Refusal> refusals = new ArrayList<>(gate.refusals());
            refusals.addAll(imported.refused());
            return imported.stamped(before, refusals);
        } catch (IOException | RuntimeException | StackOverflowError | OutOfMemoryError e) {
            // Whatever a file contrives costs only itself.
            throw Failures.of(file, e);
        }
    }

    /** What a file has that is no surface, by kind. */
    private static String holds(Model.Extras extras) {
        List<String> held = new ArrayList<>();
        int lights = (int) extras.fixtures().stream()
                .filter(Fixture.Light.class::isInstance)
                .count();
        int cameras = extras.fixtures().size() - lights;
        if (lights > 0) {
            held.add(Names.counted(lights, "light"));
        }
        if (cameras > 0) {
            held.add(Names.counted(cameras, "camera"));
        }
        extras.skeleton().ifPresent(bones -> {
            held.add(Names.counted(bones.joints().size(), "bone"));
            if (!bones.motions().isEmpty()) {
                held.add(Names.counted(bones.motions().size(), "motion"));
            }
        });
        held.addAll(extras.foreign());
        return String.join(", ", held);
    }

    private Imported readKnown(Path file, boolean alone, FileGate gate, Progress progress) throws IOException {
        Imported read =
                switch (FileKind.of(file)) {
                    case USD -> readUsd(file, gate, progress);
                    case GLTF -> {
                        Optional<Imported> own = GltfReader.read(file, gate, foreign.newFolder("images"), progress);
                        yield own.isPresent() ? own.get() : readForeign(file, gate, progress);
                    }
                    case OBJ -> ObjReader.read(file, gate, progress);
                    case PLY -> PlyReader.read(file, gate, progress);
                    case STL -> StlReader.read(file, progress);
                    case FOREIGN -> readForeign(file, gate, progress);
                    case MATERIALX -> MaterialXReader.read(file, gate, progress);
                    case IMAGE -> image(file, alone);
                    case ARCHIVE, COMPANION, OTHER ->
                        throw new ExchangeException(
                                file,
                                "is of a kind that cannot be read; known are " + String.join(", ", FileKind.endings()));
                };
        Imported imported = read.model().meshes().isEmpty() ? withBody(read) : read.with(UdimTiles.split(read.model()));
        if (imported.model().meshes().isEmpty()) {
            String holds = holds(imported.model().extras());
            throw new ExchangeException(
                    file, "has no surface in it" + (holds.isEmpty() ? " and nothing else" : "; it has " + holds));
        }
        if (imported.model().bounds().size().length() == 0) {
            throw new ExchangeException(file, "has no extent: all its points are in one place");
        }
        Box3 bounds = imported.model().bounds();
        double farthest = Math.max(bounds.min().length(), bounds.max().length());
        if (!(farthest <= MOST_UNITS)) {
            throw new ExchangeException(
                    file, "has points " + (float) farthest + " units off its origin, which no thing's are");
        }
        return alone ? imported : together(imported, progress);
    }

    /** What has no surface, with something that shows it, where it has motions, lights or cameras. */
    private static Imported withBody(Imported read) {
        Model.Extras extras = read.model().extras();
        int fixtures = extras.fixtures().size();
        // A camera or a light that moves is not what moves by itself.
        Optional<Skeleton> moving = extras.skeleton()
                .filter(bones -> !bones.motions().isEmpty() && bones.joints().size() > fixtures);
        if (moving.isPresent()) {
            return Samples.motions(read, moving.get());
        }
        return fixtures > 0 ? Samples.fixtures(read) : read;
    }

    /** With the files beside it that are the same thing, where there are any; what cannot be read of them is told. */
    private Imported together(Imported first, Progress progress) {
        if (first.holds() != Imported.Holds.MODEL || FileKind.of(first.file()) == FileKind.USD) {
            return first;
        }
        Optional<FileSeries> series = FileSeries.around(first.file());
        if (series.isEmpty()) {
            return first;
        }
        Map<String, Model> others = new LinkedHashMap<>();
        List<Path> files = new ArrayList<>();
        List<String> told = new ArrayList<>();
        List<FileGate.Refusal> refused = new ArrayList<>();
        series.get().members().forEach((variant, file) -> {
            if (variant.equals(series.get().own())) {
                return;
            }
            try {
                Imported read = readAlone(file, progress);
                others.put(variant, inUnitOf(first, read));
                files.add(file);
                files.addAll(read.companions());
                refused.addAll(read.refused());
            } catch (PantryException e) {
                told.add(series.get().set() + " " + variant + " (" + file.getFileName() + " " + e.reason() + ")");
            }
        });
        Imported complete = told.isEmpty()
                ? first
                : first.with(first.model().with(first.model().extras().telling(told)));
        return others.isEmpty()
                ? complete
                : complete.with(
                        new Imported.Series(
                                series.get().set(),
                                series.get().title(),
                                series.get().own(),
                                others),
                        files,
                        refused);
    }

    /** The model of another file in the unit and axes of the first. */
    private static Model inUnitOf(Imported first, Imported other) {
        double factor = other.unit().isPresent() && first.unit().isPresent()
                ? other.unit().get() / first.unit().get()
                : 1;
        Axis up = first.up().orElse(Axis.Y);
        if (factor == 1 && other.up().orElse(up) == up) {
            return other.model();
        }
        Matrix4 back = up.toMetres(1).inverse();
        return other.model().reframed(other.up().orElse(up).toMetres(factor).times(back));
    }

    private static Imported image(Path file, boolean alone) {
        if (alone) {
            return Samples.board(file);
        }
        return SkyImages.isSky(file)
                ? Samples.sky(file)
                : TextureSet.around(file).map(Samples::material).orElseGet(() -> Samples.board(file));
    }

    /** Assimp goes by the ending: a file whose name does not tell what it is is shown to it under one that does. */
    private Imported readForeign(Path file, FileGate gate, Progress progress) throws IOException {
        Imported read = readByWorker(file, gate, progress);
        return FileKind.isOfMotion(file) ? read.with(motionAlone(read.model(), file)) : read;
    }

    /** Without the surface that Assimp makes of bones; the motion, which such files do not name, is called like the file. */
    private static Model motionAlone(Model read, Path file) {
        String name = Names.stem(file.getFileName().toString());
        Optional<Skeleton> named = read.extras()
                .skeleton()
                .map(bones -> new Skeleton(
                        bones.joints(),
                        bones.motions().stream().map(each -> each.named(name)).toList()));
        return read.without(node -> true).with(read.extras().with(named));
    }

    private Imported readByWorker(Path file, FileGate gate, Progress progress) throws IOException {
        Optional<String> ending = FileKind.foreignEnding(file);
        if (ending.isEmpty()) {
            return foreign.read(file, gate, progress);
        }
        Path alias = foreign.newFolder("named").resolve(file.getFileName() + "." + ending.get());
        try {
            Files.createSymbolicLink(alias, file.toAbsolutePath());
        } catch (IOException | UnsupportedOperationException e) {
            Files.copy(file, alias);
        }
        Imported read;
        try {
            read = foreign.read(alias, gate, progress);
        } catch (ExchangeException e) {
            throw new ExchangeException(file, String.valueOf(e.getMessage()), e);
        }
        return new Imported(file, read.model(), read.unit(), read.up(), read.companions());
    }

    private static Imported.Holds holds(Stage stage, boolean surfaces, Model seen) {
        if (surfaces || seen.meshes().isEmpty()) {
            return Imported.Holds.MODEL;
        }
        if (seen.extras().skeleton().isPresent()) {
            return Imported.Holds.MOTIONS;
        }
        if (UsdModelReader.part(stage).isPresent()) {
            return Imported.Holds.PART;
        }
        return seen.extras().fixtures().isEmpty() ? Imported.Holds.MATERIALS : Imported.Holds.FIXTURES;
    }

    private Imported readUsd(Path file, FileGate gate, Progress progress) {
        LayerCache layers = new LayerCache(gate);
        Layer layer = layers.open(file.toAbsolutePath().normalize());
        Stage stage = Stage.open(layer, layers, Budget.forReading(limits, progress));
        UsdModelReader.Result result = UsdModelReader.read(stage, meshes);
        Optional<CompositionProblem> missing = stage.problems().stream()
                .filter(problem -> problem.kind().leavesOut())
                .findFirst();
        if (missing.isPresent()) {
            throw new ExchangeException(file, missing.get().message());
        }
        if (!result.problems().isEmpty()) {
            throw new ExchangeException(file, result.problems().getFirst());
        }
        List<Path> companions = new ArrayList<>(stage.usedLayers().stream()
                .flatMap(used -> used.file().stream())
                .filter(other -> !other.equals(layer.file().orElse(null)))
                .toList());
        // Of a file of materials, such as a sealed version of one, the balls that show them.
        Model seen = UsdModelReader.withSamples(stage, meshes, result.model());
        Model hung = UsdSkelReader.rigged(stage, seen);
        Model rigged = hung.with(hung.extras().carrying(UsdCustomValues.of(stage)));
        boolean surfaces = !result.model().meshes().isEmpty();
        return new Imported(
                file,
                rigged,
                Optional.of(UsdModelReader.metresPerUnit(layer)),
                Optional.of(UsdModelReader.upAxis(layer)),
                companions,
                holds(stage, surfaces, rigged));
    }
}
