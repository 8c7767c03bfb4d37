package pantry.exchange.stl;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import pantry.base.math.Vec3;
import pantry.exchange.format.ExportNotes;
import pantry.exchange.format.PlacedParts;
import pantry.exchange.format.PlacedParts.Placed;
import pantry.mesh.TriangleMesh;
import pantry.model.Model;

/** Writes binary STL: 80 bytes of header, the count, 50 bytes per triangle. It holds triangles and nothing else. */
public final class StlWriter {
    private static final String FORMAT = "STL";
    private static final int HEADER = 80;

    private StlWriter() {}

    /** @param unit of the numbers, as a person says it */
    public static void write(Model model, Path file, String unit, ExportNotes notes) throws IOException {
        List<Placed> placed = PlacedParts.of(model);
        note(model, placed, notes);
        long triangles = model.trianglesDrawn();
        try (OutputStream raw = Files.newOutputStream(file);
                BufferedOutputStream out = new BufferedOutputStream(raw, 1 << 16)) {
            // A text file begins with "solid"; this must not.
            out.write(Arrays.copyOf(("Pantry; " + unit + ", Y up").getBytes(StandardCharsets.US_ASCII), HEADER));
            out.write(ByteBuffer.allocate(4)
                    .order(ByteOrder.LITTLE_ENDIAN)
                    .putInt(Math.toIntExact(triangles))
                    .array());
            for (Placed each : placed) {
                TriangleMesh flat = TriangleMesh.of(each.mesh());
                for (int t = 0; t < flat.triangleCount(); t++) {
                    ByteBuffer triangle = ByteBuffer.allocate(50).order(ByteOrder.LITTLE_ENDIAN);
                    Vec3 a = vertex(flat, 3 * t);
                    Vec3 b = vertex(flat, 3 * t + 1);
                    Vec3 c = vertex(flat, 3 * t + 2);
                    put(triangle, b.minus(a).cross(c.minus(a)).unit());
                    put(triangle, a);
                    put(triangle, b);
                    put(triangle, c);
                    out.write(triangle.array());
                }
            }
        }
    }

    private static void note(Model model, List<Placed> placed, ExportNotes notes) {
        PlacedParts.noteStructure(model, FORMAT, notes);
        long materials =
                model.materials().stream().filter(each -> !each.isNone()).count();
        if (materials > 0) {
            notes.left(FORMAT + " has no materials: " + materials + " left out");
        }
        if (placed.stream().anyMatch(each -> each.mesh().uvs().isPresent())) {
            notes.left(FORMAT + " has no texture coordinates");
        }
        if (placed.stream().anyMatch(each -> each.mesh().normals().isPresent())) {
            notes.left(FORMAT + " has no normals of points: rounded surfaces look faceted");
        }
        PlacedParts.noteChannels(placed, List.of(), FORMAT, notes);
        boolean polygons = placed.stream().map(Placed::mesh).anyMatch(mesh -> mesh.triangleCount() > mesh.faceCount());
        if (polygons) {
            notes.left(FORMAT + " has triangles only: faces of more corners are cut");
        }
    }

    private static Vec3 vertex(TriangleMesh mesh, int corner) {
        int at = 3 * mesh.indices()[corner];
        return new Vec3(mesh.positions()[at], mesh.positions()[at + 1], mesh.positions()[at + 2]);
    }

    private static void put(ByteBuffer bytes, Vec3 v) {
        bytes.putFloat((float) v.x()).putFloat((float) v.y()).putFloat((float) v.z());
    }
}
