package pantry.exchange;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.usd.Layer;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.Attribute;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.schema.Xforms;

/**
 * Reads the drawn surfaces of a stage: meshes and the simple solids, visible, active, of default or render purpose.
 * What instances share is read once.
 */
public final class UsdModelReader {
    private static final int SOLID_SEGMENTS = 48;

    private final Stage stage;
    private final MeshCache meshes;
    private final Map<Prim, List<Model.Node>> prototypes = new IdentityHashMap<>();
    private final Map<SdfPath, Material> materials = new HashMap<>();
    private final List<String> problems = new ArrayList<>();
    private final Set<SdfPath> counted = new HashSet<>();
    private int lights;
    private int cameras;
    private int hidden;

    /** A stage's model, and what of it could not be drawn. */
    public record Result(Model model, List<String> problems) {}

    private UsdModelReader(Stage stage, MeshCache meshes) {
        this.stage = stage;
        this.meshes = meshes;
    }

    /** Reads a whole stage, in the stage's own unit and axes. */
    public static Result read(Stage stage, MeshCache meshes) {
        UsdModelReader reader = new UsdModelReader(stage, meshes);
        List<Model.Node> roots = reader.nodes(stage.root(), Optional.empty());
        String name = stage.rootLayer()
                .file()
                .map(file -> pantry.base.Names.stem(file.getFileName().toString()))
                .orElse("Stage");
        Model model = new Model(name, roots, new Model.Extras(reader.lights, reader.cameras, reader.hidden));
        return new Result(model, List.copyOf(reader.problems));
    }

    /** Metres per unit of a layer; the standard's fallback is a centimetre. */
    public static double metresPerUnit(Layer layer) {
        return layer.number("metersPerUnit").filter(unit -> unit > 0).orElse(0.01);
    }

    /** The upward axis of a layer; the standard's fallback is Y. */
    public static Axis upAxis(Layer layer) {
        return layer.text("upAxis").filter("Z"::equals).isPresent() ? Axis.Z : Axis.Y;
    }

    private List<Model.Node> nodes(Prim parent, Optional<Material> inherited) {
        List<Model.Node> nodes = new ArrayList<>();
        for (Prim prim : parent.children()) {
            if (prim.isActive() && !prim.isAbstract() && prim.isDefined()) {
                node(prim, inherited).ifPresent(nodes::add);
            }
        }
        return List.copyOf(nodes);
    }

    private Optional<Model.Node> node(Prim prim, Optional<Material> inherited) {
        String type = prim.typeName();
        if (type.equals("Scope") && prim.name().equals("Materials")
                || type.equals("Material")
                || type.equals("Shader")
                || type.equals("GeomSubset")) {
            return Optional.empty();
        }
        if (count(prim, type)) {
            return Optional.empty();
        }
        Optional<Material> material = binding(prim).or(() -> inherited);
        List<Model.Part> parts = parts(prim, type, material);
        Optional<Prim> prototype = prim.prototype();
        List<Model.Node> children;
        if (prototype.isPresent()) {
            children = prototypes.get(prototype.get());
            if (children == null) {
                children = nodes(prototype.get(), material);
                prototypes.put(prototype.get(), children);
            }
        } else {
            children = nodes(prim, material);
        }
        return Optional.of(new Model.Node(
                prim.text("displayName").orElse(prim.name()),
                prim.path().toString(),
                Xforms.local(prim),
                parts,
                children,
                prototype.isPresent()));
    }

    /** Counts what is not a surface; true where the prim and all below it are not to be drawn. */
    private boolean count(Prim prim, String type) {
        boolean first = counted.add(prim.path());
        if (type.endsWith("Light")) {
            lights += first ? 1 : 0;
        } else if (type.equals("Camera")) {
            cameras += first ? 1 : 0;
        }
        if (token(prim, "visibility").equals("invisible")) {
            hidden += first ? 1 : 0;
            return true;
        }
        String purpose = token(prim, "purpose");
        return purpose.equals("proxy") || purpose.equals("guide");
    }

    private static String token(Prim prim, String attribute) {
        return prim.value(attribute).orElse(null) instanceof Value.Token(String token) ? token : "";
    }

