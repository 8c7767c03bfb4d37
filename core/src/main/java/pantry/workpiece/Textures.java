package pantry.workpiece;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import javax.imageio.ImageIO;
import javax.imageio.ImageReader;
import javax.imageio.stream.ImageInputStream;
import pantry.base.Sha256;
import pantry.model.Material.Slot;
import pantry.model.Texture;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.Attribute;
import pantry.usd.compose.Prim;
import pantry.usd.schema.Values;

/** The uses of images by the materials of a workpiece. */
public final class Textures {
    /**
     * One use of an image.
     *
     * @param shader the prim that reads it
     * @param written as the layer names it
     * @param file empty where it is missing
     * @param slots what it drives; empty where nothing
     * @param channels the outputs of it that are connected
     */
    public record Use(
            Prim material,
            Prim shader,
            String written,
            Optional<Path> file,
            List<Slot> slots,
            List<String> channels,
            String colourSpace) {
        public SdfPath path() {
            return shader.path();
        }
    }

    /**
     * What an image is.
     *
     * @param channels 1 grey, 2 grey and clear, 3 coloured, 4 coloured and clear
     */
    public record Picture(int width, int height, int channels, String sum) {}

    private final List<Use> uses = new ArrayList<>();
    private final Map<Path, Optional<Picture>> pictures = new HashMap<>();

    static Textures of(List<InspectedPrim> materials) {
        Textures textures = new Textures();
        for (InspectedPrim material : materials) {
            textures.collect(material.prim(), material.prim());
        }
        return textures;
    }

    private void collect(Prim material, Prim parent) {
        for (Prim shader : parent.children()) {
            if (Values.token(shader, "info:id").filter("UsdUVTexture"::equals).isPresent()) {
                use(material, shader);
            }
            collect(material, shader);
        }
    }

    private void use(Prim material, Prim shader) {
        Optional<Attribute> file = shader.attribute("inputs:file");
        String written = file.flatMap(Attribute::value)
                .map(value -> value instanceof Value.Asset(String path) ? path : "")
                .orElse("");
        List<Slot> slots = new ArrayList<>();
        List<String> channels = new ArrayList<>();
        connected(material, shader, slots, channels);
        uses.add(new Use(
                material,
                shader,
                written,
                file.flatMap(attribute -> Texture.of(written, Texture.Sampling.USUAL, attribute::image)
                        .file()),
                slots,
                channels,
                Values.token(shader, "inputs:sourceColorSpace").orElse("auto")));
    }

    /** Which inputs of the material's surfaces take something of the image. */
    private static void connected(Prim parent, Prim shader, List<Slot> slots, List<String> channels) {
        for (Prim other : parent.children()) {
            for (String name : other.propertyNames()) {
                if (!name.startsWith("inputs:")) {
                    continue;
                }
                for (SdfPath source :
                        other.attribute(name).map(Attribute::connections).orElse(List.of())) {
                    if (source.prim().equals(shader.path())) {
                        String output = source.name();
                        channels.add(output.substring(output.indexOf(':') + 1));
                        for (Slot slot : Slot.values()) {
                            if (name.equals("inputs:" + slot.input())) {
                                slots.add(slot);
                            }
                        }
                    }
                }
            }
            connected(other, shader, slots, channels);
        }
    }

    public List<Use> uses() {
        return uses;
    }

    /** The uses of each image that can be read, in their order. */
    public Map<Path, List<Use>> byImage() {
        return uses.stream()
                .filter(use ->
                        use.file().filter(file -> picture(file).isPresent()).isPresent())
                .collect(Collectors.groupingBy(
                        use -> use.file().orElseThrow(), LinkedHashMap::new, Collectors.toList()));
    }

    /** What an image file holds; empty where it cannot be read. Only its head is read, and its sum. */
    public Optional<Picture> picture(Path file) {
        return pictures.computeIfAbsent(file, Textures::read);
    }

    private static Optional<Picture> read(Path file) {
        try (ImageInputStream in = ImageIO.createImageInputStream(file.toFile())) {
            if (in == null) {
                return Optional.empty();
            }
            var readers = ImageIO.getImageReaders(in);
            if (!readers.hasNext()) {
                return Optional.empty();
            }
            ImageReader reader = readers.next();
            try {
                reader.setInput(in, true, true);
                int bands = Optional.ofNullable(reader.getRawImageType(0))
                        .map(type -> type.getNumBands())
                        .orElse(3);
                return Optional.of(new Picture(reader.getWidth(0), reader.getHeight(0), bands, Sha256.of(file)));
            } finally {
                reader.dispose();
            }
        } catch (IOException | RuntimeException e) {
            // What no reader understands is told as an image that cannot be read.
            return Optional.empty();
        }
    }
}
