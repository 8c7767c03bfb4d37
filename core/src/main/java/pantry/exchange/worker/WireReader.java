package pantry.exchange.worker;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.lang.foreign.Arena;
import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.imageio.ImageIO;
import org.jspecify.annotations.Nullable;
import pantry.base.FileGate;
import pantry.base.ImageDecoder;
import pantry.base.Json;
import pantry.base.Names;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.format.Companions;
import pantry.exchange.format.ExchangeException;
import pantry.exchange.format.HeightImages;
import pantry.exchange.format.Imported;
import pantry.exchange.format.PhongTerms;
import pantry.exchange.usd.UsdModelReader;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.mesh.Strands;
import pantry.mesh.Welding;
import pantry.model.Axis;
import pantry.model.Colour;
import pantry.model.CustomValue;
import pantry.model.Fixture;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Texture;
import pantry.motion.BlendShapes;
import pantry.motion.Skin;

/** Turns what the worker handed over into a model. */
final class WireReader {
    /** What Assimp calls the material of surfaces that have none. */
    private static final String NO_MATERIAL = "DefaultMaterial";

    private final Path file;
    private final FileGate gate;
    private final Path result;
    private final Path images;

    /** @param images an empty folder for embedded images */
    WireReader(Path file, FileGate gate, Path result, Path images) {
        this.file = file;
        this.gate = gate;
        this.result = result;
        this.images = images;
    }

    Imported imported() throws IOException {
        try (Arena arena = Arena.ofConfined();
                FileChannel channel = FileChannel.open(result, StandardOpenOption.READ)) {
            MemorySegment all = channel.map(FileChannel.MapMode.READ_ONLY, 0, channel.size(), arena);
            long tail = all.byteSize() - 16;
            long at = all.get(ValueLayout.JAVA_LONG_UNALIGNED, tail);
            long length = all.get(ValueLayout.JAVA_LONG_UNALIGNED, tail + 8);
            String json = new String(all.asSlice(at, length).toArray(ValueLayout.JAVA_BYTE), StandardCharsets.UTF_8);
            Wire told = Json.read(json, file.toString(), Wire.class);
            Wire wire = ending().equals("ifc") ? IfcTree.of(file, told) : told;
            List<Material> materials = materials(wire, all);
            WireRig rig = new WireRig(file, wire, all);
            List<Optional<Model.Part>> parts = new ArrayList<>();
            for (Wire.WireMesh mesh : wire.meshes()) {
                boolean doubleSided = wire.materials().get(mesh.material()).doubleSided();
                Material material = onSets(materials.get(mesh.material()), firstSet(mesh));
                Optional<Model.Part> strands = strands(mesh, all).map(each -> Model.Part.of(each, material));
                parts.add(
                        strands.isPresent()
                                ? strands
                                : mesh(mesh, all, rig)
                                        .map(m -> m.withDoubleSided(doubleSided))
                                        .map(m -> new Model.Part(
                                                m,
                                                m.primvars().containsKey(Mesh.COLOUR)
                                                        ? material.onColoured()
                                                        : material)));
            }
            Tree tree = new Tree(wire, parts, rig);
            tree.keep("", wire.values());
            List<Model.Node> roots = new ArrayList<>();
            tree.node(wire.root())
                    .ifPresent(root -> roots.addAll(
                            root.parts().isEmpty() && root.local().equals(Matrix4.IDENTITY)
                                    ? root.children()
                                    : List.of(root)));
            roots.addAll(tree.hung);
            Model model = new Model(
                    Names.stem(file.getFileName().toString()),
                    roots,
                    new Model.Extras(fixtures(wire), 0, wire.foreign(), rig.skeleton())
                            .carrying(tree.values)
                            .telling(UnreadMotion.told(file).stream().toList()));
            return new Imported(file, model, unit(wire), up(wire), Companions.of(file, gate));
        }
    }

    private String ending() {
        return Names.ending(file.getFileName().toString());
    }

    private Optional<Double> unit(Wire wire) {
        return switch (ending()) {
            // glTF is in metres by its specification; Assimp applies COLLADA's and IFC's own unit while reading.
            case "glb", "gltf", "dae", "ifc" -> Optional.of(1.0);
            default -> Optional.ofNullable(wire.unit()).filter(UsdModelReader::isUnit);
        };
    }

