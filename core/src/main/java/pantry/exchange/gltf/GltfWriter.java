package pantry.exchange.gltf;

import de.javagl.jgltf.impl.v2.Asset;
import de.javagl.jgltf.impl.v2.Buffer;
import de.javagl.jgltf.impl.v2.Camera;
import de.javagl.jgltf.impl.v2.CameraOrthographic;
import de.javagl.jgltf.impl.v2.CameraPerspective;
import de.javagl.jgltf.impl.v2.GlTF;
import de.javagl.jgltf.impl.v2.Mesh;
import de.javagl.jgltf.impl.v2.MeshPrimitive;
import de.javagl.jgltf.impl.v2.Node;
import de.javagl.jgltf.impl.v2.Scene;
import de.javagl.jgltf.model.io.GltfAssetWriter;
import de.javagl.jgltf.model.io.v2.GltfAssetV2;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import pantry.base.AtomicFiles;
import pantry.base.Names;
import pantry.base.math.Matrix4;
import pantry.exchange.format.ExportImages;
import pantry.exchange.format.ExportNotes;
import pantry.mesh.Channel;
import pantry.mesh.Strands;
import pantry.mesh.TriangleMesh;
import pantry.model.Fixture;
import pantry.model.Model;
import pantry.motion.BlendShapes;
import pantry.motion.Skin;

/**
 * Writes a model as glTF 2.0: the tree as nodes, each mesh once however often it stands somewhere, with its skeleton and
 * motions, lights, cameras and looks. A place that is no product of a move, a turn and a scale is baked into the vertices below it.
 */
public final class GltfWriter {
    private static final String LIGHTS = "KHR_lights_punctual";
    private static final String VARIANTS = "KHR_materials_variants";
    private static final int TRIANGLES = 4;
    private static final int MOST_UV_SETS = 4;
    private static final double NEAR = 0.01;
    private static final double FAR = 10_000;

    private final ExportNotes notes;
    private final GltfBuffer buffer = new GltfBuffer();
    private final GltfImages images;
    private final GltfMaterialWriter materials;
    private final Set<String> extensions = new TreeSet<>();
    private final List<Node> nodes = new ArrayList<>();
    private final List<Mesh> meshes = new ArrayList<>();
    private final List<Camera> cameras = new ArrayList<>();
    private final List<Object> lights = new ArrayList<>();
    private final List<String> looks;
    private final Map<List<Model.Part>, Integer> meshNumbers = new HashMap<>();
    private final Map<pantry.mesh.Mesh, TriangleMesh> triangles = new HashMap<>();
    private final Map<pantry.mesh.Mesh, Map<String, Integer>> attributes = new HashMap<>();
    private final Map<Baked, pantry.mesh.Mesh> baked = new HashMap<>();

    /** What hangs on joints, which stands at the top wherever its object is. */
    private final List<Integer> hung = new ArrayList<>();

    private final GltfShapeWriter shapes;
    private @Nullable GltfRigWriter rig;
    private final GltfExtras.Waiting waiting;

    /** A mesh with a place that is part of its vertices. */
    private record Baked(pantry.mesh.Mesh mesh, Matrix4 place) {}

    private GltfWriter(Model model, @Nullable ExportImages beside, ExportNotes notes) {
        this.notes = notes;
        this.shapes = new GltfShapeWriter(buffer, notes);
        this.images = new GltfImages(buffer, beside, notes);
        this.materials = new GltfMaterialWriter(images, notes, extensions);
        this.looks = List.copyOf(model.looks());
        this.waiting = new GltfExtras.Waiting(model.extras().custom());
    }

    /** One binary file with everything in it. */
    public static void writeBinary(Model model, Path file, ExportNotes notes) throws IOException {
        GltfWriter writer = new GltfWriter(model, null, notes);
        GlTF gltf = writer.gltf(model);
        byte[] bytes = writer.buffer.bytes();
        writer.addBuffer(gltf, bytes, null);
        ByteBuffer data = ByteBuffer.allocateDirect(bytes.length);
        data.put(bytes).flip();
        new GltfAssetWriter().writeBinary(new GltfAssetV2(gltf, data), file.toFile());
    }

