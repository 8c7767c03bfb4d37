package pantry.prep.tools;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.RealMatrix;
import org.hipparchus.linear.SingularValueDecomposition;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.usd.SdfPath;
import pantry.workpiece.InspectedPrim;
import pantry.workpiece.PrepException;
import pantry.workpiece.Subject;
import pantry.workpiece.Tidying;
import pantry.workpiece.Workpiece;

/**
 * Where objects are held. Their own spaces are changed, and what is in them is corrected, so that nothing moves; or
 * all is moved, so that the whole stands as it should.
 */
public final class Pivots {
    private static final Set<String> WITHOUT_PLACE = Set.of("Material", "Shader", "NodeGraph", "GeomSubset");

    private Pivots() {}

    /** Places by which a thing can be held, by its box. */
    public enum Place {
        /** The middle of the base. */
        BASE,
        CENTRE,
        /** The left, lower, rear corner: the least x, y and z. */
        CORNER;

        /** The point of a box. */
        public Vec3 of(Box3 box) {
            return switch (this) {
                case BASE -> Instances.base(box);
                case CENTRE -> box.centre();
                case CORNER -> box.min();
            };
        }

        public String word() {
            return name().toLowerCase(java.util.Locale.ROOT);
        }
    }

    /**
     * Lets objects be held at places by their own boxes, without moving anything.
     *
     * @throws PrepException where one of them cannot be
     */
    public static void set(Workpiece piece, List<SdfPath> paths, Place place) {
        Subject subject = new Subject(piece, Progress.NONE);
        Tidying.change(piece, "Pivot to the " + place.word(), tidying -> {
            for (SdfPath path : paths) {
                InspectedPrim item = item(subject, path);
                set(tidying, new Subject(piece, Progress.NONE), path, place.of(item.bounds()));
            }
        });
    }

    /** Lets an object be held at a point, in metres with Y up, without moving anything. */
    public static void set(Workpiece piece, SdfPath path, Vec3 point) {
        Tidying.change(
                piece, "Pivot to a point", tidying -> set(tidying, new Subject(piece, Progress.NONE), path, point));
    }

    /**
     * Moves the pivot of an object along an axis to a part of its extent.
     *
     * @param axis 0 to 2 for x, y and z of the world
     * @param part 0 for the least end, 1 for the greatest
     */
    public static void set(Workpiece piece, SdfPath path, int axis, double part) {
        Subject subject = new Subject(piece, Progress.NONE);
        InspectedPrim item = item(subject, path);
        Box3 box = item.bounds();
        double[] point = {item.pivot().x(), item.pivot().y(), item.pivot().z()};
        point[axis] = box.min().get(axis) + part * box.size().get(axis);
        set(piece, path, new Vec3(point[0], point[1], point[2]));
    }

    private static InspectedPrim item(Subject subject, SdfPath path) {
        InspectedPrim item = subject.item(path)
                .orElseThrow(
                        () -> new PrepException(subject.workpiece().source(), "there is no object at <" + path + ">"));
        if (item.bounds().isEmpty()) {
            throw new PrepException(subject.workpiece().source(), "<" + path + "> shows nothing, so it has no middle");
        }
        return item;
    }

    private static void set(Tidying tidying, Subject subject, SdfPath path, Vec3 point) {
        InspectedPrim item = item(subject, tidying.at(path));
        if (!canReframe(subject, item)) {
            throw new PrepException(
                    subject.workpiece().source(),
                    "<" + path + "> is brought in from elsewhere, shared or moves in time; its pivot is not its own");
        }
        hold(tidying, subject, item, point);
    }

    /** Lets an object be held at a point of the world. */
    public static void hold(Tidying tidying, Subject subject, InspectedPrim item, Vec3 point) {
        Matrix4 above = item.local().inverse().times(item.world());
        Vec3 origin = above.inverse().point(point);
        Matrix4 from = item.local();
        Matrix4 to = from.times(Matrix4.translation(origin.minus(from.translationPart())));
        reframe(tidying, subject, item, to);
    }

    /** Whether all that stands in an object's own space can be corrected when that space changes. */
    public static boolean canReframe(Subject subject, InspectedPrim item) {
        return !item.isInstance()
                && subject.isMovable(item)
                && (item.mesh().isEmpty() || subject.isEditable(item))
                && carried(item).stream().allMatch(subject::isMovable);
    }

    /** Gives an object another transform; what is in its space stays where it is. */
    public static void reframe(Tidying tidying, Subject subject, InspectedPrim item, Matrix4 local) {
        Matrix4 correction = item.local().times(local.inverse());
        if (item.mesh().isPresent()) {
            tidying.transform(item.path(), correction);
        }
        for (InspectedPrim child : carried(item)) {
            tidying.setLocal(child.path(), child.local().times(correction));
        }
        if (local.equals(Matrix4.IDENTITY)) {
            tidying.clearLocal(item.path());
        } else {
            tidying.setLocal(item.path(), local);
        }
    }

    /** What stands in an object's space: its children with a place, and those of scopes, which have none. */
    static List<InspectedPrim> carried(InspectedPrim item) {
        List<InspectedPrim> carried = new ArrayList<>();
        for (InspectedPrim child : item.children()) {
            String type = child.prim().typeName();
            if (type.equals("Scope")) {
                carried.addAll(carried(child));
            } else if (!WITHOUT_PLACE.contains(type) && !child.prim().isAbstract()) {
                carried.add(child);
            }
        }
        return carried;
    }

