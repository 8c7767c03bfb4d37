package pantry.exchange.obj;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import pantry.base.DisplayCurve;
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
import pantry.model.Material;
import pantry.model.Model;

/**
 * Reads OBJ: vertices with or without colours, faces, objects, groups and materials. The format says neither its unit
 * nor its upward axis. Its free-form surfaces are told and left out.
 *
 * <p>Source: the format's description in appendix B1 of its maker's manual, as it is passed on in public; vertex
 * colours behind the position, as a display has them, from 0 to 1 or to 255, are common practice.
 */
public final class ObjReader {
    private static final int STEP = 1 << 20;

    /** Colours of which one is larger go to 255 rather than to 1. */
    private static final float BYTES = 2;

    private final Path file;
    private final FileGate gate;
    private final TextScanner in;
    private final Progress progress;
    private final Growing.Floats points = new Growing.Floats();
    private final Growing.Floats colours = new Growing.Floats();
    private final Growing.Floats uvs = new Growing.Floats();
    private final Growing.Floats normals = new Growing.Floats();
    private final Map<String, Map<String, Faces>> objects = new LinkedHashMap<>();
    private final Map<String, Bare> bare = new LinkedHashMap<>();
    private final Map<String, Material> materials = new LinkedHashMap<>();
    private final Map<String, Integer> foreign = new LinkedHashMap<>();
    private final List<Path> companions = new ArrayList<>();
    private String object = "";
    private String material = "";
    private @Nullable Faces current;
    private boolean hasColours;

    /** The faces of one material in one object, by the file's own numbers. */
    private static final class Faces {
        final Growing.Ints sizes = new Growing.Ints();
        final Growing.Ints points = new Growing.Ints();
        final Growing.Ints uvs = new Growing.Ints();
        final Growing.Ints normals = new Growing.Ints();
        boolean withUvs = true;
        boolean withNormals = true;
    }

    private ObjReader(Path file, FileGate gate, Progress progress) {
        this.file = file;
        this.gate = gate;
        this.in = new TextScanner(file, TextScanner.text(file));
        this.progress = progress;
    }

    /**
     * Reads a file, and the material libraries that it names where they are found.
     *
     * @param gate what other files it may name
     * @throws ExchangeException naming the line that is wrong
     */
    public static Imported read(Path file, FileGate gate, Progress progress) {
        ObjReader reader = new ObjReader(file, gate, progress);
        reader.lines();
        return reader.imported();
    }

    private void lines() {
        int next = STEP;
        while (!in.atEnd()) {
            if (in.position() >= next) {
                next = in.position() + STEP;
                progress.step("reading " + file.getFileName(), (double) in.position() / in.bytes().length / 2);
            }
            line();
            in.nextLine();
        }
    }

    private void line() {
        if (in.atLineEnd()) {
            return;
        }
        if (in.peek() == 'v') {
            in.skip();
            char kind = in.peek();
            if (kind == ' ' || kind == '\t') {
                vertex();
                return;
            }
            if (kind == 't' || kind == 'n') {
                in.skip();
                numbers(kind == 't' ? uvs : normals, kind == 't' ? 2 : 3);
            }
            return;
        }
        String word = in.word();
        switch (word) {
            case "f", "fo" -> face();
            case "o", "g" -> {
                object = in.rest();
                current = null;
            }
            case "usemtl" -> {
                material = in.rest();
                current = null;
            }
            case "mtllib" -> library(in.rest());
            case "l" -> straightLine();
            case "p" -> loosePoints();
            case "curv", "curv2", "surf" -> foreign.merge("free-form curves and surfaces", 1, Integer::sum);
            default -> {}
        }
    }

    private void vertex() {
        numbers(points, 3);
        int count = points.size() / 3;
        if (in.hasNumber()) {
            float fourth = in.number();
            if (in.hasNumber()) {
                float fifth = in.number();
                float sixth = in.hasNumber() ? in.number() : 0;
                hasColours = true;
                while (colours.size() < 3 * (count - 1)) {
                    colours.add(Float.NaN);
                }
                colours.add(fourth);
                colours.add(fifth);
                colours.add(sixth);
            }
        }
    }

    private void numbers(Growing.Floats into, int count) {
        for (int i = 0; i < count; i++) {
            // A second texture coordinate may be left out.
            into.add(i == 1 && count == 2 && !in.hasNumber() ? 0 : in.number());
        }
    }

    private Bare bare() {
        return bare.computeIfAbsent(object, name -> new Bare());
    }

    private void straightLine() {
        Bare into = bare();
        int count = 0;
        while (in.hasNumber()) {
            into.line.add(index(points.size() / 3, "vertex", "a line"));
            if (in.peek() == '/') {
                // Texture coordinates along a line are of no use.
                in.skip();
                in.whole();
            }
            count++;
        }
        into.counts.add(count);
    }