    /**
     * One text file, its numbers in another of the same name that ends in {@code .bin}, and its images as files.
     *
     * @param file that is written
     * @param target where it will stand once it is whole
     */
    public static void writeText(Model model, Path file, Path target, ExportNotes notes) throws IOException {
        GltfWriter writer = new GltfWriter(model, new ExportImages(target, notes), notes);
        GlTF gltf = writer.gltf(model);
        byte[] bytes = writer.buffer.bytes();
        String binary = Names.stem(target.getFileName().toString()) + ".bin";
        writer.addBuffer(gltf, bytes, Uris.encoded(binary));
        if (bytes.length > 0) {
            AtomicFiles.write(target.toAbsolutePath().resolveSibling(binary), bytes);
        }
        new GltfAssetWriter().writeJson(new GltfAssetV2(gltf, null), file.toFile());
    }

    private void addBuffer(GlTF gltf, byte[] bytes, @Nullable String uri) {
        if (bytes.length > 0) {
            Buffer all = new Buffer();
            all.setByteLength(bytes.length);
            all.setUri(uri);
            gltf.setBuffers(List.of(all));
        }
    }

    private GlTF gltf(Model model) throws IOException {
        Asset asset = new Asset();
        asset.setVersion("2.0");
        asset.setGenerator("Pantry");
        GlTF gltf = new GlTF();
        gltf.setAsset(asset);
        List<Integer> roots = new ArrayList<>();
        if (model.extras().skeleton().isPresent()) {
            rig = new GltfRigWriter(model.extras().skeleton().get(), buffer, shapes, notes, nodes, roots);
        }
        for (Model.Node root : model.roots()) {
            roots.add(node(root, Matrix4.IDENTITY, Matrix4.IDENTITY));
        }
        roots.addAll(hung);
        if (rig != null) {
            rig.finish(gltf, nodes, roots);
        }
        for (Fixture fixture : model.extras().fixtures()) {
            fixture(fixture, roots);
        }
        Scene scene = new Scene();
        scene.setName(model.name());
        materials.materials().forEach(material -> waiting.take(material.getName())
                .ifPresent(material::setExtras));
        Map<String, Object> rest = waiting.rest();
        if (!rest.isEmpty()) {
            scene.setExtras(rest);
        }
        if (!roots.isEmpty()) {
            scene.setNodes(roots);
        }
        gltf.setScenes(List.of(scene));
        gltf.setScene(0);
        if (!nodes.isEmpty()) {
            gltf.setNodes(nodes);
        }
        if (!meshes.isEmpty()) {
            gltf.setMeshes(meshes);
            gltf.setAccessors(buffer.accessors());
        }
        if (!materials.materials().isEmpty()) {
            gltf.setMaterials(materials.materials());
        }
        if (!images.textures().isEmpty()) {
            gltf.setImages(images.images());
            gltf.setSamplers(images.samplers());
            gltf.setTextures(images.textures());
        }
        if (!buffer.views().isEmpty()) {
            gltf.setBufferViews(buffer.views());
        }
        if (!cameras.isEmpty()) {
            gltf.setCameras(cameras);
        }
        if (!lights.isEmpty()) {
            gltf.addExtensions(LIGHTS, Map.of("lights", lights));
            extensions.add(LIGHTS);
        }
        if (extensions.contains(VARIANTS)) {
            gltf.addExtensions(
                    VARIANTS,
                    Map.of(
                            "variants",
                            looks.stream().map(look -> Map.of("name", look)).toList()));
        }
        if (!extensions.isEmpty()) {
            gltf.setExtensionsUsed(List.copyOf(extensions));
        }
        return gltf;
    }

