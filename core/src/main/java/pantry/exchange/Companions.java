package pantry.exchange;

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
import pantry.base.Json;
import pantry.base.Names;
import pantry.base.PantryException;
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
    public static List<Path> of(Path file) {
        return switch (Names.ending(file.getFileName().toString())) {
            case "obj" -> materialLibraries(file);
            case "gltf" -> buffers(file);
            case "usda", "usdc", "usd" -> layers(file);
            default -> List.of();
        };
    }

    /** Not looked for in layers that are too large to be read just for that, nor in such as cannot be read. */
    private static List<Path> layers(Path file) {
        try {
            if (Files.size(file) > LARGEST_LAYER_SEARCHED) {
                return List.of();
            }
            Layer layer = LayerFiles.read(file.toAbsolutePath().normalize());
            List<Path> found = new ArrayList<>();
            for (String asset : LayerAssets.of(layer)) {
                Assets.onDisk(AssetPaths.PLAIN.resolve(layer, asset)).ifPresent(found::add);
            }
            return found;
        } catch (IOException | PantryException e) {
            return List.of();
        }
    }

    private static List<Path> materialLibraries(Path file) {
        List<Path> found = new ArrayList<>();
        try (Stream<String> lines = Files.lines(file, StandardCharsets.ISO_8859_1)) {
            lines.limit(OBJ_LINES_SEARCHED)
                    .filter(line -> line.startsWith("mtllib "))
                    .forEach(line -> find(file, line.substring(7).strip()).ifPresent(found::add));
        } catch (IOException e) {
            return List.of();
        }
        return found;
    }

    /** Version 2 of the format lists its buffers, version 1 names them. */
    private static List<Path> buffers(Path file) {
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
                find(file, uri).ifPresent(found::add);
            }
        }
        return found;
    }

    /**
     * The file that another names: by its own path, or by its base name beside it, in whatever case.
     *
     * @param name as written, with either kind of slash, perhaps percent-encoded
     */
    public static Optional<Path> find(Path file, String name) {
        Path folder = Optional.ofNullable(file.toAbsolutePath().getParent()).orElse(Path.of("/"));
        try {
            String plain = name.replace('\\', '/');
            for (String candidate : List.of(plain, decoded(plain))) {
                Path direct = folder.resolve(candidate).normalize();
                if (Files.isRegularFile(direct)) {
                    return Optional.of(direct);
                }
            }
            String base = plain.substring(plain.lastIndexOf('/') + 1);
            return byName(folder, base);
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
