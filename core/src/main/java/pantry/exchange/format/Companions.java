package pantry.exchange.format;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import pantry.base.FileGate;
import pantry.base.ImageSignature;
import pantry.base.Json;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.model.Texture;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.file.Assets;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;

/** The files that stand beside a file and belong to it. */
public final class Companions {
    private static final int OBJ_LINES_SEARCHED = 2000;
    private static final long LARGEST_LAYER_SEARCHED = 1 << 20;

    private Companions() {}

    /** Material libraries of an OBJ, buffers of a glTF, layers and images of a layer, where they exist. */
    public static List<Path> of(Path file, FileGate gate) {
        return switch (Names.ending(file.getFileName().toString())) {
            case "obj" -> materialLibraries(file, gate);
            case "gltf" -> buffers(file, gate);
            case "usda", "usdc", "usd" -> layers(file, gate);
            default -> List.of();
        };
    }

    /** Not looked for in layers that are too large to be read just for that, nor in such as cannot be read. */
    private static List<Path> layers(Path file, FileGate gate) {
        try {
            if (Files.size(file) > LARGEST_LAYER_SEARCHED) {
                return List.of();
            }
            Layer layer = LayerFiles.read(file.toAbsolutePath().normalize());
            List<Path> found = new ArrayList<>();
            for (String asset : LayerAssets.of(layer)) {
                Assets.onDisk(AssetPaths.PLAIN.resolve(layer, asset), asset, layer, gate)
                        .ifPresent(found::add);
            }
            return found;
        } catch (IOException | PantryException e) {
            return List.of();
        }
    }

    private static List<Path> materialLibraries(Path file, FileGate gate) {
        List<Path> found = new ArrayList<>();
        try (Stream<String> lines = Files.lines(file, StandardCharsets.ISO_8859_1)) {
            lines.limit(OBJ_LINES_SEARCHED)
                    .filter(line -> line.startsWith("mtllib "))
                    .forEach(line -> find(file, line.substring(7).strip(), gate).ifPresent(found::add));
        } catch (IOException e) {
            return List.of();
        }
        return found;
    }

    /** Version 2 of the format lists its buffers, version 1 names them. */
    private static List<Path> buffers(Path file, FileGate gate) {
        Object buffers = Json.read(file, Map.class).get("buffers");
        Collection<?> each =
                switch (buffers) {
                    case Map<?, ?> named -> named.values();
                    case List<?> listed -> listed;
                    case null, default -> List.of();
                };
        List<Path> found = new ArrayList<>();
        for (Object buffer : each) {
            if (buffer instanceof Map<?, ?> fields
                    && fields.get("uri") instanceof String uri
                    && !uri.startsWith("data:")) {
                find(file, uri, gate).ifPresent(found::add);
            }
        }
        return found;
    }

    /** An image that a file names, under the name that it has there; missing where it is not found or may not be read. */
    public static Texture texture(Path file, String name, Texture.Sampling sampling, FileGate gate) {
        return Texture.of(name, sampling, written -> find(file, written, gate)
                .filter(found -> ImageSignature.isImage(found)
                        || gate.refuse(written, file, found, FileGate.Reason.NOT_IMAGE)
                                .isPresent()));
    }

    /**
     * The file that another names: by its own path, or by its base name beside it, in whatever case.
     *
     * @param name as written, with either kind of slash, perhaps percent-encoded
     * @return empty where there is none, and where the gate refuses it
     */
    public static Optional<Path> find(Path file, String name, FileGate gate) {
        Path folder = Optional.ofNullable(file.toAbsolutePath().getParent()).orElse(Path.of("/"));
        try {
            String plain = name.replace('\\', '/');
            String base = plain.substring(plain.lastIndexOf('/') + 1);
            if (!FileGate.isRemote(name)) {
                for (String candidate : List.of(plain, decoded(plain))) {
                    Optional<Path> direct = gate.admit(folder.resolve(candidate), name, file);
                    if (direct.isPresent()) {
                        return direct;
                    }
                }
            }
            Optional<Path> beside = byName(folder, base).flatMap(found -> gate.admit(found, found.toString(), file));
            if (beside.isPresent()) {
                // Exporters write the paths of the machine they ran on: what stands in for them is not worth a word.
                gate.forgive(name);
            } else if (FileGate.isRemote(name)) {
                gate.refuse(name, file, folder, FileGate.Reason.REMOTE);
            }
            return beside;
        } catch (InvalidPathException e) {
            return Optional.empty();
        }
    }

    private static String decoded(String name) {
        try {
            return java.net.URLDecoder.decode(name.replace("+", "%2B"), StandardCharsets.UTF_8);
        } catch (IllegalArgumentException e) {
            return name;
        }
    }

    private static Optional<Path> byName(Path folder, String base) {
        try (Stream<Path> files = Files.walk(folder, 2)) {
            return files.filter(path -> path.getFileName() != null
                            && path.getFileName().toString().equalsIgnoreCase(base)
                            && Files.isRegularFile(path))
                    .min(java.util.Comparator.comparingInt(Path::getNameCount).thenComparing(Path::toString));
        } catch (IOException | java.io.UncheckedIOException e) {
            return Optional.empty();
        }
    }
}
