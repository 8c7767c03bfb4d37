package pantry.exchange.usd;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.motion.BlendShapes;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.schema.Values;

/** Reads the shapes that a mesh's prim names (UsdSkelBlendShape). */
final class UsdBlendShapes {
    private static final String BETWEEN = "inbetweens:";
    private static final int MOST = 1000;

    private final Prim mesh;
    private final Map<String, Prim> named = new LinkedHashMap<>();
    private final List<String> problems;

    /** @param problems is told what cannot be read */
    UsdBlendShapes(Prim mesh, List<String> problems) {
        this.mesh = mesh;
        this.problems = problems;
        List<String> names = Values.strings(mesh, "skel:blendShapes");
        List<SdfPath> targets = mesh.targets("skel:blendShapeTargets");
        if (names.size() != targets.size() || names.size() > MOST) {
            tell(names.size() + " shapes are named and " + targets.size() + " told; they are left out");
            return;
        }
        for (int i = 0; i < names.size(); i++) {
            Optional<Prim> prim =
                    mesh.onStage(targets.get(i)).filter(each -> each.typeName().equals(UsdSkelWriter.SHAPE_TYPE));
            if (prim.isEmpty()) {
                tell("there is no shape <" + targets.get(i) + ">");
            } else {
                named.putIfAbsent(names.get(i), prim.get());
            }
        }
    }

    private void tell(String problem) {
        problems.add("<" + mesh.path() + ">: " + problem);
    }

    /** The arrays that the shapes are made of; the same ones each time. */
    List<@Nullable Object> arrays() {
        List<@Nullable Object> arrays = new ArrayList<>();
        for (Prim shape : named.values()) {
            arrays.add(Values.floats(shape, "offsets", 3));
            arrays.add(Values.ints(shape, "pointIndices"));
            arrays.add(Values.floats(shape, "normalOffsets", 3));
            betweens(shape).forEach(name -> arrays.add(Values.floats(shape, name, 3)));
        }
        return arrays;
    }

    private static List<String> betweens(Prim shape) {
        return shape.propertyNames().stream()
                .filter(name -> name.startsWith(BETWEEN) && name.indexOf(':', BETWEEN.length()) < 0)
                .toList();
    }

    /**
     * The shapes by name; those that do not fit are told and left out.
     *
     * @param points of the mesh
     */
    Map<String, BlendShapes.Shape> of(int points) {
        Map<String, BlendShapes.Shape> shapes = new LinkedHashMap<>();
        if (3L * points * named.size() > BlendShapes.MOST_NUMBERS) {
            tell("its shapes have more than " + BlendShapes.MOST_NUMBERS + " numbers together");
            return shapes;
        }
        named.forEach((name, prim) -> {
            try {
                shapes.put(name, shape(prim, points));
            } catch (IllegalArgumentException e) {
                problems.add("<" + prim.path() + ">: " + e.getMessage());
            }
        });
        return shapes;
    }

    private static BlendShapes.Shape shape(Prim prim, int points) {
        int[] indices = Values.ints(prim, "pointIndices");
        float[] offsets = Values.floats(prim, "offsets", 3);
        if (offsets == null) {
            throw new IllegalArgumentException("has no offsets");
        }
        float[] normals = Values.floats(prim, "normalOffsets", 3);
        Map<Float, float[]> between = new LinkedHashMap<>();
        for (String name : betweens(prim)) {
            float[] some = Values.floats(prim, name, 3);
            Value weight = prim.attribute(name)
                    .flatMap(attribute -> attribute.metadata("weight"))
                    .orElse(null);
            if (some != null && weight instanceof Value.Real(double number) && number != 0 && number != 1) {
                between.put((float) number, spread(some, indices, points));
            }
        }
        return new BlendShapes.Shape(
                spread(offsets, indices, points),
                normals == null || normals.length == 0 ? null : spread(normals, indices, points),
                between);
    }

    /** An offset for each point, of those that are told. */
    private static float[] spread(float[] offsets, int @Nullable [] indices, int points) {
        int told = indices == null ? points : indices.length;
        if (offsets.length != 3 * told) {
            throw new IllegalArgumentException("has " + offsets.length / 3 + " offsets for " + told + " points");
        }
        float[] all = new float[3 * points];
        for (int i = 0; i < told; i++) {
            int point = indices == null ? i : indices[i];
            if (point < 0 || point >= points) {
                throw new IllegalArgumentException("moves point " + point + " of " + points);
            }
            for (int axis = 0; axis < 3; axis++) {
                float offset = offsets[3 * i + axis];
                if (!Float.isFinite(offset)) {
                    throw new IllegalArgumentException("offset " + i + " is not a number or infinite");
                }
                all[3 * point + axis] = offset;
            }
        }
        return all;
    }
}
