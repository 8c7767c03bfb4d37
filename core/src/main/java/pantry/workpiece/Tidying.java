package pantry.workpiece;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import pantry.base.Names;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.exchange.usd.UsdMeshReader;
import pantry.exchange.usd.UsdModelWriter;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.mesh.MeshEdit;
import pantry.motion.BlendShapes;
import pantry.motion.Skin;
import pantry.usd.AssetPaths;
import pantry.usd.AttributeSpec;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.Attribute;
import pantry.usd.compose.Prim;
import pantry.usd.edit.Transaction;
import pantry.usd.schema.Values;
import pantry.usd.schema.Xforms;

/**
 * One change of a workpiece as fixes make it. Paths are those that prims had when it began: what was moved or renamed
 * since is found under its new path.
 */
public final class Tidying {
    private static final Set<String> PER_POINT = Set.of("velocities", "accelerations");

    /** Where what hangs on joints stood when it was bound. */
    private static final String BIND_PLACE = "primvars:skel:geomBindTransform";

    private final Transaction edits;
    private final Workpiece piece;
    private final Progress progress;
    private final List<Move> moves = new ArrayList<>();

    private record Move(SdfPath from, SdfPath to) {}

    public Tidying(Transaction edits, Workpiece piece, Progress progress) {
        this.edits = edits;
        this.piece = piece;
        this.progress = progress;
    }

    /** Changes a workpiece in a way that has a name, as a whole or not at all. */
    public static void change(Workpiece piece, String name, Consumer<Tidying> work) {
        piece.editor().changeAll(name, edits -> work.accept(new Tidying(edits, piece, Progress.NONE)));
    }

    public Workpiece piece() {
        return piece;
    }

    Progress progress() {
        return progress;
    }

    /** The edits themselves, by present paths. */
    public Transaction edits() {
        return edits;
    }

    /** Where a prim is now. */
    public SdfPath at(SdfPath path) {
        SdfPath now = path;
        for (Move move : moves) {
            now = now.replacePrefix(move.from(), move.to());
        }
        return now;
    }

    /** A prim as it is now; empty where it is gone. */
    public Optional<Prim> prim(SdfPath path) {
        return edits.stage().prim(at(path));
    }

    public void remove(SdfPath path) {
        SdfPath now = at(path);
        if (edits.stage().prim(now).isPresent()) {
            edits.remove(now);
        }
    }

    public void rename(SdfPath path, String name) {
        move(path, path.parent(), name);
    }

    /** Moves a prim below another one, under a name that is free there. */
    public void move(SdfPath path, SdfPath parent, String name) {
        SdfPath now = at(path);
        String going = now.parent().equals(at(parent)) ? now.name() : "";
        SdfPath to = at(parent).child(freeBelow(at(parent), name, going));
        edits.move(now, to);
        moves.add(new Move(now, to));
    }

    /** A name that no child has, but for one that is about to go. */
    public String freeBelow(SdfPath parent, String name, String going) {
        Set<String> taken = new LinkedHashSet<>();
        edits.stage().prim(parent).ifPresent(prim -> prim.children().forEach(child -> taken.add(child.name())));
        taken.remove(going);
        return Names.free(Names.identifier(name), taken::contains);
    }

    /** Gives a prim one matrix as its transform, in place of all ops that it had. */
    public void setLocal(SdfPath path, Matrix4 local) {
        edits.change(at(path), prim -> Xforms.replaceByMatrix(prim, local));
    }

    /** Takes away a prim's own transform; one that a weaker layer says is overruled. */
    public void clearLocal(SdfPath path) {
        setLocal(path, Matrix4.IDENTITY);
        edits.change(at(path), prim -> {
            prim.removeProperty("xformOp:transform");
            prim.removeProperty("xformOpOrder");
        });
        if (prim(path).flatMap(prim -> prim.attribute("xformOpOrder")).isPresent()) {
            setLocal(path, Matrix4.IDENTITY);
        }
    }

    public void setTitle(SdfPath path, String title) {
        edits.setField(at(path), "displayName", new Value.Text(title));
    }

    /** Binds a prim to a material. */
    void bind(SdfPath path, SdfPath material) {
        edits.change(at(path), prim -> bind(prim, at(material)));
    }