    private List<Model.Part> parts(Prim prim, String type, Optional<Material> material) {
        Optional<Mesh> mesh =
                switch (type) {
                    case "Mesh" -> mesh(prim);
                    case "Cube" -> {
                        double half = number(prim, "size", 2) / 2;
                        yield Optional.of(Shapes.box(new Vec3(-half, -half, -half), new Vec3(half, half, half)));
                    }
                    case "Sphere" ->
                        Optional.of(Shapes.sphere(number(prim, "radius", 1), SOLID_SEGMENTS, SOLID_SEGMENTS / 2));
                    case "Cylinder" -> Optional.of(solid(prim, number(prim, "radius", 1)));
                    case "Cone" -> Optional.of(solid(prim, 0));
                    default -> Optional.empty();
                };
        return mesh.map(m -> split(prim, m, material)).orElse(List.of());
    }

    private static double number(Prim prim, String attribute, double otherwise) {
        return prim.value(attribute).orElse(null) instanceof Value.Real(double number) ? number : otherwise;
    }

    private static Mesh solid(Prim prim, double topRadius) {
        double height = number(prim, "height", 2);
        Mesh upright = Shapes.cone(number(prim, "radius", 1), topRadius, height, SOLID_SEGMENTS)
                .transformed(Matrix4.translation(new Vec3(0, -height / 2, 0)));
        return switch (token(prim, "axis")) {
            case "X" -> upright.transformed(Matrix4.rotation(2, -90));
            case "Y" -> upright;
            default -> upright.transformed(Matrix4.rotation(0, 90));
        };
    }

    private Optional<Mesh> mesh(Prim prim) {
        float[] points = floats(prim, "points");
        int[] sizes = ints(prim, "faceVertexCounts");
        int[] corners = ints(prim, "faceVertexIndices");
        if (points == null || sizes == null || corners == null || sizes.length == 0) {
            return Optional.empty();
        }
        Optional<Attribute> normals = prim.attribute("primvars:normals").or(() -> prim.attribute("normals"));
        Optional<Attribute> uvs = prim.attribute("primvars:st").or(() -> prim.attribute("primvars:UVMap"));
        Object normalsKey =
                normals.flatMap(Attribute::value).map(UsdModelReader::array).orElse(null);
        Object uvsKey = uvs.flatMap(Attribute::value).map(UsdModelReader::array).orElse(null);
        boolean leftHanded = token(prim, "orientation").equals("leftHanded");
        try {
            return Optional.of(meshes.get(
                    () -> {
                        for (float number : points) {
                            if (!Float.isFinite(number)) {
                                throw new IllegalArgumentException("a point is not a number or infinite");
                            }
                        }
                        return new Mesh(
                                points,
                                sizes,
                                corners,
                                channel(prim, normals, 3, points.length / 3, sizes.length, corners.length),
                                channel(prim, uvs, 2, points.length / 3, sizes.length, corners.length),
                                leftHanded);
                    },
                    points,
                    sizes,
                    corners,
                    normalsKey,
                    uvsKey,
                    leftHanded));
        } catch (IllegalArgumentException e) {
            problems.add("<" + prim.path() + ">: " + e.getMessage());
            return Optional.empty();
        }
    }

    private static @Nullable Object array(Value value) {
        return value instanceof Value.Floats floats ? floats.data() : null;
    }

