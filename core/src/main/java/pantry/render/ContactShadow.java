package pantry.render;

import java.util.List;
import java.util.stream.IntStream;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;

/**
 * The soft shadow that things cast on the ground just below them: darker the nearer they are to it, lighter the less of them is
 * there. A map seen from above, made once per scene.
 */
final class ContactShadow {
    private static final int SIZE = 256;
    private static final int MARGIN = 40;
    private static final int[] BLURS = {3, 5, 8};
    private static final float DARKEST = 0.8f;

    /** Less than this is not seen. */
    private static final double FAINT = 0.02;

    /** How far a coarser surface may be off, in cells. */
    private static final double ROUGH = 0.2;

    /** What is smaller, in cells, is one spot. */
    private static final double SPOT = 0.6;

    private final float[] dark = new float[SIZE * SIZE];
    private final double ground;
    private final double left;
    private final double front;
    private final double cell;
    private final double cellsPerMetre;

    private ContactShadow(Box3 bounds) {
        this.ground = bounds.isEmpty() ? 0 : bounds.min().y();
        Vec3 size = bounds.size();
        this.cell = Math.max(1e-6, Math.max(size.x(), size.z()) / (SIZE - 2 * MARGIN));
        this.cellsPerMetre = 1 / cell;
        this.left = bounds.centre().x() - cell * SIZE / 2;
        this.front = bounds.centre().z() - cell * SIZE / 2;
    }

    static ContactShadow below(List<DrawInstance> instances, Box3 bounds) {
        ContactShadow shadow = new ContactShadow(bounds);
        Vec3 size = bounds.size();
        double fade = Math.max(1e-6, 0.3 * Math.max(size.y(), Math.min(size.x(), size.z())));
        int parts = Math.min(instances.size(), 4 * Runtime.getRuntime().availableProcessors());
        IntStream.range(0, parts)
                .parallel()
                .mapToObj(part -> {
                    Part made = shadow.new Part(fade);
                    int count = instances.size();
                    for (int u = (int) ((long) count * part / parts);
                            u < (int) ((long) count * (part + 1) / parts);
                            u++) {
                        made.add(instances.get(u));
                    }
                    return made.dark;
                })
                .forEachOrdered(shadow::add);
        for (int radius : BLURS) {
            shadow.blur(radius);
        }
        return shadow;
    }

    private void add(float[] part) {
        for (int i = 0; i < dark.length; i++) {
            dark[i] = Math.max(dark[i], part[i]);
        }
    }

    double ground() {
        return ground;
    }

    /** How much light the ground loses at a place: 0 none, 1 all. */
    float at(double x, double z) {
        double gx = (x - left) * cellsPerMetre - 0.5;
        double gz = (z - front) * cellsPerMetre - 0.5;
        if (!(gx >= 0 && gz >= 0 && gx < SIZE - 1 && gz < SIZE - 1)) {
            return 0;
        }
        int x0 = (int) gx;
        int z0 = (int) gz;
        float fx = (float) (gx - x0);
        float fz = (float) (gz - z0);
        int i = z0 * SIZE + x0;
        return DARKEST
                * ((dark[i] * (1 - fx) + dark[i + 1] * fx) * (1 - fz)
                        + (dark[i + SIZE] * (1 - fx) + dark[i + SIZE + 1] * fx) * fz);
    }

    /** What some of the uses darken. What covers about a cell darkens that one whole, whatever its triangles are. */
    private final class Part {
        private final float[] dark = new float[SIZE * SIZE];
        private final double fade;
        private final float[] across = new float[3 * RenderMesh.CLUSTER];
        private final float[] along = new float[3 * RenderMesh.CLUSTER];
        private final float[] strength = new float[3 * RenderMesh.CLUSTER];
        private double density = 1;

        Part(double fade) {
            this.fade = fade;
        }

        void add(DrawInstance use) {
            BoundingSphere sphere = use.sphere();
            density = use.surface().density();
            if (strength(sphere.y() - sphere.radius()) < FAINT) {
                return;
            }
            if (sphere.radius() < SPOT * cell) {
                spot(sphere.x(), sphere.y() - sphere.radius(), sphere.z());
                return;
            }
            RenderMesh mesh = use.mesh();
            RenderMesh.Level chosen = mesh.coarsest(sphere.stretch(), ROUGH * cell);
            double[] m = use.world().rows();
            for (int c = 0; c < chosen.clusterCount(); c++) {
                cluster(mesh, mesh.clusters[chosen.firstCluster() + c], m, sphere.stretch());
            }
        }

        private double strength(double height) {
            return density * Math.exp(-Math.max(0, height - ground) / fade);
        }