    private Optional<Axis> up(Wire wire) {
        return switch (ending()) {
            // Assimp turns COLLADA, 3DS and IFC upright while reading.
            case "glb", "gltf", "dae", "3ds", "ifc" -> Optional.of(Axis.Y);
            default -> wire.up() == null ? Optional.empty() : Optional.of(wire.up() == 2 ? Axis.Z : Axis.Y);
        };
    }

    private float[] points(Wire.WireMesh mesh, MemorySegment all) {
        float[] points = floats(all, mesh.points(), mesh.pointCount() * 3);
        for (float number : points) {
            if (!Float.isFinite(number)) {
                throw new ExchangeException(
                        file, "mesh \"" + mesh.name() + "\" has a point that is not a number or infinite");
            }
        }
        return points;
    }

    /** The lines that a mesh is made of, where no face is among them; else its points, where there are only these. */
    private Optional<Strands> strands(Wire.WireMesh mesh, MemorySegment all) {
        int[] sizes = ints(all, mesh.faceSizes(), mesh.faceCount());
        if (sizes.length == 0 || Arrays.stream(sizes).anyMatch(size -> size > 2)) {
            return Optional.empty();
        }
        float[] points = points(mesh, all);
        int[] corners = ints(all, mesh.corners(), mesh.cornerCount());
        if (Arrays.stream(corners).anyMatch(corner -> corner < 0 || corner >= mesh.pointCount())) {
            throw new ExchangeException(file, "mesh \"" + mesh.name() + "\" names points that it does not have");
        }
        float[] colours = mesh.colours() < 0 ? new float[0] : floats(all, mesh.colours(), mesh.pointCount() * 3);
        if (Arrays.stream(sizes).allMatch(size -> size == 1)) {
            return Optional.of(Strands.loose(points, colours, corners));
        }
        int[] ends = new int[corners.length];
        int count = 0;
        int at = 0;
        for (int size : sizes) {
            for (int i = 0; i < size; i++, at++) {
                if (size == 2) {
                    ends[count++] = corners[at];
                }
            }
        }
        int[] pairs = new int[count / 2];
        Arrays.fill(pairs, 2);
        return Optional.of(Strands.lines(points, colours, Arrays.copyOf(ends, count), pairs));
    }

    private Optional<Mesh> mesh(Wire.WireMesh mesh, MemorySegment all, WireRig rig) {
        if (mesh.faceCount() == 0) {
            return Optional.empty();
        }
        float[] points = points(mesh, all);
        try {
            Mesh made = new Mesh(
                            points,
                            ints(all, mesh.faceSizes(), mesh.faceCount()),
                            ints(all, mesh.corners(), mesh.cornerCount()),
                            channel(all, mesh.normals(), mesh.pointCount(), 3),
                            channel(all, uvs(mesh, 0), mesh.pointCount(), 2))
                    .withPrimvars(primvars(mesh, all));
            Mesh hung = rig.skinned(mesh, rig.shaped(mesh, made));
            Mesh welded = Welding.exact(hung);
            // Points at one place that hang on different joints, or are moved otherwise by a shape, go apart.
            boolean torn = Skin.of(hung).isPresent() && Skin.of(welded).isEmpty()
                    || BlendShapes.of(welded).size() < mesh.shapes().size();
            return Optional.of(torn ? hung : welded);
        } catch (IllegalArgumentException e) {
            throw new ExchangeException(file, "mesh \"" + mesh.name() + "\" is damaged: " + e.getMessage(), e);
        }
    }

    private static Map<String, Channel> primvars(Wire.WireMesh mesh, MemorySegment all) {
        Map<String, Channel> primvars = new LinkedHashMap<>();
        Channel colours = channel(all, mesh.colours(), mesh.pointCount(), 3);
        if (colours != null) {
            primvars.put(Mesh.COLOUR, colours);
        }
        for (int set = 1; set < mesh.uvs().size(); set++) {
            Channel more = channel(all, uvs(mesh, set), mesh.pointCount(), 2);
            if (more != null) {
                primvars.put(Mesh.uvSet(set), more);
            }
        }
        return primvars;
    }

