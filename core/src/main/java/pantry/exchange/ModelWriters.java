package pantry.exchange;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.exchange.gltf.GltfWriter;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.mesh.TriangleMesh;
import pantry.usd.AssetPaths;

/** Writes models in other formats, by the target's ending. A file is there whole or not at all. */
public final class ModelWriters {
    private static final List<String> ENDINGS =
            List.of("glb", "gltf", "obj", "ply", "stl", "usda", "usdc", "usd", "usdz");

    private ModelWriters() {}

    /** The endings that can be written. */
    public static List<String> endings() {
        return ENDINGS;
    }

    private interface Body {
        void write(Path temporary) throws IOException;
    }

    /**
     * Writes a model.
     *
     * @param model metres, Y up
     * @throws ExchangeException where the ending is not known or the file cannot be written
     */
    public static void write(Model model, Path target) {
        switch (Names.ending(target.getFileName().toString())) {
            case "glb" -> atomically(target, file -> GltfWriter.writeBinary(model, file));
            case "gltf" -> atomically(target, file -> GltfWriter.writeEmbedded(model, file));
            case "obj" -> writeObj(model, target);
            case "ply" -> atomically(target, file -> writePly(model, file));
            case "stl" -> atomically(target, file -> writeStl(model, file));
            case "usda", "usdc", "usd", "usdz" -> UsdModelWriter.write(model, target);
            default ->
                throw new ExchangeException(
                        target, "cannot be written: known endings are " + String.join(", ", ENDINGS));
        }
    }

    private static void atomically(Path target, Body body) {
        Path temporary = target.resolveSibling(".pantry-" + java.util.UUID.randomUUID() + "-" + target.getFileName());
        try {
            body.write(temporary);
            Files.move(temporary, target, StandardCopyOption.REPLACE_EXISTING, StandardCopyOption.ATOMIC_MOVE);
        } catch (IOException e) {
            try {
                Files.deleteIfExists(temporary);
            } catch (IOException suppressed) {
                e.addSuppressed(suppressed);
            }
            throw new ExchangeException(target, "cannot be written: " + IoProblems.describe(e), e);
        }
    }

    private static void writeObj(Model model, Path target) {
        String library = Names.stem(target.getFileName().toString()) + ".mtl";
        Map<Material, String> names = new LinkedHashMap<>();
        for (Material material : model.materials()) {
            names.put(material, Names.free(Names.identifier(material.name()), names::containsValue));
        }
        atomically(target.resolveSibling(library), file -> {
            try (BufferedWriter out = Files.newBufferedWriter(file, StandardCharsets.UTF_8)) {
                for (Map.Entry<Material, String> entry : names.entrySet()) {
                    Material m = entry.getKey();
                    out.write("newmtl " + entry.getValue() + "\n");
                    out.write("Kd " + m.base().r() + " " + m.base().g() + " "
                            + m.base().b() + "\n");
                    out.write("d " + m.opacity() + "\nPr " + m.roughness() + "\nPm " + m.metallic() + "\n");
                    Path image =
                            m.texture(Material.Slot.BASE).flatMap(Texture::file).orElse(null);
                    if (image != null) {
                        Path folder = target.toAbsolutePath().getParent();
                        String path = AssetPaths.relative(folder, image);
                        out.write("map_Kd " + (path.startsWith("./") ? path.substring(2) : path) + "\n");
                    }
                }
            }
        });
        atomically(target, file -> {
            try (BufferedWriter out = Files.newBufferedWriter(file, StandardCharsets.UTF_8)) {
                out.write("mtllib " + library + "\n");
                ObjBody body = new ObjBody(out, names);
                for (Placed placed : placed(model)) {
                    body.write(placed);
                }
            }
        });
    }

    /** A mesh where it stands. */
    private record Placed(Model.Node owner, Mesh mesh, Material material) {}

    private static List<Placed> placed(Model model) {
        List<Placed> placed = new ArrayList<>();
        model.visit(
                (owner, part, world) -> placed.add(new Placed(owner, part.mesh().transformed(world), part.material())));
        return placed;
    }

    /** Writes one part after another; numbering runs through the file. */
    private static final class ObjBody {
        private final BufferedWriter out;
        private final Map<Material, String> names;
        private int points = 1;
        private int uvs = 1;
        private int normals = 1;

        ObjBody(BufferedWriter out, Map<Material, String> names) {
            this.out = out;
            this.names = names;
        }

