package pantry.exchange;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.base.Progress;
import pantry.exchange.worker.ForeignReader;
import pantry.usd.Layer;
import pantry.usd.compose.CompositionProblem;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerFiles;

/** Reads any file that Pantry knows: USD by itself, the rest through the worker. */
public final class FileReaders {
    private static final Set<String> FOREIGN =
            Set.of("glb", "gltf", "obj", "ply", "stl", "dae", "fbx", "3ds", "x3d", "3mf", "off", "dxf", "amf");

    private final ForeignReader foreign;
    private final MeshCache meshes = new MeshCache();

    public FileReaders(ForeignReader foreign) {
        this.foreign = foreign;
    }

    /** Whether a file looks, by its ending, like one that can be read. */
    public static boolean knows(Path file) {
        String ending = Names.ending(file.getFileName().toString());
        return LayerFiles.ENDINGS.contains(ending) || FOREIGN.contains(ending);
    }

    /** The endings that are known, sorted. */
    public static List<String> endings() {
        return java.util.stream.Stream.concat(LayerFiles.ENDINGS.stream(), FOREIGN.stream())
                .sorted()
                .toList();
    }

    /**
     * Reads a file.
     *
     * @throws pantry.base.PantryException naming the file and saying what is wrong: missing, empty, of no known kind,
     *     damaged, or without any surface
     */
    public Imported read(Path file, Progress progress) {
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
        } catch (IOException e) {
            throw new ExchangeException(file, "cannot be read: " + IoProblems.describe(e), e);
        }
        String ending = Names.ending(file.getFileName().toString());
        Imported imported;
        if (LayerFiles.ENDINGS.contains(ending)) {
            imported = readUsd(file);
        } else if (FOREIGN.contains(ending)) {
            imported = foreign.read(file, progress);
        } else {
            throw new ExchangeException(
                    file, "is of a kind that cannot be read; known are " + String.join(", ", endings()));
        }
        if (imported.model().meshes().isEmpty()) {
            throw new ExchangeException(file, "has no geometry: there is no surface in it");
        }
        return imported;
    }

    private Imported readUsd(Path file) {
        LayerCache layers = new LayerCache();
        Layer layer = layers.open(file.toAbsolutePath().normalize());
        Stage stage = Stage.open(layer, layers);
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
        List<Path> companions = stage.usedLayers().stream()
                .flatMap(used -> used.file().stream())
                .filter(other -> !other.equals(layer.file().orElse(null)))
                .toList();
        return new Imported(
                file,
                result.model(),
                Optional.of(UsdModelReader.metresPerUnit(layer)),
                Optional.of(UsdModelReader.upAxis(layer)),
                companions);
    }
}
