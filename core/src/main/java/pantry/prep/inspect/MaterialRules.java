package pantry.prep.inspect;

import static pantry.prep.inspect.Rule.Group.MATERIALS;

import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import javax.imageio.ImageIO;
import pantry.base.ImageDecoder;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.base.math.Vec3;
import pantry.intake.LostTextures;
import pantry.model.Material.Slot;
import pantry.usd.Signature;
import pantry.usd.Value;
import pantry.workpiece.DisplayText;
import pantry.workpiece.InspectedPrim;
import pantry.workpiece.PrepException;
import pantry.workpiece.Subject;
import pantry.workpiece.Textures;
import pantry.workpiece.Tidying;

/** What is wrong with materials and their images. */
public final class MaterialRules {
    /** The id of the rule that finds images that are not there. */
    public static final String MISSING = "missing-texture";

    static final List<Rule> ALL = List.of(
            Rule.of(
                    "equal-material",
                    MATERIALS,
                    Severity.CAUTION,
                    "Equal materials under several names",
                    "A colour has to be changed as often as it stands there; lists grow with every append.",
                    MaterialRules::equalMaterials),
            Rule.of(
                    MISSING,
                    MATERIALS,
                    Severity.WRONG,
                    "Image that is not there",
                    "The surface is shown without it.",
                    MaterialRules::missing),
            Rule.of(
                    "absolute-texture",
                    MATERIALS,
                    Severity.CAUTION,
                    "Image by a path of one machine",
                    "On every other machine it is missing.",
                    MaterialRules::absolute),
            Rule.of(
                    "same-image",
                    MATERIALS,
                    Severity.CAUTION,
                    "One image as several files",
                    "It is loaded as often as it stands there.",
                    MaterialRules::sameImages),
            Rule.of(
                            "oversized-texture",
                            MATERIALS,
                            Severity.CAUTION,
                            "Image finer than anybody sees",
                            "Images take most of the memory; more than a few pixels for each millimetre are never seen.",
                            MaterialRules::oversized)
                    .limit("density", 4096.0, "pixels for each metre of the asset's longest side")
                    .limit("least", 1024.0, "images of fewer pixels on a side may be as fine as they like"),
            Rule.of(
                    "colour-space",
                    MATERIALS,
                    Severity.CAUTION,
                    "Image in the wrong colour space",
                    "Colours come out too dark or too pale; roughness and normals come out wrong.",
                    MaterialRules::colourSpaces),
            Rule.of(
                    "unused-channel",
                    MATERIALS,
                    Severity.INFORMATION,
                    "Channel that nothing uses",
                    "The clear channel takes a quarter of the image's memory.",
                    MaterialRules::unusedChannels),
            Rule.of(
                    "separate-numbers",
                    MATERIALS,
                    Severity.INFORMATION,
                    "An image for each number",
                    "Occlusion, roughness and metallic fit into one image, which takes a third of the memory.",
                    ChannelPacking::find),
            Rule.of(
                            "does-not-tile",
                            MATERIALS,
                            Severity.CAUTION,
                            "Repeated image with a seam",
                            "Where it begins again a line is seen, over and over.",
                            TilingRule::find)
                    .limit("seam", 12.0, "steps of 255 by which edges may differ beyond what neighbours within do"),
            Rule.of(
                    "power-of-two",
                    MATERIALS,
                    Severity.INFORMATION,
                    "Sides that are no powers of two",
                    "Some engines cannot make coarser levels of it, or scale it up first.",
                    MaterialRules::powers));

    private MaterialRules() {}

    private static void equalMaterials(Subject subject, Limits limits, Findings found) {
        Map<String, List<InspectedPrim>> alike = new LinkedHashMap<>();
        for (InspectedPrim item : subject.materials()) {
            if (item.own()) {
                subject.stage()
                        .rootLayer()
                        .prim(item.path())
                        .filter(spec ->
                                spec.variantSets().isEmpty() && !spec.children().isEmpty())
                        .ifPresent(spec -> alike.computeIfAbsent(
                                        Signature.of(spec, item.path(), path -> path), key -> new ArrayList<>())
                                .add(item));
            }
        }
        for (List<InspectedPrim> same : alike.values()) {
            InspectedPrim first = same.getFirst();
            for (InspectedPrim other : same.subList(1, same.size())) {
                found.add(
                        other.path(),
                        other.title() + " is the same as " + first.title(),
                        List.of(first.path(), other.path()),
                        Fix.of("Use one of them", tidying -> {
                            tidying.edits().retarget(tidying.at(other.path()), tidying.at(first.path()));
                            tidying.remove(other.path());
                        }));
            }
        }
    }

