package pantry.exchange.worker;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.FloatBuffer;
import java.nio.IntBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import org.lwjgl.PointerBuffer;
import org.lwjgl.assimp.AIAnimMesh;
import org.lwjgl.assimp.AICamera;
import org.lwjgl.assimp.AIColor3D;
import org.lwjgl.assimp.AIColor4D;
import org.lwjgl.assimp.AIFace;
import org.lwjgl.assimp.AILight;
import org.lwjgl.assimp.AIMaterial;
import org.lwjgl.assimp.AIMesh;
import org.lwjgl.assimp.AINode;
import org.lwjgl.assimp.AIPropertyStore;
import org.lwjgl.assimp.AIScene;
import org.lwjgl.assimp.AIString;
import org.lwjgl.assimp.AITexture;
import org.lwjgl.assimp.AIVector3D;
import org.lwjgl.assimp.Assimp;
import org.lwjgl.system.MemoryUtil;
import pantry.base.FileGate;
import pantry.base.Json;
import pantry.base.math.Matrix4;
import pantry.exchange.format.Imported;
import pantry.exchange.format.PhongTerms;

/** Reads one file with Assimp and writes what it found as a {@link Wire} with its arrays. Runs in the worker only. */
final class SceneDump implements AutoCloseable {
    private static final int MOST_UV_SETS = 4;

    /** What Assimp calls the nodes that it makes of an object's pivots in FBX. */
    private static final String FBX_HELPER = "_$AssimpFbx$_";

    /** A text that people write for an object in FBX. */
    private static final String NOTES = "UserProperties";

    private final FileChannel out;
    private final Predicate<String> said;
    private long place;

    /** Why Assimp will not read a file, in its words. */
    static final class Refusal extends Exception {
        private static final long serialVersionUID = 1L;

        Refusal(String message) {
            super(message);
        }
    }

    /** @param said which of the values that objects have are said by the file, rather than by its format */
    private SceneDump(FileChannel out, Predicate<String> said) {
        this.out = out;
        this.said = said;
    }

    @Override
    public void close() throws IOException {
        out.close();
    }

    /** The result's layout: arrays, then JSON, then 16 bytes that tell the JSON's place and length. */
    static void write(Path file, FileGate gate, Path result) throws Refusal, IOException {
        try (AdmittedFiles files = new AdmittedFiles(gate, file)) {
            AIPropertyStore settings = Assimp.aiCreatePropertyStore();
            try {
                // By what people called things, not by what the file calls them.
                Assimp.aiSetImportPropertyInteger(settings, Assimp.AI_CONFIG_IMPORT_COLLADA_USE_COLLADA_NAMES, 1);
                // Pivots of FBX are part of an object's place, and its motions those of the object.
                Assimp.aiSetImportPropertyInteger(settings, Assimp.AI_CONFIG_IMPORT_FBX_PRESERVE_PIVOTS, 0);
                // Where a file has no surface, none is made of its joints.
                Assimp.aiSetImportPropertyInteger(settings, Assimp.AI_CONFIG_IMPORT_NO_SKELETON_MESHES, 1);
                write(
                        Assimp.aiImportFileExWithProperties(file.toString(), 0, files.io(), settings),
                        said(file),
                        result);
            } finally {
                Assimp.aiReleasePropertyStore(settings);
            }
        }
    }

    private static Predicate<String> said(Path file) throws IOException {
        String name = file.getFileName().toString().toLowerCase(Locale.ROOT);
        Set<String> made = FbxUserProperties.names(file);
        return name.endsWith(".fbx") ? each -> made.contains(each) || each.equals(NOTES) : each -> true;
    }

    private static void write(@Nullable AIScene scene, Predicate<String> said, Path result)
            throws Refusal, IOException {
        if (scene == null) {
            throw new Refusal(String.valueOf(Assimp.aiGetErrorString()).strip().replaceAll("\\s+", " "));
        }
        try (SceneDump dump = new SceneDump(
                FileChannel.open(
                        result,
                        StandardOpenOption.CREATE,
                        StandardOpenOption.TRUNCATE_EXISTING,
                        StandardOpenOption.WRITE),
                said)) {
            byte[] json = Json.write(dump.wire(scene)).getBytes(StandardCharsets.UTF_8);
            long at = dump.append(ByteBuffer.wrap(json));
            ByteBuffer tail = ByteBuffer.allocate(16).order(ByteOrder.nativeOrder());
            tail.putLong(at).putLong(json.length).flip();
            dump.append(tail);
        } finally {
            Assimp.aiReleaseImport(scene);
        }
    }

