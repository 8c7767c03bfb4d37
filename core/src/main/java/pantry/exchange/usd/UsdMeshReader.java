package pantry.exchange.usd;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.motion.BlendShapes;
import pantry.motion.Skin;
import pantry.usd.UsdException;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.schema.Primvar;
import pantry.usd.schema.Values;

/** Reads the surface of a prim: a polygon mesh, or one of the simple solids, curves or points as one. */
public final class UsdMeshReader {
    private static final List<String> MORE = List.of(Mesh.COLOUR, "st1", "st2", "st3");

    private final MeshCache meshes;
    private final Map<List<String>, Mesh> solids;
    private final List<String> problems;

    /** @param problems is told what cannot be read */
    public UsdMeshReader(MeshCache meshes, List<String> problems) {
        this(meshes, new HashMap<>(), problems);
    }

    /** @param solids simple solids that were made before, by their figures; takes those that are made now */
    UsdMeshReader(MeshCache meshes, Map<List<String>, Mesh> solids, List<String> problems) {
        this.meshes = meshes;
        this.solids = solids;
        this.problems = problems;
    }

    /** The surface, in the prim's own space; empty where it has none, or none that can be read. */
    public Optional<Mesh> read(Prim prim) {
        return switch (prim.typeName()) {
            case "Mesh" -> mesh(prim);
            case UsdLines.CURVES, UsdLines.POINTS -> lines(prim);
            default -> {
                // Solids of the same figures are one mesh, which is stored and made ready for drawing once.
                Optional<Mesh> solid = UsdSolids.of(prim);
                yield solid.map(made -> solids.computeIfAbsent(UsdSolids.figures(prim), key -> made));
            }
        };
    }

    /** Whether prims of a type have a surface that is drawn, be it that of a solid, or made for curves and points. */
    public static boolean draws(String type) {
        return isSurface(type) || isLines(type);
    }

    /** Whether prims of a type are curves or points, for which meshes are made. */
    public static boolean isLines(String type) {
        return type.equals(UsdLines.CURVES) || type.equals(UsdLines.POINTS);
    }

    /** Whether prims of a type are surfaces: meshes and simple solids. */
    public static boolean isSurface(String type) {
        return type.equals("Mesh") || UsdSolids.TYPES.contains(type);
    }

    /**
     * The shapes that a mesh's prim names, by name.
     *
     * @throws IllegalArgumentException naming a prim that does not fit
     */
    public static Map<String, BlendShapes.Shape> shapes(Prim prim, int points) {
        List<String> problems = new ArrayList<>();
        Map<String, BlendShapes.Shape> shapes = new UsdBlendShapes(prim, problems).of(points);
        if (!problems.isEmpty()) {
            throw new IllegalArgumentException(problems.getFirst());
        }
        return shapes;
    }

    private Optional<Mesh> lines(Prim prim) {
        try {
            return UsdLines.of(prim);
        } catch (IllegalArgumentException | UsdException e) {
            problems.add("<" + prim.path() + ">: " + e.getMessage());
            return Optional.empty();
        }
    }