    private void loosePoints() {
        while (in.hasNumber()) {
            bare().loose.add(index(points.size() / 3, "vertex", "a point"));
        }
    }

    private void face() {
        Faces faces = current;
        if (faces == null) {
            faces = objects.computeIfAbsent(object, name -> new LinkedHashMap<>())
                    .computeIfAbsent(material, name -> new Faces());
            current = faces;
        }
        int size = 0;
        while (in.hasNumber()) {
            faces.points.add(index(points.size() / 3, "vertex"));
            boolean uv = false;
            boolean normal = false;
            if (in.peek() == '/') {
                in.skip();
                if (in.peek() != '/' && in.peek() > ' ') {
                    faces.uvs.add(index(uvs.size() / 2, "texture coordinate"));
                    uv = true;
                }
                if (in.peek() == '/') {
                    in.skip();
                    if (in.peek() > ' ') {
                        faces.normals.add(index(normals.size() / 3, "normal"));
                        normal = true;
                    }
                }
            }
            if (!uv) {
                faces.uvs.add(-1);
                faces.withUvs = false;
            }
            if (!normal) {
                faces.normals.add(-1);
                faces.withNormals = false;
            }
            size++;
        }
        if (!in.atLineEnd() && in.peek() != '#') {
            throw in.wrong("a face's corner is expected, such as 1/2/3");
        }
        faces.sizes.add(size);
    }

    /** From 1 upwards, or backwards from the last one told so far. */
    private int index(int count, String what) {
        return index(count, what, "a face");
    }

    private int index(int count, String what, String by) {
        int written = in.whole();
        int index = written < 0 ? count + written : written - 1;
        if (written == 0 || index < 0 || index >= count) {
            throw in.wrong(by + " uses " + what + " " + written + " of " + count);
        }
        return index;
    }

    private void library(String names) {
        // Several libraries may stand on a line; but a name may hold blanks as well.
        List<String> each =
                Companions.find(file, names, gate).isPresent() ? List.of(names) : List.of(names.split("\\s+"));
        for (String name : each) {
            Companions.find(file, name, gate).ifPresent(found -> library(name, found));
        }
    }

    private void library(String name, Path found) {
        if (!MtlReader.isMaterialLibrary(found)) {
            gate.refuse(name, file, found, FileGate.Reason.NOT_MATERIALS);
            return;
        }
        companions.add(found);
        materials.putAll(MtlReader.read(found, gate));
    }

    private Imported imported() {
        List<Model.Node> nodes = new ArrayList<>();
        Local local = new Local(points.size() / 3);
        int number = 0;
        Set<String> all = new LinkedHashSet<>(objects.keySet());
        all.addAll(bare.keySet());
        float[] places = bare.isEmpty() ? new float[0] : points.toArray();
        float[] shown = bare.isEmpty() ? new float[0] : allColours();
        for (String called : all) {
            progress.step("reading " + file.getFileName(), 0.5 + 0.5 * number++ / all.size());
            List<Model.Part> parts = new ArrayList<>();
            objects.getOrDefault(called, Map.of())
                    .forEach((name, faces) -> mesh(faces, local).ifPresent(mesh -> {
                        Material made = materials.getOrDefault(
                                name,
                                name.isEmpty()
                                        ? Material.PLAIN
                                        : Material.plain(
                                                name,
                                                Material.PLAIN.base(),
                                                Material.PLAIN.metallic(),
                                                Material.PLAIN.roughness()));
                        boolean coloured = mesh.primvars().containsKey(Mesh.COLOUR);
                        parts.add(new Model.Part(mesh, coloured ? made.onColoured() : made));
                    }));
            Optional.ofNullable(bare.get(called)).ifPresent(each -> parts.addAll(each.parts(places, shown)));
            if (!parts.isEmpty()) {
                String name = called.isBlank() ? Names.stem(file.getFileName().toString()) : called;
                nodes.add(Model.Node.of(name, Matrix4.IDENTITY, parts, List.of()));
            }
        }
        List<String> told = foreign.entrySet().stream()
                .map(entry -> entry.getValue() + " " + entry.getKey())
                .toList();
        Model model = new Model(Names.stem(file.getFileName().toString()), nodes, new Model.Extras(List.of(), 0, told));
        return new Imported(file, model, Optional.empty(), Optional.empty(), companions);
    }

    /** The colours of all points; empty where none are told. */
    private float[] allColours() {
        if (!hasColours) {
            return new float[0];
        }
        while (colours.size() < points.size()) {
            colours.add(Float.NaN);
        }
        return coloured(colours.toArray()).orElse(new float[0]);
    }

    /** An object's lines and loose points, by the file's numbers. */
    private static final class Bare {
        private final Growing.Ints line = new Growing.Ints();
        private final Growing.Ints counts = new Growing.Ints();
        private final Growing.Ints loose = new Growing.Ints();

