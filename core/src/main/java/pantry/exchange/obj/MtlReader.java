package pantry.exchange.obj;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.EnumMap;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import pantry.base.FileGate;
import pantry.base.ImageDecoder;
import pantry.exchange.format.Companions;
import pantry.exchange.format.HeightImages;
import pantry.exchange.format.PhongTerms;
import pantry.exchange.format.TextScanner;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Texture;

/**
 * Reads the material libraries that go with OBJ. Colours are taken as linear; a Phong exponent becomes a roughness
 * ({@link PhongTerms}); the later terms of metalness and roughness ({@code Pm}, {@code Pr}) are taken as they are.
 */
final class MtlReader {
    private static final Pattern STATEMENT = Pattern.compile("[A-Za-z_][A-Za-z_0-9]*(\\s|$)");

    private final Path file;
    private final FileGate gate;
    private final TextScanner in;
    private final Map<String, Material> materials = new LinkedHashMap<>();
    private String name = "";
    private boolean begun;
    private Colour base = Colour.WHITE;
    private Colour emissive = Colour.BLACK;
    private float opacity;
    private float metallic;
    private float roughness;
    private float ior;
    private float clearcoat;
    private float clearcoatRoughness;
    private Map<Material.Slot, Texture> textures = new EnumMap<>(Material.Slot.class);

    private MtlReader(Path file, FileGate gate) {
        this.file = file;
        this.gate = gate;
        this.in = new TextScanner(file, TextScanner.text(file));
        reset();
    }

    /**
     * The materials of a library by name.
     *
     * @throws pantry.exchange.format.ExchangeException naming the line that is wrong
     */
    static Map<String, Material> read(Path file, FileGate gate) {
        MtlReader reader = new MtlReader(file, gate);
        while (!reader.in.atEnd()) {
            reader.line();
            reader.in.nextLine();
        }
        reader.finish();
        return reader.materials;
    }

    /**
     * Whether every line of a file reads as a statement of a material library, and one begins a material: what another
     * file calls its material library may be anything.
     */
    static boolean isMaterialLibrary(Path file) {
        boolean begun = false;
        try (Stream<String> lines = Files.lines(file, StandardCharsets.ISO_8859_1)) {
            for (Iterator<String> each = lines.iterator(); each.hasNext(); ) {
                String line = each.next().strip();
                if (line.startsWith("newmtl")) {
                    begun = true;
                } else if (!line.isEmpty()
                        && !line.startsWith("#")
                        && !(begun && STATEMENT.matcher(line).lookingAt())) {
                    return false;
                }
            }
        } catch (IOException | UncheckedIOException e) {
            return false;
        }
        return begun;
    }

    private void reset() {
        base = Material.PLAIN.base();
        emissive = Colour.BLACK;
        opacity = 1;
        metallic = 0;
        roughness = 0.8f;
        ior = Material.Finish.USUAL.ior();
        clearcoat = 0;
        clearcoatRoughness = Material.Finish.USUAL.clearcoatRoughness();
        textures = new EnumMap<>(Material.Slot.class);
    }

    private void finish() {
        if (begun) {
            // An image that is multiplied by black was meant to be seen (common practice).
            boolean imaged = textures.containsKey(Material.Slot.BASE);
            Colour shown = imaged && base.equals(Colour.BLACK) ? Colour.WHITE : base;
            materials.put(
                    name,
                    new Material(
                                    name,
                                    shown,
                                    PhongTerms.opacity(opacity),
                                    metallic,
                                    roughness,
                                    emissive,
                                    new Material.Finish(0, clearcoat, clearcoatRoughness, ior, false),
                                    textures)
                            .withSoundOpacity());
        }
    }