    public static void bind(PrimSpec prim, SdfPath material) {
        if (!(prim.metadata().get("apiSchemas") instanceof Value.TokenEdit(ListEdit<String> edit)
                && edit.applyTo(List.of()).contains("MaterialBindingAPI"))) {
            List<String> schemas = new ArrayList<>();
            if (prim.metadata().get("apiSchemas") instanceof Value.TokenEdit(ListEdit<String> edit)) {
                schemas.addAll(edit.applyTo(List.of()));
            }
            schemas.add("MaterialBindingAPI");
            prim.setApiSchemas(schemas.toArray(String[]::new));
        }
        prim.relate("material:binding", material);
    }

    /** Lets a use of an image read another file. */
    public void setImage(Textures.Use use, Path file) {
        Path folder = piece.layer().file().orElse(piece.source()).getParent();
        edits.set(at(use.path()).property("inputs:file"), "asset", new Value.Asset(AssetPaths.relative(folder, file)));
    }

    /** Puts another surface in the place of a mesh's; what else went with its faces, such as subsets, is left. */
    public void setMesh(SdfPath path, Mesh mesh) {
        edits.change(at(path), prim -> {
            for (PropertySpec property : List.copyOf(prim.properties())) {
                if (isChannel(property.name()) || PER_POINT.contains(property.name())) {
                    prim.removeProperty(property.name());
                }
            }
            UsdModelWriter.writeSurface(prim, mesh);
        });
        setShapes(path, BlendShapes.of(mesh));
    }

    /** Lets the points of a mesh hang on other joints, or otherwise. */
    public void setSkin(SdfPath path, Skin skin) {
        edits.change(at(path), prim -> UsdModelWriter.writeSkin(prim, skin));
    }

    public void setNormals(SdfPath path, Channel normals) {
        edits.change(at(path), prim -> prim.removeProperty("primvars:normals"));
        edits.change(at(path), prim -> prim.removeProperty("primvars:normals:indices"));
        setChannel(path, "normal3f[]", "normals", normals);
    }

    /** Gives a mesh something that varies over it. */
    public void setChannel(SdfPath path, String type, String name, Channel channel) {
        edits.change(at(path), prim -> prim.set(type, name, new Value.Floats(channel.data(), channel.width()))
                .metadata()
                .put("interpolation", new Value.Token(channel.per().interpolation())));
    }

    private static boolean isChannel(String name) {
        return name.equals("normals") || name.startsWith("primvars:") && !name.equals(BIND_PLACE);
    }

    /** Transforms a mesh's points and normals in its own space; a mirroring turns the side that is outside. */
    public void transform(SdfPath path, Matrix4 change) {
        Prim prim = prim(path).orElseThrow();
        float[] points = Values.floats(prim, "points", 3);
        if (points == null) {
            return;
        }
        Mesh bare = BlendShapes.on(
                        new Mesh(points, new int[0], new int[0], null, null),
                        UsdMeshReader.shapes(prim, points.length / 3))
                .transformed(change);
        setShapes(path, BlendShapes.of(bare));
        boolean mirrored = change.determinant3() < 0;
        Optional<float[]> normals = directions(prim, "normals");
        Optional<float[]> others = directions(prim, "primvars:normals");
        boolean leftHanded =
                Values.token(prim, "orientation").filter("leftHanded"::equals).isPresent();
        edits.change(at(path), spec -> {
            spec.attribute("points").ifPresent(attribute -> attribute.setValue(new Value.Floats(bare.points(), 3)));
            normals.ifPresent(n -> turn(spec, "normals", n, change));
            others.ifPresent(n -> turn(spec, "primvars:normals", n, change));
            if (spec.attribute("primvars:" + Skin.JOINTS).isPresent()) {
                // What hangs on joints was bound where it stood, whatever its points are told in.
                Matrix4 bound = matrix(spec.attribute(BIND_PLACE).flatMap(AttributeSpec::value));
                spec.set(
                        "matrix4d",
                        BIND_PLACE,
                        new Value.Tuple(change.inverse().times(bound).rows()));
            }
            if (mirrored) {
                spec.set("token", "orientation", new Value.Token(leftHanded ? "rightHanded" : "leftHanded"))
                        .setUniform(true);
            }
            setExtent(spec, bare.points());
        });
    }

