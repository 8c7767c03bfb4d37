package pantry.exchange.format;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import pantry.base.Names;
import pantry.usd.file.LayerFiles;

/**
 * What a file is, told by its first bytes wherever they tell it, else by its ending. The marks are those that the
 * formats' own specifications give; OBJ, MTL and TGA have none.
 */
public enum FileKind {
    USD,
    GLTF,
    OBJ,
    PLY,
    STL,
    /** Read by Assimp in the worker. */
    FOREIGN,
    IMAGE,
    MATERIALX,
    /** Unpacked first. */
    ARCHIVE,
    /** Of use only to the files that name it: material libraries, buffers. */
    COMPANION,
    OTHER;

    private static final int HEAD = 1024;
    private static final String MOTION_ENDING = "bvh";
    private static final Set<String> FOREIGN_ENDINGS = Set.of(
            "dae", "fbx", "3ds", "x3d", "3mf", "amf", "off", "dxf", "lwo", "ac", "ase", "b3d", "ms3d", "md2", "md3",
            "md5mesh", "nff", "q3o", "smd", "ter", "xgl", "zgl", "cob", "hmp", "irrmesh", "iqm", "ndo", "x", "ogex",
            "ifc", "zae", "bvh");
    private static final Set<String> IMAGE_ENDINGS =
            Set.of("png", "jpg", "jpeg", "tga", "tif", "tiff", "hdr", "exr", "ktx2", "bmp", "gif", "webp");

    /**
     * What is read as a model or as a material; images and archives are not among them.
     */
    public boolean hasModel() {
        return switch (this) {
            case USD, GLTF, OBJ, PLY, STL, FOREIGN, MATERIALX -> true;
            case IMAGE, ARCHIVE, COMPANION, OTHER -> false;
        };
    }

    /** The endings of what can be received, sorted; archives' not among them. */
    public static java.util.List<String> endings() {
        return Stream.of(
                        LayerFiles.ENDINGS.stream(),
                        Stream.of("glb", "gltf", "obj", "ply", "stl", "mtlx"),
                        FOREIGN_ENDINGS.stream(),
                        IMAGE_ENDINGS.stream())
                .flatMap(each -> each)
                .sorted()
                .toList();
    }

    /** What a file is; {@link #OTHER} where it cannot be opened. */
    public static FileKind of(Path file) {
        String ending = Names.ending(file.getFileName().toString());
        byte[] head;
        try (InputStream in = Files.newInputStream(file)) {
            head = in.readNBytes(HEAD);
        } catch (IOException e) {
            return OTHER;
        }
        return ofContent(head, ending).orElseGet(() -> ofEnding(ending));
    }

    private static Optional<FileKind> ofContent(byte[] head, String ending) {
        String text = new String(head, StandardCharsets.ISO_8859_1);
        String lower = text.stripLeading().toLowerCase(Locale.ROOT);
        if (text.startsWith("PXR-USDC") || text.startsWith("#usda ") || text.startsWith("#sdf ")) {
            return Optional.of(USD);
        }
        if (text.startsWith("glTF")) {
            return Optional.of(GLTF);
        }
        if (text.startsWith("ply\n") || text.startsWith("ply\r")) {
            return Optional.of(PLY);
        }
        if (text.startsWith("PK\3\4")) {
            boolean packaged = Set.of("usdz", "3mf", "amf", "zae").contains(ending);
            boolean printable = text.contains("3D/") || text.contains("[Content_Types]");
            return Optional.of(
                    ending.equals("usdz") ? USD : packaged || printable && !ending.equals("zip") ? FOREIGN : ARCHIVE);
        }
        if (text.startsWith("\u001f\u008b") && Set.of("gz", "tgz", "tar").contains(ending)
                || text.length() > 262 && text.startsWith("ustar", 257)) {
            return Optional.of(ARCHIVE);
        }
        if (isImage(text)) {
            return Optional.of(IMAGE);
        }
        if (text.startsWith("Kaydara FBX Binary") || lower.startsWith("; fbx")) {
            return Optional.of(FOREIGN);
        }
        if (isMotionCapture(lower)) {
            return Optional.of(FOREIGN);
        }
        if (lower.startsWith("<") || lower.startsWith("\u00ef\u00bb\u00bf<")) {
            return lower.contains("<materialx")
                    ? Optional.of(MATERIALX)
                    : Stream.of("<collada", "<x3d", "<amf", "<model").anyMatch(lower::contains)
                            ? Optional.of(FOREIGN)
                            : Optional.empty();
        }
        if (lower.startsWith("{") && (ending.equals("gltf") || lower.contains("\"asset\""))) {
            return Optional.of(GLTF);
        }
        if (lower.startsWith("solid") && (lower.contains("facet") || lower.contains("endsolid"))) {
            return Optional.of(STL);
        }
        return Optional.empty();
    }

