package pantry.exchange.format;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import pantry.base.Names;
import pantry.base.NaturalOrder;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Material.Slot;
import pantry.model.Texture;

/**
 * Images that make one material, told by their names: the same but for what each is for, such as {@code planks_basecolor} and
 * {@code planks_normal}. The words, and that a packed image has occlusion, roughness and metallic in red, green and blue, are
 * common practice.
 *
 * @param name of the material
 * @param leader the image of the surface's colour, which stands for all
 * @param bySize the images of each size by what they are for; the largest first; of one size it has no name
 * @param unused images that are of the set and of no use in it
 */
public record TextureSet(String name, Path leader, Map<String, Map<Slot, Texture>> bySize, List<Path> unused) {
    private static final int MOST_BESIDE = 5000;

    private static final Set<String> ENDINGS =
            Set.of("png", "jpg", "jpeg", "tga", "tif", "tiff", "hdr", "exr", "ktx2", "bmp", "webp");

    /** Words that say nothing of what an image is for. */
    private static final Set<String> IDLE = Set.of("map", "tex", "texture", "8bit", "16bit", "gl", "opengl");

    private static final String SIZE = "[0-9]{1,2}k|512|1024|2048|4096|8192";

    private enum Role {
        BASE("basecolor", "basecolour", "color", "colour", "col", "albedo", "diffuse", "diff"),
        NORMAL("normal", "normals", "nrm", "nor", "normalgl", "norgl", "normalopengl"),
        ROUGHNESS("roughness", "rough", "rgh"),
        METALLIC("metallic", "metalness", "metal", "met"),
        OCCLUSION("ao", "occlusion", "ambientocclusion"),
        OPACITY("opacity", "alpha"),
        EMISSIVE("emissive", "emission"),
        DISPLACEMENT("height", "displacement", "disp"),
        PACKED("orm", "arm", "occlusionroughnessmetallic"),
        /** Normals whose green points down, and what is rough the other way round. */
        UNUSED("normaldx", "nordx", "normaldirectx", "gloss", "glossiness");

        private final Set<String> words;

        Role(String... words) {
            this.words = Set.of(words);
        }

        static @Nullable Role of(String word) {
            for (Role role : values()) {
                if (role.words.contains(word)) {
                    return role;
                }
            }
            return null;
        }
    }

    /**
     * What an image's name tells.
     *
     * @param base what is the same in all names of a set
     * @param size such as {@code 2k}; empty where it is not told
     */
    private record Named(Path file, String base, Role role, String size) {
        static Optional<Named> of(Path file) {
            String stem = Names.stem(file.getFileName().toString());
            List<String> words = new ArrayList<>(List.of(stem.replaceAll("(?<=[a-z])(?=[A-Z])", "_")
                    .toLowerCase(Locale.ROOT)
                    .split("[_\\-.\\s]+")));
            Role role = null;
            String size = "";
            while (!words.isEmpty()) {
                String last = words.getLast();
                String two = words.size() > 1 ? words.get(words.size() - 2) + last : "";
                if (role == null && Role.of(two) != null) {
                    role = Role.of(two);
                    words.removeLast();
                } else if (role == null && Role.of(last) != null) {
                    role = Role.of(last);
                } else if (size.isEmpty() && last.matches(SIZE)) {
                    size = last;
                } else if (!IDLE.contains(last)) {
                    break;
                }
                words.removeLast();
            }
            return role == null ? Optional.empty() : Optional.of(new Named(file, String.join(" ", words), role, size));
        }
    }

    /** Whether an image may be one of a set, by its ending. */
    public static boolean isImage(Path file) {
        return ENDINGS.contains(Names.ending(file.getFileName().toString()));
    }

    /** Whether an image says by its name what it is for in a material. */
    static boolean hasRole(Path file) {
        return Named.of(file).isPresent();
    }

    /** The set that an image of a surface's colour leads, with what lies beside it; empty where it leads none. */
    public static Optional<TextureSet> around(Path file) {
        Path folder = file.toAbsolutePath().getParent();
        Optional<Named> leading = Named.of(file).filter(named -> named.role() == Role.BASE);
        if (folder == null || leading.isEmpty()) {
            return Optional.empty();
        }
        // Of thousands of images in one folder, few begin as this one does.
        String begins = leading.get().base().split(" ", -1)[0];
        try (Stream<Path> beside = Files.list(folder)) {
            List<Path> images = beside.filter(
                            image -> image.getFileName().toString().regionMatches(true, 0, begins, 0, begins.length()))
                    .filter(TextureSet::isImage)
                    .filter(image -> Files.isRegularFile(image, LinkOption.NOFOLLOW_LINKS))
                    .limit(MOST_BESIDE)
                    .toList();
            Path name = file.getFileName();
            return among(images).stream()
                    .filter(set -> set.leader().getFileName().equals(name))
                    .findFirst();
        } catch (IOException e) {
            // What lies beside it cannot be told; the image itself can be read all the same.
            return Optional.empty();
        }
    }