    /**
     * @param above what the places above come to that have to be baked
     * @param outside the place of what is above in the model
     */
    private int node(Model.Node node, Matrix4 above, Matrix4 outside) throws IOException {
        Matrix4 world = node.local().times(outside);
        Matrix4 local = node.local().times(above);
        boolean told = isMoveTurnScale(local);
        Matrix4 inside = told ? Matrix4.IDENTITY : local;
        Node made = new Node();
        nodes.add(made);
        int number = nodes.size() - 1;
        made.setName(node.name());
        waiting.take(node.name()).ifPresent(made::setExtras);
        if (told && !local.equals(Matrix4.IDENTITY)) {
            made.setMatrix(matrix(local));
        }
        List<Model.Part> parts = new ArrayList<>();
        List<Model.Part> hanging = new ArrayList<>();
        for (Model.Part part : node.parts()) {
            if (part.strands().isPresent()) {
                parts.add(new Model.Part(
                        part.mesh(),
                        part.material(),
                        part.looks(),
                        part.strands()
                                .map(strands ->
                                        inside.equals(Matrix4.IDENTITY) ? strands : strands.transformed(inside))));
            } else if (part.mesh().faceCount() > 0
                    && rig != null
                    && Skin.of(part.mesh()).isPresent()) {
                hanging.add(new Model.Part(bakedMesh(part.mesh(), world), part.material(), part.looks()));
            } else if (part.mesh().faceCount() > 0) {
                parts.add(new Model.Part(bakedMesh(part.mesh(), inside), part.material(), part.looks()));
            }
        }
        if (!parts.isEmpty()) {
            made.setMesh(mesh(node.name(), parts));
            shapes.shown(number, GltfShapeWriter.names(parts));
        }
        if (!hanging.isEmpty()) {
            Node moved = new Node();
            moved.setName(node.name());
            moved.setMesh(mesh(node.name(), hanging));
            moved.setSkin(0);
            nodes.add(moved);
            hung.add(nodes.size() - 1);
            shapes.shown(nodes.size() - 1, GltfShapeWriter.names(hanging));
        }
        List<Integer> children = new ArrayList<>();
        for (Model.Node child : node.children()) {
            children.add(node(child, inside, world));
        }
        if (!children.isEmpty()) {
            made.setChildren(children);
        }
        return number;
    }

    private static float[] matrix(Matrix4 local) {
        double[] rows = local.rows();
        float[] matrix = new float[16];
        for (int i = 0; i < 16; i++) {
            // Row by row for row vectors is column by column for glTF's column vectors.
            matrix[i] = (float) rows[i];
        }
        return matrix;
    }

    /** Whether a transform is what glTF's nodes can say: its axes are square to each other and none is flat. */
    static boolean isMoveTurnScale(Matrix4 m) {
        double[] lengths = new double[3];
        for (int i = 0; i < 3; i++) {
            lengths[i] = Math.sqrt(dot(m, i, i));
            if (!(lengths[i] > 1e-9)) {
                return false;
            }
        }
        for (int i = 0; i < 3; i++) {
            int j = (i + 1) % 3;
            if (Math.abs(dot(m, i, j)) > 1e-5 * lengths[i] * lengths[j]) {
                return false;
            }
        }
        return true;
    }

    private static double dot(Matrix4 m, int i, int j) {
        return m.get(i, 0) * m.get(j, 0) + m.get(i, 1) * m.get(j, 1) + m.get(i, 2) * m.get(j, 2);
    }

    private pantry.mesh.Mesh bakedMesh(pantry.mesh.Mesh mesh, Matrix4 place) {
        return place.equals(Matrix4.IDENTITY)
                ? mesh
                : baked.computeIfAbsent(new Baked(mesh, place), key -> mesh.transformed(place));
    }

    private int mesh(String name, List<Model.Part> parts) throws IOException {
        Integer known = meshNumbers.get(parts);
        if (known != null) {
            return known;
        }
        List<MeshPrimitive> primitives = new ArrayList<>();
        List<String> shapeNames = GltfShapeWriter.names(parts);
        Mesh mesh = new Mesh();
        for (Model.Part part : parts) {
            if (part.strands().isPresent()) {
                primitives.add(strands(part, part.strands().get()));
                continue;
            }
            MeshPrimitive primitive = primitive(name, part);
            shapes.addTo(primitive, triangles.get(part.mesh()), shapeNames);
            primitives.add(primitive);
        }
        if (!shapeNames.isEmpty()) {
            shapes.addTo(mesh, shapeNames);
        }
        mesh.setName(name);
        mesh.setPrimitives(primitives);
        meshes.add(mesh);
        meshNumbers.put(List.copyOf(parts), meshes.size() - 1);
        return meshes.size() - 1;
    }

