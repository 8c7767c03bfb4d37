package pantry.settle;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import org.jspecify.annotations.Nullable;
import org.ode4j.math.DMatrix3;
import org.ode4j.math.DMatrix3C;
import org.ode4j.math.DVector3C;
import org.ode4j.ode.DBody;
import org.ode4j.ode.DBox;
import org.ode4j.ode.DContact;
import org.ode4j.ode.DContactBuffer;
import org.ode4j.ode.DContactJoint;
import org.ode4j.ode.DGeom;
import org.ode4j.ode.DJointGroup;
import org.ode4j.ode.DMass;
import org.ode4j.ode.DMassC;
import org.ode4j.ode.DMisc;
import org.ode4j.ode.DSpace;
import org.ode4j.ode.DTriMeshData;
import org.ode4j.ode.DWorld;
import org.ode4j.ode.OdeConstants;
import org.ode4j.ode.OdeHelper;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.Triangulation;

/**
 * Bodies under gravity until they rest: rigid, with Coulomb friction (ode4j's solver, the Java form of the Open Dynamics
 * Engine). The same bodies fall the same way each time.
 *
 * <p>Where bodies touch they may sink into each other by {@link #LAYER}; while they are pushed, somewhat more.
 */
public final class Fall {
    /** Metres per second squared, standard gravity (ISO 80000-3). */
    public static final double GRAVITY = 9.80665;

    /** How deep resting bodies lie in each other, metres. */
    public static final double LAYER = 0.0005;

    private static final double STEP = 1.0 / 240;
    private static final int CONTACTS = 16;
    /** Bodies rest that have moved by no more than this, metres and radians, in a third of a second. */
    private static final double STILL_WAY = 0.001;

    private static final double STILL_TURN = 0.005;

    /** Of a large body's size: so much counts as nothing, too. */
    private static final double STILL_SHARE = 1e-4;

    private static final int STILL_STEPS = 80;
    private static final int STEPS_PER_FRAME = 8;
    private static final double LOST = 1000;

    private final List<Body> bodies;
    private final List<DBody> moving = new ArrayList<>();
    private final List<Vec3> centres = new ArrayList<>();
    private final List<DTriMeshData> surfaces = new ArrayList<>();
    private final DWorld world;
    private final DSpace space;
    private final DJointGroup contacts;
    private final double groundFriction;
    private double deepest;

    /**
     * What came of it.
     *
     * @param moves for each body, from where it stood to where it stands
     * @param resting whether each came to rest
     * @param seconds that passed for the bodies
     * @param deepest how far two lie in each other at the end, metres
     */
    public record Outcome(List<Matrix4> moves, List<Boolean> resting, double seconds, double deepest) {
        public Outcome {
            moves = List.copyOf(moves);
            resting = List.copyOf(resting);
        }

        public boolean allRest() {
            return !resting.contains(false);
        }
    }

    /** Told how the bodies stand, some thirty times for each second that passes for them. */
    @FunctionalInterface
    public interface Watcher {
        Watcher NONE = (moves, energy) -> {};

        /**
         * @param moves for each body, from where it stood to where it stands
         * @param joules of all bodies: of movement, and of height above 0
         */
        void seen(List<Matrix4> moves, double joules);
    }

    private Fall(List<Body> bodies, Ground ground) {
        OdeHelper.initODE2(0);
        this.bodies = bodies;
        this.groundFriction = ground.friction();
        world = OdeHelper.createWorld();
        world.setGravity(0, -GRAVITY, 0);
        world.setERP(0.2);
        world.setCFM(1e-9);
        world.setQuickStepNumIterations(60);
        world.setContactSurfaceLayer(LAYER);
        world.setContactMaxCorrectingVel(0.5);
        world.setAngularDamping(0.002);
        space = OdeHelper.createHashSpace(null);
        contacts = OdeHelper.createJointGroup();
        if (ground.floor()) {
            OdeHelper.createPlane(space, 0, 1, 0, 0);
        }
        ground.surfaces().forEach(this::stand);
        bodies.forEach(this::add);
    }

