package pantry.render;

import java.util.Arrays;
import pantry.base.Parallel;

/** The clusters of meshes that are to be drawn of a scene, and the instances that are no more than dots. */
final class VisibleClusters {
    /** Balls of a lesser radius are dots. */
    private static final float DOT_PIXELS = 2;

    /** Levels whose surface is not farther off than this are as good as the finest. */
    private static final float LEVEL_PIXELS = 1;

    /** The number of the draw instance of each. */
    final int[] use;

    /** The number of the cluster in its mesh; {@link DrawInstance#DOT} for all of an instance. */
    final int[] cluster;

    /** Where what is a dot is in the camera's space: x, y, z of each. */
    final float[] place;

    /** @param parts how many parts are looked through side by side */
    VisibleClusters(RenderScene scene, ViewSpace view, int parts) {
        Part[] found = new Part[parts];
        int count = scene.instances.size();
        Parallel.forEach(
                parts,
                i -> found[i] =
                        of(scene, view, (int) ((long) count * i / parts), (int) ((long) count * (i + 1) / parts)));
        int size = Arrays.stream(found).mapToInt(part -> part.size).sum();
        use = new int[size];
        cluster = new int[size];
        place = new float[3 * size];
        int at = 0;
        for (Part part : found) {
            System.arraycopy(part.uses, 0, use, at, part.size);
            System.arraycopy(part.clusters, 0, cluster, at, part.size);
            System.arraycopy(part.places, 0, place, 3 * at, 3 * part.size);
            at += part.size;
        }
    }

    int size() {
        return use.length;
    }

    /** What is to be drawn of some instances. */
    private static final class Part {
        private int[] uses = new int[64];
        private int[] clusters = new int[64];
        private float[] places = new float[3 * 64];
        private int size;

        void add(int use, int cluster) {
            if (size == uses.length) {
                uses = Arrays.copyOf(uses, 2 * size);
                clusters = Arrays.copyOf(clusters, 2 * size);
                places = Arrays.copyOf(places, 6 * size);
            }
            uses[size] = use;
            clusters[size++] = cluster;
        }

        void addDot(int use, double x, double y, double z) {
            add(use, DrawInstance.DOT);
            places[3 * size - 3] = (float) x;
            places[3 * size - 2] = (float) y;
            places[3 * size - 1] = (float) z;
        }
    }

    /** What is to be drawn of some uses: nothing of what is out of sight, and far ones coarsely. */
    private static Part of(RenderScene scene, ViewSpace view, int from, int to) {
        Part found = new Part();
        for (int u = from; u < to; u++) {
            DrawInstance used = scene.instances.get(u);
            BoundingSphere sphere = used.sphere();
            float reach = sphere.radius();
            float cz = (float) view.seen(sphere, 2);
            double cx = view.seen(sphere, 0);
            double cy = view.seen(sphere, 1);
            if (view.isOutOfSight(cx, cy, cz, reach) || view.isCutOff(sphere)) {
                continue;
            }
            RenderMesh mesh = used.mesh();
            float pixels = cz <= reach ? Float.MAX_VALUE : view.focal / (cz - reach);
            if (reach * pixels < DOT_PIXELS && mesh.triangleCount() > 2) {
                if (cz >= view.near) {
                    found.addDot(u, cx, cy, cz);
                }
                continue;
            }
            RenderMesh.Level fine = mesh.coarsest(sphere.stretch() * pixels, LEVEL_PIXELS);
            for (int c = 0; c < fine.clusterCount(); c++) {
                found.add(u, fine.firstCluster() + c);
            }
        }
        return found;
    }
}
