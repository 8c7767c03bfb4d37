package pantry.shading;

import java.awt.image.BufferedImage;
import java.awt.image.DataBufferInt;
import java.awt.image.DataBufferUShort;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.ObjIntConsumer;
import java.util.function.Supplier;
import pantry.base.DisplayCurve;
import pantry.base.Names;
import pantry.base.Parallel;
import pantry.base.Png;
import pantry.base.Progress;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Material.Slot;
import pantry.model.ShaderNetwork;
import pantry.model.Texture;

/**
 * Makes a material in UsdPreviewSurface's terms of a network: what is the same everywhere becomes a value, what varies over
 * the texture coordinates an image of them from 0 to 1. Where the network repeats there, so does the image.
 */
public final class NetworkBaker {
    /** As wide and high as images are made where no size is asked for, pixels. */
    public static final int USUAL_SIZE = 1024;

    public static final int LARGEST = 8192;

    /** Images are not made smaller than this for the reckoning that they take, pixels. */
    private static final int LEAST = 16;

    /** So many places across and up tell how far heights are apart. */
    private static final int SURVEYED = 64;

    private final String name;
    private final ShaderNetwork network;
    private final NetworkFields fields;
    private final SurfaceTerms terms;
    private int size;
    private final Folder folder;
    private final Progress progress;
    private final Set<String> told = new LinkedHashSet<>();
    private final Map<Slot, Texture> images = new EnumMap<>(Slot.class);

    private NetworkBaker(String name, ShaderNetwork network, int size, Folder folder, Progress progress) {
        this.name = name;
        this.network = network;
        this.fields = new NetworkFields(network);
        this.terms = new SurfaceTerms(fields);
        this.size = size;
        this.folder = folder;
        this.progress = progress;
    }

    /** Where images are written. */
    public interface Folder {
        /** An existing folder; asked for with each image. */
        Path get() throws IOException;
    }

    /**
     * A material that was made of a network.
     *
     * @param told what could not be evaluated, and is as if it were not said
     */
    public record Baked(Material material, List<String> told) {}

    /**
     * Makes a material of a network.
     *
     * @param name the material's
     * @param size of images, pixels
     * @param most how many numbers may be reckoned for an image; images are smaller where it takes more, which is told
     * @param folder where images are written, as PNG
     * @throws IOException where one cannot be written
     */
    public static Baked bake(String name, ShaderNetwork network, int size, long most, Folder folder, Progress progress)
            throws IOException {
        NetworkBaker baker = new NetworkBaker(name, network, Math.clamp(size, 1, LARGEST), folder, progress);
        return baker.bake(new DirectImages(network).bySlot(), most);
    }

    /** @param direct images that are the surface's own as they are, so that none is made of them */
    private Baked bake(Map<Slot, Texture> direct, long most) throws IOException {
        Map<Slot, Field> varying = new EnumMap<>(Slot.class);
        varying(Slot.BASE, direct, terms::base, varying);
        varying(Slot.EMISSIVE, direct, terms::emissive, varying);
        varying(Slot.OPACITY, direct, terms::opacity, varying);
        varying(Slot.METALLIC, direct, terms::metallic, varying);
        varying(Slot.ROUGHNESS, direct, terms::roughness, varying);
        fit(most);
        Colour base = colour(Slot.BASE, varying);
        Colour emissive = colour(Slot.EMISSIVE, varying);
        float opacity = number(Slot.OPACITY, varying);
        float metal = number(Slot.METALLIC, varying);
        float rough = number(Slot.ROUGHNESS, varying);
        surfaceNormal(direct);
        displacement(direct);
        float coat = mean(terms.coat(), "clear coat");
        float coatRoughness = mean(terms.coatRoughness(), "roughness of the clear coat");
        Material.Finish finish =
                new Material.Finish(0, coat, coatRoughness, mean(terms.ior(), "index of refraction"), false);
        images.putAll(direct);
        told.addAll(fields.told());
        Material made = new Material(name, base, opacity, metal, rough, emissive, finish, images);
        return new Baked(saysMore() ? made.with(network) : made, List.copyOf(told));
    }