    private static Matrix4 matrix(Optional<Value> value) {
        return value.orElse(null) instanceof Value.Tuple(double[] numbers) && numbers.length == 16
                ? Matrix4.ofRows(numbers)
                : Matrix4.IDENTITY;
    }

    private static Optional<float[]> directions(Prim prim, String name) {
        return prim.attribute(name)
                .flatMap(Attribute::value)
                .filter(Value.Floats.class::isInstance)
                .map(value -> ((Value.Floats) value).data());
    }

    private static void turn(PrimSpec spec, String name, float[] normals, Matrix4 change) {
        // A mesh of these normals alone, so that they turn as those of every mesh do.
        int[] none = new int[0];
        Mesh turned = new Mesh(normals.clone(), none, none, new Channel(normals, 3, Channel.Per.POINT), null)
                .transformed(change);
        spec.attribute(name)
                .ifPresent(attribute -> attribute.setValue(
                        new Value.Floats(turned.normals().orElseThrow().data(), 3)));
    }

    private static void setExtent(PrimSpec spec, float[] points) {
        if (points.length == 0) {
            spec.removeProperty("extent");
            return;
        }
        int[] none = new int[0];
        Box3 box = new Mesh(points, none, none, null, null).bounds();
        spec.set("float3[]", "extent", new Value.Floats(UsdModelWriter.extent(box), 3));
    }

    /** Changes which points, faces and corners a mesh has; all that goes with them follows. */
    public void edit(SdfPath path, MeshEdit edit) {
        Prim prim = prim(path).orElseThrow();
        float[] points = Values.floats(prim, "points", 3);
        int[] sizes = Values.ints(prim, "faceVertexCounts");
        int[] corners = Values.ints(prim, "faceVertexIndices");
        if (points == null || sizes == null || corners == null) {
            return;
        }
        Value newPoints = picked(new Value.Floats(points, 3), edit.points());
        edits.change(at(path), spec -> {
            for (PropertySpec property : List.copyOf(spec.properties())) {
                boolean perPoint = PER_POINT.contains(property.name());
                if ((isChannel(property.name()) || perPoint) && property instanceof AttributeSpec attribute) {
                    follow(spec, attribute, per(prim, attribute), edit, corners);
                }
            }
            spec.set("point3f[]", "points", newPoints);
            spec.set("int[]", "faceVertexCounts", picked(new Value.Ints(sizes, 1), edit.faces()));
            spec.set("int[]", "faceVertexIndices", new Value.Ints(edit.cornerPoints(), 1));
            setExtent(spec, ((Value.Floats) newPoints).data());
        });
        Map<String, BlendShapes.Shape> shapes = UsdMeshReader.shapes(prim, points.length / 3);
        shapes.replaceAll((name, shape) ->
                shape.mapped(numbers -> ((Value.Floats) picked(new Value.Floats(numbers, 3), edit.points())).data()));
        setShapes(path, shapes);
        followSubsets(prim, edit, sizes.length);
    }

    /** Changes the offsets of the shapes that a mesh names; each stays where it is told. */
    private void setShapes(SdfPath path, Map<String, BlendShapes.Shape> shapes) {
        Prim prim = prim(path).orElseThrow();
        List<String> names = Values.strings(prim, "skel:blendShapes");
        List<SdfPath> targets = prim.targets("skel:blendShapeTargets");
        for (int i = 0; i < Math.min(names.size(), targets.size()); i++) {
            BlendShapes.Shape shape = shapes.get(names.get(i));
            if (shape != null) {
                edits.change(at(targets.get(i)), spec -> UsdModelWriter.writeShape(spec, shape));
            }
        }
    }

    /** What of a mesh the elements of an attribute belong to. */
    private static Channel.Per per(Prim prim, AttributeSpec attribute) {
        String name = attribute.name();
        return PER_POINT.contains(name)
                ? Channel.Per.POINT
                : Channel.Per.of(prim.attribute(name)
                        .flatMap(read -> read.text("interpolation"))
                        .orElse(name.equals("normals") ? "vertex" : "constant"));
    }

