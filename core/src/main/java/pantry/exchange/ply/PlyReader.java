package pantry.exchange.ply;

import java.nio.BufferUnderflowException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.base.FileGate;
import pantry.base.Names;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.exchange.format.Companions;
import pantry.exchange.format.ExchangeException;
import pantry.exchange.format.Growing;
import pantry.exchange.format.Imported;
import pantry.exchange.format.TextScanner;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.mesh.Strands;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Texture;

/**
 * Reads PLY, text and binary of either byte order: vertices with normals, texture coordinates and colours, faces and
 * triangle strips; other elements are passed over.
 *
 * <p>Source: G. Turk, The PLY Polygon File Format (1994). The names of properties beyond it, and an image named in a
 * comment, are common practice.
 */
public final class PlyReader {
    private static final int LONGEST_HEADER = 1 << 20;

    private final Path file;
    private final FileGate gate;
    private final Progress progress;
    private final TextScanner in;
    private final List<Element> elements = new ArrayList<>();
    private final Map<String, Integer> foreign = new LinkedHashMap<>();
    private String format = "";
    private @Nullable String image;
    private float[] points = new float[0];
    private @Nullable Channel normals;
    private @Nullable Channel uvs;
    private @Nullable Channel colours;
    private final Growing.Ints sizes = new Growing.Ints();
    private final Growing.Ints corners = new Growing.Ints();
    private final Growing.Floats cornerUvs = new Growing.Floats();

    private enum Type {
        INT8(1),
        UINT8(1),
        INT16(2),
        UINT16(2),
        INT32(4),
        UINT32(4),
        FLOAT32(4),
        FLOAT64(8);

        final int bytes;

        Type(int bytes) {
            this.bytes = bytes;
        }

        static @Nullable Type of(String word) {
            return switch (word) {
                case "char", "int8" -> INT8;
                case "uchar", "uint8" -> UINT8;
                case "short", "int16" -> INT16;
                case "ushort", "uint16" -> UINT16;
                case "int", "int32" -> INT32;
                case "uint", "uint32" -> UINT32;
                case "float", "float32" -> FLOAT32;
                case "double", "float64" -> FLOAT64;
                default -> null;
            };
        }
    }

    /** @param count the type of a list's length; null where it is no list */
    private record Property(
            String name, Type type, @Nullable Type count) {}

    private record Element(String name, long count, List<Property> properties) {
        int index(String... names) {
            for (int i = 0; i < properties.size(); i++) {
                if (Arrays.asList(names).contains(properties.get(i).name())) {
                    return i;
                }
            }
            return -1;
        }
    }

    /** Where numbers come from. */
    private interface Numbers {
        double next(Type type);
    }

    private PlyReader(Path file, FileGate gate, Progress progress) {
        this.file = file;
        this.gate = gate;
        this.progress = progress;
        this.in = new TextScanner(file, TextScanner.bytes(file));
    }

    /**
     * Reads a file.
     *
     * @param gate what other files it may name
     * @throws ExchangeException naming the line or element that is wrong
     */
    public static Imported read(Path file, FileGate gate, Progress progress) {
        PlyReader reader = new PlyReader(file, gate, progress);
        reader.header();
        reader.body();
        return reader.imported();
    }

    private void header() {
        if (!in.word().equals("ply")) {
            throw in.wrong("a PLY file begins with \"ply\"");
        }
        in.nextLine();
        while (true) {
            if (in.atEnd() || in.position() > LONGEST_HEADER) {
                throw in.wrong("the header has no end");
            }
            String word = in.word();
            switch (word) {
                case "format" -> format = in.word();
                case "comment", "obj_info" -> comment(in.rest());
                case "element" -> {
                    String name = in.word();
                    long count = Math.max(0, (long) in.number());
                    elements.add(new Element(name, count, new ArrayList<>()));
                }
                case "property" -> property();
                case "end_header" -> {
                    in.nextLine();
                    return;
                }
                // Comments run over several lines in some files (common practice).
                default -> {}
            }
            in.nextLine();
        }
    }

    private void comment(String text) {
        if (text.toLowerCase(Locale.ROOT).startsWith("texturefile ")) {
            image = text.substring(12).strip();
        }
    }

    private void property() {
        if (elements.isEmpty()) {
            throw in.wrong("a property stands before any element");
        }
        String word = in.word();
        Type count = null;
        if (word.equals("list")) {
            count = type(in.word());
            word = in.word();
        }
        Type type = type(word);
        elements.getLast().properties().add(new Property(in.word(), type, count));
    }

    private Type type(String word) {
        Type type = Type.of(word);
        if (type == null) {
            throw in.wrong("\"" + word + "\" is no type that PLY knows");
        }
        return type;
    }