    private @Nullable Channel channel(
            Prim prim, Optional<Attribute> attribute, int width, int points, int faces, int corners) {
        if (attribute.isEmpty()
                || !(attribute.get().value().orElse(null) instanceof Value.Floats(float[] data, int dataWidth))
                || dataWidth != width) {
            return null;
        }
        int[] indices = ints(prim, attribute.get().name() + ":indices");
        float[] flat = data;
        if (indices != null) {
            flat = new float[indices.length * width];
            for (int i = 0; i < indices.length; i++) {
                if (indices[i] < 0 || (indices[i] + 1) * width > data.length) {
                    throw new IllegalArgumentException(
                            attribute.get().name() + " uses element " + indices[i] + " of " + data.length / width);
                }
                System.arraycopy(data, indices[i] * width, flat, i * width, width);
            }
        }
        Channel.Per per = attribute
                .get()
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
            throw new IllegalArgumentException(
                    attribute.get().name() + " has " + flat.length / width + " elements; " + needed + " are needed");
        }
        return new Channel(flat, width, per);
    }

    private static float @Nullable [] floats(Prim prim, String attribute) {
        return prim.value(attribute).orElse(null) instanceof Value.Floats(float[] data, int width) && width == 3
                ? data
                : null;
    }

    private static int @Nullable [] ints(Prim prim, String attribute) {
        return prim.value(attribute).orElse(null) instanceof Value.Ints(int[] data, int width) && width == 1
                ? data
                : null;
    }

    /** A mesh as one part, or as one for each subset that has a material of its own. */
    private List<Model.Part> split(Prim prim, Mesh mesh, Optional<Material> material) {
        List<Model.Part> parts = new ArrayList<>();
        boolean[] taken = new boolean[mesh.faceCount()];
        for (Prim child : prim.children()) {
            int[] faces = child.typeName().equals("GeomSubset") ? ints(child, "indices") : null;
            Optional<Material> own = faces == null ? Optional.empty() : binding(child);
            if (faces == null || own.isEmpty()) {
                continue;
            }
            for (int face : faces) {
                if (face < 0 || face >= taken.length) {
                    problems.add("<" + child.path() + ">: there is no face " + face);
                    return List.of(new Model.Part(mesh, material.orElse(Material.PLAIN)));
                }
                taken[face] = true;
            }
            parts.add(new Model.Part(mesh.faces(faces), own.get()));
        }
        if (parts.isEmpty()) {
            return List.of(new Model.Part(mesh, material.orElse(Material.PLAIN)));
        }
        int[] rest = java.util.stream.IntStream.range(0, taken.length)
                .filter(face -> !taken[face])
                .toArray();
        if (rest.length > 0) {
            parts.add(new Model.Part(mesh.faces(rest), material.orElse(Material.PLAIN)));
        }
        return parts;
    }

    private Optional<Material> binding(Prim prim) {
        List<SdfPath> targets = prim.targets("material:binding");
        if (targets.isEmpty()) {
            return Optional.empty();
        }
        SdfPath target = targets.getFirst();
        Material known = materials.get(target);
        if (known == null) {
            Optional<Prim> bound = stage.prim(target);
            if (bound.isEmpty()) {
                problems.add("<" + prim.path() + "> is bound to a material that is not there: <" + target + ">");
            }
            known = bound.map(this::material).orElse(Material.PLAIN);
            materials.put(target, known);
        }
        return Optional.of(known);
    }

    private Material material(Prim prim) {
        String name = prim.text("displayName").orElse(prim.name());
        Optional<Prim> surface = connected(prim, "outputs:surface");
        if (surface.isEmpty()) {
            return new Material(
                    name,
                    Material.PLAIN.base(),
                    1,
                    Material.PLAIN.metallic(),
                    Material.PLAIN.roughness(),
                    Colour.BLACK,
                    Map.of());
        }
        Prim shader = surface.get();
        Material material = new Material(
                name,
                colour(shader, "inputs:diffuseColor", new Colour(0.18f, 0.18f, 0.18f)),
                (float) number(shader, "inputs:opacity", 1),
                (float) number(shader, "inputs:metallic", 0),
                (float) number(shader, "inputs:roughness", 0.5),
                colour(shader, "inputs:emissiveColor", Colour.BLACK),
                Map.of());
        for (Material.Slot slot : Material.Slot.values()) {
            Optional<Prim> image = connected(shader, "inputs:" + slot.input());
            if (image.isPresent()) {
                Optional<Attribute> file = image.get().attribute("inputs:file");
                if (file.isPresent() && file.get().value().orElse(null) instanceof Value.Asset(String written)) {
                    Optional<Path> found = file.get().file().filter(Files::isRegularFile);
                    material = material.with(slot, new Texture(written, found));
                }
            }
        }
        return material;
    }

    private Optional<Prim> connected(Prim prim, String attribute) {
        return prim.attribute(attribute).map(Attribute::connections).orElse(List.of()).stream()
                .findFirst()
                .flatMap(path -> stage.prim(path.prim()));
    }

    private static Colour colour(Prim prim, String attribute, Colour otherwise) {
        return prim.value(attribute).orElse(null) instanceof Value.Tuple(double[] c) && c.length == 3
                ? new Colour((float) c[0], (float) c[1], (float) c[2])
                : otherwise;
    }
}