    private static void missing(Subject subject, Limits limits, Findings found) {
        List<Textures.Use> lost = subject.textures().uses().stream()
                .filter(use -> use.file().isEmpty())
                .toList();
        if (lost.isEmpty()) {
            return;
        }
        Path folder = subject.workpiece().source().getParent();
        LostTextures near = LostTextures.in(List.of(folder), subject.progress());
        for (Textures.Use use : lost) {
            Optional<Path> place = near.find(use.written());
            found.add(
                    use.path(),
                    use.written() + " is not there"
                            + place.map(file -> "; there is one of that name in "
                                            + file.getParent().getFileName())
                                    .orElse(""),
                    List.of(use.material().path()),
                    place.map(file -> Fix.of("Use that one", tidying -> tidying.setImage(use, file)))
                            .orElse(null));
        }
    }

    private static void absolute(Subject subject, Limits limits, Findings found) {
        for (Textures.Use use : subject.textures().uses()) {
            if (use.written().matches("(/|\\\\|[A-Za-z]:|file:).*")) {
                found.add(
                        use.path(),
                        use.written() + " is a path of one machine",
                        use.file()
                                .map(file -> Fix.of("Write it relative", tidying -> tidying.setImage(use, file)))
                                .orElse(null));
            }
        }
    }

    private static void sameImages(Subject subject, Limits limits, Findings found) {
        Map<String, Path> firsts = new LinkedHashMap<>();
        for (Textures.Use use : subject.textures().uses()) {
            Path file = use.file().orElse(null);
            Textures.Picture picture =
                    file == null ? null : subject.textures().picture(file).orElse(null);
            if (file == null || picture == null) {
                continue;
            }
            Path first = firsts.computeIfAbsent(picture.sum(), sum -> file);
            if (!first.equals(file)) {
                found.add(
                        use.path(),
                        file.getFileName() + " is the same image as " + first.getFileName(),
                        Fix.of("Use one of them", tidying -> tidying.setImage(use, first)));
            }
        }
    }

    /** The uses of each image that can be read. */
    private static void oversized(Subject subject, Limits limits, Findings found) {
        Vec3 size = subject.drawn().isEmpty() ? Vec3.ONE : subject.drawn().size();
        double longest = Math.max(size.x(), Math.max(size.y(), size.z()));
        double most = Math.max(limits.number("least"), limits.number("density") * longest);
        subject.textures().byImage().forEach((file, uses) -> {
            Textures.Picture picture = subject.textures().picture(file).orElseThrow();
            int side = Math.max(picture.width(), picture.height());
            int halvings = 0;
            while (side / (1 << halvings) > most) {
                halvings++;
            }
            int by = 1 << halvings;
            if (by > 1) {
                found.add(
                        uses.getFirst().path(),
                        file.getFileName() + " has " + picture.width() + " × " + picture.height() + " pixels on "
                                + DisplayText.length(longest),
                        // Made anew it would have as few bits as a display shows.
                        ImageDecoder.isOfLight(file)
                                ? null
                                : Fix.of(
                                        "Make it " + picture.width() / by + " × " + picture.height() / by,
                                        tidying -> replace(tidying, uses, file, image -> scaled(image, by))));
            }
        });
    }

