package pantry.twins;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.mesh.MeshBuilder;
import pantry.mesh.Shapes;

/** Makes shapes, and copies of them of which it is known that they are twins, or are not. */
final class Copies {
    private final Random random;

    Copies(long seed) {
        this.random = new Random(seed);
    }

    /** Shapes with much symmetry, with some, and with none; no two are twins. */
    static List<Mesh> shapes() {
        List<Mesh> shapes = new ArrayList<>();
        shapes.add(Shapes.block(1, 1, 1));
        shapes.add(Shapes.block(1, 1, 2));
        shapes.add(Shapes.block(1, 1.5, 2));
        shapes.add(Shapes.sphere(1, 16, 8));
        shapes.add(Shapes.torus(1, 0.3, 18, 9));
        shapes.add(Shapes.cylinder(0.5, 2, 24));
        shapes.add(Shapes.cone(0.5, 0.2, 2, 24));
        shapes.add(screw(6));
        shapes.add(screw(8));
        shapes.add(gear(12));
        shapes.add(gear(11));
        shapes.add(bracket());
        shapes.add(bracket().transformed(Matrix4.scale(new Vec3(1, 1.1, 1))));
        shapes.add(lump(new Random(5), 60));
        shapes.add(lump(new Random(6), 60));
        return shapes;
    }

    /** A head of so many corners on a round shaft. */
    static Mesh screw(int corners) {
        return new MeshBuilder()
                .add(Shapes.cylinder(0.5, 0.4, corners), Matrix4.translation(new Vec3(0, 2, 0)))
                .add(Shapes.cylinder(0.2, 2, 12), Matrix4.IDENTITY)
                .build();
    }

    static Mesh gear(int teeth) {
        MeshBuilder gear = new MeshBuilder().add(Shapes.cylinder(1, 0.2, 36), Matrix4.IDENTITY);
        for (int tooth = 0; tooth < teeth; tooth++) {
            Mesh block = Shapes.block(0.1, 0.2, 0.3).transformed(Matrix4.translation(new Vec3(0, 0, 1)));
            gear.add(block, Matrix4.rotation(1, 360.0 * tooth / 12));
        }
        return gear.build();
    }

    /** Without any symmetry: left and right hands differ. */
    static Mesh bracket() {
        return new MeshBuilder()
                .add(Shapes.block(1, 0.1, 0.5), Matrix4.IDENTITY)
                .add(Shapes.block(0.1, 0.7, 0.5), Matrix4.translation(new Vec3(0.45, 0.05, 0)))
                .add(Shapes.block(0.2, 0.2, 0.2), Matrix4.translation(new Vec3(-0.3, 0.1, 0.1)))
                .build();
    }

    /** A closed lump of chance. */
    static Mesh lump(Random random, int points) {
        double[] cloud = new double[3 * points];
        for (int i = 0; i < cloud.length; i++) {
            cloud[i] = random.nextGaussian();
        }
        return pantry.mesh.ConvexHull.of(cloud).orElseThrow();
    }

    /** A turn and a move by chance. */
    Matrix4 place(double reach) {
        double[] q = {random.nextGaussian(), random.nextGaussian(), random.nextGaussian(), random.nextGaussian()};
        double length = Math.sqrt(q[0] * q[0] + q[1] * q[1] + q[2] * q[2] + q[3] * q[3]);
        Vec3 move = new Vec3(random.nextDouble(), random.nextDouble(), random.nextDouble()).times(reach);
        return Matrix4.quaternion(q[0] / length, q[1] / length, q[2] / length, q[3] / length)
                .times(Matrix4.translation(move));
    }

    /** The same shape with its points and faces in another order, and each face from another corner on. */
    Mesh shuffled(Mesh mesh) {
        List<Integer> order = order(mesh.pointCount());
        int[] number = new int[order.size()];
        float[] points = new float[mesh.points().length];
        for (int i = 0; i < number.length; i++) {
            number[order.get(i)] = i;
            System.arraycopy(mesh.points(), 3 * order.get(i), points, 3 * i, 3);
        }
        int[] starts = new int[mesh.faceCount()];
        for (int f = 1; f < starts.length; f++) {
            starts[f] = starts[f - 1] + mesh.faceSizes()[f - 1];
        }
        int[] sizes = new int[starts.length];
        int[] corners = new int[mesh.corners().length];
        float[] normals = new float[3 * corners.length];
        int at = 0;
        List<Integer> faces = order(starts.length);
        for (int f = 0; f < sizes.length; f++) {
            int face = faces.get(f);
            sizes[f] = mesh.faceSizes()[face];
            int turn = random.nextInt(sizes[f]);
            for (int i = 0; i < sizes[f]; i++, at++) {
                int corner = starts[face] + (i + turn) % sizes[f];
                int point = mesh.corners()[corner];
                corners[at] = number[point];
                if (mesh.normals().isPresent()) {
                    Channel n = mesh.normals().get();
                    System.arraycopy(n.data(), 3 * n.element(face, corner, point), normals, 3 * at, 3);
                }
            }
        }
        Channel channel = mesh.normals().isPresent() ? new Channel(normals, 3, Channel.Per.CORNER) : null;
        return new Mesh(points, sizes, corners, channel, null).withLeftHanded(mesh.leftHanded());
    }

    private List<Integer> order(int count) {
        List<Integer> order = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            order.add(i);
        }
        Collections.shuffle(order, random);
        return order;
    }

    /** The same shape with each face's points its own. */
    static Mesh split(Mesh mesh) {
        float[] points = new float[3 * mesh.corners().length];
        int[] corners = new int[mesh.corners().length];
        for (int c = 0; c < corners.length; c++) {
            System.arraycopy(mesh.points(), 3 * mesh.corners()[c], points, 3 * c, 3);
            corners[c] = c;
        }
        return new Mesh(points, mesh.faceSizes(), corners, null, null);
    }

    /** The same shape with each place moved by at most so much. */
    Mesh noisy(Mesh mesh, double most) {
        float[] points = mesh.points().clone();
        int[] first = pantry.mesh.Welding.firstAtPlace(mesh.points());
        for (int p = 0; p < first.length; p++) {
            for (int axis = 0; axis < 3; axis++) {
                points[3 * p + axis] = first[p] == p
                        ? points[3 * p + axis] + (float) ((2 * random.nextDouble() - 1) * most / Math.sqrt(3))
                        : points[3 * first[p] + axis];
            }
        }
        return new Mesh(points, mesh.faceSizes(), mesh.corners(), mesh.normals().orElse(null), null)
                .withLeftHanded(mesh.leftHanded());
    }

    /** A shape with one place moved by so much. */
    Mesh dented(Mesh mesh, double by) {
        float[] points = mesh.points().clone();
        int chosen = mesh.corners()[random.nextInt(mesh.corners().length)];
        float[] place = {points[3 * chosen], points[3 * chosen + 1], points[3 * chosen + 2]};
        Vec3 move = new Vec3(random.nextGaussian(), random.nextGaussian(), random.nextGaussian())
                .unit()
                .times(by);
        for (int p = 0; p < points.length; p += 3) {
            if (points[p] == place[0] && points[p + 1] == place[1] && points[p + 2] == place[2]) {
                points[p] += (float) move.x();
                points[p + 1] += (float) move.y();
                points[p + 2] += (float) move.z();
            }
        }
        return new Mesh(points, mesh.faceSizes(), mesh.corners(), mesh.normals().orElse(null), null)
                .withLeftHanded(mesh.leftHanded());
    }
}
