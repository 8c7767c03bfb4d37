package pantry.usd.schema;

import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.usd.ListEdit;
import pantry.usd.SdfPath;
import pantry.usd.UsdException;
import pantry.usd.Value;
import pantry.usd.compose.Prim;

/**
 * Many uses of a few prims (UsdGeomPointInstancer): each scaled, then turned, then moved, within the space of the
 * instancer. The prototypes' own transforms apply before.
 */
public final class PointInstancer {
    public static final String TYPE = "PointInstancer";

    private final List<SdfPath> prototypes;
    private final int[] indices;
    private final float[] positions;
    private final float @Nullable [] turns;
    private final float @Nullable [] scales;
    private final boolean[] left;

    private PointInstancer(
            List<SdfPath> prototypes,
            int[] indices,
            float[] positions,
            float @Nullable [] turns,
            float @Nullable [] scales,
            boolean[] left) {
        this.prototypes = prototypes;
        this.indices = indices;
        this.positions = positions;
        this.turns = turns;
        this.scales = scales;
        this.left = left;
    }

    /**
     * Reads an instancer.
     *
     * @throws UsdException where its arrays do not agree, or name prototypes that it does not have
     */
    public static PointInstancer of(Prim prim) {
        List<SdfPath> prototypes = prim.targets("prototypes");
        int[] indices = Values.ints(prim, "protoIndices");
        int count = indices == null ? 0 : indices.length;
        float[] positions = Values.floats(prim, "positions", 3);
        float[] turns = Values.floats(prim, "orientationsf", 4);
        if (turns == null || turns.length == 0) {
            turns = Values.floats(prim, "orientations", 4);
        }
        float[] scales = Values.floats(prim, "scales", 3);
        check(prim, "positions", positions == null ? 0 : positions.length / 3, count);
        turns = orNone(prim, "orientations", turns, 4, count);
        scales = orNone(prim, "scales", scales, 3, count);
        for (int i = 0; i < count; i++) {
            if (indices[i] < 0 || indices[i] >= prototypes.size()) {
                throw new UsdException(
                        "<" + prim.path() + "> uses prototype " + indices[i] + " of " + prototypes.size());
            }
        }
        return new PointInstancer(
                prototypes,
                indices == null ? new int[0] : indices,
                positions == null ? new float[0] : positions,
                turns,
                scales,
                leftOut(prim, count));
    }

    private static float @Nullable [] orNone(
            Prim prim, String attribute, float @Nullable [] values, int width, int count) {
        if (values == null || values.length == 0) {
            return null;
        }
        check(prim, attribute, values.length / width, count);
        return values;
    }

    private static void check(Prim prim, String attribute, int found, int count) {
        if (found != count) {
            throw new UsdException(
                    "<" + prim.path() + "> has " + found + " " + attribute + " for " + count + " instances");
        }
    }

    /** Those that are invisible or inactive, by their ids; a number of its own where there are no ids. */
    private static boolean[] leftOut(Prim prim, int count) {
        boolean[] left = new boolean[count];
        Set<Long> unwanted = new HashSet<>();
        long[] invisible = Values.longs(prim, "invisibleIds");
        if (invisible != null) {
            for (long id : invisible) {
                unwanted.add(id);
            }
        }
        if (prim.metadata("inactiveIds").orElse(null) instanceof Value.NumberEdit(ListEdit<Long> edit)) {
            unwanted.addAll(edit.applyTo(List.of()));
        }
        if (!unwanted.isEmpty()) {
            long[] ids = Values.longs(prim, "ids");
            for (int i = 0; i < count; i++) {
                left[i] = unwanted.contains(ids == null || i >= ids.length ? (long) i : ids[i]);
            }
        }
        return left;
    }

    /** What is used. */
    public List<SdfPath> prototypes() {
        return prototypes;
    }

    /** The number of uses, those that are left out included. */
    public int count() {
        return indices.length;
    }

    /** Whether a use is neither inactive nor invisible. */
    public boolean isShown(int use) {
        return !left[use];
    }

    /** Which of the prototypes a use takes. */
    public int prototype(int use) {
        return indices[use];
    }

    /** From the space of a use's prototype, its own transform included, to that of the instancer. */
    public Matrix4 transform(int use) {
        Matrix4 place =
                Matrix4.translation(new Vec3(positions[use * 3], positions[use * 3 + 1], positions[use * 3 + 2]));
        if (turns != null) {
            place = Matrix4.quaternion(turns[use * 4], turns[use * 4 + 1], turns[use * 4 + 2], turns[use * 4 + 3])
                    .times(place);
        }
        if (scales != null) {
            place = Matrix4.scale(new Vec3(scales[use * 3], scales[use * 3 + 1], scales[use * 3 + 2]))
                    .times(place);
        }
        return place;
    }
}