    private static void follow(PrimSpec spec, AttributeSpec attribute, Channel.Per per, MeshEdit edit, int[] corners) {
        String name = attribute.name();
        Value value = attribute.value().orElse(null);
        if (name.endsWith(":indices") || value == null || per == Channel.Per.MESH) {
            return;
        }
        AttributeSpec indices = spec.attribute(name + ":indices").orElse(null);
        // Joints and weights belong to points whatever is joined: the first of them are kept.
        boolean skin = name.equals("primvars:" + Skin.JOINTS) || name.equals("primvars:" + Skin.WEIGHTS);
        int width =
                attribute.metadata().get("elementSize") instanceof Value.Int(long size) ? (int) Math.max(1, size) : 1;
        Value elements = grouped(indices == null ? value : indices.value().orElse(value), width);
        MeshEdit.Followed followed = edit.follow(per, corners, (one, other) -> skin || same(elements, one, other));
        Value changed = apart(picked(elements, followed.elements()), width);
        (indices == null ? attribute : indices).setValue(changed);
        if (followed.per() != per) {
            attribute
                    .metadata()
                    .put("interpolation", new Value.Token(followed.per().interpolation()));
        }
    }

    private void followSubsets(Prim prim, MeshEdit edit, int faceCount) {
        int @Nullable [] newFace = null;
        for (Prim child : List.copyOf(prim.children())) {
            int[] faces = Values.ints(child, "indices");
            if (!child.typeName().equals("GeomSubset") || faces == null) {
                continue;
            }
            if (newFace == null) {
                newFace = new int[faceCount];
                Arrays.fill(newFace, -1);
                for (int f = 0; f < edit.faces().length; f++) {
                    newFace[edit.faces()[f]] = f;
                }
            }
            int[] numbers = newFace;
            int[] kept = Arrays.stream(faces)
                    .filter(face -> face >= 0 && face < numbers.length && numbers[face] >= 0)
                    .map(face -> numbers[face])
                    .toArray();
            edits.change(child.path(), spec -> spec.set("int[]", "indices", new Value.Ints(kept, 1)));
        }
    }

    /** An array whose elements are several of the same type, as one with wider elements. */
    private static Value grouped(Value value, int size) {
        return switch (value) {
            case Value.Floats(float[] data, int width)
            when size > 1 && data.length % (width * size) == 0 -> new Value.Floats(data, width * size);
            case Value.Ints(int[] data, int width)
            when size > 1 && data.length % (width * size) == 0 -> new Value.Ints(data, width * size);
            default -> value;
        };
    }

    /** The reverse of {@link #grouped}. */
    private static Value apart(Value value, int size) {
        return switch (value) {
            case Value.Floats(float[] data, int width) when size > 1 -> new Value.Floats(data, width / size);
            case Value.Ints(int[] data, int width) when size > 1 -> new Value.Ints(data, width / size);
            default -> value;
        };
    }

    private static Value picked(Value value, int[] elements) {
        return switch (value) {
            case Value.Floats(float[] data, int width) -> {
                float[] picked = new float[elements.length * width];
                for (int i = 0; i < elements.length; i++) {
                    System.arraycopy(data, width * elements[i], picked, width * i, width);
                }
                yield new Value.Floats(picked, width);
            }
            case Value.Doubles(double[] data, int width) -> {
                double[] picked = new double[elements.length * width];
                for (int i = 0; i < elements.length; i++) {
                    System.arraycopy(data, width * elements[i], picked, width * i, width);
                }
                yield new Value.Doubles(picked, width);
            }
            case Value.Ints(int[] data, int width) -> {
                int[] picked = new int[elements.length * width];
                for (int i = 0; i < elements.length; i++) {
                    System.arraycopy(data, width * elements[i], picked, width * i, width);
                }
                yield new Value.Ints(picked, width);
            }
            case Value.Longs(long[] data) ->
                new Value.Longs(Arrays.stream(elements).mapToLong(e -> data[e]).toArray());
            case Value.Bools(boolean[] data) -> {
                boolean[] picked = new boolean[elements.length];
                for (int i = 0; i < elements.length; i++) {
                    picked[i] = data[elements[i]];
                }
                yield new Value.Bools(picked);
            }
            case Value.Strings(List<String> items) ->
                new Value.Strings(Arrays.stream(elements).mapToObj(items::get).toList());
            default -> value;
        };
    }

    private static boolean same(Value value, int one, int other) {
        return picked(value, new int[] {one}).equals(picked(value, new int[] {other}));
    }
}
