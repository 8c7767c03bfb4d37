package pantry.exchange.gltf;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import pantry.base.FileGate;
import pantry.base.Names;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.format.ExchangeException;
import pantry.exchange.format.Imported;
import pantry.exchange.format.Samples;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.mesh.Strands;
import pantry.model.Axis;
import pantry.model.Colour;
import pantry.model.Fixture;
import pantry.model.Material;
import pantry.model.Model;
import pantry.motion.Skeleton;
import tools.jackson.databind.JsonNode;

/**
 * Reads glTF 2.0, text and binary (Khronos glTF 2.0 Specification), with the extensions that describe surfaces and
 * their places, and with its skins and animations as one skeleton.
 */
public final class GltfReader {
    /** What a file may require and still be read as it is meant. */
    private static final Set<String> KNOWN = Set.of(
            "KHR_materials_variants",
            "KHR_materials_pbrSpecularGlossiness",
            "KHR_materials_unlit",
            "KHR_materials_emissive_strength",
            "KHR_materials_clearcoat",
            "KHR_materials_ior",
            "KHR_materials_specular",
            "KHR_materials_sheen",
            "KHR_materials_transmission",
            "KHR_materials_volume",
            "KHR_materials_iridescence",
            "KHR_materials_anisotropy",
            "KHR_materials_dispersion",
            "KHR_lights_punctual",
            "KHR_texture_transform",
            "KHR_mesh_quantization",
            "EXT_mesh_gpu_instancing",
            "EXT_meshopt_compression",
            "EXT_texture_webp",
            "KHR_texture_basisu");

    private static final int TRIANGLES = 4;
    private static final int STRIP = 5;
    private static final int FAN = 6;
    private static final int MOST_UV_SETS = 4;
    private static final String COLOURS = "COLOR_0";
    private static final List<String> READ = List.of(
            "POSITION",
            "NORMAL",
            "TEXCOORD_0",
            "TEXCOORD_1",
            "TEXCOORD_2",
            "TEXCOORD_3",
            COLOURS,
            GltfConventions.UNUSED_COLOURS);

    private final GltfDocument document;
    private final GltfAccessors accessors;
    private final GltfMaterials materials;
    private final Progress progress;
    private final List<String> variantNames = new ArrayList<>();
    private final Map<Integer, List<Model.Part>> meshes = new HashMap<>();

    /** Of each mesh, which primitives its parts are. */
    private final Map<Integer, List<Integer>> drawn = new HashMap<>();

    private final Map<List<Integer>, Mesh> surfaces = new HashMap<>();
    private final Set<Integer> visited = new HashSet<>();
    private final List<Fixture> fixtures = new ArrayList<>();
    private final Map<String, Integer> foreign = new LinkedHashMap<>();
    private final GltfShapes shapes;
    private final GltfRig rig;

    /** What hangs on skins, which stands wherever their joints take it, and not where its node does. */
    private final List<Model.Node> skinned = new ArrayList<>();

    private final Map<Integer, String> nodeNames = new HashMap<>();

    private GltfReader(GltfDocument document, Path images, Progress progress) {
        this.document = document;
        this.accessors = new GltfAccessors(document);
        this.materials = new GltfMaterials(document, images);
        this.progress = progress;
        this.shapes = new GltfShapes(document, accessors);
        this.rig = new GltfRig(
                document, accessors, shapes, index -> local(document.element("nodes", index), "nodes[" + index + "]"));
        for (JsonNode variant : document.root()
                .path("extensions")
                .path("KHR_materials_variants")
                .path("variants")) {
            variantNames.add(variant.path("name").asString("Look " + (variantNames.size() + 1)));
        }
    }

