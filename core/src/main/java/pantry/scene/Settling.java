package pantry.scene;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdMeshReader;
import pantry.exchange.usd.UsdPhysicalMaterials;
import pantry.mesh.ConvexHull;
import pantry.mesh.Mesh;
import pantry.settle.Body;
import pantry.settle.Fall;
import pantry.settle.Ground;
import pantry.usd.SdfPath;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.schema.MaterialBindings;
import pantry.usd.schema.Values;
import pantry.usd.schema.Xforms;

/**
 * Objects of a scene that fall on others under gravity until they rest. Their shapes for that are what they have for
 * touching (UsdPhysics collision), or else the hulls of what is drawn; mass, density, friction and bounce are those of
 * UsdPhysics where something says them.
 */
public final class Settling {
    /** Objects of more pieces fall as one hull of all. */
    private static final int MOST_PIECES = 24;

    /** Rounder hulls are told by so many points. */
    private static final int MOST_POINTS = 96;

    private static final double FLAT = 0.0005;
    private static final String COLLISION = "PhysicsCollisionAPI";

    private final List<SdfPath> paths;
    private final List<Body> bodies;
    private final Ground ground;

    private Settling(List<SdfPath> paths, List<Body> bodies, Ground ground) {
        this.paths = paths;
        this.bodies = bodies;
        this.ground = ground;
    }

    /**
     * What came of it.
     *
     * @param changes of the world, by object, from where it stood to where it stands; metres
     * @param moving those that had not come to rest
     * @param seconds that passed for them
     * @param deepest how far two lie in each other at the end, metres
     */
    public record Settled(Map<SdfPath, Matrix4> changes, List<SdfPath> moving, double seconds, double deepest) {
        public Settled {
            changes = Map.copyOf(changes);
            moving = List.copyOf(moving);
        }
    }

    /** Told how the objects stand while they fall. */
    @FunctionalInterface
    public interface Watcher {
        Watcher NONE = changes -> {};

        void seen(Map<SdfPath, Matrix4> changes);
    }

    /**
     * Takes in how a scene stands; it may change afterwards.
     *
     * @param falling objects that fall
     * @param standing what they fall on; all else that is drawn where empty
     * @param floor whether there is a floor at height 0 too
     * @throws SceneException where something that is to fall shows nothing
     */
    public static Settling of(Scene scene, Collection<SdfPath> falling, Collection<SdfPath> standing, boolean floor) {
        Map<SdfPath, List<Mesh>> drawn = new LinkedHashMap<>();
        falling.forEach(path -> drawn.put(path, new ArrayList<>()));
        List<Mesh> surfaces = new ArrayList<>();
        Set<SdfPath> ground = Set.copyOf(standing);
        scene.model().visit((owner, part, world) -> {
            SdfPath path = SdfPath.of(owner.path());
            Optional<SdfPath> faller = path.nearest(drawn.keySet());
            boolean stands = standing.isEmpty() || path.startsWithAny(ground);
            if (faller.isPresent()) {
                drawn.get(faller.get()).add(part.mesh().transformed(world));
            } else if (stands) {
                surfaces.add(part.mesh().transformed(world));
            }
        });
        List<SdfPath> paths = new ArrayList<>();
        List<Body> bodies = new ArrayList<>();
        drawn.forEach((path, meshes) -> {
            Prim prim = scene.stage()
                    .prim(path)
                    .orElseThrow(() -> new SceneException(scene.file(), "there is no <" + path + "> to settle"));
            Touch touch = new Touch(scene.stage());
            touch.collect(prim, Xforms.world(prim).times(scene.toMetres()));
            List<Mesh> solids = hulls(touch.shapes.isEmpty() ? meshes : touch.shapes);
            if (solids.isEmpty()) {
                throw new SceneException(scene.file(), "<" + path + "> shows nothing that could fall");
            }
            paths.add(path);
            bodies.add(new Body(path.name(), solids, touch.mass(solids), touch.friction, touch.bounce));
        });
        return new Settling(paths, bodies, new Ground(surfaces, floor, Body.USUAL_FRICTION));
    }

    /** What a prim and those below it say of touching. */
    private static final class Touch {
        private final List<Mesh> shapes = new ArrayList<>();
        private final UsdMeshReader reader = new UsdMeshReader(new MeshCache(), new ArrayList<>());
        private double kilograms;
        private double density;
        private double friction = Body.USUAL_FRICTION;
        private double bounce;
        private final Stage stage;
        private final MaterialBindings bindings;

        Touch(Stage stage) {
            this.stage = stage;
            this.bindings = new MaterialBindings(stage);
        }

