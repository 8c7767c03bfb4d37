package pantry.intake;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.base.ImageTiles;
import pantry.base.Names;
import pantry.base.Sha256;
import pantry.model.Model;
import pantry.model.Texture;

/** The images of a version: each content once, under a name that every system takes, told by relative paths only. */
final class TextureStore {
    private static final String FOLDER = "textures";

    private final Map<Texture, String> paths = new HashMap<>();

    private TextureStore() {}

    /** Copies what was found into a version's data; what was not found keeps its base name. */
    static TextureStore copy(List<Model> models, Path data) throws IOException {
        TextureStore store = new TextureStore();
        Map<Path, String> byFile = new LinkedHashMap<>();
        Map<String, String> byContent = new HashMap<>();
        Set<String> taken = new HashSet<>();
        for (Texture texture :
                models.stream().flatMap(model -> model.textures().stream()).toList()) {
            Optional<Path> file = texture.file();
            String name;
            if (texture.isTiled()) {
                name = copyTiles(texture, data.resolve(FOLDER), byFile, taken);
            } else if (file.isEmpty()) {
                name = texture.baseName();
            } else if (byFile.containsKey(file.get())) {
                name = byFile.get(file.get());
            } else {
                name = copy(file.get(), data.resolve(FOLDER), byContent, taken);
                byFile.put(file.get(), name);
            }
            store.paths.put(texture, "./" + FOLDER + "/" + name);
        }
        return store;
    }

    /** Tiles keep their numbers, by which they are found. */
    private static String copyTiles(Texture texture, Path folder, Map<Path, String> byFile, Set<String> taken)
            throws IOException {
        Path first = texture.file().orElseThrow();
        String known = byFile.get(first);
        if (known != null && known.contains(ImageTiles.NUMBER)) {
            return known;
        }
        Files.createDirectories(folder);
        String plain = Names.slug(Names.stem(texture.baseName()).replace(ImageTiles.NUMBER, ""));
        String stem = Names.free(plain.isEmpty() ? "tiles" : plain, taken::contains);
        taken.add(stem);
        String name = stem + "." + ImageTiles.NUMBER + "."
                + Names.ending(first.getFileName().toString());
        for (Map.Entry<Integer, Path> tile : texture.tiles().entrySet()) {
            Files.copy(tile.getValue(), folder.resolve(ImageTiles.of(name, tile.getKey())));
        }
        byFile.put(first, name);
        return name;
    }

    private static String copy(Path file, Path folder, Map<String, String> byContent, Set<String> taken)
            throws IOException {
        String sum = Sha256.of(file);
        String known = byContent.get(sum);
        if (known != null) {
            return known;
        }
        Files.createDirectories(folder);
        String original = file.getFileName().toString();
        String ending = Names.ending(original);
        String stem = Names.free(Names.slug(Names.stem(original)), taken::contains);
        taken.add(stem);
        String name = ending.isEmpty() ? stem : stem + "." + ending;
        Files.copy(file, folder.resolve(name));
        byContent.put(sum, name);
        return name;
    }

    /** Where a texture lies, from the version's layers. */
    String path(Texture texture) {
        return paths.getOrDefault(texture, "./" + FOLDER + "/" + texture.baseName());
    }
}