    /**
     * Reads a file.
     *
     * @param gate what other files it may name
     * @param images an empty folder for embedded images
     * @return empty where the file is of version 1, or requires an extension that is not known here
     * @throws ExchangeException naming the file and the element that is wrong
     */
    public static Optional<Imported> read(Path file, FileGate gate, Path images, Progress progress) {
        Optional<GltfDocument> opened = GltfDocument.open(file, gate)
                .filter(document -> document.version().startsWith("2"));
        if (opened.isEmpty()) {
            return Optional.empty();
        }
        GltfDocument document = opened.get();
        for (JsonNode required : document.root().path("extensionsRequired")) {
            if (!KNOWN.contains(required.asString(""))) {
                return Optional.empty();
            }
        }
        return Optional.of(new GltfReader(document, images, progress).imported());
    }

    private Imported imported() {
        List<Model.Node> roots = new ArrayList<>();
        for (int root : roots()) {
            node(root, Matrix4.IDENTITY, 0).ifPresent(roots::add);
        }
        roots.addAll(skinned);
        Optional<Skeleton> skeleton = rig.skeleton();
        int still = document.root().path("animations").size()
                - skeleton.map(bones -> bones.motions().size()).orElse(0);
        if (still > 0) {
            foreign.put("animations", still);
        }
        List<String> told = foreign.entrySet().stream()
                .map(entry -> entry.getValue() == 1
                        ? "1 " + entry.getKey().replaceFirst("s( |$)", "$1")
                        : entry.getValue() + " " + entry.getKey())
                .toList();
        String name = Names.stem(document.file().getFileName().toString());
        Model model = new Model(
                name,
                roots,
                new Model.Extras(fixtures, 0, told, skeleton).carrying(GltfExtras.of(document.root(), nodeNames)));
        int count = document.root().path("materials").size();
        if (count > 0 && document.root().path("meshes").isEmpty()) {
            List<Material> all = new ArrayList<>();
            for (int i = 0; i < count; i++) {
                all.add(materials.material(i));
            }
            return new Imported(
                    document.file(),
                    Samples.balls(name, all),
                    Optional.of(1.0),
                    Optional.of(Axis.Y),
                    document.companions(),
                    Imported.Holds.MATERIALS);
        }
        return new Imported(document.file(), model, Optional.of(1.0), Optional.of(Axis.Y), document.companions());
    }

    /** The nodes of the scene to be shown, or of the first; without scenes, those that are nobody's child. */
    private List<Integer> roots() {
        JsonNode root = document.root();
        List<Integer> roots = new ArrayList<>();
        if (!root.path("scenes").isEmpty()) {
            for (JsonNode node :
                    document.element("scenes", root.path("scene").asInt(0)).path("nodes")) {
                roots.add(node.asInt(-1));
            }
            return roots;
        }
        Set<Integer> children = new HashSet<>();
        for (JsonNode node : root.path("nodes")) {
            node.path("children").forEach(child -> children.add(child.asInt(-1)));
        }
        for (int i = 0; i < root.path("nodes").size(); i++) {
            if (!children.contains(i)) {
                roots.add(i);
            }
        }
        return roots;
    }

    /** Nothing where it is a joint that nothing stands at. */
    private Optional<Model.Node> node(int index, Matrix4 above, int depth) {
        JsonNode json = document.element("nodes", index);
        String place = "nodes[" + index + "]";
        if (!visited.add(index)) {
            throw document.wrong(place, "is the child of two nodes, or of itself");
        }
        if (depth > Imported.DEEPEST) {
            throw document.wrong(place, "is nested more than " + Imported.DEEPEST + " deep");
        }
        Matrix4 local = local(json, place);
        Matrix4 world = local.times(above);
        String name = json.path("name").asString("");
        if (name.isBlank() && json.has("mesh")) {
            name = document.element("meshes", json.path("mesh").asInt(-1))
                    .path("name")
                    .asString("");
        }
        name = name.isBlank() ? "Object_" + (index + 1) : name;
        nodeNames.put(index, name);
        fixtures(json, name, world);
        List<Model.Part> parts = json.has("mesh") ? placedParts(json, index, name, place) : List.of();
        List<Model.Node> children = new ArrayList<>();
        JsonNode instancing = json.path("extensions").path("EXT_mesh_gpu_instancing");
        if (instancing.isObject() && !parts.isEmpty()) {
            children.addAll(instances(name, instancing.path("attributes"), parts, place));
            parts = List.of();
        }
        for (JsonNode child : json.path("children")) {
            node(child.asInt(-1), world, depth + 1).ifPresent(children::add);
        }
        return rig.isJoint(index) && parts.isEmpty() && children.isEmpty()
                ? Optional.empty()
                : Optional.of(Model.Node.of(name, local, parts, children));
    }

