package pantry.intake;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import pantry.base.FileGate;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.base.Progress;
import pantry.exchange.format.Imported;
import pantry.model.Model;
import pantry.model.Texture;

/**
 * Looks for textures that a file names and nobody found, in folders that the user names. A file of the same base name
 * is taken, whatever the case of its letters; else one that differs by its ending only.
 */
public final class LostTextures {
    private static final int DEEPEST = 16;
    private static final int MOST_FILES = 200_000;
    private static final List<String> IMAGE_ENDINGS =
            List.of("png", "jpg", "jpeg", "tga", "tif", "tiff", "hdr", "exr", "ktx2", "bmp", "webp");

    private final Map<String, Path> byName = new HashMap<>();
    private final Map<String, Path> byStem = new HashMap<>();

    private final FileGate gate;

    private LostTextures(FileGate gate) {
        this.gate = gate;
    }

    /**
     * Takes note of the images in folders and below them.
     *
     * @throws IntakeException where a folder cannot be read
     */
    public static LostTextures in(List<Path> folders, Progress progress) {
        LostTextures found = new LostTextures(FileGate.to(folders));
        for (Path folder : folders) {
            try (Stream<Path> files = Files.walk(folder, DEEPEST)) {
                files.limit(MOST_FILES).sorted().forEach(file -> {
                    progress.step("looking through " + folder.getFileName(), -1);
                    found.note(file);
                });
            } catch (IOException | java.io.UncheckedIOException e) {
                IOException cause = e instanceof IOException io ? io : ((java.io.UncheckedIOException) e).getCause();
                throw new IntakeException(folder, "cannot be looked through: " + IoProblems.describe(cause), e);
            }
        }
        return found;
    }

    private void note(Path file) {
        String name = file.getFileName().toString().toLowerCase(Locale.ROOT);
        if (IMAGE_ENDINGS.contains(Names.ending(name)) && Files.isRegularFile(file)) {
            byName.putIfAbsent(name, file);
            byStem.putIfAbsent(Names.stem(name), file);
        }
    }

    private Optional<Path> find(Texture texture) {
        return find(texture.baseName());
    }

    /** The image that is most likely meant by a path: of the same name, or of another format. */
    public Optional<Path> find(String written) {
        String name = written.substring(1 + Math.max(written.lastIndexOf('/'), written.lastIndexOf('\\')))
                .toLowerCase(Locale.ROOT);
        return Optional.ofNullable(byName.get(name))
                .or(() -> Optional.ofNullable(byStem.get(Names.stem(name))))
                .filter(file -> gate.admitImage(file, file.toString(), file).isPresent());
    }

    /** The arrival with those textures that are found now. */
    public Imported on(Imported arrival) {
        return arrival.withEach(this::on);
    }

    private Model on(Model model) {
        return model.withMaterials(material -> material.withTextures(texture ->
                texture.found() ? texture : find(texture).map(texture::at).orElse(texture)));
    }
}
