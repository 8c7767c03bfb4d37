package pantry.prep.tools;

import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.usd.SdfPath;
import pantry.usd.compose.Prim;
import pantry.usd.schema.Xforms;
import pantry.workpiece.InspectedPrim;
import pantry.workpiece.PrepException;
import pantry.workpiece.Subject;
import pantry.workpiece.Tidying;
import pantry.workpiece.Workpiece;

/**
 * Copies of one good part around an upright axis: leaves around a stem, bolts around a flange. All share one shape; each
 * can be turned, sized and leaned a little, so that they do not look alike.
 *
 * @param count with the original
 * @param angle degrees from one to the next
 * @param centre a point of the axis, metres
 * @param variation how much they may differ
 * @param seed gives the same differences again
 */
public record RingCopies(int count, double angle, Vec3 centre, Variation variation, long seed) {
    private static final int MOST = 10_000;

    /**
     * How much copies may differ from the original.
     *
     * @param turn degrees about their own upright axis, to either side
     * @param size as a part of their size, up or down
     * @param lean degrees that they may lean in any direction
     */
    public record Variation(double turn, double size, double lean) {
        public static final Variation NONE = new Variation(0, 0, 0);
    }

    public RingCopies {
        if (count < 2 || count > MOST) {
            throw new PrepException("a ring has 2 to " + MOST + " things, not " + count);
        }
        if (!Double.isFinite(angle) || !centre.isFinite() || !(Math.abs(variation.size()) < 1)) {
            throw new PrepException("a ring's angle and centre are numbers, and sizes differ by less than all");
        }
    }

    /**
     * Copies an object, as one change.
     *
     * @return the paths of all, the original first
     */
    public List<SdfPath> make(Workpiece piece, SdfPath path) {
        List<SdfPath> paths = new ArrayList<>();
        Tidying.change(piece, "Ring of " + count, tidying -> paths.addAll(make(tidying, path)));
        return paths;
    }

    private List<SdfPath> make(Tidying tidying, SdfPath path) {
        Subject subject = new Subject(tidying.piece(), Progress.NONE);
        InspectedPrim item = subject.item(path)
                .orElseThrow(() -> new PrepException(tidying.piece().source(), "there is no object at <" + path + ">"));
        if (item.parent() == null) {
            throw new PrepException(
                    tidying.piece().source(), "<" + path + "> is the root; group it under another one first");
        }
        if (item.mesh().isPresent()
                && subject.isEditable(item)
                && item.children().isEmpty()) {
            Instances.make(tidying, List.of(new TwinSets.Member(path, Matrix4.IDENTITY, 0, false, 1)));
        }
        Prim original = tidying.prim(path).orElseThrow();
        Matrix4 local = Xforms.local(original);
        Matrix4 world = local.times(item.local().inverse()).times(item.world());
        Matrix4 above = item.local().inverse().times(item.world());
        SplittableRandom random = new SplittableRandom(seed);
        List<SdfPath> paths = new ArrayList<>(List.of(path));
        for (int i = 1; i < count; i++) {
            String name = tidying.freeBelow(path.parent(), path.name() + "_" + (i + 1), "");
            SdfPath copy = path.parent().child(name);
            tidying.edits().copy(path, copy);
            Matrix4 round = Matrix4.translation(centre.times(-1))
                    .times(Matrix4.rotation(1, angle * i))
                    .times(Matrix4.translation(centre));
            Matrix4 placed =
                    world.times(varied(world.translationPart(), random)).times(round);
            tidying.setLocal(copy, placed.times(above.inverse()));
            paths.add(copy);
        }
        return paths;
    }

    private Matrix4 varied(Vec3 pivot, SplittableRandom random) {
        double turn = (2 * random.nextDouble() - 1) * variation.turn();
        double size = 1 + (2 * random.nextDouble() - 1) * variation.size();
        double towards = 360 * random.nextDouble();
        double lean = (2 * random.nextDouble() - 1) * variation.lean();
        return Matrix4.translation(pivot.times(-1))
                .times(Matrix4.scale(new Vec3(size, size, size)))
                .times(Matrix4.rotation(1, turn - towards))
                .times(Matrix4.rotation(0, lean))
                .times(Matrix4.rotation(1, towards))
                .times(Matrix4.translation(pivot));
    }
}