    /** What stands at a node, going with whatever moves it; what is skinned stands elsewhere. */
    private List<Model.Part> placedParts(JsonNode json, int index, String name, String place) {
        int mesh = json.path("mesh").asInt(-1);
        List<Model.Part> all = parts(mesh);
        int skin = json.path("skin").asInt(-1);
        if (rig.isEmpty()) {
            return all;
        }
        List<Model.Part> parts = shapes.names(index).isEmpty()
                ? all
                : all.stream()
                        .map(part ->
                                new Model.Part(shapes.shown(part.mesh(), mesh, index), part.material(), part.looks()))
                        .toList();
        if (skin < 0) {
            return parts.stream()
                    .map(part -> new Model.Part(rig.moved(part.mesh(), index), part.material(), part.looks()))
                    .toList();
        }
        JsonNode primitives = document.element("meshes", mesh).path("primitives");
        List<Model.Part> hung = new ArrayList<>();
        for (int i = 0; i < parts.size(); i++) {
            Model.Part part = parts.get(i);
            JsonNode attributes = primitives.path(drawn.get(mesh).get(i)).path("attributes");
            Mesh on = rig.skinned(part.mesh(), attributes, skin, "meshes[" + mesh + "].primitives[" + i + "]");
            hung.add(new Model.Part(on, part.material(), part.looks()));
        }
        skinned.add(Model.Node.of(name, rig.place(skin), hung, List.of()));
        return List.of();
    }

    private Matrix4 local(JsonNode json, String place) {
        Matrix4 local;
        if (json.has("matrix")) {
            double[] numbers = new double[16];
            for (int i = 0; i < 16; i++) {
                numbers[i] = json.path("matrix").path(i).asDouble(Double.NaN);
            }
            // Column by column for column vectors is row by row for row vectors.
            local = Matrix4.ofRows(numbers);
        } else {
            double[] t = numbers(json.path("translation"), 0, 0, 0);
            double[] r = numbers(json.path("rotation"), 0, 0, 0, 1);
            double[] s = numbers(json.path("scale"), 1, 1, 1);
            local = placed(t, r, s);
        }
        if (!local.isFinite()) {
            throw document.wrong(place, "has a place that is not a number or infinite");
        }
        return local;
    }

    private static Matrix4 placed(double[] t, double[] r, double[] s) {
        Matrix4 scaled =
                s[0] == 1 && s[1] == 1 && s[2] == 1 ? Matrix4.IDENTITY : Matrix4.scale(new Vec3(s[0], s[1], s[2]));
        Matrix4 turned =
                r[0] == 0 && r[1] == 0 && r[2] == 0 ? scaled : scaled.times(Matrix4.quaternion(r[3], r[0], r[1], r[2]));
        return t[0] == 0 && t[1] == 0 && t[2] == 0
                ? turned
                : turned.times(Matrix4.translation(new Vec3(t[0], t[1], t[2])));
    }

    private static double[] numbers(JsonNode node, double... otherwise) {
        double[] numbers = otherwise.clone();
        for (int i = 0; i < numbers.length && node.isArray(); i++) {
            numbers[i] = node.path(i).asDouble(Double.NaN);
        }
        return numbers;
    }