    private static void colourSpaces(Subject subject, Limits limits, Findings found) {
        for (Textures.Use use : subject.textures().uses()) {
            if (use.slots().isEmpty()) {
                continue;
            }
            boolean colour = use.slots().stream().anyMatch(Slot::colour);
            boolean numbers = use.slots().stream().anyMatch(slot -> !slot.colour() && slot != Slot.OPACITY);
            boolean ofLight = use.file().filter(ImageDecoder::isOfLight).isPresent();
            String wanted = colour && !ofLight ? "sRGB" : "raw";
            boolean wrong = colour != numbers
                    && !use.colourSpace().equals(wanted)
                    && !(use.colourSpace().equals("auto") && colour);
            if (wrong) {
                found.add(
                        use.path(),
                        use.written() + " drives " + use.slots().getFirst().input() + " and is read as "
                                + use.colourSpace() + ", not " + wanted,
                        Fix.of("Read it as " + wanted, tidying -> tidying.edits()
                                .set(
                                        tidying.at(use.path()).property("inputs:sourceColorSpace"),
                                        "token",
                                        new Value.Token(wanted))));
            }
        }
    }

    private static void unusedChannels(Subject subject, Limits limits, Findings found) {
        subject.textures().byImage().forEach((file, uses) -> {
            int channels = subject.textures().picture(file).orElseThrow().channels();
            boolean clear = uses.stream().anyMatch(use -> use.channels().contains("a"));
            boolean used = uses.stream().anyMatch(use -> !use.channels().isEmpty());
            // Made anew it would have as few bits as a display shows.
            if (channels == 4 && used && !clear && !ImageDecoder.isOfLight(file)) {
                found.add(
                        uses.getFirst().path(),
                        file.getFileName() + " has a clear channel that nothing uses",
                        Fix.of("Leave it out", tidying -> replace(tidying, uses, file, MaterialRules::opaque)));
            }
        });
    }

    private static void powers(Subject subject, Limits limits, Findings found) {
        subject.textures().byImage().forEach((file, uses) -> {
            Textures.Picture picture = subject.textures().picture(file).orElseThrow();
            if (Integer.bitCount(picture.width()) != 1 || Integer.bitCount(picture.height()) != 1) {
                found.add(
                        uses.getFirst().path(),
                        file.getFileName() + " has " + picture.width() + " × " + picture.height() + " pixels",
                        null);
            }
        });
    }

    private static void replace(
            Tidying tidying, List<Textures.Use> uses, Path file, UnaryOperator<BufferedImage> change) {
        String name = Names.stem(file.getFileName().toString()) + ".png";
        Path made = tidying.piece().newImage(name);
        try {
            BufferedImage image = ImageDecoder.read(file);
            ImageIO.write(change.apply(image), "png", made.toFile());
        } catch (IOException e) {
            throw new PrepException(file, null, "cannot be made anew: " + IoProblems.describe(e), e);
        }
        uses.forEach(use -> tidying.setImage(use, made));
    }

    /** Halved as often as needed, so that every pixel counts the same. */
    private static BufferedImage scaled(BufferedImage image, int by) {
        BufferedImage now = image;
        for (int step = by; step > 1; step /= 2) {
            now = drawn(now, Math.max(1, now.getWidth() / 2), Math.max(1, now.getHeight() / 2), kind(image));
        }
        return now;
    }

    private static int kind(BufferedImage image) {
        return image.getColorModel().hasAlpha() ? BufferedImage.TYPE_INT_ARGB : BufferedImage.TYPE_INT_RGB;
    }

    private static BufferedImage opaque(BufferedImage image) {
        BufferedImage opaque = new BufferedImage(image.getWidth(), image.getHeight(), BufferedImage.TYPE_INT_RGB);
        for (int y = 0; y < image.getHeight(); y++) {
            for (int x = 0; x < image.getWidth(); x++) {
                opaque.setRGB(x, y, image.getRGB(x, y));
            }
        }
        return opaque;
    }

    private static BufferedImage drawn(BufferedImage image, int width, int height, int kind) {
        BufferedImage drawn = new BufferedImage(width, height, kind);
        Graphics2D graphics = drawn.createGraphics();
        graphics.setRenderingHint(RenderingHints.KEY_INTERPOLATION, RenderingHints.VALUE_INTERPOLATION_BILINEAR);
        graphics.drawImage(image, 0, 0, width, height, null);
        graphics.dispose();
        return drawn;
    }
}
