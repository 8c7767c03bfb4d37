package pantry.mesh;

import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/** Meshes of simple solids, closed, with normals and texture coordinates. Lengths in metres, Y up. */
public final class Shapes {
    private Shapes() {}

    /** A box between two corners, six quadrilaterals. */
    public static Mesh box(Vec3 min, Vec3 max) {
        MeshBuilder builder = new MeshBuilder();
        int[] p = new int[8];
        for (int i = 0; i < 8; i++) {
            p[i] = builder.point(new Vec3(
                    (i & 1) == 0 ? min.x() : max.x(),
                    (i & 2) == 0 ? min.y() : max.y(),
                    (i & 4) == 0 ? min.z() : max.z()));
        }
        side(builder, new Vec3(-1, 0, 0), p[0], p[4], p[6], p[2]);
        side(builder, new Vec3(1, 0, 0), p[5], p[1], p[3], p[7]);
        side(builder, new Vec3(0, -1, 0), p[0], p[1], p[5], p[4]);
        side(builder, new Vec3(0, 1, 0), p[6], p[7], p[3], p[2]);
        side(builder, new Vec3(0, 0, -1), p[1], p[0], p[2], p[3]);
        side(builder, new Vec3(0, 0, 1), p[4], p[5], p[7], p[6]);
        return builder.build();
    }

    private static void side(MeshBuilder builder, Vec3 normal, int... points) {
        builder.face(points).normals(normal, normal, normal, normal).uvs(0, 0, 1, 0, 1, 1, 0, 1);
    }

    /** A box of the given size, standing on the ground around the origin. */
    public static Mesh block(double width, double height, double depth) {
        return box(new Vec3(-width / 2, 0, -depth / 2), new Vec3(width / 2, height, depth / 2));
    }

    /**
     * A solid turned about the Y axis.
     *
     * @param radii the outline's distance from the axis, from the bottom up; the first and last are closed by a face
     *     where they are not zero
     * @param heights the outline's heights
     * @param segments steps around
     * @param smooth whether the outline is to look rounded rather than angular
     */
    public static Mesh lathe(double[] radii, double[] heights, int segments, boolean smooth) {
        MeshBuilder builder = new MeshBuilder();
        int rings = radii.length;
        int[][] p = new int[rings][segments];
        for (int r = 0; r < rings; r++) {
            for (int s = 0; s < segments; s++) {
                p[r][s] = s > 0 && radii[r] == 0
                        ? p[r][0]
                        : builder.point(around(s, segments).times(radii[r]).plus(new Vec3(0, heights[r], 0)));
            }
        }
        for (int r = 0; r + 1 < rings; r++) {
            if (radii[r] == 0 && radii[r + 1] == 0) {
                continue;
            }
            for (int s = 0; s < segments; s++) {
                int next = (s + 1) % segments;
                Vec3 a = slope(radii, heights, r, r, s, segments, smooth);
                Vec3 b = slope(radii, heights, r, r, s + 1, segments, smooth);
                Vec3 c = slope(radii, heights, r + 1, r, s + 1, segments, smooth);
                Vec3 d = slope(radii, heights, r + 1, r, s, segments, smooth);
                double u0 = (double) s / segments;
                double u1 = (s + 1.0) / segments;
                double v0 = (double) r / (rings - 1);
                double v1 = (r + 1.0) / (rings - 1);
                if (radii[r] == 0) {
                    builder.face(p[r][0], p[r + 1][s], p[r + 1][next])
                            .normals(a, d, c)
                            .uvs(u0, v0, u0, v1, u1, v1);
                } else if (radii[r + 1] == 0) {
                    builder.face(p[r][s], p[r + 1][0], p[r][next])
                            .normals(a, d, b)
                            .uvs(u0, v0, u0, v1, u1, v0);
                } else {
                    builder.face(p[r][s], p[r + 1][s], p[r + 1][next], p[r][next])
                            .normals(a, d, c, b)
                            .uvs(u0, v0, u0, v1, u1, v1, u1, v0);
                }
            }
        }
        cap(builder, p[0], radii[0], false);
        cap(builder, p[rings - 1], radii[rings - 1], true);
        return builder.build();
    }

    /** Counter-clockwise seen from above would be towards -z; this goes the other way, and faces follow. */
    private static Vec3 around(int step, int segments) {
        double angle = 2 * Math.PI * step / segments;
        return new Vec3(Math.cos(angle), 0, Math.sin(angle));
    }

    private static Vec3 slope(
            double[] radii, double[] heights, int ring, int band, int step, int segments, boolean smooth) {
        int below = smooth ? Math.max(0, ring - 1) : band;
        int above = smooth ? Math.min(radii.length - 1, ring + 1) : band + 1;
        double dr = radii[above] - radii[below];
        double dh = heights[above] - heights[below];
        Vec3 out = around(step, segments);
        Vec3 normal = out.times(dh).plus(new Vec3(0, -dr, 0));
        return normal.length() == 0 ? out : normal.unit();
    }