    /** One node for each instance; all show the same parts. */
    private List<Model.Node> instances(String name, JsonNode attributes, List<Model.Part> parts, String place) {
        float[] moved = instanced(attributes, "TRANSLATION", 3);
        float[] turned = instanced(attributes, "ROTATION", 4);
        float[] scaled = instanced(attributes, "SCALE", 3);
        int count = Math.max(moved.length / 3, Math.max(turned.length / 4, scaled.length / 3));
        if (moved.length > 0 && moved.length != 3 * count
                || turned.length > 0 && turned.length != 4 * count
                || scaled.length > 0 && scaled.length != 3 * count) {
            throw document.wrong(place, "its instances have places, turns and scales of different numbers");
        }
        List<Model.Node> nodes = new ArrayList<>(count);
        for (int i = 0; i < count; i++) {
            Matrix4 local =
                    placed(taken(moved, 3, i, 0, 0, 0), taken(turned, 4, i, 0, 0, 0, 1), taken(scaled, 3, i, 1, 1, 1));
            if (!local.isFinite()) {
                throw document.wrong(place, "instance " + i + " has a place that is not a number or infinite");
            }
            nodes.add(Model.Node.of(name + " " + (i + 1), local, parts, List.of()));
        }
        return nodes;
    }

    private float[] instanced(JsonNode attributes, String name, int width) {
        return attributes.has(name) ? accessors.floats(attributes.path(name).asInt(-1), width) : new float[0];
    }

    private static double[] taken(float[] data, int width, int element, double... otherwise) {
        double[] taken = otherwise.clone();
        for (int i = 0; i < width && data.length > 0; i++) {
            taken[i] = data[element * width + i];
        }
        return taken;
    }

    private void fixtures(JsonNode json, String name, Matrix4 world) {
        int camera = json.path("camera").asInt(-1);
        if (camera >= 0) {
            JsonNode described = document.element("cameras", camera);
            JsonNode perspective = described.path("perspective");
            double angle = perspective.isObject()
                    ? Math.toDegrees(perspective.path("yfov").asDouble(0.8))
                    : 0;
            double high = described.path("orthographic").path("ymag").asDouble(1);
            double aspect = perspective.isObject()
                    ? perspective.path("aspectRatio").asDouble(1.5)
                    : described.path("orthographic").path("xmag").asDouble(high) / high;
            fixtures.add(new Fixture.Camera(
                    named(described, name), world, Math.clamp(angle, 0, 179), Double.isFinite(aspect) ? aspect : 1));
        }
        int light = json.path("extensions")
                .path("KHR_lights_punctual")
                .path("light")
                .asInt(-1);
        if (light >= 0) {
            JsonNode described = document.root()
                    .path("extensions")
                    .path("KHR_lights_punctual")
                    .path("lights")
                    .path(light);
            double[] colour = numbers(described.path("color"), 1, 1, 1);
            String type = described.path("type").asString("point");
            double intensity = described.path("intensity").asDouble(1);
            boolean distant = type.equals("directional");
            fixtures.add(new Fixture.Light(
                    named(described, name),
                    world,
                    distant ? Fixture.Light.Kind.DISTANT : Fixture.Light.Kind.SPHERE,
                    new Colour((float) colour[0], (float) colour[1], (float) colour[2]),
                    distant ? intensity : intensity * GltfConventions.SPHERE_PER_CANDELA,
                    type.equals("spot")
                            ? Math.toDegrees(described
                                    .path("spot")
                                    .path("outerConeAngle")
                                    .asDouble(Math.PI / 4))
                            : 180));
        }
    }

    private static String named(JsonNode json, String otherwise) {
        String name = json.path("name").asString("");
        return name.isBlank() ? otherwise : name;
    }