        void collect(Prim prim, Matrix4 world) {
            if (!prim.isActive()) {
                return;
            }
            kilograms = kilograms > 0 ? kilograms : Values.number(prim, "physics:mass", 0);
            if (!prim.typeName().equals("Material")) {
                say(
                        Values.number(prim, "physics:density", 0),
                        Values.number(prim, "physics:dynamicFriction", friction),
                        Values.number(prim, "physics:restitution", bounce));
            }
            UsdPhysicalMaterials.boundAt(prim, stage, bindings)
                    .ifPresent(bound -> say(
                            bound.density().orElse(0),
                            bound.dynamicFriction().orElse(friction),
                            bound.restitution().orElse(bounce)));
            if (prim.apiSchemas().contains(COLLISION)) {
                reader.read(prim).ifPresent(mesh -> shapes.add(mesh.transformed(world)));
            }
            for (Prim child : prim.prototype().orElse(prim).children()) {
                collect(child, Xforms.local(child).times(world));
            }
        }

        private void say(double heavy, double sliding, double springing) {
            density = density > 0 ? density : heavy;
            friction = Math.max(0, sliding);
            bounce = Math.clamp(springing, 0, 1);
        }

        double mass(List<Mesh> solids) {
            return kilograms > 0 ? kilograms : density > 0 ? density * Body.volume(solids) : 0;
        }
    }

    private static List<Mesh> hulls(List<Mesh> meshes) {
        List<Mesh> pieces = meshes.size() <= MOST_PIECES ? meshes : List.of();
        List<Mesh> hulls = new ArrayList<>();
        pieces.forEach(mesh -> hull(points(List.of(mesh))).ifPresent(hulls::add));
        if (hulls.isEmpty() && !meshes.isEmpty()) {
            hull(points(meshes)).ifPresent(hulls::add);
        }
        return hulls;
    }

    private static double[] points(List<Mesh> meshes) {
        double[] all = new double[3 * meshes.stream().mapToInt(Mesh::pointCount).sum()];
        int at = 0;
        for (Mesh mesh : meshes) {
            for (float coordinate : mesh.points()) {
                all[at++] = coordinate;
            }
        }
        return all;
    }

    private static Optional<Mesh> hull(double[] points) {
        if (points.length == 0) {
            return Optional.empty();
        }
        double[] outer = points.length > 3 * 40 * MOST_POINTS ? extremes(points, 20 * MOST_POINTS) : points;
        Optional<Mesh> hull = ConvexHull.of(outer).or(() -> ConvexHull.of(thickened(outer)));
        return hull.map(mesh -> mesh.pointCount() <= MOST_POINTS
                ? mesh
                : ConvexHull.of(extremes(points(List.of(mesh)), MOST_POINTS)).orElse(mesh));
    }

    /** What lies in one plane gets a thickness of a millimetre. */
    private static double[] thickened(double[] points) {
        double[] thick = new double[8 * points.length];
        for (int i = 0; i < thick.length; i++) {
            int corner = i / points.length;
            thick[i] = points[i % points.length] + ((corner >> i % 3 & 1) == 0 ? -FLAT : FLAT);
        }
        return thick;
    }

    /** The outermost points in directions that are spread evenly over the sphere (the Fibonacci lattice). */
    private static double[] extremes(double[] points, int directions) {
        int[] chosen = new int[directions];
        for (int d = 0; d < directions; d++) {
            double y = 1 - 2 * (d + 0.5) / directions;
            double radius = Math.sqrt(1 - y * y);
            double angle = d * Math.PI * (3 - Math.sqrt(5));
            double x = radius * Math.cos(angle);
            double z = radius * Math.sin(angle);
            double best = Double.NEGATIVE_INFINITY;
            for (int p = 0; p < points.length; p += 3) {
                double reach = points[p] * x + points[p + 1] * y + points[p + 2] * z;
                if (reach > best) {
                    best = reach;
                    chosen[d] = p;
                }
            }
        }
        int[] distinct = Arrays.stream(chosen).distinct().toArray();
        double[] kept = new double[3 * distinct.length];
        for (int i = 0; i < distinct.length; i++) {
            System.arraycopy(points, distinct[i], kept, 3 * i, 3);
        }
        return kept;
    }

    /**
     * Lets the objects fall. The scene is not changed: {@link Arranging#transform} does that.
     *
     * @param most seconds that may pass for them
     * @throws pantry.settle.SettleException where something falls and there is nothing below it
     * @throws java.util.concurrent.CancellationException where it is no longer wanted
     */
    public Settled fall(double most, Progress progress, Watcher watcher) {
        Fall.Outcome outcome =
                Fall.run(bodies, ground, most, progress, (moves, joules) -> watcher.seen(changes(moves)));
        List<SdfPath> moving = new ArrayList<>();
        for (int i = 0; i < paths.size(); i++) {
            if (!outcome.resting().get(i)) {
                moving.add(paths.get(i));
            }
        }
        return new Settled(changes(outcome.moves()), moving, outcome.seconds(), outcome.deepest());
    }

    private Map<SdfPath, Matrix4> changes(List<Matrix4> moves) {
        Map<SdfPath, Matrix4> changes = new LinkedHashMap<>();
        for (int i = 0; i < paths.size(); i++) {
            changes.put(paths.get(i), moves.get(i));
        }
        return changes;
    }
}