    private Optional<Mesh> mesh(Prim prim) {
        float[] points = Values.floats(prim, "points", 3);
        int[] sizes = Values.ints(prim, "faceVertexCounts");
        int[] corners = Values.ints(prim, "faceVertexIndices");
        if (points == null || sizes == null || corners == null || sizes.length == 0) {
            return Optional.empty();
        }
        Optional<Primvar> normals = Primvar.find(prim, "normals")
                .or(() -> prim.attribute("normals").map(attribute -> new Primvar("normals", prim, attribute)));
        Optional<Primvar> uvs = Primvar.find(prim, "st").or(() -> Primvar.find(prim, "UVMap"));
        Map<String, Primvar> more = more(prim);
        boolean leftHanded =
                Values.token(prim, "orientation").filter("leftHanded"::equals).isPresent();
        boolean doubleSided = Values.flag(prim, "doubleSided");
        List<@Nullable Object> arrays = new ArrayList<>(List.of(points, sizes, corners, leftHanded, doubleSided));
        arrays.add(normals.map(UsdMeshReader::array).orElse(null));
        arrays.add(uvs.map(UsdMeshReader::array).orElse(null));
        more.values().forEach(primvar -> arrays.add(array(primvar)));
        arrays.add(Values.ints(prim, "primvars:" + Skin.JOINTS));
        arrays.add(Values.floats(prim, "primvars:" + Skin.WEIGHTS, 1));
        UsdBlendShapes shapes = new UsdBlendShapes(prim, problems);
        arrays.addAll(shapes.arrays());
        try {
            return Optional.of(meshes.get(
                    () -> {
                        for (float number : points) {
                            if (!Float.isFinite(number)) {
                                throw new IllegalArgumentException("a point is not a number or infinite");
                            }
                        }
                        Mesh made = new Mesh(
                                        points,
                                        sizes,
                                        corners,
                                        channel(normals, 3, points.length / 3, sizes.length, corners.length),
                                        channel(uvs, 2, points.length / 3, sizes.length, corners.length))
                                .withLeftHanded(leftHanded)
                                .withPrimvars(primvars(more, points.length / 3, sizes.length, corners.length))
                                .withDoubleSided(doubleSided);
                        Mesh shaped = BlendShapes.on(made, shapes.of(made.pointCount()));
                        return UsdSkelReader.skin(prim)
                                .map(skin -> skin.on(shaped))
                                .orElse(shaped);
                    },
                    arrays.toArray()));
        } catch (IllegalArgumentException | UsdException e) {
            problems.add("<" + prim.path() + ">: " + e.getMessage());
            return Optional.empty();
        }
    }

    /** Colours that vary over the surface, and further sets of texture coordinates, by name. */
    private static Map<String, Primvar> more(Prim prim) {
        Map<String, Primvar> more = new LinkedHashMap<>();
        for (String name : MORE) {
            Primvar.find(prim, name)
                    .filter(primvar -> !(name.equals(Mesh.COLOUR)
                            && primvar.attribute()
                                    .text("interpolation")
                                    .filter(how -> !how.equals("constant"))
                                    .isEmpty()))
                    .ifPresent(primvar -> more.put(name, primvar));
        }
        return more;
    }

    private static Map<String, Channel> primvars(Map<String, Primvar> more, int points, int faces, int corners) {
        Map<String, Channel> channels = new LinkedHashMap<>();
        more.forEach((name, primvar) -> {
            Channel channel = channel(Optional.of(primvar), name.equals(Mesh.COLOUR) ? 3 : 2, points, faces, corners);
            if (channel != null) {
                channels.put(name, channel);
            }
        });
        return channels;
    }

    private static @Nullable Object array(Primvar primvar) {
        return primvar.attribute().value().orElse(null) instanceof Value.Floats floats ? floats.data() : null;
    }

    private static @Nullable Channel channel(Optional<Primvar> primvar, int width, int points, int faces, int corners) {
        float[] flat = primvar.flatMap(found -> found.floats(width)).orElse(null);
        if (primvar.isEmpty() || flat == null) {
            return null;
        }
        Channel.Per per = primvar.get()
                .attribute()
                .text("interpolation")
                .map(Channel.Per::of)
                .orElse(flat.length / width == corners && corners != points ? Channel.Per.CORNER : Channel.Per.POINT);
        int needed =
                switch (per) {
                    case MESH -> 1;
                    case FACE -> faces;
                    case POINT -> points;
                    case CORNER -> corners;
                };
        if (flat.length != needed * width) {
            throw new IllegalArgumentException(primvar.get().attribute().name() + " has " + flat.length / width
                    + " elements; " + needed + " are needed");
        }
        return new Channel(flat, width, per);
    }
}