        void write(Placed placed) throws IOException {
            Mesh mesh = placed.mesh();
            out.write(
                    "o " + Names.identifier(placed.owner().name()) + "\nusemtl " + names.get(placed.material()) + "\n");
            lines("v", mesh.points(), 3);
            Channel uv = mesh.uvs().orElse(null);
            Channel normal = mesh.normals().orElse(null);
            if (uv != null) {
                lines("vt", uv.data(), 2);
            }
            if (normal != null) {
                lines("vn", normal.data(), 3);
            }
            int corner = 0;
            for (int face = 0; face < mesh.faceCount(); face++) {
                StringBuilder line = new StringBuilder("f");
                int size = mesh.faceSizes()[face];
                for (int i = 0; i < size; i++) {
                    int c = corner + (mesh.leftHanded() ? size - 1 - i : i);
                    int point = mesh.corners()[c];
                    line.append(' ').append(points + point);
                    if (uv != null || normal != null) {
                        line.append('/');
                    }
                    if (uv != null) {
                        line.append(uvs + uv.element(face, c, point));
                    }
                    if (normal != null) {
                        line.append('/').append(normals + normal.element(face, c, point));
                    }
                }
                out.write(line.append('\n').toString());
                corner += size;
            }
            points += mesh.pointCount();
            uvs += uv == null ? 0 : uv.size();
            normals += normal == null ? 0 : normal.size();
        }

        private void lines(String word, float[] data, int width) throws IOException {
            for (int i = 0; i < data.length; i += width) {
                StringBuilder line = new StringBuilder(word);
                for (int c = 0; c < width; c++) {
                    line.append(' ').append(data[i + c]);
                }
                out.write(line.append('\n').toString());
            }
        }
    }

    private static void writePly(Model model, Path file) throws IOException {
        List<Mesh> placed = placed(model).stream().map(Placed::mesh).toList();
        int points = placed.stream().mapToInt(Mesh::pointCount).sum();
        int faces = placed.stream().mapToInt(Mesh::faceCount).sum();
        try (OutputStream out = Files.newOutputStream(file);
                java.io.BufferedOutputStream buffered = new java.io.BufferedOutputStream(out, 1 << 16)) {
            buffered.write(("ply\nformat binary_little_endian 1.0\nelement vertex " + points
                            + "\nproperty float x\nproperty float y\nproperty float z\nelement face " + faces
                            + "\nproperty list uint int vertex_indices\nend_header\n")
                    .getBytes(StandardCharsets.US_ASCII));
            for (Mesh mesh : placed) {
                buffered.write(floatBytes(mesh.points()));
            }
            int base = 0;
            for (Mesh mesh : placed) {
                int corner = 0;
                for (int size : mesh.faceSizes()) {
                    ByteBuffer face = ByteBuffer.allocate(4 + 4 * size).order(ByteOrder.LITTLE_ENDIAN);
                    face.putInt(size);
                    for (int i = 0; i < size; i++) {
                        face.putInt(base + mesh.corners()[corner + (mesh.leftHanded() ? size - 1 - i : i)]);
                    }
                    buffered.write(face.array());
                    corner += size;
                }
                base += mesh.pointCount();
            }
        }
    }

    private static byte[] floatBytes(float[] numbers) {
        ByteBuffer bytes = ByteBuffer.allocate(numbers.length * 4).order(ByteOrder.LITTLE_ENDIAN);
        bytes.asFloatBuffer().put(numbers);
        return bytes.array();
    }

    /** Binary STL: 80 bytes of header, the count, 50 bytes per triangle. */
    private static void writeStl(Model model, Path file) throws IOException {
        long triangles = model.trianglesDrawn();
        try (OutputStream out = Files.newOutputStream(file);
                java.io.BufferedOutputStream buffered = new java.io.BufferedOutputStream(out, 1 << 16)) {
            buffered.write(new byte[80]);
            buffered.write(ByteBuffer.allocate(4)
                    .order(ByteOrder.LITTLE_ENDIAN)
                    .putInt(Math.toIntExact(triangles))
                    .array());
            for (Placed placed : placed(model)) {
                Mesh mesh = placed.mesh();
                TriangleMesh flat = TriangleMesh.of(mesh);
                for (int t = 0; t < flat.triangleCount(); t++) {
                    ByteBuffer triangle = ByteBuffer.allocate(50).order(ByteOrder.LITTLE_ENDIAN);
                    pantry.base.math.Vec3 a = vertex(flat, 3 * t);
                    pantry.base.math.Vec3 b = vertex(flat, 3 * t + 1);
                    pantry.base.math.Vec3 c = vertex(flat, 3 * t + 2);
                    put(triangle, b.minus(a).cross(c.minus(a)).unit());
                    put(triangle, a);
                    put(triangle, b);
                    put(triangle, c);
                    buffered.write(triangle.array());
                }
            }
        }
    }

    private static pantry.base.math.Vec3 vertex(TriangleMesh mesh, int corner) {
        int at = 3 * mesh.indices()[corner];
        return new pantry.base.math.Vec3(mesh.positions()[at], mesh.positions()[at + 1], mesh.positions()[at + 2]);
    }

    private static void put(ByteBuffer bytes, pantry.base.math.Vec3 v) {
        bytes.putFloat((float) v.x()).putFloat((float) v.y()).putFloat((float) v.z());
    }
}
