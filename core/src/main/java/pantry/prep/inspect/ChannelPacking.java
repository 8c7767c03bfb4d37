package pantry.prep.inspect;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Path;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import javax.imageio.ImageIO;
import pantry.base.ImageDecoder;
import pantry.base.ImageTiles;
import pantry.base.IoProblems;
import pantry.model.Material.Slot;
import pantry.usd.ListEdit;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.Attribute;
import pantry.usd.compose.Prim;
import pantry.workpiece.PrepException;
import pantry.workpiece.Subject;
import pantry.workpiece.Textures;
import pantry.workpiece.Tidying;

/**
 * Occlusion, roughness and metallic of a material as the red, green and blue of one image, as glTF has them, instead of an image
 * for each.
 */
final class ChannelPacking {
    private static final Map<Slot, String> CHANNELS =
            new EnumMap<>(Map.of(Slot.OCCLUSION, "r", Slot.ROUGHNESS, "g", Slot.METALLIC, "b"));

    /** What the images have to have in common, besides their size. */
    private static final List<String> ALIKE = List.of("inputs:wrapS", "inputs:wrapT");

    private ChannelPacking() {}

    static void find(Subject subject, Limits limits, Findings found) {
        Map<SdfPath, Map<Slot, Textures.Use>> byMaterial = new LinkedHashMap<>();
        for (Textures.Use use : subject.textures().uses()) {
            if (isNumber(subject, use)) {
                byMaterial
                        .computeIfAbsent(use.material().path(), path -> new EnumMap<>(Slot.class))
                        .put(use.slots().getFirst(), use);
            }
        }
        byMaterial.forEach((material, uses) -> {
            Set<Path> files =
                    uses.values().stream().map(use -> use.file().orElseThrow()).collect(Collectors.toSet());
            if (files.size() > 1 && files.size() == uses.size() && areAlike(subject, List.copyOf(uses.values()))) {
                String names = files.stream()
                        .map(file -> file.getFileName().toString())
                        .sorted()
                        .collect(Collectors.joining(", "));
                found.add(
                        material,
                        names + " each hold one number",
                        uses.values().stream().map(Textures.Use::path).toList(),
                        Fix.of("Pack them into one image", tidying -> pack(tidying, uses)));
            }
        });
    }

    /** Whether an image gives a material one of the numbers, and nothing else. */
    private static boolean isNumber(Subject subject, Textures.Use use) {
        return use.slots().size() == 1
                && CHANNELS.containsKey(use.slots().getFirst())
                && use.channels().size() == 1
                && !use.colourSpace().equals("sRGB")
                && !ImageTiles.isTiled(use.written())
                && isEven(use.shader(), "inputs:scale")
                && isEven(use.shader(), "inputs:bias")
                && use.file().flatMap(subject.textures()::picture).isPresent();
    }

    /** Whether a channel more or less makes no difference to what an image is multiplied by, or what is added. */
    private static boolean isEven(Prim shader, String attribute) {
        Optional<Value> said = shader.value(attribute);
        return said.isEmpty()
                || said.get() instanceof Value.Tuple(double[] c) && c.length >= 3 && c[0] == c[1] && c[1] == c[2];
    }

    private static boolean areAlike(Subject subject, List<Textures.Use> uses) {
        Textures.Use first = uses.getFirst();
        Textures.Picture picture =
                subject.textures().picture(first.file().orElseThrow()).orElseThrow();
        return uses.stream().allMatch(use -> {
            Textures.Picture other =
                    subject.textures().picture(use.file().orElseThrow()).orElseThrow();
            return other.width() == picture.width()
                    && other.height() == picture.height()
                    && ALIKE.stream()
                            .allMatch(name -> Objects.equals(
                                    use.shader().value(name), first.shader().value(name)))
                    && connections(use.shader(), "inputs:st").equals(connections(first.shader(), "inputs:st"));
        });
    }

    private static List<SdfPath> connections(Prim prim, String attribute) {
        return prim.attribute(attribute).map(Attribute::connections).orElse(List.of());
    }

    private static void pack(Tidying tidying, Map<Slot, Textures.Use> uses) {
        Textures.Use any = uses.values().iterator().next();
        Path made = tidying.piece().newImage(any.material().name() + "_orm.png");
        Map<Slot, BufferedImage> images = new EnumMap<>(Slot.class);
        uses.forEach((slot, use) -> images.put(slot, read(use.file().orElseThrow())));
        BufferedImage first = images.values().iterator().next();
        BufferedImage packed = new BufferedImage(first.getWidth(), first.getHeight(), BufferedImage.TYPE_INT_RGB);
        for (int y = 0; y < packed.getHeight(); y++) {
            for (int x = 0; x < packed.getWidth(); x++) {
                int pixel = 0xff0000;
                for (Map.Entry<Slot, BufferedImage> each : images.entrySet()) {
                    int from = shift(uses.get(each.getKey()).channels().getFirst());
                    int to = shift(CHANNELS.get(each.getKey()));
                    pixel = pixel & ~(0xff << to) | (each.getValue().getRGB(x, y) >> from & 0xff) << to;
                }
                packed.setRGB(x, y, pixel);
            }
        }
        try {
            ImageIO.write(packed, "png", made.toFile());
        } catch (IOException e) {
            throw new PrepException(made, null, "cannot be written: " + IoProblems.describe(e), e);
        }
        uses.forEach((slot, use) -> {
            tidying.setImage(use, made);
            connect(tidying, use, "outputs:" + CHANNELS.get(slot));
        });
    }

    private static BufferedImage read(Path file) {
        try {
            return ImageDecoder.read(file);
        } catch (IOException e) {
            throw new PrepException(file, null, "cannot be read: " + IoProblems.describe(e), e);
        }
    }

    /** By how many bits a channel is moved in a pixel; the first one of several. */
    private static int shift(String channel) {
        return switch (channel) {
            case "g" -> 8;
            case "b" -> 0;
            case "a" -> 24;
            default -> 16;
        };
    }

    /** Lets what took a number of an image take another of its outputs. */
    private static void connect(Tidying tidying, Textures.Use use, String output) {
        SdfPath shader = tidying.at(use.path());
        tidying.edits().changeAttribute(shader.property(output), "float", attribute -> {});
        for (Prim other : below(use.material())) {
            for (String name : other.propertyNames()) {
                boolean takes = name.startsWith("inputs:")
                        && connections(other, name).stream()
                                .anyMatch(source -> source.prim().equals(use.path()));
                if (takes) {
                    tidying.edits()
                            .changeAttribute(
                                    tidying.at(other.path()).property(name),
                                    "float",
                                    attribute -> attribute.setConnections(
                                            ListEdit.explicit(List.of(shader.property(output)))));
                }
            }
        }
    }

    private static List<Prim> below(Prim prim) {
        return prim.children().stream()
                .flatMap(child ->
                        java.util.stream.Stream.concat(java.util.stream.Stream.of(child), below(child).stream()))
                .toList();
    }
}