        List<Model.Part> parts(float[] points, float[] colours) {
            List<Model.Part> parts = new ArrayList<>();
            if (line.size() > 0) {
                Strands lines = Strands.lines(points, colours, line.toArray(), counts.toArray());
                parts.add(Model.Part.of(lines, Material.PLAIN));
            }
            if (loose.size() > 0) {
                parts.add(Model.Part.of(Strands.loose(points, colours, loose.toArray()), Material.PLAIN));
            }
            return parts;
        }
    }

    /** Gives the points that a mesh uses numbers of their own, in the order of their first use. */
    private static final class Local {
        private final int[] number;
        private final int[] round;
        private int now;

        Local(int points) {
            number = new int[points];
            round = new int[points];
        }

        /** @return the file's numbers of the points used */
        int[] renumber(int[] corners) {
            now++;
            int used = 0;
            int[] originals = new int[Math.min(corners.length, number.length)];
            for (int c = 0; c < corners.length; c++) {
                int point = corners[c];
                if (round[point] != now) {
                    round[point] = now;
                    number[point] = used;
                    originals[used++] = point;
                }
                corners[c] = number[point];
            }
            return Arrays.copyOf(originals, used);
        }
    }

    private Optional<Mesh> mesh(Faces faces, Local local) {
        int[] sizes = faces.sizes.toArray();
        int[] corners = faces.points.toArray();
        int[] uvIndices = faces.withUvs ? faces.uvs.toArray() : null;
        int[] normalIndices = faces.withNormals ? faces.normals.toArray() : null;
        int kept = dropThin(sizes, corners, uvIndices, normalIndices);
        if (kept == 0) {
            return Optional.empty();
        }
        int total = 0;
        for (int i = 0; i < kept; i++) {
            total += sizes[i];
        }
        int[] usedSizes = Arrays.copyOf(sizes, kept);
        int[] usedCorners = Arrays.copyOf(corners, total);
        boolean samePoints = alike(corners, uvIndices, total) && alike(corners, normalIndices, total);
        int[] originals = local.renumber(usedCorners);
        Map<String, Channel> more = new LinkedHashMap<>();
        if (hasColours) {
            while (colours.size() < points.size()) {
                colours.add(Float.NaN);
            }
            coloured(gathered(colours, 3, originals, originals.length))
                    .ifPresent(given -> more.put(Mesh.COLOUR, new Channel(given, 3, Channel.Per.POINT)));
        }
        return Optional.of(new Mesh(
                        gathered(points, 3, originals, originals.length),
                        usedSizes,
                        usedCorners,
                        channel(normals, 3, normalIndices, samePoints ? originals : null, total),
                        channel(uvs, 2, uvIndices, samePoints ? originals : null, total))
                .withPrimvars(more));
    }

    /** The linear colours of a mesh's points, white where the file gives none; empty where it gives none at all. */
    private static Optional<float[]> coloured(float[] colours) {
        boolean some = false;
        boolean bytes = false;
        for (float colour : colours) {
            some |= !Float.isNaN(colour);
            bytes |= colour > BYTES;
        }
        for (int i = 0; i < colours.length; i++) {
            float stored = bytes ? colours[i] / 255 : colours[i];
            colours[i] = Float.isNaN(stored) ? 1 : DisplayCurve.linear(stored);
        }
        return some ? Optional.of(colours) : Optional.empty();
    }

    /** Removes faces of fewer than three corners, in place; returns how many faces are left. */
    private static int dropThin(int[] sizes, int[]... perCorner) {
        int kept = 0;
        int from = 0;
        int to = 0;
        for (int size : sizes) {
            if (size >= 3) {
                if (from != to) {
                    for (int[] each : perCorner) {
                        if (each != null) {
                            System.arraycopy(each, from, each, to, size);
                        }
                    }
                }
                sizes[kept++] = size;
                to += size;
            }
            from += size;
        }
        return kept;
    }

    private static boolean alike(int[] corners, int @Nullable [] others, int total) {
        return others == null || Arrays.equals(corners, 0, total, others, 0, total);
    }

    private static @Nullable Channel channel(
            Growing.Floats data, int width, int @Nullable [] indices, int @Nullable [] originals, int total) {
        if (indices == null) {
            return null;
        }
        return originals != null
                ? new Channel(gathered(data, width, originals, originals.length), width, Channel.Per.POINT)
                : new Channel(gathered(data, width, indices, total), width, Channel.Per.CORNER);
    }

    private static float[] gathered(Growing.Floats data, int width, int[] elements, int count) {
        float[] all = data.shared();
        float[] result = new float[count * width];
        for (int i = 0; i < count; i++) {
            System.arraycopy(all, elements[i] * width, result, i * width, width);
        }
        return result;
    }
}