    private static void varying(Slot slot, Map<Slot, Texture> direct, Supplier<Field> field, Map<Slot, Field> varying) {
        if (!direct.containsKey(slot)) {
            varying.put(slot, field.get());
        }
    }

    /** Makes images smaller that would take too long. */
    private void fit(long most) {
        long work = Math.max(1, fields.maker().work());
        int wanted = size;
        while (size > LEAST && work * size * size > most) {
            size /= 2;
        }
        if (size < wanted) {
            told.add("more than " + size + " pixels of images that take so much reckoning");
        }
    }

    /** UsdPreviewSurface without nodes before it says no more than the material that is made of it. */
    private boolean saysMore() {
        return network.nodes().size() > 1
                || !network.graphs().isEmpty()
                || !fields.surface().category().equals("UsdPreviewSurface");
    }

    /** What a colour is multiplied with: itself where it is the same everywhere, otherwise white. */
    private Colour colour(Slot slot, Map<Slot, Field> varying) throws IOException {
        Field field = varying.get(slot);
        if (field == null) {
            float[] by = (slot == Slot.BASE ? terms.baseWeight() : terms.emissiveWeight()).at(0.5f, 0.5f);
            return new Colour(by[0], by[0], by[0]);
        }
        if (field.isSteady()) {
            return colour(field);
        }
        // Images end at white: what shines brighter is multiplied with how much brighter it is.
        float most = slot == Slot.EMISSIVE ? Math.max(1, range(field).most()) : 1;
        int[] pixels = pixels(most == 1 ? field : fields.maker().map(field, value -> value / most), true);
        if (isUniform(pixels)) {
            return colour(field);
        }
        images.put(slot, written(slot, image(pixels), sampling(field)));
        return new Colour(most, most, most);
    }

    private static Colour colour(Field field) {
        float[] value = field.at(0.5f, 0.5f);
        return new Colour(sound(value[0]), sound(value[1]), sound(value[2]));
    }

    /** What is written to vary may be the same everywhere, as what is multiplied by nothing. */
    private static boolean isUniform(int[] pixels) {
        return Arrays.stream(pixels).allMatch(pixel -> pixel == pixels[0]);
    }

    private float number(Slot slot, Map<Slot, Field> varying) throws IOException {
        Field field = varying.get(slot);
        if (field == null) {
            return 1;
        }
        int[] pixels = field.isSteady() ? new int[1] : pixels(field, false);
        if (isUniform(pixels)) {
            return Math.clamp(sound(field.at(0.5f, 0.5f)[0]), 0f, 1f);
        }
        Texture.Channel channel = slot == Slot.OPACITY ? Texture.Channel.RED : Texture.Channel.OF_SLOT;
        images.put(slot, written(slot, image(pixels), sampling(field).with(channel)));
        return 1;
    }

    private void surfaceNormal(Map<Slot, Texture> direct) throws IOException {
        Optional<Field> normal = direct.containsKey(Slot.NORMAL) ? Optional.empty() : terms.normal();
        if (normal.isPresent() && !normal.get().isSteady()) {
            Field coded = fields.maker().map(normal.get(), a -> (a + 1) / 2);
            images.put(Slot.NORMAL, written(Slot.NORMAL, image(pixels(coded, false)), sampling(coded)));
        }
    }

    /** An image of heights from black to white, whose strength is how far these are apart. */
    private void displacement(Map<Slot, Texture> direct) throws IOException {
        Optional<Field> field = direct.containsKey(Slot.DISPLACEMENT) ? Optional.empty() : terms.displacement();
        if (field.isEmpty() || field.get().isSteady()) {
            return;
        }
        Range heights = range(field.get());
        float apart = heights.most() - heights.least();
        if (apart > 0 && Float.isFinite(apart)) {
            Field coded = fields.maker().map(field.get(), height -> (height - heights.least()) / apart);
            Texture.Sampling sampling = sampling(coded).withStrength(apart);
            images.put(Slot.DISPLACEMENT, written(Slot.DISPLACEMENT, heights(coded), sampling));
        }
    }

