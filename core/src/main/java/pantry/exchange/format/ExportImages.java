package pantry.exchange.format;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import pantry.base.CopiedFiles;
import pantry.base.ImageTiles;
import pantry.base.Scratch;
import pantry.model.Texture;
import pantry.usd.AssetPaths;

/**
 * The images of a file that is written: those that stand beside it or below are referred to where they are, others are
 * copied into {@code textures/} beside it. So the file can be moved with its folder, and names nothing of this machine.
 */
public final class ExportImages {
    private static final String FOLDER = "textures";

    private final Path folder;
    private final ExportNotes notes;
    private final Map<Path, String> paths = new HashMap<>();

    /** @param target the file that is written */
    public ExportImages(Path target, ExportNotes notes) {
        this.folder = Optional.ofNullable(target.toAbsolutePath().normalize().getParent())
                .orElseThrow();
        this.notes = notes;
    }

    /**
     * The path of an image from the file's folder, with forward slashes; empty, and noted, where the image is missing.
     *
     * @throws UncheckedIOException where it cannot be copied
     */
    public Optional<String> path(Texture texture) {
        if (texture.file().isEmpty()) {
            notes.missing(texture);
            return Optional.empty();
        }
        if (texture.isTiled()) {
            String path = "";
            for (Map.Entry<Integer, Path> tile : texture.tiles().entrySet()) {
                String number = String.valueOf(tile.getKey());
                String name = ImageTiles.of(texture.baseName(), tile.getKey());
                path = path(tile.getValue(), name).replace(number, ImageTiles.NUMBER);
            }
            return Optional.of(path);
        }
        return Optional.of(path(texture.file().get(), texture.baseName()));
    }

    /**
     * As above, of an image file.
     *
     * @param name that a copy gets
     */
    public String path(Path image, String name) {
        return paths.computeIfAbsent(image.toAbsolutePath().normalize(), file -> {
            try {
                boolean beside = file.startsWith(folder)
                        && !Scratch.holds(file)
                        && plain(file.toString()).equals(file.getFileName().toString());
                Path there = beside ? file : CopiedFiles.into(folder.resolve(FOLDER), file, plain(name));
                return checked(AssetPaths.relative(folder, there).replaceFirst("^\\./", ""));
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        });
    }

    /** A file's name without what some systems or formats cannot have in one. */
    private static String plain(String name) {
        String last = name.replace('\\', '/');
        last = last.substring(last.lastIndexOf('/') + 1);
        return last.isBlank() ? "image" : last.replaceAll("[\\p{Cntrl}:*?\"<>|]", "_");
    }

    /**
     * A path that is about to be written, which may lead nowhere but into the folder of the file that names it.
     *
     * @throws IllegalStateException where it leads elsewhere; that is a fault of whoever writes, not of the input
     */
    public static String checked(String path) {
        boolean elsewhere = path.startsWith("/") || path.startsWith("../") || path.contains(":");
        if (elsewhere) {
            throw new IllegalStateException("the path " + path + " leads out of the folder of the file that names it");
        }
        return path;
    }
}