    /**
     * Takes the scale of an object's transform out of it and gives it to the points of all surfaces below; what is
     * shared keeps it.
     */
    public static void applyScale(Tidying tidying, Subject subject, InspectedPrim item) {
        push(tidying, subject, item, Matrix4.IDENTITY);
    }

    private static void push(Tidying tidying, Subject subject, InspectedPrim item, Matrix4 above) {
        Matrix4 whole = item.local().times(above);
        if (item.isInstance() || !canReframe(subject, item)) {
            tidying.setLocal(item.path(), whole);
            return;
        }
        Matrix4 rigid = rigid(whole);
        Matrix4 rest = whole.times(rigid.inverse());
        if (item.mesh().isPresent()) {
            tidying.transform(item.path(), rest);
        }
        for (InspectedPrim child : carried(item)) {
            push(tidying, subject, child, rest);
        }
        tidying.setLocal(item.path(), rigid);
    }

    /** Whether a scale can be taken out of an object: somewhere below it there are points to take it. */
    public static boolean canApplyScale(Subject subject, InspectedPrim item) {
        return canReframe(subject, item)
                && item.below().noneMatch(below -> below.isInstance() && Subject.isObject(below))
                && item.below().filter(below -> below.mesh().isPresent()).allMatch(subject::isEditable);
    }

    /** The turn and move of a transform, without scale, shear and mirroring: the rotation nearest to it. */
    public static Matrix4 rigid(Matrix4 matrix) {
        double[] m = matrix.rows();
        RealMatrix linear =
                new Array2DRowRealMatrix(new double[][] {{m[0], m[1], m[2]}, {m[4], m[5], m[6]}, {m[8], m[9], m[10]}});
        SingularValueDecomposition svd = new SingularValueDecomposition(linear);
        RealMatrix turn = svd.getU().multiply(svd.getVT());
        double sign = Matrix4.ofRows(
                                        turn.getEntry(0, 0),
                                        turn.getEntry(0, 1),
                                        turn.getEntry(0, 2),
                                        0,
                                        turn.getEntry(1, 0),
                                        turn.getEntry(1, 1),
                                        turn.getEntry(1, 2),
                                        0,
                                        turn.getEntry(2, 0),
                                        turn.getEntry(2, 1),
                                        turn.getEntry(2, 2),
                                        0,
                                        0,
                                        0,
                                        0,
                                        1)
                                .determinant3()
                        > 0
                ? 1
                : -1;
        double[] rows = {0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, m[12], m[13], m[14], 1};
        for (int row = 0; row < 3; row++) {
            for (int column = 0; column < 3; column++) {
                rows[4 * row + column] = sign * turn.getEntry(row, column);
            }
        }
        return Matrix4.ofRows(rows);
    }

    /**
     * Moves all that an asset shows.
     *
     * @param change in metres, Y up
     */
    public static void moveAll(Tidying tidying, Subject subject, Matrix4 change) {
        InspectedPrim top = subject.top().orElseThrow();
        Matrix4 within = top.world().times(change).times(top.world().inverse());
        if (top.mesh().isPresent()) {
            tidying.transform(top.path(), within);
        }
        carried(top)
                .forEach(child -> tidying.setLocal(child.path(), child.local().times(within)));
    }

    /** Whether all can be moved within its root. */
    public static boolean canMoveAll(Subject subject) {
        return subject.top()
                .filter(top ->
                        subject.roots().stream().filter(Subject::isObject).count() == 1)
                .filter(top -> canReframe(subject, top))
                .isPresent();
    }

    /** How a whole asset is to stand. */
    public enum Stand {
        /** Its lowest point on the ground. */
        GROUND,
        /** The middle of its base at the origin. */
        CENTRE,
        /** Its sides along the axes, as seen from above. */
        ALIGN;

        public String word() {
            return name().toLowerCase(java.util.Locale.ROOT);
        }
    }

    /**
     * Moves or turns a whole asset so that it stands as wanted.
     *
     * @throws PrepException where there is no single root whose contents could be moved
     */
    public static void stand(Workpiece piece, Stand stand) {
        Subject subject = new Subject(piece, Progress.NONE);
        if (!canMoveAll(subject) || subject.drawn().isEmpty()) {
            throw new PrepException(piece.source(), "has no single root of its own whose contents could be moved");
        }
        Tidying.change(piece, "Stand: " + stand.word(), tidying -> moveAll(tidying, subject, standing(subject, stand)));
    }

    public static Matrix4 standing(Subject subject, Stand stand) {
        Box3 box = subject.drawn();
        Vec3 base = Instances.base(box);
        return switch (stand) {
            case GROUND -> Matrix4.translation(new Vec3(0, -base.y(), 0));
            case CENTRE -> Matrix4.translation(base.times(-1));
            case ALIGN ->
                Matrix4.translation(new Vec3(-base.x(), 0, -base.z()))
                        .times(Matrix4.rotation(1, PlanBox.of(subject.model()).turn()))
                        .times(Matrix4.translation(new Vec3(base.x(), 0, base.z())));
        };
    }

    /** Gathers all objects at the top under one root. */
    public static void group(Workpiece piece, String name) {
        Tidying.change(piece, "Group under " + name, tidying -> group(tidying, name));
    }

    public static void group(Tidying tidying, String name) {
        List<SdfPath> tops = tidying.piece().tops();
        String root = tidying.freeBelow(SdfPath.ROOT, name, "");
        SdfPath path = SdfPath.ROOT.child(root);
        tidying.edits().define(path, "Xform");
        for (SdfPath top : tops) {
            tidying.move(top, path, top.name());
        }
        tidying.edits().setLayerField("defaultPrim", new pantry.usd.Value.Token(root));
    }
}