    private Wire wire(AIScene scene) throws IOException, Refusal {
        List<Wire.WireMesh> meshes = new ArrayList<>();
        PointerBuffer meshPointers = scene.mMeshes();
        for (int i = 0; i < scene.mNumMeshes() && meshPointers != null; i++) {
            meshes.add(mesh(AIMesh.create(meshPointers.get(i))));
        }
        List<Wire.WireMaterial> materials = new ArrayList<>();
        PointerBuffer materialPointers = scene.mMaterials();
        for (int i = 0; i < scene.mNumMaterials() && materialPointers != null; i++) {
            materials.add(material(AIMaterial.create(materialPointers.get(i)), i));
        }
        List<Wire.WireTexture> embedded = new ArrayList<>();
        PointerBuffer texturePointers = scene.mTextures();
        for (int i = 0; i < scene.mNumTextures() && texturePointers != null; i++) {
            embedded.add(texture(AITexture.create(texturePointers.get(i)), i));
        }
        AINode root = scene.mRootNode();
        if (root == null) {
            throw new Refusal("the file has no objects");
        }
        return new Wire(
                meshes,
                materials,
                embedded,
                node(root, 0),
                AssimpValues.of(scene.mMetaData(), said),
                fixtures(scene),
                List.of(),
                new RigDump(this::append).motions(scene),
                AssimpValues.number(scene.mMetaData(), "UnitScaleFactor")
                        .map(centimetres -> centimetres / 100)
                        .orElse(null),
                AssimpValues.number(scene.mMetaData(), "UpAxis")
                        .map(Double::intValue)
                        .orElse(null));
    }

    private Wire.WireMesh mesh(AIMesh mesh) throws IOException, Refusal {
        if (mesh.mNumFaces() == 0) {
            // Points and nothing between them.
            return new Wire.WireMesh(
                    mesh.mName().dataString(),
                    mesh.mMaterialIndex(),
                    0,
                    0,
                    -1,
                    List.of(),
                    -1,
                    0,
                    0,
                    0,
                    0,
                    List.of(),
                    List.of());
        }
        int count = mesh.mNumVertices();
        AIVector3D.Buffer normals = mesh.mNormals();
        long points = appendMemory(mesh.mVertices().address(), count * 12L);
        long normalsPlace = normals == null ? -1 : appendMemory(normals.address(), count * 12L);
        List<Long> uvs = new ArrayList<>();
        for (int set = 0; set < MOST_UV_SETS; set++) {
            AIVector3D.Buffer coordinates = mesh.mTextureCoords(set);
            uvs.add(coordinates == null ? -1L : append(pairs(coordinates, count)));
        }
        AIColor4D.Buffer colours = mesh.mColors(0);
        long coloursPlace = colours == null ? -1 : append(triples(colours, count));
        AIFace.Buffer faces = mesh.mFaces();
        // Lines and points among faces are none; where there is nothing else, they are what is meant.
        int least = anyOf(faces, mesh.mNumFaces(), 3) ? 3 : 1;
        int faceCount = 0;
        int cornerCount = 0;
        for (int i = 0; i < mesh.mNumFaces(); i++) {
            int size = faces.get(i).mNumIndices();
            if (size >= least) {
                faceCount++;
                cornerCount += size;
            }
        }
        ByteBuffer sizes = ByteBuffer.allocateDirect(faceCount * 4).order(ByteOrder.nativeOrder());
        ByteBuffer corners = ByteBuffer.allocateDirect(cornerCount * 4).order(ByteOrder.nativeOrder());
        IntBuffer sizeNumbers = sizes.asIntBuffer();
        IntBuffer cornerNumbers = corners.asIntBuffer();
        for (int i = 0; i < mesh.mNumFaces(); i++) {
            AIFace face = faces.get(i);
            if (face.mNumIndices() >= least) {
                sizeNumbers.put(face.mNumIndices());
                cornerNumbers.put(face.mIndices());
            }
        }
        return new Wire.WireMesh(
                mesh.mName().dataString(),
                mesh.mMaterialIndex(),
                points,
                count,
                normalsPlace,
                uvs,
                coloursPlace,
                append(sizes),
                faceCount,
                append(corners),
                cornerCount,
                new RigDump(this::append).bones(mesh),
                shapes(mesh, count));
    }