    /** The first set of texture coordinates that a mesh has; some files number theirs from 1. */
    private static int firstSet(Wire.WireMesh mesh) {
        for (int set = 0; set < mesh.uvs().size(); set++) {
            if (mesh.uvs().get(set) >= 0) {
                return set;
            }
        }
        return 0;
    }

    /** The place of a set, counted from the first that there is; -1 where there is none. */
    private static long uvs(Wire.WireMesh mesh, int set) {
        int counted = set + firstSet(mesh);
        return counted < mesh.uvs().size() ? mesh.uvs().get(counted) : -1;
    }

    /** A material whose images lie on sets that are counted from the first that the mesh has. */
    private static Material onSets(Material material, int first) {
        return first == 0
                ? material
                : material.withTextures(texture -> {
                    Texture.Placement p = texture.sampling().placement();
                    return texture.with(texture.sampling()
                            .with(new Texture.Placement(
                                    Math.max(0, p.uvSet() - first),
                                    p.scaleU(),
                                    p.scaleV(),
                                    p.rotation(),
                                    p.moveU(),
                                    p.moveV())));
                });
    }

    private List<Fixture> fixtures(Wire wire) {
        Map<String, Matrix4> places = new LinkedHashMap<>();
        collect(wire.root(), Matrix4.IDENTITY, places);
        List<Fixture> fixtures = new ArrayList<>();
        for (Wire.WireFixture fixture : wire.fixtures()) {
            Matrix4 world = looking(fixture).times(places.getOrDefault(fixture.name(), Matrix4.IDENTITY));
            if (!world.isFinite()) {
                continue;
            }
            String name = fixture.name().isBlank() ? fixture.kind() : fixture.name();
            if (fixture.kind().equals("camera")) {
                double aspect = fixture.aspect() > 0 ? fixture.aspect() : 1;
                double high = 2 * Math.atan(Math.tan(fixture.angle() / 2.0) / aspect);
                fixtures.add(new Fixture.Camera(name, world, Math.toDegrees(high), aspect));
            } else {
                // Assimp's colours hold the strength as well, in no unit: the strongest component is taken for it.
                float strongest = Math.max(fixture.colour()[0], Math.max(fixture.colour()[1], fixture.colour()[2]));
                float by = strongest > 0 && Float.isFinite(strongest) ? strongest : 1;
                fixtures.add(new Fixture.Light(
                        name,
                        world,
                        switch (fixture.kind()) {
                            case "distant" -> Fixture.Light.Kind.DISTANT;
                            case "area" -> Fixture.Light.Kind.RECT;
                            default -> Fixture.Light.Kind.SPHERE;
                        },
                        colour(new float[] {fixture.colour()[0] / by, fixture.colour()[1] / by, fixture.colour()[2] / by
                        }),
                        by,
                        fixture.kind().equals("spot") ? Math.toDegrees(fixture.angle()) : 180));
            }
        }
        return fixtures;
    }

    private static void collect(Wire.WireNode node, Matrix4 above, Map<String, Matrix4> places) {
        Matrix4 world = Matrix4.ofRows(node.transform()).times(above);
        places.putIfAbsent(node.name(), world);
        node.children().forEach(child -> collect(child, world, places));
    }

    /** From a space whose negative z is what the fixture looks along, to that of its object. */
    private static Matrix4 looking(Wire.WireFixture fixture) {
        Vec3 along = vector(fixture.direction());
        Vec3 back = along.length() > 0 ? along.unit().times(-1) : new Vec3(0, 0, 1);
        Vec3 up = vector(fixture.up());
        Vec3 side = up.cross(back);
        if (!(side.length() > 1e-9)) {
            side = (Math.abs(back.y()) < 0.9 ? Vec3.UP : new Vec3(1, 0, 0)).cross(back);
        }
        side = side.unit();
        Vec3 top = back.cross(side);
        Vec3 at = vector(fixture.position());
        return Matrix4.ofRows(
                side.x(), side.y(), side.z(), 0, top.x(), top.y(), top.z(), 0, back.x(), back.y(), back.z(), 0, at.x(),
                at.y(), at.z(), 1);
    }

    private static Vec3 vector(float[] numbers) {
        return new Vec3(numbers[0], numbers[1], numbers[2]);
    }

