package pantry.prep.tools;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import pantry.base.Names;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.usd.UsdModelReader;
import pantry.exchange.usd.UsdModelWriter;
import pantry.mesh.Merging;
import pantry.mesh.Mesh;
import pantry.twins.TwinGroup;
import pantry.usd.AttributeSpec;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.schema.Xforms;
import pantry.workpiece.DisplayText;
import pantry.workpiece.InspectedPrim;
import pantry.workpiece.PrepException;
import pantry.workpiece.Subject;
import pantry.workpiece.Surface;
import pantry.workpiece.Tidying;
import pantry.workpiece.Workpiece;

/**
 * Turns objects of one shape into instances of a shared one, and back. Shapes stand as definitions in a scope
 * {@value #SHAPES} below the root; each is held at the middle of its base, as the first object stands. What objects are
 * made of stays with them.
 */
public final class Instances {
    /** The scope with the shared shapes. */
    public static final String SHAPES = "Shapes";

    private static final String SHAPE = "Shape";

    private Instances() {}

    /** Lets objects share the shape of the first. */
    public static void make(Tidying tidying, List<TwinSets.Member> members) {
        Prim first = tidying.prim(members.getFirst().path()).orElseThrow();
        SdfPath shapes = shapes(tidying, first.path());
        String name = tidying.freeBelow(shapes, first.name(), "");
        Mesh mesh = Surface.of(first, tidying.piece().meshes()).mesh().orElseThrow();
        Matrix4 world = Xforms.world(first)
                .times(UsdModelReader.toMetres(tidying.piece().layer()));
        Vec3 hold = world.inverse().point(base(mesh.boundsIn(world)));
        tidying.edits().add(shapes, shape(tidying, first, name, mesh, hold));
        Matrix4 held = Matrix4.translation(hold);
        for (TwinSets.Member member : members) {
            Prim prim = tidying.prim(member.path()).orElseThrow();
            Matrix4 local = held.times(member.place()).times(Xforms.local(prim));
            become(tidying, member.path(), shapes.child(name), local);
        }
    }

    /** The middle of a box's base. */
    public static Vec3 base(Box3 box) {
        return new Vec3(box.centre().x(), box.min().y(), box.centre().z());
    }

    private static SdfPath shapes(Tidying tidying, SdfPath path) {
        SdfPath parent = path.depth() > 1 ? SdfPath.ROOT.child(path.names().getFirst()) : SdfPath.ROOT;
        SdfPath wanted = parent.child(SHAPES);
        if (tidying.edits().stage().prim(wanted).filter(Prim::isAbstract).isPresent()) {
            return wanted;
        }
        String name = tidying.freeBelow(parent, SHAPES, "");
        tidying.edits().add(parent, new PrimSpec(Specifier.CLASS, "Scope", name));
        return parent.child(name);
    }

    private static PrimSpec shape(Tidying tidying, Prim first, String name, Mesh mesh, Vec3 hold) {
        PrimSpec shape = new PrimSpec(Specifier.DEF, "Xform", name);
        PrimSpec surface = shape.define("Mesh", SHAPE);
        PrimSpec spec = tidying.piece().layer().prim(first.path()).orElseThrow();
        for (PropertySpec property : spec.properties()) {
            if (isOfSurface(property)) {
                surface.put(property.copyAs(property.name()));
            }
        }
        float[] points = mesh.transformed(Matrix4.translation(hold.times(-1))).points();
        surface.set("point3f[]", "points", new Value.Floats(points, 3));
        surface.set(
                "float3[]",
                "extent",
                new Value.Floats(
                        UsdModelWriter.extent(new Mesh(points, new int[0], new int[0], null, null).bounds()), 3));
        return shape;
    }

    /** What varies over a surface or makes it; what is said once for all of it stays with the object. */
    private static boolean isOfSurface(PropertySpec property) {
        String name = property.name();
        if (name.startsWith("primvars:") && property instanceof AttributeSpec attribute) {
            return !(attribute
                    .metadata()
                    .getOrDefault("interpolation", new Value.Token("constant"))
                    .equals(new Value.Token("constant")));
        }
        return Set.of(
                        "points",
                        "faceVertexCounts",
                        "faceVertexIndices",
                        "normals",
                        "orientation",
                        "subdivisionScheme",
                        "doubleSided",
                        "interpolateBoundary",
                        "faceVaryingLinearInterpolation",
                        "velocities",
                        "accelerations",
                        "extent")
                .contains(name);
    }