    /** The sets that some images make; each image is of one at most. */
    public static List<TextureSet> among(List<Path> images) {
        Map<List<String>, List<Named>> alike = new LinkedHashMap<>();
        images.stream()
                .sorted(Comparator.comparing(Path::toString, NaturalOrder.BY_NAME))
                .flatMap(image -> Named.of(image).stream())
                .forEach(named -> alike.computeIfAbsent(
                                List.of(String.valueOf(named.file().getParent()), named.base()),
                                key -> new ArrayList<>())
                        .add(named));
        return alike.values().stream().flatMap(some -> of(some).stream()).toList();
    }

    private static Optional<TextureSet> of(List<Named> some) {
        Map<String, List<Named>> sizes = new TreeMap<>(NaturalOrder.BY_NAME.reversed());
        some.forEach(named ->
                sizes.computeIfAbsent(named.size(), size -> new ArrayList<>()).add(named));
        Map<String, Map<Slot, Texture>> bySize = new LinkedHashMap<>();
        List<Path> unused = new ArrayList<>();
        Path leader = null;
        for (Map.Entry<String, List<Named>> size : sizes.entrySet()) {
            Map<Slot, Texture> textures = new EnumMap<>(Slot.class);
            List<Path> left = new ArrayList<>();
            size.getValue().forEach(named -> put(named, textures, left));
            if (textures.containsKey(Slot.BASE) && textures.size() > 1) {
                leader = leader == null ? textures.get(Slot.BASE).file().orElseThrow() : leader;
                bySize.put(size.getKey(), textures);
                unused.addAll(left);
            }
        }
        if (leader == null) {
            return Optional.empty();
        }
        String title = title(leader).orElseThrow();
        return Optional.of(new TextureSet(title, leader, bySize, unused));
    }

    /** What the material of an image is called, by what its name has in common with others, or by its folder. */
    public static Optional<String> title(Path image) {
        Path folder = image.toAbsolutePath().getParent();
        String around = folder == null || folder.getFileName() == null
                ? "material"
                : folder.getFileName().toString().replaceAll("[_\\-.]+", " ");
        return Named.of(image)
                .map(named -> named.base().isEmpty() ? around : named.base())
                .map(name -> name.substring(0, 1).toUpperCase(Locale.ROOT) + name.substring(1));
    }

    private static void put(Named named, Map<Slot, Texture> textures, List<Path> left) {
        Texture image = new Texture(named.file().getFileName().toString(), Optional.of(named.file()));
        Map<Slot, Texture> wanted = new EnumMap<>(Slot.class);
        switch (named.role()) {
            case PACKED -> {
                wanted.put(Slot.OCCLUSION, image);
                wanted.put(Slot.ROUGHNESS, image);
                wanted.put(Slot.METALLIC, image);
            }
            case OPACITY -> wanted.put(Slot.OPACITY, image.with(Texture.Sampling.USUAL.with(Texture.Channel.RED)));
            case DISPLACEMENT -> wanted.put(Slot.DISPLACEMENT, HeightImages.of(image));
            case UNUSED -> {}
            default -> wanted.put(Slot.valueOf(named.role().name()), image);
        }
        long before = textures.size();
        wanted.forEach(textures::putIfAbsent);
        if (textures.size() == before) {
            left.add(named.file());
        }
    }

    /** All images of the set, the leader first. */
    public List<Path> files() {
        return Stream.of(
                        Stream.of(leader),
                        bySize.values().stream()
                                .flatMap(some -> some.values().stream())
                                .flatMap(texture -> texture.file().stream()),
                        unused.stream())
                .flatMap(each -> each)
                .distinct()
                .toList();
    }

    /** The materials by the sizes of their images, the largest first; what no image drives is as it usually is. */
    public Map<String, Material> materials() {
        Map<String, Material> materials = new LinkedHashMap<>();
        bySize.forEach((size, textures) -> materials.put(
                size.isEmpty() ? "usual" : "at " + size,
                new Material(
                        name,
                        Colour.WHITE,
                        1,
                        textures.containsKey(Slot.METALLIC) ? 1 : 0,
                        textures.containsKey(Slot.ROUGHNESS) ? 1 : 0.8f,
                        textures.containsKey(Slot.EMISSIVE) ? Colour.WHITE : Colour.BLACK,
                        textures)));
        return materials;
    }
}