    private static @Nullable Channel channel(MemorySegment all, long place, int count, int width) {
        if (place < 0) {
            return null;
        }
        float[] data = floats(all, place, count * width);
        for (float number : data) {
            if (!Float.isFinite(number)) {
                // Normals that are no numbers come from faces without area; the picture computes its own.
                return null;
            }
        }
        return new Channel(data, width, Channel.Per.POINT);
    }

    private static float[] floats(MemorySegment all, long place, int count) {
        float[] data = new float[count];
        MemorySegment.copy(all, ValueLayout.JAVA_FLOAT_UNALIGNED, place, data, 0, count);
        return data;
    }

    private static int[] ints(MemorySegment all, long place, int count) {
        int[] data = new int[count];
        MemorySegment.copy(all, ValueLayout.JAVA_INT_UNALIGNED, place, data, 0, count);
        return data;
    }

    /** The tree of objects, read top down; what hangs on joints stands beside it. */
    private final class Tree {
        private final Wire wire;
        private final List<Optional<Model.Part>> parts;
        private final WireRig rig;
        private final List<Model.Node> hung = new ArrayList<>();
        private final List<CustomValue> values = new ArrayList<>();
        private int next;

        Tree(Wire wire, List<Optional<Model.Part>> parts, WireRig rig) {
            this.wire = wire;
            this.parts = parts;
            this.rig = rig;
        }

        private void keep(String object, Map<String, Object> said) {
            said.forEach((name, value) -> {
                if (values.size() < CustomValue.MOST) {
                    values.add(new CustomValue(object, name, value instanceof Integer whole ? (double) whole : value));
                }
            });
        }

        /** Nothing where it is a joint that nothing stands at. */
        Optional<Model.Node> node(Wire.WireNode node) {
            int number = next++;
            Matrix4 local = Matrix4.ofRows(node.transform());
            if (!local.isFinite()) {
                throw new ExchangeException(
                        file, "object \"" + node.name() + "\" has a place that is not a number or infinite");
            }
            keep(node.name(), node.values());
            List<Model.Part> own = new ArrayList<>();
            for (int mesh : node.meshes()) {
                Optional<Model.Part> part = parts.get(mesh);
                Optional<Matrix4> place = rig.place(wire.meshes().get(mesh));
                if (part.isPresent() && place.isPresent()) {
                    hung.add(Model.Node.of(node.name(), place.get(), List.of(part.get()), List.of()));
                } else if (part.isPresent() && !rig.isEmpty()) {
                    Model.Part still = part.get();
                    own.add(new Model.Part(rig.moved(still.mesh(), number), still.material(), still.looks()));
                } else {
                    part.ifPresent(own::add);
                }
            }
            List<Model.Node> children = new ArrayList<>();
            for (Wire.WireNode child : node.children()) {
                node(child).ifPresent(children::add);
            }
            return rig.isJoint(number) && own.isEmpty() && children.isEmpty()
                    ? Optional.empty()
                    : Optional.of(Model.Node.of(node.name(), local, own, children));
        }
    }

    private List<Material> materials(Wire wire, MemorySegment all) throws IOException {
        Map<String, Texture> textures = new LinkedHashMap<>();
        List<Material> materials = new ArrayList<>();
        for (Wire.WireMaterial material : wire.materials()) {
            if (material.name().equals(NO_MATERIAL)) {
                materials.add(Material.PLAIN);
                continue;
            }
            // Images stand in for the diffuse colour in most formats; where they are multiplied, it is white anyhow.
            Material made = new Material(
                    material.name(),
                    material.textures().containsKey("BASE") ? Colour.WHITE : colour(material.base()),
                    PhongTerms.opacity(material.opacity()),
                    Math.clamp(material.metallic(), 0f, 1f),
                    Math.clamp(material.roughness(), 0f, 1f),
                    emissive(material),
                    Map.of());
            for (Map.Entry<String, Wire.WireUse> use : material.textures().entrySet()) {
                String image = use.getValue().image();
                Texture texture = textures.get(image);
                if (texture == null) {
                    texture = texture(image, wire, all);
                    textures.put(image, texture);
                }
                Material.Slot slot = Material.Slot.valueOf(use.getKey());
                Texture used = texture.with(sampling(use.getValue(), slot, texture));
                if (slot != Material.Slot.DISPLACEMENT) {
                    made = made.with(slot, used);
                } else if (used.file().filter(HeightImages::isGrey).isPresent()) {
                    made = made.with(slot, HeightImages.of(used));
                } else if (made.texture(Material.Slot.NORMAL).isEmpty()) {
                    // Many programs name a normal map by the word for heights.
                    made = made.with(Material.Slot.NORMAL, used);
                }
            }
            materials.add(made.withSoundOpacity());
        }
        return materials;
    }

