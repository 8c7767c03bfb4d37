package pantry.testing;

import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.MeshBuilder;

/** The Stanford bunny of the npm package {@code bunny}, with the counts that the package tells. */
public record Bunny(int points, int triangles, Mesh mesh) {
    public static Bunny read() {
        String[] lines = Oracle.run("bunny.mjs").split("\n");
        String[] counts = lines[0].split(" ");
        int points = Integer.parseInt(counts[0]);
        int triangles = Integer.parseInt(counts[1]);
        MeshBuilder builder = new MeshBuilder();
        for (int i = 1; i <= points; i++) {
            String[] p = lines[i].split(" ");
            builder.point(new Vec3(Double.parseDouble(p[0]), Double.parseDouble(p[1]), Double.parseDouble(p[2])));
        }
        for (int i = points + 1; i <= points + triangles; i++) {
            String[] c = lines[i].split(" ");
            builder.face(Integer.parseInt(c[0]), Integer.parseInt(c[1]), Integer.parseInt(c[2]));
        }
        return new Bunny(points, triangles, builder.build());
    }
}
