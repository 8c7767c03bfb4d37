package pantry.exchange.format;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import javax.imageio.ImageIO;
import javax.imageio.ImageReader;
import javax.imageio.stream.ImageInputStream;
import pantry.base.ImageDecoder;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.base.Progress;
import pantry.base.Scratch;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Axis;
import pantry.model.Colour;
import pantry.model.Fixture;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.ShaderNetwork;
import pantry.model.Texture;
import pantry.motion.Skeleton;
import pantry.shading.NetworkBaker;
import pantry.shading.PartOutputs;

/** Models that show what has no surface of its own: materials on balls, images on boards. Metres, Y up. */
public final class Samples {
    private static final double RADIUS = 0.25;

    /** As many numbers as are reckoned to show a part, so that a small file cannot keep anybody waiting. */
    private static final long MOST_RECKONED = 500_000_000L;

    private Samples() {}

    /** A ball for each material, side by side, standing on the ground. */
    public static Model balls(String name, List<Material> materials) {
        Mesh ball = Shapes.sphere(RADIUS, 64, 32);
        List<Model.Node> balls = new ArrayList<>();
        for (int i = 0; i < materials.size(); i++) {
            Matrix4 place = Matrix4.translation(new Vec3(i * RADIUS * 2.4, RADIUS, 0));
            balls.add(
                    Model.Node.of(SampleNodes.NAME, place, List.of(new Model.Part(ball, materials.get(i))), List.of()));
        }
        return new Model(name, balls, Model.Extras.NONE);
    }

    /** What was read of a file that has lights or cameras and nothing else, with a small body for each of them. */
    public static Imported fixtures(Imported read) {
        return new Imported(
                read.file(), FixtureMarks.of(read), read.unit(), read.up(), read.companions(), Imported.Holds.FIXTURES);
    }

    /** What was read of a file that has a skeleton with motions and no surface, with a body for each bone. */
    public static Imported motions(Imported read, Skeleton skeleton) {
        return new Imported(
                read.file(),
                JointBodies.of(read.model(), skeleton),
                read.unit(),
                read.up(),
                read.companions(),
                Imported.Holds.MOTIONS);
    }

    /** A model, and what of it cannot be shown. */
    public record Shown(Model model, List<String> told) {}

    /**
     * A ball that shows a material part.
     *
     * @param name of its graph
     * @param size of the images that are made of it, pixels; they are gone at the end of the process
     * @throws IOException where they cannot be written
     */
    public static Shown part(String name, ShaderNetwork.Graph graph, int size, Progress progress) throws IOException {
        ShaderNetwork network = PartOutputs.shown(Names.identifier(name), graph);
        NetworkBaker.Baked baked =
                NetworkBaker.bake(name, network, size, MOST_RECKONED, () -> Scratch.folder("baked"), progress);
        return new Shown(balls(name, List.of(baked.material())), baked.told());
    }

    /** A ball that shows the material that images make; of several sizes the largest, the others as its looks. */
    public static Imported material(TextureSet set) {
        Map<String, Material> sizes = set.materials();
        Material largest = sizes.values().iterator().next();
        Model.Part part = new Model.Part(Shapes.sphere(RADIUS, 64, 32), largest, sizes.size() > 1 ? sizes : Map.of());
        Model.Node ball =
                Model.Node.of(SampleNodes.NAME, Matrix4.translation(new Vec3(0, RADIUS, 0)), List.of(part), List.of());
        List<String> told = set.unused().isEmpty()
                ? List.of()
                : List.of("images of no use here: "
                        + set.unused().stream()
                                .map(file -> file.getFileName().toString())
                                .collect(Collectors.joining(", ")));
        Model model = new Model(set.name(), List.of(ball), new Model.Extras(List.of(), 0, told));
        return new Imported(
                set.leader(), model, Optional.of(1.0), Optional.of(Axis.Y), List.of(), Imported.Holds.MATERIALS);
    }

    /**
     * An upright board, a metre high and as wide as the image wants, that shows it.
     *
     * @throws ExchangeException where the file is no image that can be shown
     */
    public static Imported board(java.nio.file.Path file) {
        String name = Names.stem(file.getFileName().toString());
        double aspect = aspect(file);
        Mesh board = Shapes.plate(aspect, 1)
                .transformed(Matrix4.rotation(0, 90))
                .transformed(Matrix4.translation(new Vec3(0, 0.5, 0)));
        Texture image = new Texture(file.getFileName().toString(), Optional.of(file));
        Material material = new Material(name, Colour.WHITE, 1, 0, 1, Colour.BLACK, Map.of(Material.Slot.BASE, image));
        Model model = new Model(
                name,
                List.of(Model.Node.of("Board", Matrix4.IDENTITY, List.of(new Model.Part(board, material)), List.of())),
                Model.Extras.NONE);
        return new Imported(file, model, Optional.of(1.0), Optional.of(Axis.Y), List.of(), Imported.Holds.IMAGE);
    }

    /**
     * The light of a sky, from its picture.
     *
     * @throws ExchangeException where the file is no image that can be shown
     */
    public static Imported sky(java.nio.file.Path file) {
        aspect(file);
        String name = Names.stem(file.getFileName().toString());
        Texture picture = new Texture(file.getFileName().toString(), Optional.of(file));
        Fixture dome = new Fixture.Light(
                name, Matrix4.IDENTITY, Fixture.Light.Kind.DOME, Colour.WHITE, 1, 180, Optional.of(picture));
        Model model = new Model(name, List.of(), new Model.Extras(List.of(dome), 0, List.of()));
        return fixtures(new Imported(file, model, Optional.of(1.0), Optional.of(Axis.Y), List.of()));
    }

    /** Width over height; only the image's header is read. */
    private static double aspect(java.nio.file.Path file) {
        try (ImageInputStream in = ImageIO.createImageInputStream(file.toFile())) {
            java.util.Iterator<ImageReader> readers = ImageIO.getImageReaders(in);
            if (!readers.hasNext()) {
                throw new ExchangeException(
                        file, "is an image of a kind that cannot be shown; save it as PNG, JPEG, TIFF or HDR");
            }
            ImageReader reader = readers.next();
            try {
                reader.setInput(in, true, true);
                ImageDecoder.requireDecodable(reader.getWidth(0), reader.getHeight(0));
                double aspect = (double) reader.getWidth(0) / reader.getHeight(0);
                BufferedImage probe = reader.read(0, thumb(reader));
                if (probe == null || !(aspect > 0)) {
                    throw new ExchangeException(file, "is an empty image");
                }
                return aspect;
            } finally {
                reader.dispose();
            }
        } catch (java.io.IOException | RuntimeException e) {
            if (e instanceof ExchangeException known) {
                throw known;
            }
            throw new ExchangeException(file, IoProblems.inImage(e), e);
        }
    }

    /** Few pixels of the whole image: enough to see that it can be read. */
    private static javax.imageio.ImageReadParam thumb(ImageReader reader) throws java.io.IOException {
        javax.imageio.ImageReadParam param = reader.getDefaultReadParam();
        int every = Math.max(1, Math.max(reader.getWidth(0), reader.getHeight(0)) / 64);
        param.setSourceSubsampling(every, every, 0, 0);
        return param;
    }
}