        private void spot(double x, double y, double z) {
            int i = clamp((z - front) / cell) * SIZE + clamp((x - left) / cell);
            dark[i] = Math.max(dark[i], (float) strength(y));
        }

        private void cluster(RenderMesh mesh, RenderMesh.Cluster cluster, double[] m, float stretch) {
            float radius = cluster.radius() * stretch;
            if (radius < SPOT * cell) {
                double x = cluster.x();
                double y = cluster.y();
                double z = cluster.z();
                spot(
                        x * m[0] + y * m[4] + z * m[8] + m[12],
                        x * m[1] + y * m[5] + z * m[9] + m[13] - radius,
                        x * m[2] + y * m[6] + z * m[10] + m[14]);
                return;
            }
            int[] vertices = cluster.vertices();
            for (int i = 0; i < vertices.length; i++) {
                double x = mesh.positions[3 * vertices[i]];
                double y = mesh.positions[3 * vertices[i] + 1];
                double z = mesh.positions[3 * vertices[i] + 2];
                across[i] = (float) ((x * m[0] + y * m[4] + z * m[8] + m[12] - left) / cell);
                along[i] = (float) ((x * m[2] + y * m[6] + z * m[10] + m[14] - front) / cell);
                strength[i] = (float) strength(x * m[1] + y * m[5] + z * m[9] + m[13]);
            }
            short[] local = cluster.local();
            for (int t = 0; t < local.length; t += 3) {
                int a = local[t] & 0xffff;
                int b = local[t + 1] & 0xffff;
                int c = local[t + 2] & 0xffff;
                // The lowest point darkens most.
                float most = Math.max(strength[a], Math.max(strength[b], strength[c]));
                if (most > FAINT) {
                    triangle(across[a], along[a], across[b], along[b], across[c], along[c], most);
                }
            }
        }

        private void triangle(double ax, double az, double bx, double bz, double cx, double cz, float most) {
            int x0 = clamp(Math.floor(Math.min(ax, Math.min(bx, cx))));
            int x1 = clamp(Math.floor(Math.max(ax, Math.max(bx, cx))));
            int z0 = clamp(Math.floor(Math.min(az, Math.min(bz, cz))));
            int z1 = clamp(Math.floor(Math.max(az, Math.max(bz, cz))));
            double turn = (bx - ax) * (cz - az) - (bz - az) * (cx - ax);
            double sign = turn < 0 ? -1 : 1;
            boolean tiny = x1 - x0 <= 1 && z1 - z0 <= 1;
            for (int z = z0; z <= z1; z++) {
                for (int x = x0; x <= x1; x++) {
                    double px = x + 0.5;
                    double pz = z + 0.5;
                    if (tiny
                            || sign * ((bx - ax) * (pz - az) - (bz - az) * (px - ax)) >= 0
                                    && sign * ((cx - bx) * (pz - bz) - (cz - bz) * (px - bx)) >= 0
                                    && sign * ((ax - cx) * (pz - cz) - (az - cz) * (px - cx)) >= 0) {
                        int i = z * SIZE + x;
                        dark[i] = Math.max(dark[i], most);
                    }
                }
            }
        }
    }

    private static int clamp(double number) {
        return (int) Math.clamp(number, 0, SIZE - 1);
    }

    /** A box blur, along rows and then along columns. */
    private void blur(int radius) {
        float[] line = new float[SIZE];
        for (int z = 0; z < SIZE; z++) {
            int row = z * SIZE;
            float sum = 0;
            for (int x = 0; x < radius; x++) {
                sum += dark[row + x];
            }
            for (int x = 0; x < SIZE; x++) {
                sum += x + radius < SIZE ? dark[row + x + radius] : 0;
                sum -= x - radius > 0 ? dark[row + x - radius - 1] : 0;
                line[x] = sum / (2 * radius + 1);
            }
            System.arraycopy(line, 0, dark, row, SIZE);
        }
        float[] sharp = dark.clone();
        float[] sums = new float[SIZE];
        for (int z = 0; z < radius; z++) {
            add(sums, sharp, z * SIZE);
        }
        for (int z = 0; z < SIZE; z++) {
            if (z + radius < SIZE) {
                add(sums, sharp, (z + radius) * SIZE);
            }
            if (z - radius > 0) {
                subtract(sums, sharp, (z - radius - 1) * SIZE);
            }
            for (int x = 0; x < SIZE; x++) {
                dark[z * SIZE + x] = sums[x] / (2 * radius + 1);
            }
        }
    }

    private static void add(float[] sums, float[] rows, int from) {
        for (int x = 0; x < SIZE; x++) {
            sums[x] += rows[from + x];
        }
    }

    private static void subtract(float[] sums, float[] rows, int from) {
        for (int x = 0; x < SIZE; x++) {
            sums[x] -= rows[from + x];
        }
    }
}