    private List<Model.Part> parts(int index) {
        List<Model.Part> known = meshes.get(index);
        if (known == null) {
            progress.step("reading " + document.file().getFileName(), -1);
            JsonNode json = document.element("meshes", index);
            List<Model.Part> parts = new ArrayList<>();
            JsonNode primitives = json.path("primitives");
            List<Integer> numbers = new ArrayList<>();
            for (int i = 0; i < primitives.size(); i++) {
                Optional<Model.Part> part =
                        part(primitives.path(i), index, "meshes[" + index + "].primitives[" + i + "]");
                if (part.isPresent()) {
                    parts.add(part.get());
                    numbers.add(i);
                }
            }
            drawn.put(index, numbers);
            known = List.copyOf(parts);
            meshes.put(index, known);
        }
        return known;
    }

    private Optional<Model.Part> part(JsonNode json, int index, String place) {
        int mode = json.path("mode").asInt(TRIANGLES);
        if (mode < 0 || mode > FAN) {
            throw document.wrong(place, "has mode " + mode + ", which the standard does not know");
        }
        int bound = json.path("material").asInt(-1);
        if (mode < TRIANGLES) {
            return strands(json, mode, place).map(strands -> Model.Part.of(strands, materials.material(bound)));
        }
        Mesh mesh = shapes.on(surface(json, mode, place, materials.isDoubleSided(bound)), json, index, place);
        if (mesh.faceCount() == 0) {
            return Optional.empty();
        }
        boolean coloured =
                json.path("attributes").has(COLOURS) && mesh.primvars().containsKey(Mesh.COLOUR);
        Material material = material(bound, coloured);
        Map<String, Material> looks = new LinkedHashMap<>();
        for (JsonNode mapping :
                json.path("extensions").path("KHR_materials_variants").path("mappings")) {
            Material look = material(mapping.path("material").asInt(-1), coloured);
            for (JsonNode variant : mapping.path("variants")) {
                int number = variant.asInt(-1);
                if (number < 0 || number >= variantNames.size()) {
                    throw document.wrong(place, "names variant " + number + " of " + variantNames.size());
                }
                looks.put(variantNames.get(number), look);
            }
        }
        return Optional.of(new Model.Part(mesh, material, looks));
    }

    private Material material(int index, boolean coloured) {
        Material material = materials.material(index);
        return coloured ? material.onColoured() : material;
    }

    private Optional<Strands> strands(JsonNode json, int mode, String place) {
        Mesh points = read(json, json.path("attributes"), TRIANGLES, place, false);
        int count = points.pointCount();
        int[] numbers = json.has("indices")
                ? accessors.ints(json.path("indices").asInt(-1))
                : java.util.stream.IntStream.range(0, count).toArray();
        for (int number : numbers) {
            if (number < 0 || number >= count) {
                throw document.wrong(place, "has the index " + number + " of " + count + " points");
            }
        }
        return GltfStrands.of(points, numbers, mode);
    }

    /** The surface; the same accessors give the same mesh. */
    private Mesh surface(JsonNode json, int mode, String place, boolean doubleSided) {
        JsonNode attributes = json.path("attributes");
        List<Integer> key = new ArrayList<>(List.of(mode, json.path("indices").asInt(-1), doubleSided ? 1 : 0));
        for (String name : READ) {
            key.add(attributes.path(name).asInt(-1));
        }
        Mesh known = surfaces.get(key);
        if (known == null) {
            known = read(json, attributes, mode, place, true).withDoubleSided(doubleSided);
            surfaces.put(key, known);
        }
        return known;
    }