    private static boolean anyOf(AIFace.Buffer faces, int count, int size) {
        for (int i = 0; i < count; i++) {
            if (faces.get(i).mNumIndices() >= size) {
                return true;
            }
        }
        return false;
    }

    private List<Wire.WireShape> shapes(AIMesh mesh, int count) throws IOException, Refusal {
        List<Wire.WireShape> shapes = new ArrayList<>();
        PointerBuffer pointers = mesh.mAnimMeshes();
        for (int i = 0; i < mesh.mNumAnimMeshes() && pointers != null; i++) {
            AIAnimMesh shape = AIAnimMesh.create(pointers.get(i));
            AIVector3D.Buffer points = shape.mVertices();
            AIVector3D.Buffer normals = shape.mNormals();
            if (points == null || shape.mNumVertices() != count) {
                throw new Refusal("mesh \"" + mesh.mName().dataString() + "\": shape " + i + " has "
                        + shape.mNumVertices() + " points for " + count);
            }
            shapes.add(new Wire.WireShape(
                    shape.mName().dataString(),
                    appendMemory(points.address(), count * 12L),
                    normals == null ? -1 : appendMemory(normals.address(), count * 12L)));
        }
        return shapes;
    }

    private static ByteBuffer pairs(AIVector3D.Buffer uvs, int count) {
        ByteBuffer pairs = ByteBuffer.allocateDirect(count * 8).order(ByteOrder.nativeOrder());
        FloatBuffer numbers = pairs.asFloatBuffer();
        FloatBuffer triples = MemoryUtil.memFloatBuffer(uvs.address(), count * 3);
        for (int i = 0; i < count; i++) {
            numbers.put(triples.get(3 * i)).put(triples.get(3 * i + 1));
        }
        return pairs;
    }

    private static ByteBuffer triples(AIColor4D.Buffer colours, int count) {
        ByteBuffer triples = ByteBuffer.allocateDirect(count * 12).order(ByteOrder.nativeOrder());
        FloatBuffer numbers = triples.asFloatBuffer();
        FloatBuffer all = MemoryUtil.memFloatBuffer(colours.address(), count * 4);
        for (int i = 0; i < count; i++) {
            numbers.put(all.get(4 * i)).put(all.get(4 * i + 1)).put(all.get(4 * i + 2));
        }
        return triples;
    }

    private static List<Wire.WireFixture> fixtures(AIScene scene) {
        List<Wire.WireFixture> fixtures = new ArrayList<>();
        PointerBuffer lights = scene.mLights();
        for (int i = 0; i < scene.mNumLights() && lights != null; i++) {
            AILight light = AILight.create(lights.get(i));
            AIColor3D colour = light.mColorDiffuse();
            fixtures.add(new Wire.WireFixture(
                    switch (light.mType()) {
                        case Assimp.aiLightSource_DIRECTIONAL -> "distant";
                        case Assimp.aiLightSource_SPOT -> "spot";
                        case Assimp.aiLightSource_AREA -> "area";
                        default -> "point";
                    },
                    light.mName().dataString(),
                    vector(light.mPosition()),
                    vector(light.mDirection()),
                    vector(light.mUp()),
                    new float[] {colour.r(), colour.g(), colour.b()},
                    light.mAngleOuterCone() / 2,
                    1));
        }
        PointerBuffer cameras = scene.mCameras();
        for (int i = 0; i < scene.mNumCameras() && cameras != null; i++) {
            AICamera camera = AICamera.create(cameras.get(i));
            fixtures.add(new Wire.WireFixture(
                    "camera",
                    camera.mName().dataString(),
                    vector(camera.mPosition()),
                    vector(camera.mLookAt()),
                    vector(camera.mUp()),
                    new float[3],
                    camera.mHorizontalFOV(),
                    camera.mAspect()));
        }
        return fixtures;
    }

    private static float[] vector(AIVector3D v) {
        return new float[] {v.x(), v.y(), v.z()};
    }

