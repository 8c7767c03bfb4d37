package pantry.exchange.gltf;

import de.javagl.jgltf.impl.v2.Image;
import de.javagl.jgltf.impl.v2.Sampler;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.base.ImageDecoder;
import pantry.base.Names;
import pantry.base.Png;
import pantry.base.Scratch;
import pantry.exchange.format.ExportImages;
import pantry.exchange.format.ExportNotes;
import pantry.model.Material;
import pantry.model.Texture;

/** The images, samplers and textures of a glTF file that is written. Images are PNG or JPEG, others become PNG. */
final class GltfImages {
    private static final int REPEAT = 10_497;
    static final int CLAMP = 33_071;
    static final int MIRROR = 33_648;

    private final GltfBuffer buffer;
    private final @Nullable ExportImages beside;
    private final ExportNotes notes;
    private final List<Image> images = new ArrayList<>();
    private final List<Sampler> samplers = new ArrayList<>();
    private final List<de.javagl.jgltf.impl.v2.Texture> textures = new ArrayList<>();
    private final Map<Used, Integer> byFile = new HashMap<>();
    private final Map<List<Object>, Integer> made = new HashMap<>();
    private final Map<List<Object>, Integer> byUse = new HashMap<>();
    private final Map<List<Object>, Integer> bySampler = new HashMap<>();

    /** @param beside where images are files of their own; null where they are part of the buffer */
    GltfImages(GltfBuffer buffer, @Nullable ExportImages beside, ExportNotes notes) {
        this.buffer = buffer;
        this.beside = beside;
        this.notes = notes;
    }

    List<Image> images() {
        return images;
    }

    List<Sampler> samplers() {
        return samplers;
    }

    List<de.javagl.jgltf.impl.v2.Texture> textures() {
        return textures;
    }

    /** An image file, and whether it is used as colours or as numbers: what is not taken over as it is differs by that. */
    private record Used(Path file, boolean colour) {}

    /** The texture of an image; empty, and noted, where the image cannot be read. */
    Optional<Integer> texture(Texture use, Material.Slot slot) throws IOException {
        Path file = use.file().orElseThrow();
        Used used = new Used(file, slot.colour() || !type(file).isEmpty());
        Integer image = byFile.get(used);
        if (image == null) {
            Optional<Integer> added = add(used, use.baseName());
            if (added.isEmpty()) {
                return Optional.empty();
            }
            image = added.get();
            byFile.put(used, image);
        }
        return Optional.of(texture(image, use.sampling()));
    }

    /** The type that glTF calls an image by; empty where it cannot hold it. */
    private static String type(Path file) {
        String ending = Names.ending(file.getFileName().toString());
        return ending.equals("png") ? "image/png" : ending.matches("jpe?g") ? "image/jpeg" : "";
    }

    private Optional<Integer> add(Used used, String name) throws IOException {
        Path file = used.file();
        String type = type(file);
        if (!type.isEmpty()) {
            return Optional.of(
                    beside == null ? embedded(Files.readAllBytes(file), type, name) : named(file, name, type));
        }
        try {
            return Optional.of(
                    png(used.colour() ? ImageDecoder.read(file) : ImageDecoder.readNumbers(file), Names.stem(name)));
        } catch (IOException e) {
            notes.left("image " + name + " " + e.getMessage() + ", and glTF holds PNG and JPEG only");
            return Optional.empty();
        }
    }

    /** A colour image whose alpha comes from elsewhere. */
    Optional<Integer> withAlpha(@Nullable Texture colour, Texture opacity, String name) throws IOException {
        return combined(colour, null, null, opacity, name);
    }

    /** One image with roughness in green and metalness in blue, as glTF has it; 1 where an image says nothing. */
    Optional<Integer> packed(@Nullable Texture roughness, @Nullable Texture metalness, String name) throws IOException {
        return combined(null, roughness, metalness, null, name);
    }

    private Optional<Integer> combined(
            @Nullable Texture colour,
            @Nullable Texture green,
            @Nullable Texture blue,
            @Nullable Texture alpha,
            String name)
            throws IOException {
        List<Object> key = new ArrayList<>();
        Texture.@Nullable Sampling sampling = null;
        for (Texture each : java.util.Arrays.asList(colour, green, blue, alpha)) {
            key.add(
                    each == null
                            ? "none"
                            : List.of(each.file().orElseThrow(), each.sampling().channel()));
            sampling = each != null && sampling == null ? each.sampling() : sampling;
        }
        Integer known = made.get(key);
        if (known == null) {
            try {
                known = png(ImageChannels.combined(colour, green, blue, alpha), name);
            } catch (IOException e) {
                notes.left("the images of " + name + " cannot be combined as glTF needs it: " + e.getMessage());
                return Optional.empty();
            }
            made.put(key, known);
        }
        return Optional.of(texture(known, sampling));
    }

    private int png(BufferedImage image, String stem) throws IOException {
        byte[] png = Png.of(image);
        String name = stem + ".png";
        if (beside == null) {
            return embedded(png, "image/png", name);
        }
        Path file = Scratch.folder("export").resolve("image.png");
        Files.write(file, png);
        return named(file, name, "image/png");
    }

    private int embedded(byte[] bytes, String type, String name) {
        Image image = new Image();
        image.setName(Names.stem(name));
        image.setMimeType(type);
        image.setBufferView(buffer.view(bytes));
        images.add(image);
        return images.size() - 1;
    }

    private int named(Path file, String name, String type) {
        Image image = new Image();
        image.setName(Names.stem(name));
        image.setMimeType(type);
        image.setUri(Uris.encoded(java.util.Objects.requireNonNull(beside).path(file, name)));
        images.add(image);
        return images.size() - 1;
    }

    private int texture(int image, Texture.Sampling sampling) {
        List<Object> wraps = List.of(sampling.wrapS(), sampling.wrapT(), sampling.filter());
        int sampler = bySampler.computeIfAbsent(wraps, key -> {
            Sampler made = new Sampler();
            made.setWrapS(wrap(sampling.wrapS()));
            made.setWrapT(wrap(sampling.wrapT()));
            if (sampling.filter().magnified() != 0) {
                made.setMagFilter(sampling.filter().magnified());
            }
            if (sampling.filter().reduced() != 0) {
                made.setMinFilter(sampling.filter().reduced());
            }
            samplers.add(made);
            return samplers.size() - 1;
        });
        return byUse.computeIfAbsent(List.of(image, sampler), key -> {
            de.javagl.jgltf.impl.v2.Texture texture = new de.javagl.jgltf.impl.v2.Texture();
            texture.setSource(image);
            texture.setSampler(sampler);
            textures.add(texture);
            return textures.size() - 1;
        });
    }

    private static int wrap(Texture.Wrap wrap) {
        return switch (wrap) {
            case REPEAT -> REPEAT;
            case CLAMP -> CLAMP;
            case MIRROR -> MIRROR;
        };
    }
}
