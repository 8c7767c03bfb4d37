package pantry.render;

import pantry.base.math.Box3;
import pantry.base.math.Vec3;

/**
 * The soft shadow that things cast on the ground just below them: darker the nearer they are to it. A map seen from
 * above, made once per scene.
 */
final class ContactShadow {
    private static final int SIZE = 256;
    private static final int MARGIN = 40;
    private static final int[] BLURS = {3, 5, 8};
    private static final float DARKEST = 0.8f;

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

    static ContactShadow below(RenderScene scene) {
        ContactShadow shadow = new ContactShadow(scene.bounds());
        Vec3 size = scene.bounds().size();
        double fade = Math.max(1e-6, 0.3 * Math.max(size.y(), Math.min(size.x(), size.z())));
        for (RenderScene.Use use : scene.uses) {
            shadow.add(use, fade);
        }
        for (int radius : BLURS) {
            shadow.blur(radius);
        }
        return shadow;
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

    private void add(RenderScene.Use use, double fade) {
        RenderMesh mesh = use.mesh();
        double[] m = use.world().rows();
        int count = mesh.positions.length / 3;
        float[] across = new float[count];
        float[] along = new float[count];
        float[] strength = new float[count];
        for (int v = 0; v < count; v++) {
            double x = mesh.positions[3 * v];
            double y = mesh.positions[3 * v + 1];
            double z = mesh.positions[3 * v + 2];
            across[v] = (float) ((x * m[0] + y * m[4] + z * m[8] + m[12] - left) / cell);
            along[v] = (float) ((x * m[2] + y * m[6] + z * m[10] + m[14] - front) / cell);
            strength[v] = (float) Math.exp(-Math.max(0, x * m[1] + y * m[5] + z * m[9] + m[13] - ground) / fade);
        }
        double[] p = new double[9];
        for (int t = 0; t < mesh.indices.length; t += 3) {
            int a = mesh.indices[t];
            int b = mesh.indices[t + 1];
            int c = mesh.indices[t + 2];
            // The lowest point darkens most.
            float most = Math.max(strength[a], Math.max(strength[b], strength[c]));
            if (most > 0.02f) {
                p[0] = across[a];
                p[2] = along[a];
                p[3] = across[b];
                p[5] = along[b];
                p[6] = across[c];
                p[8] = along[c];
                triangle(p, most);
            }
        }
    }

    private void triangle(double[] p, float strength) {
        int x0 = clamp(Math.floor(Math.min(p[0], Math.min(p[3], p[6]))));
        int x1 = clamp(Math.floor(Math.max(p[0], Math.max(p[3], p[6]))));
        int z0 = clamp(Math.floor(Math.min(p[2], Math.min(p[5], p[8]))));
        int z1 = clamp(Math.floor(Math.max(p[2], Math.max(p[5], p[8]))));
        double turn = (p[3] - p[0]) * (p[8] - p[2]) - (p[5] - p[2]) * (p[6] - p[0]);
        double sign = turn < 0 ? -1 : 1;
        boolean tiny = x1 - x0 <= 1 && z1 - z0 <= 1;
        for (int z = z0; z <= z1; z++) {
            for (int x = x0; x <= x1; x++) {
                double cx = x + 0.5;
                double cz = z + 0.5;
                if (tiny
                        || sign * ((p[3] - p[0]) * (cz - p[2]) - (p[5] - p[2]) * (cx - p[0])) >= 0
                                && sign * ((p[6] - p[3]) * (cz - p[5]) - (p[8] - p[5]) * (cx - p[3])) >= 0
                                && sign * ((p[0] - p[6]) * (cz - p[8]) - (p[2] - p[8]) * (cx - p[6])) >= 0) {
                    int i = z * SIZE + x;
                    dark[i] = Math.max(dark[i], strength);
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
        for (int pass = 0; pass < 2; pass++) {
            int step = pass == 0 ? 1 : SIZE;
            int next = pass == 0 ? SIZE : 1;
            for (int row = 0; row < SIZE; row++) {
                float sum = 0;
                for (int i = -radius; i <= radius; i++) {
                    sum += i >= 0 ? dark[row * next + i * step] : 0;
                }
                for (int i = 0; i < SIZE; i++) {
                    line[i] = sum / (2 * radius + 1);
                    sum += i + radius + 1 < SIZE ? dark[row * next + (i + radius + 1) * step] : 0;
                    sum -= i - radius >= 0 ? dark[row * next + (i - radius) * step] : 0;
                }
                for (int i = 0; i < SIZE; i++) {
                    dark[row * next + i * step] = line[i];
                }
            }
        }
    }
}