    private Wire.WireNode node(AINode node, int depth) throws Refusal {
        if (depth > Imported.DEEPEST) {
            throw new Refusal("objects are nested more than " + Imported.DEEPEST + " deep");
        }
        boolean helper = node.mName().dataString().contains(FBX_HELPER);
        List<Wire.WireNode> children = new ArrayList<>();
        PointerBuffer pointers = node.mChildren();
        for (int i = 0; i < node.mNumChildren() && pointers != null; i++) {
            children.add(node(AINode.create(pointers.get(i)), helper ? depth : depth + 1));
        }
        if (helper && children.size() == 1 && node.mNumMeshes() == 0) {
            // Pivots and turns of one object in steps of their own: they are folded into it.
            Wire.WireNode child = children.getFirst();
            return new Wire.WireNode(
                    child.name(),
                    times(child.transform(), transform(node)),
                    child.meshes(),
                    child.children(),
                    child.values());
        }
        int[] meshes = new int[node.mNumMeshes()];
        IntBuffer numbers = node.mMeshes();
        if (numbers != null) {
            numbers.get(meshes);
        }
        return new Wire.WireNode(
                node.mName().dataString(), transform(node), meshes, children, AssimpValues.of(node.mMetadata(), said));
    }

    /** Sixteen numbers, row by row, for row vectors. */
    private static double[] transform(AINode node) {
        return AssimpMatrix.rows(node.mTransformation());
    }

    private static double[] times(double[] inner, double[] outer) {
        return Matrix4.ofRows(inner).times(Matrix4.ofRows(outer)).rows();
    }

    private static Wire.WireMaterial material(AIMaterial material, int number) {
        Optional<float[]> pbrBase = colour(material, Assimp.AI_MATKEY_BASE_COLOR);
        float[] base = pbrBase.or(() -> colour(material, Assimp.AI_MATKEY_COLOR_DIFFUSE))
                .orElse(new float[] {0.6f, 0.6f, 0.6f, 1});
        float opacity = number(material, Assimp.AI_MATKEY_OPACITY).orElse(1f);
        if (pbrBase.isPresent()) {
            opacity = Math.min(opacity, base[3]);
        }
        // Of FBX, Assimp makes one from the exponent, which is no roughness where that is above 100.
        float roughness = number(material, Assimp.AI_MATKEY_ROUGHNESS_FACTOR)
                .filter(told -> told >= 0 && told <= 1)
                .orElseGet(() -> number(material, Assimp.AI_MATKEY_SHININESS)
                        .map(PhongTerms::roughness)
                        .orElse(0.8f));
        Map<String, Wire.WireUse> textures = new LinkedHashMap<>();
        put(textures, "BASE", material, Assimp.aiTextureType_BASE_COLOR, Assimp.aiTextureType_DIFFUSE);
        put(textures, "NORMAL", material, Assimp.aiTextureType_NORMALS, Assimp.aiTextureType_NORMAL_CAMERA);
        put(textures, "METALLIC", material, Assimp.aiTextureType_METALNESS);
        put(textures, "ROUGHNESS", material, Assimp.aiTextureType_DIFFUSE_ROUGHNESS);
        put(textures, "EMISSIVE", material, Assimp.aiTextureType_EMISSIVE, Assimp.aiTextureType_EMISSION_COLOR);
        put(textures, "OCCLUSION", material, Assimp.aiTextureType_AMBIENT_OCCLUSION, Assimp.aiTextureType_LIGHTMAP);
        put(textures, "DISPLACEMENT", material, Assimp.aiTextureType_DISPLACEMENT, Assimp.aiTextureType_HEIGHT);
        put(textures, "OPACITY", material, Assimp.aiTextureType_OPACITY);
        AIString name = AIString.calloc();
        try {
            boolean named =
                    Assimp.aiGetMaterialString(material, Assimp.AI_MATKEY_NAME, Assimp.aiTextureType_NONE, 0, name)
                            == Assimp.aiReturn_SUCCESS;
            return new Wire.WireMaterial(
                    named && !name.dataString().isEmpty() ? name.dataString() : "Material_" + (number + 1),
                    new float[] {base[0], base[1], base[2]},
                    opacity,
                    number(material, Assimp.AI_MATKEY_METALLIC_FACTOR).orElse(0f),
                    roughness,
                    emissive(material),
                    flag(material, Assimp.AI_MATKEY_TWOSIDED),
                    textures);
        } finally {
            name.free();
        }
    }