    private void body() {
        int start = in.position();
        ByteBuffer bytes = ByteBuffer.wrap(in.bytes(), start, Math.max(0, in.bytes().length - start));
        Numbers numbers =
                switch (format) {
                    case "ascii" -> type -> textNumber();
                    case "binary_little_endian" -> binary(bytes.order(ByteOrder.LITTLE_ENDIAN));
                    case "binary_big_endian" -> binary(bytes.order(ByteOrder.BIG_ENDIAN));
                    default -> throw in.wrong("the format \"" + format + "\" is not known");
                };
        for (Element element : elements) {
            // The least that the elements would take bounds what is believed of their number.
            long least = element.properties().stream()
                    .mapToLong(property -> format.equals("ascii")
                            ? 2
                            : property.count() == null ? property.type().bytes : property.count().bytes)
                    .sum();
            if (element.count() * Math.max(1, least) > in.bytes().length + 2L) {
                throw new ExchangeException(
                        file,
                        "element \"" + element.name() + "\"",
                        "the header says " + element.count() + ", more than the file can hold");
            }
            try {
                read(element, numbers);
            } catch (BufferUnderflowException e) {
                throw new ExchangeException(
                        file, "element \"" + element.name() + "\"", "the file ends within it: it is cut off");
            }
        }
    }

    private double textNumber() {
        while (in.atLineEnd()) {
            if (in.atEnd()) {
                throw in.wrong("the file ends where numbers are expected: it is cut off");
            }
            in.nextLine();
        }
        return in.number();
    }

    private static Numbers binary(ByteBuffer bytes) {
        return type -> switch (type) {
            case INT8 -> bytes.get();
            case UINT8 -> bytes.get() & 0xff;
            case INT16 -> bytes.getShort();
            case UINT16 -> bytes.getShort() & 0xffff;
            case INT32 -> bytes.getInt();
            case UINT32 -> Integer.toUnsignedLong(bytes.getInt());
            case FLOAT32 -> bytes.getFloat();
            case FLOAT64 -> bytes.getDouble();
        };
    }

    private void read(Element element, Numbers numbers) {
        switch (element.name()) {
            case "vertex" -> vertices(element, numbers);
            case "face" -> faces(element, numbers);
            case "tristrips" -> strips(element, numbers);
            default -> {
                if (element.count() > 0) {
                    foreign.merge("elements \"" + element.name() + "\"", (int) element.count(), Integer::sum);
                }
                for (long i = 0; i < element.count(); i++) {
                    for (Property property : element.properties()) {
                        values(property, numbers);
                    }
                }
            }
        }
    }

    /** The numbers of one property of one element. */
    private double[] values(Property property, Numbers numbers) {
        Type counted = property.count();
        if (counted == null) {
            return new double[] {numbers.next(property.type())};
        }
        double[] values = new double[length(property, numbers.next(counted))];
        for (int i = 0; i < values.length; i++) {
            values[i] = numbers.next(property.type());
        }
        return values;
    }

    private int length(Property property, double written) {
        if (!(written >= 0) || written > in.bytes().length) {
            throw new ExchangeException(file, "property \"" + property.name() + "\"", "has a list of " + written);
        }
        return (int) written;
    }

    private void vertices(Element element, Numbers numbers) {
        int count = Math.toIntExact(element.count());
        int width = element.properties().size();
        int[] xyz = {element.index("x"), element.index("y"), element.index("z")};
        int[] normal = {element.index("nx"), element.index("ny"), element.index("nz")};
        int[] uv = {element.index("s", "u", "texture_u", "texture_s"), element.index("t", "v", "texture_v", "texture_t")
        };
        int[] rgb = {
            element.index("red", "r", "diffuse_red"),
            element.index("green", "g", "diffuse_green"),
            element.index("blue", "b", "diffuse_blue")
        };
        if (xyz[0] < 0 || xyz[1] < 0 || xyz[2] < 0) {
            throw new ExchangeException(file, "element \"vertex\"", "lacks x, y or z");
        }
        points = new float[3 * count];
        float[] normalData = normal[0] >= 0 && normal[1] >= 0 && normal[2] >= 0 ? new float[3 * count] : null;
        float[] uvData = uv[0] >= 0 && uv[1] >= 0 ? new float[2 * count] : null;
        float[] colourData = rgb[0] >= 0 && rgb[1] >= 0 && rgb[2] >= 0 ? new float[3 * count] : null;
        boolean bytes = colourData != null && element.properties().get(rgb[0]).type() == Type.UINT8;
        Type[] types = element.properties().stream().map(Property::type).toArray(Type[]::new);
        boolean[] lists = new boolean[width];
        for (int p = 0; p < width; p++) {
            lists[p] = element.properties().get(p).count() != null;
        }
        double[] row = new double[width];
        for (int i = 0; i < count; i++) {
            if (i % 100_000 == 0) {
                progress.step("reading " + file.getFileName(), 0.5 * i / count);
            }
            for (int p = 0; p < width; p++) {
                if (lists[p]) {
                    values(element.properties().get(p), numbers);
                } else {
                    row[p] = numbers.next(types[p]);
                }
            }
            for (int axis = 0; axis < 3; axis++) {
                float number = (float) row[xyz[axis]];
                if (!Float.isFinite(number)) {
                    throw new ExchangeException(file, "vertex " + i, "is not a number or infinite");
                }
                points[3 * i + axis] = number;
                if (normalData != null) {
                    normalData[3 * i + axis] = (float) row[normal[axis]];
                }
                if (colourData != null) {
                    double c = row[rgb[axis]];
                    // Bytes are display colours; other numbers are taken as linear.
                    colourData[3 * i + axis] = bytes ? Colour.linear((int) c) : (float) c;
                }
            }
            if (uvData != null) {
                uvData[2 * i] = (float) row[uv[0]];
                uvData[2 * i + 1] = (float) row[uv[1]];
            }
        }
        normals = finite(normalData, 3);
        uvs = finite(uvData, 2);
        colours = finite(colourData, 3);
    }