    /**
     * Lets bodies fall.
     *
     * @param most seconds that may pass for the bodies; those that still move then are told
     * @throws CancellationException where it is no longer wanted
     */
    public static Outcome run(List<Body> bodies, Ground ground, double most, Progress progress, Watcher watcher) {
        // The solver draws the order of its equations from one generator for all.
        synchronized (Fall.class) {
            Fall fall = new Fall(List.copyOf(bodies), ground);
            DMisc.dRandSetSeed(1);
            try {
                return fall.run(most, progress, watcher);
            } finally {
                fall.contacts.destroy();
                fall.space.destroy();
                fall.world.destroy();
            }
        }
    }

    private void stand(Mesh mesh) {
        Optional<BoxShape> block = BoxShape.of(mesh);
        if (block.isPresent()) {
            // What lies square on a block's edges is pushed off by its triangles, and not by a block.
            DBox geom = box(block.get());
            Vec3 at = block.get().centre();
            geom.setPosition(at.x(), at.y(), at.z());
            geom.setRotation(turn(block.get()));
            return;
        }
        int[] triangles = Triangulation.corners(mesh);
        int[] indices = new int[triangles.length];
        for (int i = 0; i < indices.length; i++) {
            indices[i] = mesh.corners()[triangles[i]];
        }
        if (indices.length > 0) {
            DTriMeshData data = OdeHelper.createTriMeshData();
            data.build(mesh.points().clone(), indices);
            data.preprocess2(1 << DTriMeshData.dTRIDATAPREPROCESS_BUILD.FACE_ANGLES, null);
            surfaces.add(data);
            OdeHelper.createTriMesh(space, data, null, null, null);
        }
    }

    private void add(Body body) {
        MassProperties whole = MassProperties.of(body.solids());
        double volume = Math.max(whole.volume(), 1e-9);
        double kilograms = body.kilograms() > 0 ? body.kilograms() : volume * Body.USUAL_DENSITY;
        double density = kilograms / volume;
        double[] i = whole.inertia();
        double least = 1e-12 * kilograms;
        DMass mass = OdeHelper.createMass();
        mass.setParameters(
                kilograms,
                0,
                0,
                0,
                Math.max(i[0] * density, least),
                Math.max(i[1] * density, least),
                Math.max(i[2] * density, least),
                i[3] * density,
                i[4] * density,
                i[5] * density);
        DBody made = OdeHelper.createBody(world);
        made.setMass(mass);
        Vec3 centre = whole.centre();
        made.setPosition(centre.x(), centre.y(), centre.z());
        made.setData(moving.size());
        moving.add(made);
        centres.add(centre);
        body.solids().forEach(solid -> shape(made, solid, centre));
    }

    private void shape(DBody body, Mesh solid, Vec3 centre) {
        BoxShape box = BoxShape.of(solid).orElse(null);
        if (box != null) {
            DBox geom = box(box);
            geom.setBody(body);
            Vec3 at = box.centre().minus(centre);
            geom.setOffsetPosition(at.x(), at.y(), at.z());
            geom.setOffsetRotation(turn(box));
            return;
        }
        DGeom geom = convex(solid, centre);
        geom.setBody(body);
    }

    private DBox box(BoxShape box) {
        return OdeHelper.createBox(
                space, box.size().x(), box.size().y(), box.size().z());
    }

    private static DMatrix3 turn(BoxShape box) {
        Vec3[] a = box.axes();
        return new DMatrix3(a[0].x(), a[1].x(), a[2].x(), a[0].y(), a[1].y(), a[2].y(), a[0].z(), a[1].z(), a[2].z());
    }