    private static void become(Tidying tidying, SdfPath path, SdfPath shape, Matrix4 local) {
        tidying.edits().change(tidying.at(path), spec -> {
            spec.setTypeName("Xform");
            for (PropertySpec property : List.copyOf(spec.properties())) {
                boolean indices = property.name().endsWith(":indices")
                        && spec.attribute(property.name().replace(":indices", ""))
                                .filter(Instances::isOfSurface)
                                .isPresent();
                if (isOfSurface(property) || indices) {
                    spec.removeProperty(property.name());
                }
            }
            spec.setReferences(Reference.internal(shape));
            spec.metadata().put("instanceable", new Value.Bool(true));
        });
        tidying.setLocal(path, local);
    }

    /**
     * Takes a mesh apart into its connected parts: those that have twins among them become instances, the others
     * stay together.
     *
     * @param path a mesh without subsets
     */
    public static void takeApart(Tidying tidying, SdfPath path, List<Mesh> parts, List<TwinGroup> groups) {
        SdfPath now = tidying.at(path);
        tidying.edits().change(now, spec -> {
            spec.setTypeName("Xform");
            for (PropertySpec property : List.copyOf(spec.properties())) {
                if (isOfSurface(property)) {
                    spec.removeProperty(property.name());
                    spec.removeProperty(property.name() + ":indices");
                }
            }
        });
        Set<Integer> shared = new LinkedHashSet<>();
        int number = 0;
        List<List<TwinSets.Member>> sets = new ArrayList<>();
        for (TwinGroup group : groups) {
            number++;
            List<TwinSets.Member> members = new ArrayList<>();
            for (TwinGroup.Member member : group.members()) {
                shared.add(member.index());
                String name = now.name() + "_" + number + "_" + (members.size() + 1);
                addPart(tidying, now, name, parts.get(member.index()));
                members.add(new TwinSets.Member(
                        path.child(name), member.place(), member.deviation(), member.mirrored(), member.scale()));
            }
            sets.add(members);
        }
        List<Mesh> rest = new ArrayList<>();
        for (int i = 0; i < parts.size(); i++) {
            if (!shared.contains(i)) {
                rest.add(parts.get(i));
            }
        }
        if (!rest.isEmpty()) {
            addPart(tidying, now, now.name() + "_rest", Merging.of(rest));
        }
        sets.forEach(members -> make(tidying, members));
    }

    private static void addPart(Tidying tidying, SdfPath parent, String name, Mesh mesh) {
        PrimSpec prim = new PrimSpec(Specifier.DEF, "Mesh", Names.identifier(name));
        UsdModelWriter.writeSurface(prim, mesh);
        tidying.edits().add(parent, prim);
    }

    /** Gives instances shapes of their own again. */
    public static void breakOut(Workpiece piece, List<SdfPath> instances) {
        Tidying.change(piece, "Break out " + DisplayText.count(instances.size(), "instance"), tidying -> {
            for (SdfPath path : instances) {
                breakOut(tidying, path);
            }
        });
    }

    private static void breakOut(Tidying tidying, SdfPath path) {
        Prim prim = tidying.prim(path).orElseThrow(() -> new PrepException("there is no <" + path + ">"));
        SdfPath shape = shapeOf(prim);
        if (shape == null) {
            throw new PrepException("<" + path + "> is no instance of a shape of this file");
        }
        PrimSpec definition = tidying.piece().layer().prim(shape).orElseThrow();
        List<PrimSpec> children =
                definition.children().stream().map(PrimSpec::copy).toList();
        tidying.edits().change(prim.path(), spec -> {
            spec.metadata().remove("references");
            spec.metadata().remove("instanceable");
        });
        children.forEach(child -> tidying.edits().add(prim.path(), child));
    }

    /** The shape that an object is an instance of; empty where it is none of a shape of its own file. */
    static Optional<SdfPath> shape(InspectedPrim item) {
        return Optional.ofNullable(shapeOf(item.prim()));
    }

    private static @Nullable SdfPath shapeOf(Prim prim) {
        if (!prim.isInstance()) {
            return null;
        }
        for (Reference reference : prim.localReferences()) {
            if (reference.isInternal() && reference.prim().isPresent()) {
                return reference.prim().get();
            }
        }
        return null;
    }

    /** The shapes that are shared, each with all its instances, in the order of the file. */
    public static Map<SdfPath, List<SdfPath>> shared(Workpiece piece) {
        Map<SdfPath, List<SdfPath>> shared = new LinkedHashMap<>();
        new Subject(piece, Progress.NONE).items().forEach(item -> {
            SdfPath shape = shapeOf(item.prim());
            if (shape != null) {
                shared.computeIfAbsent(shape, key -> new ArrayList<>()).add(item.path());
            }
        });
        return shared;
    }

    /** Lets objects share their shapes, set by set, as one change. */
    public static void make(Workpiece piece, List<TwinSets.Set> sets) {
        int objects = sets.stream().mapToInt(set -> set.members().size()).sum();
        Tidying.change(
                piece,
                "Make instances of " + DisplayText.count(objects, "object"),
                tidying -> sets.forEach(set -> make(tidying, set.members())));
    }
}