    private static Optional<float[]> colour(AIMaterial material, String key) {
        AIColor4D colour = AIColor4D.calloc();
        try {
            int found = Assimp.aiGetMaterialColor(material, key, Assimp.aiTextureType_NONE, 0, colour);
            return found == Assimp.aiReturn_SUCCESS
                    ? Optional.of(new float[] {colour.r(), colour.g(), colour.b(), colour.a()})
                    : Optional.empty();
        } finally {
            colour.free();
        }
    }

    private static Optional<Float> number(AIMaterial material, String key) {
        float[] value = new float[1];
        int[] count = {1};
        int found = Assimp.aiGetMaterialFloatArray(material, key, Assimp.aiTextureType_NONE, 0, value, count);
        return found == Assimp.aiReturn_SUCCESS ? Optional.of(value[0]) : Optional.empty();
    }

    /** The colour that it glows in; FBX has two words for it, of which Assimp takes one and hands the other over as read. */
    private static float[] emissive(AIMaterial material) {
        float[] told = colour(material, Assimp.AI_MATKEY_COLOR_EMISSIVE).orElse(new float[3]);
        boolean black = told[0] == 0 && told[1] == 0 && told[2] == 0;
        return black ? colour(material, "$raw.Emissive").orElse(told) : told;
    }

    private static boolean flag(AIMaterial material, String key) {
        int[] value = new int[1];
        int[] count = {1};
        int found = Assimp.aiGetMaterialIntegerArray(material, key, Assimp.aiTextureType_NONE, 0, value, count);
        return found == Assimp.aiReturn_SUCCESS && value[0] != 0;
    }

    private static void put(Map<String, Wire.WireUse> textures, String slot, AIMaterial material, int... types) {
        AIString path = AIString.calloc();
        int[] uvSet = new int[1];
        int[] wraps = new int[3];
        try {
            for (int type : types) {
                int found = Assimp.aiGetMaterialTexture(material, type, 0, path, null, uvSet, null, null, wraps, null);
                if (found == Assimp.aiReturn_SUCCESS && !path.dataString().isBlank()) {
                    textures.put(
                            slot,
                            new Wire.WireUse(
                                    path.dataString(),
                                    uvSet[0],
                                    wrap(wraps[0]),
                                    wrap(wraps[1]),
                                    placed(material, type)));
                    return;
                }
            }
        } finally {
            path.free();
        }
    }

    private static float[] placed(AIMaterial material, int type) {
        float[] placement = {0, 0, 1, 1, 0};
        int[] count = {placement.length};
        int found =
                Assimp.aiGetMaterialFloatArray(material, Assimp._AI_MATKEY_UVTRANSFORM_BASE, type, 0, placement, count);
        return found == Assimp.aiReturn_SUCCESS && count[0] == placement.length
                ? placement
                : new float[] {0, 0, 1, 1, 0};
    }

    private static String wrap(int mode) {
        return switch (mode) {
            case Assimp.aiTextureMapMode_Clamp, Assimp.aiTextureMapMode_Decal -> "clamp";
            case Assimp.aiTextureMapMode_Mirror -> "mirror";
            default -> "repeat";
        };
    }

    private Wire.WireTexture texture(AITexture texture, int number) throws IOException {
        int width = texture.mWidth();
        int height = texture.mHeight();
        int length = height == 0 ? width : width * height * 4;
        long place = appendMemory(texture.pcData().address(), length);
        String name = texture.mFilename().dataString();
        return new Wire.WireTexture(
                name.isBlank() ? "image_" + (number + 1) : name,
                texture.achFormatHintString(),
                place,
                length,
                width,
                height);
    }

    private long appendMemory(long address, long length) throws IOException {
        long at = place;
        // A buffer's capacity is an int: longer arrays go in pieces.
        for (long done = 0; done < length; ) {
            int piece = (int) Math.min(length - done, 1 << 30);
            append(MemoryUtil.memByteBuffer(address + done, piece));
            done += piece;
        }
        return at;
    }

    private long append(ByteBuffer bytes) throws IOException {
        long at = place;
        while (bytes.hasRemaining()) {
            place += out.write(bytes);
        }
        return at;
    }
}