    private static Texture.Sampling sampling(Wire.WireUse use, Material.Slot slot, Texture texture) {
        float[] p = use.placement();
        double turn = p[4];
        // Turned about the middle of the image.
        double moveU = p[0] + 0.5 - 0.5 * Math.cos(turn) + 0.5 * Math.sin(turn);
        double moveV = p[1] + 0.5 - 0.5 * Math.sin(turn) - 0.5 * Math.cos(turn);
        Texture.Placement placement = new Texture.Placement(
                use.uvSet(),
                p[2],
                p[3],
                (float) Math.toDegrees(turn),
                turn == 0 ? p[0] : (float) moveU,
                turn == 0 ? p[1] : (float) moveV);
        boolean grey = slot == Material.Slot.OPACITY
                && texture.file().filter(image -> !ImageDecoder.hasAlpha(image)).isPresent();
        return Texture.Sampling.placed(placement)
                .with(Texture.Wrap.of(use.wrapS()), Texture.Wrap.of(use.wrapT()))
                .with(grey ? Texture.Channel.RED : Texture.Channel.OF_SLOT);
    }

    /** An image that is multiplied by black was meant to be seen (common practice). */
    private static Colour emissive(Wire.WireMaterial material) {
        Colour plain = colour(material.emissive());
        return material.textures().containsKey("EMISSIVE") && plain.equals(Colour.BLACK) ? Colour.WHITE : plain;
    }

    private static Colour colour(float[] rgb) {
        return new Colour(finite(rgb[0]), finite(rgb[1]), finite(rgb[2]));
    }

    private static float finite(float component) {
        return Float.isFinite(component) ? Math.max(0, component) : 0;
    }

    private Texture texture(String name, Wire wire, MemorySegment all) throws IOException {
        for (int i = 0; i < wire.embedded().size(); i++) {
            Wire.WireTexture embedded = wire.embedded().get(i);
            if (name.equals("*" + i) || name.equals(embedded.name())) {
                return unpacked(embedded, i, all);
            }
        }
        // Files tell of an image within them by the path that it had on another machine.
        for (int i = 0; i < wire.embedded().size(); i++) {
            if (baseName(name).equalsIgnoreCase(baseName(wire.embedded().get(i).name()))) {
                return unpacked(wire.embedded().get(i), i, all);
            }
        }
        return Companions.texture(file, name, Texture.Sampling.USUAL, gate);
    }

    private static String baseName(String path) {
        return new Texture(path, Optional.empty()).baseName();
    }

    private Texture unpacked(Wire.WireTexture embedded, int number, MemorySegment all) throws IOException {
        byte[] bytes = all.asSlice(embedded.place(), embedded.length()).toArray(ValueLayout.JAVA_BYTE);
        String stem =
                Names.slug(Names.stem(Path.of(embedded.name()).getFileName().toString()));
        if (embedded.height() == 0) {
            Path image = images.resolve(
                    stem + "-" + number + "." + (embedded.format().isBlank() ? "png" : embedded.format()));
            Files.write(image, bytes);
            return new Texture(image.getFileName().toString(), Optional.of(image));
        }
        BufferedImage raw = new BufferedImage(embedded.width(), embedded.height(), BufferedImage.TYPE_INT_ARGB);
        for (int i = 0; i < embedded.width() * embedded.height(); i++) {
            int argb = (bytes[4 * i + 3] & 0xff) << 24
                    | (bytes[4 * i + 2] & 0xff) << 16
                    | (bytes[4 * i + 1] & 0xff) << 8
                    | bytes[4 * i] & 0xff;
            raw.setRGB(i % embedded.width(), i / embedded.width(), argb);
        }
        Path image = images.resolve(stem + "-" + number + ".png");
        ImageIO.write(raw, "png", image.toFile());
        return new Texture(image.getFileName().toString(), Optional.of(image));
    }
}
