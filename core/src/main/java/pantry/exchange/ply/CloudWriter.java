package pantry.exchange.ply;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import pantry.exchange.format.PlacedParts.Placed;
import pantry.mesh.Strands;
import pantry.model.Colour;

/** Writes loose points as binary PLY: vertices without faces, each with its colour as a display has it. */
final class CloudWriter {
    private static final int WIDTH = 3 * Float.BYTES + 3;

    private CloudWriter() {}

    /**
     * @param clouds each with loose points
     * @param start of the header, to which the points are added
     */
    static void write(List<Placed> clouds, Path file, StringBuilder start) throws IOException {
        int points = clouds.stream()
                .mapToInt(each -> each.strands().orElseThrow().pointCount())
                .sum();
        start.append("element vertex ").append(points);
        start.append("\nproperty float x\nproperty float y\nproperty float z\n");
        start.append("property uchar red\nproperty uchar green\nproperty uchar blue\nend_header\n");
        try (OutputStream raw = Files.newOutputStream(file);
                BufferedOutputStream out = new BufferedOutputStream(raw, 1 << 16)) {
            out.write(start.toString().getBytes(StandardCharsets.UTF_8));
            for (Placed each : clouds) {
                write(each.strands().orElseThrow(), each.material().base(), out);
            }
        }
    }

    /** @param plain the colour of points that have none of their own */
    private static void write(Strands cloud, Colour plain, OutputStream out) throws IOException {
        ByteBuffer point = ByteBuffer.allocate(WIDTH).order(ByteOrder.LITTLE_ENDIAN);
        float[] places = cloud.points();
        float[] own = cloud.colours();
        for (int i = 0; i < places.length; i += 3) {
            point.clear();
            for (int c = 0; c < 3; c++) {
                point.putFloat(places[i + c]);
            }
            Colour colour = own.length == 0 ? plain : new Colour(own[i], own[i + 1], own[i + 2]);
            point.put((byte) Colour.display(colour.r()));
            point.put((byte) Colour.display(colour.g()));
            point.put((byte) Colour.display(colour.b()));
            out.write(point.array());
        }
    }
}