    private static @Nullable Channel finite(float @Nullable [] data, int width) {
        if (data == null) {
            return null;
        }
        for (float number : data) {
            if (!Float.isFinite(number)) {
                return null;
            }
        }
        return new Channel(data, width, Channel.Per.POINT);
    }

    private void faces(Element element, Numbers numbers) {
        int list = element.index("vertex_indices", "vertex_index");
        int texture = element.index("texcoord");
        if (list < 0 || element.properties().get(list).count() == null) {
            throw new ExchangeException(file, "element \"face\"", "has no list vertex_indices");
        }
        for (long i = 0; i < element.count(); i++) {
            if (i % 100_000 == 0) {
                progress.step("reading " + file.getFileName(), 0.5 + 0.5 * i / element.count());
            }
            int before = corners.size();
            double[] coordinates = new double[0];
            for (int p = 0; p < element.properties().size(); p++) {
                Property property = element.properties().get(p);
                Type counted = property.count();
                if (p == list && counted != null) {
                    int length = length(property, numbers.next(counted));
                    for (int c = 0; c < length; c++) {
                        corners.add(point(numbers.next(property.type()), i));
                    }
                } else if (p == texture) {
                    coordinates = values(property, numbers);
                } else {
                    values(property, numbers);
                }
            }
            int size = corners.size() - before;
            if (size < 3) {
                corners.cut(before);
                continue;
            }
            sizes.add(size);
            for (int c = 0; texture >= 0 && c < 2 * size; c++) {
                cornerUvs.add(c < coordinates.length ? (float) coordinates[c] : 0);
            }
        }
        if (texture < 0) {
            return;
        }
        uvs = new Channel(cornerUvs.toArray(), 2, Channel.Per.CORNER);
    }

    private int point(double index, long element) {
        if (!(index >= 0) || index >= points.length / 3.0) {
            throw new ExchangeException(
                    file, "face " + element, "uses vertex " + (long) index + " of " + points.length / 3);
        }
        return (int) index;
    }

    /** Strips of triangles, one after another, with -1 between. */
    private void strips(Element element, Numbers numbers) {
        for (long i = 0; i < element.count(); i++) {
            for (Property property : element.properties()) {
                double[] values = values(property, numbers);
                int start = 0;
                for (int v = 0; v < values.length; v++) {
                    if (values[v] < 0) {
                        start = v + 1;
                    } else if (v - start >= 2) {
                        boolean odd = (v - start) % 2 == 1;
                        sizes.add(3);
                        corners.add(point(values[v - 2], i));
                        corners.add(point(values[odd ? v : v - 1], i));
                        corners.add(point(values[odd ? v - 1 : v], i));
                    }
                }
            }
        }
    }

    private Imported imported() {
        String name = Names.stem(file.getFileName().toString());
        Material material = Material.PLAIN;
        if (image != null && uvs != null) {
            Texture texture = Companions.texture(file, image, Texture.Sampling.USUAL, gate);
            material = Material.plain("Image", Colour.WHITE, 0, 0.8).with(Material.Slot.BASE, texture);
        }
        Map<String, Channel> more = new LinkedHashMap<>();
        if (colours != null) {
            more.put(Mesh.COLOUR, colours);
            material = material.onColoured();
        }
        List<Model.Node> nodes = new ArrayList<>();
        if (sizes.size() > 0) {
            Mesh mesh = new Mesh(points, sizes.toArray(), corners.toArray(), normals, uvs).withPrimvars(more);
            nodes.add(Model.Node.of(name, Matrix4.IDENTITY, List.of(new Model.Part(mesh, material)), List.of()));
        } else if (points.length > 0) {
            float[] shown = colours == null ? new float[0] : colours.data();
            Strands loose = Strands.loose(points, shown.length == points.length ? shown : new float[0]);
            nodes.add(Model.Node.of(name, Matrix4.IDENTITY, List.of(Model.Part.of(loose, Material.PLAIN)), List.of()));
        }
        List<String> told = foreign.entrySet().stream()
                .map(entry -> entry.getValue() + " " + entry.getKey())
                .toList();
        return new Imported(
                file,
                new Model(name, nodes, new Model.Extras(List.of(), 0, told)),
                Optional.empty(),
                Optional.empty(),
                List.of());
    }
}