    private DGeom convex(Mesh solid, Vec3 centre) {
        double[] points = new double[3 * solid.pointCount()];
        for (int p = 0; p < solid.pointCount(); p++) {
            Vec3 point = solid.point(p).minus(centre);
            points[3 * p] = point.x();
            points[3 * p + 1] = point.y();
            points[3 * p + 2] = point.z();
        }
        int faces = solid.faceCount();
        double[] planes = new double[4 * faces];
        int[] polygons = new int[faces + solid.corners().length];
        int at = 0;
        int corner = 0;
        for (int face = 0; face < faces; face++) {
            int size = solid.faceSizes()[face];
            polygons[at++] = size;
            Vec3 normal = Vec3.ZERO;
            Vec3 origin = solid.point(solid.corners()[corner]);
            for (int k = 0; k < size; k++) {
                polygons[at++] = solid.corners()[corner + k];
                Vec3 a = solid.point(solid.corners()[corner + k]).minus(origin);
                Vec3 b = solid.point(solid.corners()[corner + (k + 1) % size]).minus(origin);
                normal = normal.plus(a.cross(b));
            }
            Vec3 unit = normal.unit();
            planes[4 * face] = unit.x();
            planes[4 * face + 1] = unit.y();
            planes[4 * face + 2] = unit.z();
            planes[4 * face + 3] = unit.dot(origin.minus(centre));
            corner += size;
        }
        return OdeHelper.createConvex(space, planes, points, polygons);
    }

    private Outcome run(double most, Progress progress, Watcher watcher) {
        boolean[] still = new boolean[moving.size()];
        List<Matrix4> before = moves();
        int steps = 0;
        boolean resting = false;
        while (!resting && steps * STEP < most) {
            step();
            steps++;
            if (steps % STILL_STEPS == 0) {
                List<Matrix4> now = moves();
                resting = true;
                for (int i = 0; i < still.length; i++) {
                    still[i] = isStill(before.get(i), now.get(i), i);
                    resting &= still[i];
                }
                before = now;
            }
            if (steps % STEPS_PER_FRAME == 0) {
                progress.step("letting things settle", Math.min(1, steps * STEP / most));
                watcher.seen(moves(), energy());
            }
        }
        List<Boolean> each = new ArrayList<>();
        for (boolean one : still) {
            each.add(one);
        }
        return new Outcome(moves(), each, steps * STEP, deepest);
    }

    private void step() {
        deepest = 0;
        List<DGeom[]> near = new ArrayList<>();
        space.collide(null, (data, one, other) -> near.add(new DGeom[] {one, other}));
        near.forEach(pair -> touch(pair[0], pair[1]));
        world.quickStep(STEP);
        contacts.empty();
        for (int i = 0; i < moving.size(); i++) {
            requireThere(i);
        }
    }

    private boolean isStill(Matrix4 before, Matrix4 now, int number) {
        Vec3 centre = centres.get(number);
        double way = Math.max(STILL_WAY, STILL_SHARE * bodies.get(number).size());
        if (now.point(centre).minus(before.point(centre)).length() > way) {
            return false;
        }
        for (int axis = 0; axis < 3; axis++) {
            Vec3 unit = new Vec3(axis == 0 ? 1 : 0, axis == 1 ? 1 : 0, axis == 2 ? 1 : 0);
            if (now.direction(unit).minus(before.direction(unit)).length() > STILL_TURN) {
                return false;
            }
        }
        return true;
    }

    private void requireThere(int number) {
        DVector3C at = moving.get(number).getPosition();
        boolean sane = Double.isFinite(at.get0()) && Double.isFinite(at.get1()) && Double.isFinite(at.get2());
        if (!sane || at.get1() < centres.get(number).y() - LOST) {
            throw new SettleException("\"" + bodies.get(number).name()
                    + "\" falls out of the scene: nothing is below it that it could come to rest on");
        }
    }