    private static void cap(MeshBuilder builder, int[] ring, double radius, boolean top) {
        if (radius == 0) {
            return;
        }
        int n = ring.length;
        int[] face = new int[n];
        Vec3[] normals = new Vec3[n];
        double[] uvs = new double[2 * n];
        for (int i = 0; i < n; i++) {
            int step = top ? n - 1 - i : i;
            face[i] = ring[step];
            normals[i] = new Vec3(0, top ? 1 : -1, 0);
            Vec3 at = around(step, n);
            uvs[2 * i] = 0.5 + at.x() / 2;
            uvs[2 * i + 1] = 0.5 + at.z() / 2;
        }
        builder.face(face).normals(normals).uvs(uvs);
    }

    /** A cylinder standing on the ground. */
    public static Mesh cylinder(double radius, double height, int segments) {
        return lathe(new double[] {radius, radius}, new double[] {0, height}, segments, false);
    }

    /** A cone or frustum standing on the ground. */
    public static Mesh cone(double bottomRadius, double topRadius, double height, int segments) {
        return lathe(new double[] {bottomRadius, topRadius}, new double[] {0, height}, segments, false);
    }

    /** A sphere around the origin: {@code rings} bands from pole to pole. */
    public static Mesh sphere(double radius, int segments, int rings) {
        double[] radii = new double[rings + 1];
        double[] heights = new double[rings + 1];
        for (int r = 0; r <= rings; r++) {
            double angle = Math.PI * r / rings;
            radii[r] = r == 0 || r == rings ? 0 : radius * Math.sin(angle);
            heights[r] = -radius * Math.cos(angle);
        }
        return lathe(radii, heights, segments, true);
    }

    /**
     * The hull of two spheres one above the other, around the origin.
     *
     * @param height between their centres
     * @param rings bands of each end
     */
    public static Mesh capsule(double bottomRadius, double topRadius, double height, int segments, int rings) {
        if (Math.abs(bottomRadius - topRadius) >= height) {
            double radius = Math.max(bottomRadius, topRadius);
            double centre = bottomRadius > topRadius ? -height / 2 : height / 2;
            return sphere(radius, segments, 2 * rings).transformed(Matrix4.translation(new Vec3(0, centre, 0)));
        }
        // The latitude at which a straight side touches both.
        double touch = Math.asin((bottomRadius - topRadius) / height);
        double[] radii = new double[2 * rings + 2];
        double[] heights = new double[2 * rings + 2];
        for (int r = 0; r <= rings; r++) {
            double below = -Math.PI / 2 + (touch + Math.PI / 2) * r / rings;
            double above = touch + (Math.PI / 2 - touch) * r / rings;
            radii[r] = r == 0 ? 0 : bottomRadius * Math.cos(below);
            heights[r] = -height / 2 + bottomRadius * Math.sin(below);
            radii[rings + 1 + r] = r == rings ? 0 : topRadius * Math.cos(above);
            heights[rings + 1 + r] = height / 2 + topRadius * Math.sin(above);
        }
        return lathe(radii, heights, segments, true);
    }

    /** A torus around the Y axis through the origin. */
    public static Mesh torus(double ringRadius, double tubeRadius, int segments, int tubeSegments) {
        MeshBuilder builder = new MeshBuilder();
        Vec3[][] normals = new Vec3[segments][tubeSegments];
        int[][] p = new int[segments][tubeSegments];
        for (int s = 0; s < segments; s++) {
            Vec3 out = around(s, segments);
            for (int t = 0; t < tubeSegments; t++) {
                double angle = 2 * Math.PI * t / tubeSegments;
                normals[s][t] = out.times(Math.cos(angle)).plus(new Vec3(0, Math.sin(angle), 0));
                p[s][t] = builder.point(out.times(ringRadius).plus(normals[s][t].times(tubeRadius)));
            }
        }
        for (int s = 0; s < segments; s++) {
            int s1 = (s + 1) % segments;
            for (int t = 0; t < tubeSegments; t++) {
                int t1 = (t + 1) % tubeSegments;
                double u0 = (double) s / segments;
                double u1 = (s + 1.0) / segments;
                double v0 = (double) t / tubeSegments;
                double v1 = (t + 1.0) / tubeSegments;
                builder.face(p[s][t], p[s][t1], p[s1][t1], p[s1][t])
                        .normals(normals[s][t], normals[s][t1], normals[s1][t1], normals[s1][t])
                        .uvs(u0, v0, u0, v1, u1, v1, u1, v0);
            }
        }
        return builder.build();
    }

    /** A flat rectangle on the ground around the origin, looking up. */
    public static Mesh plate(double width, double depth) {
        MeshBuilder builder = new MeshBuilder();
        int a = builder.point(new Vec3(-width / 2, 0, depth / 2));
        int b = builder.point(new Vec3(width / 2, 0, depth / 2));
        int c = builder.point(new Vec3(width / 2, 0, -depth / 2));
        int d = builder.point(new Vec3(-width / 2, 0, -depth / 2));
        side(builder, Vec3.UP, a, b, c, d);
        return builder.build();
    }
}