    /** @param withFaces whether the indices are those of faces */
    private Mesh read(JsonNode json, JsonNode attributes, int mode, String place, boolean withFaces) {
        if (!attributes.has("POSITION")) {
            throw document.wrong(place, "has no positions");
        }
        float[] points = accessors.floats(attributes.path("POSITION").asInt(-1), 3);
        for (float number : points) {
            if (!Float.isFinite(number)) {
                throw document.wrong(place, "has a point that is not a number or infinite");
            }
        }
        int count = points.length / 3;
        int[] indices;
        if (!withFaces) {
            indices = new int[0];
        } else if (json.has("indices")) {
            indices = accessors.ints(json.path("indices").asInt(-1));
        } else {
            indices = new int[count];
            java.util.Arrays.setAll(indices, i -> i);
        }
        int[] corners = triangles(indices, mode);
        int[] sizes = new int[corners.length / 3];
        java.util.Arrays.fill(sizes, 3);
        Map<String, Channel> more = new LinkedHashMap<>();
        if (attributes.has(COLOURS)) {
            colours(attributes.path(COLOURS).asInt(-1), count, place, more);
        } else if (attributes.has(GltfConventions.UNUSED_COLOURS)) {
            colours(attributes.path(GltfConventions.UNUSED_COLOURS).asInt(-1), count, place, more);
        }
        for (int set = 1; set < MOST_UV_SETS; set++) {
            int accessor = attributes.path("TEXCOORD_" + set).asInt(-1);
            Channel uvs = accessor < 0 ? null : upwards(channel(accessor, 2, count, place));
            if (uvs != null) {
                more.put(Mesh.uvSet(set), uvs);
            }
        }
        try {
            return new Mesh(
                            points,
                            sizes,
                            corners,
                            attributes.has("NORMAL")
                                    ? channel(attributes.path("NORMAL").asInt(-1), 3, count, place)
                                    : null,
                            attributes.has("TEXCOORD_0")
                                    ? upwards(channel(
                                            attributes.path("TEXCOORD_0").asInt(-1), 2, count, place))
                                    : null)
                    .withPrimvars(more);
        } catch (IllegalArgumentException e) {
            throw document.wrong(place, e.getMessage());
        }
    }

    /** Colours, with how opaque they are where that is told and not everywhere 1. */
    private void colours(int accessor, int count, String place, Map<String, Channel> into) {
        Channel all = channel(accessor, accessors.width(accessor) == 4 ? 4 : 3, count, place);
        if (all == null) {
            return;
        }
        if (all.width() == 3) {
            into.put(Mesh.COLOUR, all);
            return;
        }
        float[] colours = new float[3 * count];
        float[] opacities = new float[count];
        boolean clear = false;
        for (int i = 0; i < count; i++) {
            System.arraycopy(all.data(), 4 * i, colours, 3 * i, 3);
            opacities[i] = all.data()[4 * i + 3];
            clear |= opacities[i] != 1;
        }
        into.put(Mesh.COLOUR, new Channel(colours, 3, Channel.Per.POINT));
        if (clear) {
            into.put(Mesh.OPACITY, new Channel(opacities, 1, Channel.Per.POINT));
        }
    }

    /** Numbers that are none leave the channel out: normals of triangles without area are often such. */
    private @Nullable Channel channel(int accessor, int width, int count, String place) {
        float[] data = accessors.floats(accessor, width);
        if (data.length != count * width) {
            throw document.wrong(
                    place, "has " + count + " points, but " + data.length / width + " of accessors[" + accessor + "]");
        }
        for (float number : data) {
            if (!Float.isFinite(number)) {
                return null;
            }
        }
        return new Channel(data, width, Channel.Per.POINT);
    }

    /** glTF's v runs downwards. */
    private static @Nullable Channel upwards(@Nullable Channel uvs) {
        if (uvs != null) {
            float[] data = uvs.data();
            for (int i = 1; i < data.length; i += 2) {
                data[i] = 1 - data[i];
            }
        }
        return uvs;
    }

    private static int[] triangles(int[] indices, int mode) {
        if (mode == TRIANGLES) {
            return indices.length % 3 == 0 ? indices : java.util.Arrays.copyOf(indices, indices.length / 3 * 3);
        }
        int count = Math.max(0, indices.length - 2);
        int[] corners = new int[3 * count];
        for (int i = 0; i < count; i++) {
            boolean odd = mode == STRIP && i % 2 == 1;
            corners[3 * i] = mode == FAN ? indices[0] : indices[i];
            corners[3 * i + 1] = indices[odd ? i + 2 : i + 1];
            corners[3 * i + 2] = indices[odd ? i + 1 : i + 2];
        }
        return corners;
    }
}