    /** BVH, which holds the motion of a skeleton and nothing else. */
    private static boolean isMotionCapture(String lower) {
        return lower.startsWith("hierarchy") && lower.contains("root");
    }

    private static boolean isImage(String head) {
        return head.startsWith("\u0089PNG\r\n")
                || head.startsWith("\u00ff\u00d8\u00ff")
                || head.startsWith("II*\0")
                || head.startsWith("MM\0*")
                || head.startsWith("#?RADIANCE")
                || head.startsWith("#?RGBE")
                || head.startsWith("\u0076\u002f\u0031\u0001")
                || head.startsWith("\u00abKTX 20\u00bb")
                || head.startsWith("GIF8")
                || head.startsWith("RIFF") && head.startsWith("WEBP", 8)
                || head.startsWith("BM") && head.length() > 20 && head.charAt(14) == 40;
    }

    private static FileKind ofEnding(String ending) {
        if (LayerFiles.ENDINGS.contains(ending)) {
            return USD;
        }
        if (FOREIGN_ENDINGS.contains(ending)) {
            return FOREIGN;
        }
        if (IMAGE_ENDINGS.contains(ending)) {
            return IMAGE;
        }
        return switch (ending) {
            case "glb", "gltf" -> GLTF;
            case "obj" -> OBJ;
            case "ply" -> PLY;
            case "stl" -> STL;
            case "mtlx" -> MATERIALX;
            case "mtl", "bin" -> COMPANION;
            case "zip", "tar", "tgz", "gz" -> ARCHIVE;
            default -> OTHER;
        };
    }

    /** Whether a foreign file's format holds the motion of a skeleton and nothing else. */
    public static boolean isOfMotion(Path file) {
        return foreignEnding(file)
                .orElseGet(() -> Names.ending(file.getFileName().toString()))
                .equals(MOTION_ENDING);
    }

    /** The ending by which Assimp knows a foreign file, where its own name does not tell it. */
    public static Optional<String> foreignEnding(Path file) {
        String ending = Names.ending(file.getFileName().toString());
        if (ending.equals("glb") || ending.equals("gltf") || FOREIGN_ENDINGS.contains(ending)) {
            return Optional.empty();
        }
        try (InputStream in = Files.newInputStream(file)) {
            String head = new String(in.readNBytes(HEAD), StandardCharsets.ISO_8859_1)
                    .stripLeading()
                    .toLowerCase(Locale.ROOT);
            String[][] marks = {
                {"kaydara fbx", "fbx"},
                {"; fbx", "fbx"},
                {"<collada", "dae"},
                {"<x3d", "x3d"},
                {"<amf", "amf"},
                {"<model", "3mf"},
                {"3d/", "3mf"},
                {"gltf", "glb"},
                {"{", "gltf"}
            };
            if (isMotionCapture(head)) {
                return Optional.of(MOTION_ENDING);
            }
            return Arrays.stream(marks)
                    .filter(mark -> head.contains(mark[0]))
                    .map(mark -> mark[1])
                    .findFirst();
        } catch (IOException e) {
            return Optional.empty();
        }
    }
}