    /** The least and the most of some numbers; infinite, and the wrong way round, where none of them is a number. */
    private record Range(float least, float most) {}

    /** Over a coarse grid. */
    private static Range range(Field field) {
        float least = Float.POSITIVE_INFINITY;
        float most = Float.NEGATIVE_INFINITY;
        Batch row = new Batch(SURVEYED);
        for (int y = 0; y < SURVEYED; y++) {
            row.row(y);
            for (float value : row.of(field)) {
                least = Float.isFinite(value) ? Math.min(least, value) : least;
                most = Float.isFinite(value) ? Math.max(most, value) : most;
            }
        }
        return new Range(least, most);
    }

    /** Greys of sixteen bits: of heights in eight, the steps would be seen. */
    private BufferedImage heights(Field field) {
        BufferedImage image = new BufferedImage(size, size, BufferedImage.TYPE_USHORT_GRAY);
        short[] greys = ((DataBufferUShort) image.getRaster().getDataBuffer()).getData();
        eachRow(field, (values, y) -> {
            for (int x = 0; x < size; x++) {
                greys[y * size + x] = (short) (0xffff * Math.min(sound(values[x]), 1) + 0.5f);
            }
        });
        return image;
    }

    /** Of what UsdPreviewSurface is given no image for here: its mean over a coarse grid, which is told. */
    private float mean(Field field, String what) {
        if (field.isSteady()) {
            return sound(field.at(0.5f, 0.5f)[0]);
        }
        told.add("that its " + what + " varies");
        double sum = 0;
        Batch row = new Batch(16);
        for (int y = 0; y < 16; y++) {
            row.row(y);
            float[] values = row.of(field);
            for (int x = 0; x < 16; x++) {
                sum += sound(values[x]);
            }
        }
        return (float) (sum / 256);
    }

    private static float sound(float number) {
        return Float.isFinite(number) ? Math.max(0, number) : 0;
    }

    /** @param display whether numbers are linear colours that are stored as display colours */
    private int[] pixels(Field field, boolean display) {
        int[] pixels = new int[size * size];
        eachRow(field, (values, y) -> {
            for (int x = 0; x < size; x++) {
                int pixel = 0xff;
                for (int c = 0; c < 3; c++) {
                    float value = values[field.width() == 1 ? x : c * size + x];
                    float unit = Math.min(sound(value), 1);
                    pixel = pixel << 8 | (display ? DisplayCurve.codedQuickly(unit) : (int) (255 * unit + 0.5f));
                }
                pixels[y * size + x] = pixel;
            }
        });
        return pixels;
    }

    /** Has an image's rows reckoned, on all cores; each is given with its number, from the top. */
    private void eachRow(Field field, ObjIntConsumer<float[]> use) {
        Parallel.forEach(size, () -> new Batch(size), (row, y) -> {
            progress.check();
            row.row(y);
            use.accept(row.of(field), y);
        });
    }

    /** How an image of a field lies: on the texture coordinates over which that varies. */
    private Texture.Sampling sampling(Field field) {
        if (Integer.bitCount(field.sets()) > 1) {
            told.add("several sets of texture coordinates at once, instead of which one is taken");
        }
        int set = field.sets() == 0 ? 0 : Integer.numberOfTrailingZeros(field.sets());
        return Texture.Sampling.placed(Texture.Placement.on(set));
    }

    private BufferedImage image(int[] pixels) {
        BufferedImage image = new BufferedImage(size, size, BufferedImage.TYPE_INT_RGB);
        System.arraycopy(pixels, 0, ((DataBufferInt) image.getRaster().getDataBuffer()).getData(), 0, pixels.length);
        return image;
    }

    private Texture written(Slot slot, BufferedImage image, Texture.Sampling sampling) throws IOException {
        Path to = folder.get();
        String stem = Names.slug(name) + "-" + slot.name().toLowerCase(Locale.ROOT);
        Path file = to.resolve(Names.free(stem, taken -> Files.exists(to.resolve(taken + ".png"))) + ".png");
        Files.write(file, Png.of(image));
        return new Texture(file.getFileName().toString(), Optional.of(file), sampling);
    }
}