    private void line() {
        String word = in.word().toLowerCase(java.util.Locale.ROOT);
        switch (word) {
            case "newmtl" -> {
                finish();
                reset();
                begun = true;
                name = in.rest();
            }
            case "kd" -> base = colour().orElse(base);
            case "ke" -> emissive = colour().orElse(emissive);
            case "d" -> {
                if (in.hasNumber()) {
                    opacity = in.number();
                }
            }
            case "tr" -> opacity = 1 - in.number();
            case "ns" -> roughness = PhongTerms.roughness(in.number());
            case "pr" -> roughness = Math.clamp(in.number(), 0f, 1f);
            case "pm" -> metallic = Math.clamp(in.number(), 0f, 1f);
            case "pc" -> clearcoat = Math.clamp(in.number(), 0f, 1f);
            case "pcr" -> clearcoatRoughness = Math.clamp(in.number(), 0f, 1f);
            case "ni" -> ior = Math.max(1, in.number());
            case "map_kd" -> image(Material.Slot.BASE);
            case "map_ke" -> {
                image(Material.Slot.EMISSIVE);
                emissive = emissive.equals(Colour.BLACK) ? Colour.WHITE : emissive;
            }
            case "map_pr" -> image(Material.Slot.ROUGHNESS);
            case "map_pm" -> image(Material.Slot.METALLIC);
            case "map_d" -> image(Material.Slot.OPACITY);
            case "norm", "map_kn" -> image(Material.Slot.NORMAL);
            case "bump", "map_bump" -> bump();
            case "disp", "map_disp" -> {
                image(Material.Slot.DISPLACEMENT);
                textures.computeIfPresent(Material.Slot.DISPLACEMENT, (slot, texture) -> HeightImages.of(texture));
            }
            default -> {}
        }
    }

    /** Many programs name a normal map by the word for heights. */
    private void bump() {
        Optional<Texture> before = Optional.ofNullable(textures.get(Material.Slot.NORMAL));
        image(Material.Slot.NORMAL);
        Texture given = textures.get(Material.Slot.NORMAL);
        boolean heights =
                given != null && given.file().filter(HeightImages::isGrey).isPresent();
        if (heights) {
            textures.remove(Material.Slot.NORMAL);
            before.ifPresent(texture -> textures.put(Material.Slot.NORMAL, texture));
            textures.put(Material.Slot.DISPLACEMENT, HeightImages.of(given));
        }
    }

    private Optional<Colour> colour() {
        if (!in.hasNumber()) {
            // A spectrum or another colour space, which no exporter at hand writes.
            return Optional.empty();
        }
        float r = in.number();
        float g = in.hasNumber() ? in.number() : r;
        float b = in.hasNumber() ? in.number() : g;
        return Optional.of(new Colour(Math.max(0, r), Math.max(0, g), Math.max(0, b)));
    }

    /** An image's options, then its name, which may hold blanks. */
    private void image(Material.Slot slot) {
        float[] scale = {1, 1};
        float[] move = {0, 0};
        Texture.Wrap wrap = Texture.Wrap.REPEAT;
        float strength = 1;
        String channel = "";
        while (!in.atLineEnd() && in.peek() == '-') {
            int before = in.position();
            String option = in.word();
            switch (option) {
                case "-s" -> pair(scale);
                case "-o" -> pair(move);
                case "-t" -> pair(new float[2]);
                case "-mm" -> pair(new float[2]);
                case "-bm" -> strength = in.number();
                case "-boost", "-texres" -> in.number();
                case "-imfchan" -> channel = in.word();
                case "-clamp" -> wrap = in.word().equals("on") ? Texture.Wrap.CLAMP : Texture.Wrap.REPEAT;
                case "-blendu", "-blendv", "-cc", "-type" -> in.word();
                default -> {
                    in.moveTo(before);
                    add(slot, in.rest(), Texture.Sampling.USUAL);
                    return;
                }
            }
        }
        add(
                slot,
                in.rest(),
                Texture.Sampling.placed(new Texture.Placement(0, scale[0], scale[1], 0, move[0], move[1]))
                        .with(wrap, wrap)
                        .with(Texture.Channel.of(channel.equals("m") ? "a" : channel, slot))
                        .withStrength(strength));
    }

    private void pair(float[] into) {
        for (int i = 0; i < 3 && in.hasNumber(); i++) {
            float number = in.number();
            if (i < into.length) {
                into[i] = number;
            }
        }
    }

    /** How opaque a surface is is read from an image's alpha, or from its greys where it has none. */
    private void add(Material.Slot slot, String image, Texture.Sampling sampling) {
        String plain = image.startsWith("\"") && image.endsWith("\"") && image.length() > 1
                ? image.substring(1, image.length() - 1)
                : image;
        if (plain.isEmpty()) {
            return;
        }
        Texture texture = Companions.texture(file, plain, sampling, gate);
        boolean grey = slot == Material.Slot.OPACITY
                && texture.file().filter(found -> !ImageDecoder.hasAlpha(found)).isPresent();
        textures.put(
                slot,
                grey && sampling.channel() == Texture.Channel.OF_SLOT
                        ? texture.with(sampling.with(Texture.Channel.RED))
                        : texture);
    }
}