    private MeshPrimitive primitive(String name, Model.Part part) throws IOException {
        TriangleMesh flat = triangles.computeIfAbsent(part.mesh(), TriangleMesh::of);
        Map<String, Integer> found = attributes.computeIfAbsent(part.mesh(), mesh -> attributes(name, flat));
        Map<String, Integer> used = new LinkedHashMap<>(found);
        Integer colours = used.remove(GltfConventions.UNUSED_COLOURS);
        if (colours != null) {
            used.put(part.material().finish().coloured() ? "COLOR_0" : GltfConventions.UNUSED_COLOURS, colours);
        }
        int indices = used.remove("indices");
        MeshPrimitive primitive = new MeshPrimitive();
        primitive.setMode(TRIANGLES);
        primitive.setIndices(indices);
        primitive.setAttributes(used);
        boolean doubleSided = part.mesh().doubleSided();
        if (!part.material().isNone()) {
            primitive.setMaterial(materials.material(part.material(), doubleSided));
        } else if (doubleSided) {
            notes.left("object " + name + " is seen from both sides, which glTF says of materials, and it has none");
        }
        if (!part.looks().isEmpty()) {
            looks(primitive, part);
        }
        return primitive;
    }

    /** Points and lines as such, rather than as the surface that shows them. */
    private MeshPrimitive strands(Model.Part part, Strands strands) throws IOException {
        MeshPrimitive primitive = new MeshPrimitive();
        Map<String, Integer> told = new LinkedHashMap<>();
        told.put("POSITION", buffer.floats(strands.points(), 3, true));
        if (strands.colours().length > 0) {
            told.put("COLOR_0", buffer.floats(clamped(strands.colours()), 3, false));
        }
        primitive.setAttributes(told);
        primitive.setMode(strands.areLoose() ? GltfStrands.POINTS : GltfStrands.PAIRS);
        if (!strands.areLoose()) {
            primitive.setIndices(buffer.indices(GltfStrands.pairs(strands.counts()), strands.pointCount()));
        }
        if (!part.material().isNone()) {
            primitive.setMaterial(materials.material(part.material(), false));
        }
        if (!part.looks().isEmpty()) {
            looks(primitive, part);
        }
        return primitive;
    }

    private void looks(MeshPrimitive primitive, Model.Part part) throws IOException {
        Map<Integer, List<Integer>> byMaterial = new LinkedHashMap<>();
        for (Map.Entry<String, pantry.model.Material> look : part.looks().entrySet()) {
            byMaterial
                    .computeIfAbsent(
                            materials.material(look.getValue(), part.mesh().doubleSided()), key -> new ArrayList<>())
                    .add(looks.indexOf(look.getKey()));
        }
        List<Object> mappings = new ArrayList<>();
        byMaterial.forEach((material, variants) -> mappings.add(Map.of("material", material, "variants", variants)));
        primitive.addExtensions(VARIANTS, Map.of("mappings", mappings));
        extensions.add(VARIANTS);
    }

    /** Accessors by attribute; those of the triangles under {@code indices}. */
    private Map<String, Integer> attributes(String name, TriangleMesh flat) {
        Map<String, Integer> made = new LinkedHashMap<>();
        made.put("indices", buffer.indices(flat.indices(), flat.vertexCount()));
        made.put("POSITION", buffer.floats(flat.positions(), 3, true));
        made.put("NORMAL", buffer.floats(unit(flat.normals()), 3, false));
        int set = 0;
        for (int from = 0; from < MOST_UV_SETS; from++) {
            float[] uvs = flat.uvs(from);
            if (uvs != null) {
                // Materials name sets by their numbers, so a gap stays one, filled with the first set.
                while (set < from) {
                    made.put("TEXCOORD_" + set++, buffer.floats(downwards(uvs), 2, false));
                }
                made.put("TEXCOORD_" + set++, buffer.floats(downwards(uvs), 2, false));
            }
        }
        float[] colours = flat.colours();
        if (colours != null) {
            Channel opacity = flat.more().get(pantry.mesh.Mesh.OPACITY);
            made.put(
                    GltfConventions.UNUSED_COLOURS,
                    opacity == null
                            ? buffer.floats(clamped(colours), 3, false)
                            : buffer.floats(clamped(withOpacity(colours, opacity.data())), 4, false));
        }
        if (rig != null) {
            rig.addTo(made, name, flat);
        }
        flat.more().keySet().stream()
                .filter(other -> !BlendShapes.isChannel(other) && (rig == null || !Skin.isChannel(other)))
                .filter(other -> !other.equals(pantry.mesh.Mesh.OPACITY) && !other.matches("st[1-3]"))
                .forEach(other -> notes.left("object " + name + ": " + other + " of its surface has no place in glTF"));
        return made;
    }