    private void touch(DGeom one, DGeom other) {
        DBody first = one.getBody();
        DBody second = other.getBody();
        if (first == second) {
            return;
        }
        DContactBuffer buffer = new DContactBuffer(CONTACTS);
        int count = OdeHelper.collide(one, other, CONTACTS, buffer.getGeomBuffer());
        for (int i = 0; i < count; i++) {
            DContact contact = buffer.get(i);
            deepest = Math.max(deepest, contact.geom.depth);
            contact.surface.mode = OdeConstants.dContactApprox1
                    | OdeConstants.dContactSoftERP
                    | OdeConstants.dContactSoftCFM
                    | OdeConstants.dContactBounce;
            contact.surface.mu = Math.sqrt(friction(first) * friction(second));
            contact.surface.bounce = Math.max(bounce(first), bounce(second));
            contact.surface.bounce_vel = 0.1;
            contact.surface.soft_erp = 0.2;
            contact.surface.soft_cfm = 1e-7;
            slide(contact, first, second);
            DContactJoint joint = OdeHelper.createContactJoint(world, contacts, contact);
            joint.attach(first, second);
        }
    }

    /** Friction works against the slide, so that it does not depend on how the axes lie. */
    private static void slide(DContact contact, @Nullable DBody first, @Nullable DBody second) {
        Vec3 normal = vec(contact.geom.normal);
        Vec3 speed = speed(first, contact).minus(speed(second, contact));
        Vec3 along = speed.minus(normal.times(speed.dot(normal)));
        if (along.length() > 1e-6) {
            Vec3 unit = along.unit();
            contact.fdir1.set(unit.x(), unit.y(), unit.z());
            contact.surface.mode |= OdeConstants.dContactFDir1;
        }
    }

    private static Vec3 speed(@Nullable DBody body, DContact contact) {
        if (body == null) {
            return Vec3.ZERO;
        }
        Vec3 arm = vec(contact.geom.pos).minus(vec(body.getPosition()));
        return vec(body.getLinearVel()).plus(vec(body.getAngularVel()).cross(arm));
    }

    private static Vec3 vec(DVector3C v) {
        return new Vec3(v.get0(), v.get1(), v.get2());
    }

    private double friction(@Nullable DBody body) {
        return body == null ? groundFriction : bodies.get((int) body.getData()).friction();
    }

    private double bounce(@Nullable DBody body) {
        return body == null ? 0 : bodies.get((int) body.getData()).bounce();
    }

    private List<Matrix4> moves() {
        List<Matrix4> moves = new ArrayList<>();
        for (int i = 0; i < moving.size(); i++) {
            DMatrix3C r = moving.get(i).getRotation();
            Matrix4 turn = Matrix4.ofRows(
                    r.get00(), r.get10(), r.get20(), 0, r.get01(), r.get11(), r.get21(), 0, r.get02(), r.get12(),
                    r.get22(), 0, 0, 0, 0, 1);
            moves.add(Matrix4.translation(centres.get(i).times(-1))
                    .times(turn)
                    .times(Matrix4.translation(vec(moving.get(i).getPosition()))));
        }
        return moves;
    }

    private double energy() {
        double joules = 0;
        for (DBody body : moving) {
            DMassC mass = body.getMass();
            double kilograms = mass.getMass();
            Vec3 speed = vec(body.getLinearVel());
            joules += kilograms * (GRAVITY * body.getPosition().get1() + speed.dot(speed) / 2);
            // The turning's share, in the body's own frame.
            Vec3 spin = vec(body.getAngularVel());
            DMatrix3C r = body.getRotation();
            Vec3 own = new Vec3(
                    r.get00() * spin.x() + r.get10() * spin.y() + r.get20() * spin.z(),
                    r.get01() * spin.x() + r.get11() * spin.y() + r.get21() * spin.z(),
                    r.get02() * spin.x() + r.get12() * spin.y() + r.get22() * spin.z());
            DMatrix3C i = mass.getI();
            joules += (own.x() * (i.get00() * own.x() + i.get01() * own.y() + i.get02() * own.z())
                            + own.y() * (i.get10() * own.x() + i.get11() * own.y() + i.get12() * own.z())
                            + own.z() * (i.get20() * own.x() + i.get21() * own.y() + i.get22() * own.z()))
                    / 2;
        }
        return joules;
    }
}
