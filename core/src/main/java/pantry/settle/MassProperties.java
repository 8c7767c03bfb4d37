package pantry.settle;

import java.util.List;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.Triangulation;

/**
 * Volume, centre and inertia of closed meshes of even density.
 *
 * @param volume cubic metres
 * @param centre of mass, metres
 * @param inertia about the centre for a density of one: xx, yy, zz, xy, xz, yz
 */
record MassProperties(double volume, Vec3 centre, double[] inertia) {
    /**
     * Sums the tetrahedra between the origin and each triangle (D. Eberly, Polyhedral Mass Properties, 2002, gives the
     * same integrals).
     */
    static MassProperties of(List<Mesh> solids) {
        double volume = 0;
        Vec3 moment = Vec3.ZERO;
        // Second moments: xx, yy, zz, xy, xz, yz.
        double[] second = new double[6];
        for (Mesh mesh : solids) {
            int[] corners = Triangulation.corners(mesh);
            for (int t = 0; t < corners.length; t += 3) {
                Vec3 a = mesh.point(mesh.corners()[corners[t]]);
                Vec3 b = mesh.point(mesh.corners()[corners[t + 1]]);
                Vec3 c = mesh.point(mesh.corners()[corners[t + 2]]);
                double six = a.dot(b.cross(c));
                volume += six / 6;
                Vec3 sum = a.plus(b).plus(c);
                moment = moment.plus(sum.times(six / 24));
                for (int k = 0; k < 6; k++) {
                    int i = k < 3 ? k : k == 5 ? 1 : 0;
                    int j = k < 3 ? k : k == 3 ? 1 : 2;
                    double products =
                            sum.get(i) * sum.get(j) + a.get(i) * a.get(j) + b.get(i) * b.get(j) + c.get(i) * c.get(j);
                    second[k] += six / 120 * products;
                }
            }
        }
        Vec3 centre = volume == 0 ? Vec3.ZERO : moment.times(1 / volume);
        for (int k = 0; k < 6; k++) {
            int i = k < 3 ? k : k == 5 ? 1 : 0;
            int j = k < 3 ? k : k == 3 ? 1 : 2;
            second[k] -= volume * centre.get(i) * centre.get(j);
        }
        return new MassProperties(volume, centre, new double[] {
            second[1] + second[2], second[0] + second[2], second[0] + second[1], -second[3], -second[4], -second[5]
        });
    }
}