    private static float[] withOpacity(float[] colours, float[] opacities) {
        float[] all = new float[4 * opacities.length];
        for (int i = 0; i < opacities.length; i++) {
            System.arraycopy(colours, 3 * i, all, 4 * i, 3);
            all[4 * i + 3] = opacities[i];
        }
        return all;
    }

    private static float[] clamped(float[] colours) {
        float[] clamped = new float[colours.length];
        for (int i = 0; i < colours.length; i++) {
            clamped[i] = Math.clamp(colours[i], 0f, 1f);
        }
        return clamped;
    }

    /** Normals of unit length, as glTF requires; upwards where a face has no area and so no direction of its own. */
    private static float[] unit(float[] normals) {
        float[] unit = new float[normals.length];
        for (int i = 0; i < normals.length; i += 3) {
            double length = Math.sqrt((double) normals[i] * normals[i]
                    + (double) normals[i + 1] * normals[i + 1]
                    + (double) normals[i + 2] * normals[i + 2]);
            boolean none = !(length > 1e-20) || Double.isInfinite(length);
            unit[i] = none ? 0 : (float) (normals[i] / length);
            unit[i + 1] = none ? 1 : (float) (normals[i + 1] / length);
            unit[i + 2] = none ? 0 : (float) (normals[i + 2] / length);
        }
        return unit;
    }

    /** glTF's v runs downwards. */
    private static float[] downwards(float[] uvs) {
        float[] down = uvs.clone();
        for (int i = 1; i < down.length; i += 2) {
            down[i] = 1 - down[i];
        }
        return down;
    }

    private void fixture(Fixture fixture, List<Integer> roots) {
        Node node = new Node();
        node.setName(fixture.name());
        switch (fixture) {
            case Fixture.Camera camera -> {
                cameras.add(camera(camera));
                node.setCamera(cameras.size() - 1);
            }
            case Fixture.Light light -> {
                boolean known = light.kind() == Fixture.Light.Kind.DISTANT || light.kind() == Fixture.Light.Kind.SPHERE;
                if (!known) {
                    notes.left("light " + light.name() + " is a " + light.kind().type() + ", which glTF does not have");
                    return;
                }
                lights.add(light(light));
                node.addExtensions(LIGHTS, Map.of("light", lights.size() - 1));
            }
        }
        Matrix4 world = fixture.world();
        if (!isMoveTurnScale(world)) {
            notes.left(fixture.name() + " stands sheared or flattened, which glTF cannot say; it stands upright");
            world = Matrix4.translation(world.translationPart());
        }
        if (!world.equals(Matrix4.IDENTITY)) {
            node.setMatrix(matrix(world));
        }
        nodes.add(node);
        roots.add(nodes.size() - 1);
    }

    private Camera camera(Fixture.Camera camera) {
        Camera made = new Camera();
        made.setName(camera.name());
        if (camera.angle() > 0) {
            CameraPerspective perspective = new CameraPerspective();
            perspective.setYfov((float) Math.toRadians(camera.angle()));
            perspective.setAspectRatio((float) camera.aspect());
            perspective.setZnear((float) NEAR);
            made.setType("perspective");
            made.setPerspective(perspective);
        } else {
            CameraOrthographic parallel = new CameraOrthographic();
            parallel.setXmag((float) camera.aspect());
            parallel.setYmag(1f);
            parallel.setZnear((float) NEAR);
            parallel.setZfar((float) FAR);
            made.setType("orthographic");
            made.setOrthographic(parallel);
            notes.left("camera " + camera.name() + " sees in parallel; how much it sees is not kept, and set to 2 m");
        }
        return made;
    }

    private static Map<String, Object> light(Fixture.Light light) {
        boolean distant = light.kind() == Fixture.Light.Kind.DISTANT;
        boolean spot = !distant && light.coneAngle() < 90;
        Map<String, Object> made = new LinkedHashMap<>();
        made.put("name", light.name());
        made.put("type", distant ? "directional" : spot ? "spot" : "point");
        made.put("color", new float[] {
            Math.clamp(light.colour().r(), 0, 1),
            Math.clamp(light.colour().g(), 0, 1),
            Math.clamp(light.colour().b(), 0, 1)
        });
        made.put("intensity", distant ? light.intensity() : light.intensity() / GltfConventions.SPHERE_PER_CANDELA);
        if (spot) {
            made.put("spot", Map.of("outerConeAngle", Math.toRadians(light.coneAngle())));
        }
        return made;
    }
}
