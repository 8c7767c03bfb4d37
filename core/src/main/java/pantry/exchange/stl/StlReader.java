package pantry.exchange.stl;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import pantry.base.Names;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.exchange.format.ExchangeException;
import pantry.exchange.format.Growing;
import pantry.exchange.format.Imported;
import pantry.exchange.format.TextScanner;
import pantry.mesh.Mesh;
import pantry.mesh.Welding;
import pantry.model.Material;
import pantry.model.Model;

/**
 * Reads STL, text and binary. Corners in exactly one place become one point, since the format cannot say that they are;
 * its normals say nothing that the triangles do not, and are left out.
 */
public final class StlReader {
    private static final int HEADER = 84;
    private static final int TRIANGLE = 50;

    private StlReader() {}

    /**
     * Reads a file.
     *
     * @throws ExchangeException naming the line or triangle that is wrong
     */
    public static Imported read(Path file, Progress progress) {
        byte[] bytes = TextScanner.bytes(file);
        progress.step("reading " + file.getFileName(), -1);
        List<Model.Node> solids = isText(bytes) ? text(file, bytes, progress) : List.of(binary(file, bytes));
        Model model = new Model(Names.stem(file.getFileName().toString()), solids, Model.Extras.NONE);
        return new Imported(file, model, Optional.empty(), Optional.empty(), List.of());
    }

    /** Binary files may begin with "solid" as well; their size gives them away, and so does what follows the name. */
    private static boolean isText(byte[] bytes) {
        if (bytes.length >= HEADER) {
            long count = Integer.toUnsignedLong(
                    ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN).getInt(80));
            if (HEADER + count * TRIANGLE == bytes.length) {
                return false;
            }
        }
        String start = new String(bytes, 0, Math.min(bytes.length, 1000), StandardCharsets.ISO_8859_1)
                .stripLeading()
                .toLowerCase(Locale.ROOT);
        return start.startsWith("solid") && (start.contains("facet") || start.contains("endsolid"));
    }

    private static Model.Node binary(Path file, byte[] bytes) {
        if (bytes.length < HEADER) {
            throw new ExchangeException(file, "is no STL: a header has 84 bytes, the file " + bytes.length);
        }
        ByteBuffer in = ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
        long count = Integer.toUnsignedLong(in.getInt(80));
        long there = (bytes.length - HEADER) / TRIANGLE;
        if (count > there) {
            throw new ExchangeException(
                    file, "is cut off or no STL: its header says " + count + " triangles, " + there + " are there");
        }
        float[] points = new float[(int) count * 9];
        for (int t = 0; t < count; t++) {
            int from = HEADER + t * TRIANGLE + 12;
            for (int i = 0; i < 9; i++) {
                float number = in.getFloat(from + 4 * i);
                if (!Float.isFinite(number)) {
                    throw new ExchangeException(file, "triangle " + t, "has a point that is not a number or infinite");
                }
                points[9 * t + i] = number;
            }
        }
        return node(Names.stem(file.getFileName().toString()), points);
    }

    private static Model.Node node(String name, float[] points) {
        Mesh mesh = Welding.ofTriangles(points);
        return Model.Node.of(name, Matrix4.IDENTITY, List.of(new Model.Part(mesh, Material.PLAIN)), List.of());
    }

    private static List<Model.Node> text(Path file, byte[] bytes, Progress progress) {
        TextScanner in = new TextScanner(file, bytes);
        List<Model.Node> solids = new ArrayList<>();
        String name = "";
        Growing.Floats points = new Growing.Floats();
        int facets = 0;
        while (!in.atEnd()) {
            String word = in.wordAnywhere().toLowerCase(Locale.ROOT);
            switch (word) {
                case "solid" -> name = in.rest();
                case "vertex" -> {
                    for (int i = 0; i < 3; i++) {
                        points.add(in.number());
                    }
                }
                case "endloop" -> {
                    if (points.size() % 9 != 0) {
                        throw in.wrong("a facet has three vertices, this one has not");
                    }
                    if (++facets % 10_000 == 0) {
                        progress.step("reading " + file.getFileName(), (double) in.position() / bytes.length);
                    }
                }
                case "facet" -> in.nextLine();
                case "endsolid" -> {
                    in.nextLine();
                    add(solids, name, points, file);
                    points = new Growing.Floats();
                }
                case "outer", "loop", "endfacet", "" -> {}
                default -> throw in.wrong("\"" + word + "\" is not expected in STL");
            }
        }
        if (points.size() % 9 != 0) {
            throw new ExchangeException(file, "is cut off within a facet");
        }
        add(solids, name, points, file);
        return solids;
    }

    private static void add(List<Model.Node> solids, String name, Growing.Floats points, Path file) {
        if (points.size() > 0) {
            String stem = Names.stem(file.getFileName().toString());
            solids.add(node(name.isBlank() ? stem : name, points.toArray()));
        }
    }
}
