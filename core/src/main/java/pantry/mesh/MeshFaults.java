package pantry.mesh;

import java.util.Arrays;

/**
 * What is wrong with a surface, or heavier than it need be. Points in exactly one place count as one.
 *
 * @param flatFaces faces without area: of less than a millionth of the square of their longest side
 * @param doubleFaces faces that have the same points as one before them
 * @param boundaryEdges edges of one face only
 * @param tangledEdges edges of more than two faces
 * @param turned for each face whether it has to be turned round, so that neighbours agree and closed parts look outwards
 * @param insideOut connected parts that are closed and look inwards
 * @param unevenFaces faces that disagree with most of their part about which side is outside
 * @param doubledPoints points at a place where there is one already
 * @param loosePoints points that no face uses
 * @param badNormals corners whose normal is no direction, or points to the other side than the face
 * @param parts connected parts
 * @param plane how many triangles lie in flat regions, and how few would do there
 */
public record MeshFaults(
        int[] flatFaces,
        int[] doubleFaces,
        int boundaryEdges,
        int tangledEdges,
        boolean[] turned,
        int insideOut,
        int unevenFaces,
        int doubledPoints,
        int loosePoints,
        int badNormals,
        int parts,
        Plane plane) {
    /**
     * Flat regions of a surface.
     *
     * @param triangles that lie in regions of more than a few
     * @param needed how many would do, by the regions' outlines; at most {@code triangles}
     */
    public record Plane(int triangles, int needed) {
        public int saved() {
            return triangles - needed;
        }
    }

    private static final double FLAT = 1e-6;

    /** Faces whose normals differ by less lie in one plane. */
    private static final double COPLANAR = Math.cos(Math.toRadians(0.05));

    /** Smaller flat regions are no matter. */
    private static final int WORTH_MERGING = 24;

    public boolean closed() {
        return boundaryEdges == 0 && tangledEdges == 0;
    }

    /** Finds the faults of a mesh. */
    public static MeshFaults of(Mesh mesh) {
        return new Finding(mesh).faults();
    }

    /**
     * Normals that look to the side of their faces: those against it are turned round.
     *
     * @return x, y and z for each corner
     */
    public static float[] facing(Mesh mesh, Channel normals) {
        double[] faces = new Finding(mesh).normals;
        double outwards = mesh.leftHanded() ? -1 : 1;
        float[] facing = new float[3 * mesh.corners().length];
        int corner = 0;
        for (int face = 0; face < mesh.faceCount(); face++) {
            for (int i = 0; i < mesh.faceSizes()[face]; i++, corner++) {
                int at = 3 * normals.element(face, corner, mesh.corners()[corner]);
                double along = 0;
                for (int axis = 0; axis < 3; axis++) {
                    along += normals.data()[at + axis] * faces[3 * face + axis];
                }
                float sign = along * outwards < 0 ? -1 : 1;
                for (int axis = 0; axis < 3; axis++) {
                    facing[3 * corner + axis] = sign * normals.data()[at + axis];
                }
            }
        }
        return facing;
    }

    private static final class Finding {
        private final Mesh mesh;
        private final int[] places;
        private final double[] normals;
        private final boolean[] flat;
        private final EdgeTable edges;

        Finding(Mesh mesh) {
            this.mesh = mesh;
            this.places = Welding.firstAtPlace(mesh.points());
            this.normals = new double[3 * mesh.faceCount()];
            this.flat = new boolean[mesh.faceCount()];
            measureFaces();
            this.edges = new EdgeTable(mesh, places);
        }

        /** Newell's normals, of twice the face's area (I. Sutherland et al., ACM Computing Surveys 6, 1974). */
        private void measureFaces() {
            float[] p = mesh.points();
            int[] corners = mesh.corners();
            int[] sizes = mesh.faceSizes();
            int start = 0;
            for (int face = 0; face < sizes.length; face++) {
                double longest = 0;
                int a = 3 * corners[start + sizes[face] - 1];
                int origin = 3 * corners[start];
                for (int i = 0; i < sizes[face]; i++) {
                    int b = 3 * corners[start + i];
                    double ax = p[a] - p[origin];
                    double ay = p[a + 1] - p[origin + 1];
                    double az = p[a + 2] - p[origin + 2];
                    double bx = p[b] - p[origin];
                    double by = p[b + 1] - p[origin + 1];
                    double bz = p[b + 2] - p[origin + 2];
                    normals[3 * face] += ay * bz - az * by;
                    normals[3 * face + 1] += az * bx - ax * bz;
                    normals[3 * face + 2] += ax * by - ay * bx;
                    double side = (ax - bx) * (ax - bx) + (ay - by) * (ay - by) + (az - bz) * (az - bz);
                    longest = Math.max(longest, side);
                    a = b;
                }
                flat[face] = !(length(face) > FLAT * longest);
                start += sizes[face];
            }
        }

        private double length(int face) {
            double x = normals[3 * face];
            double y = normals[3 * face + 1];
            double z = normals[3 * face + 2];
            return Math.sqrt(x * x + y * y + z * z);
        }

        MeshFaults faults() {
            int[] counts = new int[2];
            edges.forEach((low, high, from, to) -> {
                if (to - from == 1) {
                    counts[0]++;
                } else if (to - from > 2) {
                    counts[1]++;
                }
            });
            Winding winding = new Winding();
            boolean[] used = new boolean[places.length];
            for (int corner : mesh.corners()) {
                used[corner] = true;
            }
            int doubled = 0;
            int loose = 0;
            for (int p = 0; p < places.length; p++) {
                if (!used[p]) {
                    loose++;
                } else if (places[p] != p && used[places[p]]) {
                    doubled++;
                }
            }
            return new MeshFaults(
                    chosen(flat),
                    doubles(),
                    counts[0],
                    counts[1],
                    winding.turned,
                    winding.insideOut,
                    winding.uneven,
                    doubled,
                    loose,
                    badNormals(),
                    winding.parts,
                    plane());
        }

        private static int[] chosen(boolean[] faces) {
            int count = 0;
            for (boolean face : faces) {
                count += face ? 1 : 0;
            }
            int[] result = new int[count];
            int at = 0;
            for (int face = 0; face < faces.length; face++) {
                if (faces[face]) {
                    result[at++] = face;
                }
            }
            return result;
        }

        private int[] doubles() {
            int[] starts = starts();
            int[] next = new int[mesh.faceCount()];
            Arrays.fill(next, -1);
            int[] result = new int[16];
            int count = 0;
            int capacity = Integer.highestOneBit(Math.max(8, mesh.faceCount())) * 2;
            int[] table = new int[capacity];
            Arrays.fill(table, -1);
            for (int face = 0; face < next.length; face++) {
                int slot = (int) (hash(starts[face], mesh.faceSizes()[face]) & (capacity - 1));
                boolean known = false;
                for (int other = table[slot]; other >= 0 && !known; other = next[other]) {
                    known = samePoints(starts, face, other);
                }
                if (known) {
                    result = count == result.length ? Arrays.copyOf(result, 2 * count) : result;
                    result[count++] = face;
                } else {
                    next[face] = table[slot];
                    table[slot] = face;
                }
            }
            return Arrays.copyOf(result, count);
        }

        private int[] starts() {
            int[] starts = new int[mesh.faceCount()];
            for (int face = 1; face < starts.length; face++) {
                starts[face] = starts[face - 1] + mesh.faceSizes()[face - 1];
            }
            return starts;
        }

        private long hash(int start, int size) {
            long sum = 0;
            for (int i = 0; i < size; i++) {
                long place = places[mesh.corners()[start + i]] * 0x9E3779B97F4A7C15L;
                sum += place ^ place >>> 29;
            }
            return sum ^ sum >>> 32;
        }

        private boolean samePoints(int[] starts, int one, int other) {
            int size = mesh.faceSizes()[one];
            if (size != mesh.faceSizes()[other]) {
                return false;
            }
            int[] a = new int[size];
            int[] b = new int[size];
            for (int i = 0; i < size; i++) {
                a[i] = places[mesh.corners()[starts[one] + i]];
                b[i] = places[mesh.corners()[starts[other] + i]];
            }
            Arrays.sort(a);
            Arrays.sort(b);
            return Arrays.equals(a, b);
        }

        private int badNormals() {
            Channel channel = mesh.normals().orElse(null);
            if (channel == null) {
                return 0;
            }
            float[] n = channel.data();
            int bad = 0;
            int corner = 0;
            double outwards = mesh.leftHanded() ? -1 : 1;
            for (int face = 0; face < flat.length; face++) {
                for (int i = 0; i < mesh.faceSizes()[face]; i++, corner++) {
                    int at = 3 * channel.element(face, corner, mesh.corners()[corner]);
                    double squared =
                            (double) n[at] * n[at] + (double) n[at + 1] * n[at + 1] + (double) n[at + 2] * n[at + 2];
                    double along = n[at] * normals[3 * face]
                            + n[at + 1] * normals[3 * face + 1]
                            + n[at + 2] * normals[3 * face + 2];
                    boolean opposed = !flat[face] && along * outwards < -0.2 * length(face);
                    if (!(squared > 0.25 && squared < 4) || opposed) {
                        bad++;
                    }
                }
            }
            return bad;
        }

        private Plane plane() {
            int[] root = new int[flat.length];
            Arrays.setAll(root, face -> face);
            edges.forEach((low, high, from, to) -> {
                if (to - from == 2 && coplanar(edges.face(from), edges.face(from + 1))) {
                    ConnectedParts.join(root, edges.face(from), edges.face(from + 1));
                }
            });
            int[] triangles = new int[flat.length];
            int[] outline = new int[flat.length];
            for (int face = 0; face < root.length; face++) {
                triangles[ConnectedParts.find(root, face)] += mesh.faceSizes()[face] - 2;
            }
            edges.forEach((low, high, from, to) -> {
                int one = ConnectedParts.find(root, edges.face(from));
                int other = to - from == 2 ? ConnectedParts.find(root, edges.face(from + 1)) : -1;
                if (one != other) {
                    for (int use = from; use < to; use++) {
                        outline[ConnectedParts.find(root, edges.face(use))]++;
                    }
                }
            });
            int all = 0;
            int needed = 0;
            for (int region = 0; region < root.length; region++) {
                if (root[region] == region && triangles[region] >= WORTH_MERGING) {
                    all += triangles[region];
                    needed += Math.clamp(outline[region] - 2, 1, triangles[region]);
                }
            }
            return new Plane(all, needed);
        }

        private boolean coplanar(int one, int other) {
            if (flat[one] || flat[other]) {
                return false;
            }
            double dot = normals[3 * one] * normals[3 * other]
                    + normals[3 * one + 1] * normals[3 * other + 1]
                    + normals[3 * one + 2] * normals[3 * other + 2];
            return dot >= COPLANAR * length(one) * length(other);
        }

        /** Which faces have to be turned round so that all agree. */
        private final class Winding {
            final boolean[] turned = new boolean[flat.length];
            int insideOut;
            int uneven;
            int parts;

            private final int[] firstUse = new int[flat.length + 1];
            private int[] neighbours = new int[0];

            Winding() {
                link();
                boolean[] seen = new boolean[flat.length];
                int[] queue = new int[flat.length];
                double[] volumes = volumes();
                boolean[] open = open();
                for (int face = 0; face < flat.length; face++) {
                    if (!seen[face]) {
                        parts++;
                        settle(face, seen, queue, volumes, open);
                    }
                }
            }

            /** Neighbours across edges of two faces; the last bit tells whether they disagree. */
            private void link() {
                edges.forEach((low, high, from, to) -> {
                    if (to - from == 2) {
                        firstUse[edges.face(from) + 1]++;
                        firstUse[edges.face(from + 1) + 1]++;
                    }
                });
                for (int face = 0; face < flat.length; face++) {
                    firstUse[face + 1] += firstUse[face];
                }
                neighbours = new int[firstUse[flat.length]];
                int[] filled = Arrays.copyOf(firstUse, flat.length);
                edges.forEach((low, high, from, to) -> {
                    if (to - from == 2) {
                        int one = edges.face(from);
                        int other = edges.face(from + 1);
                        int disagree = edges.isBackwards(from) == edges.isBackwards(from + 1) ? 1 : 0;
                        neighbours[filled[one]++] = other << 1 | disagree;
                        neighbours[filled[other]++] = one << 1 | disagree;
                    }
                });
            }

            private boolean[] open() {
                boolean[] open = new boolean[flat.length];
                edges.forEach((low, high, from, to) -> {
                    if (to - from != 2) {
                        for (int use = from; use < to; use++) {
                            open[edges.face(use)] = true;
                        }
                    }
                });
                return open;
            }

            /** Six times the volume between each face and the mesh's first point, as the face is turned. */
            private double[] volumes() {
                double[] volumes = new double[flat.length];
                float[] p = mesh.points();
                int start = 0;
                for (int face = 0; face < volumes.length; face++) {
                    int a = 3 * mesh.corners()[start];
                    volumes[face] = (p[a] - p[0]) * normals[3 * face]
                            + (p[a + 1] - p[1]) * normals[3 * face + 1]
                            + (p[a + 2] - p[2]) * normals[3 * face + 2];
                    start += mesh.faceSizes()[face];
                }
                return volumes;
            }

            private void settle(int first, boolean[] seen, int[] queue, double[] volumes, boolean[] open) {
                int count = 0;
                int head = 0;
                queue[count++] = first;
                seen[first] = true;
                int turnedFaces = 0;
                double volume = 0;
                boolean isOpen = false;
                while (head < count) {
                    int face = queue[head++];
                    turnedFaces += turned[face] ? 1 : 0;
                    volume += turned[face] ? -volumes[face] : volumes[face];
                    isOpen |= open[face];
                    for (int i = firstUse[face]; i < firstUse[face + 1]; i++) {
                        int other = neighbours[i] >>> 1;
                        if (!seen[other]) {
                            seen[other] = true;
                            turned[other] = turned[face] ^ (neighbours[i] & 1) == 1;
                            queue[count++] = other;
                        }
                    }
                }
                double outwards = mesh.leftHanded() ? -volume : volume;
                int least = Math.min(turnedFaces, count - turnedFaces);
                uneven += least;
                boolean flip = isOpen ? turnedFaces > count - turnedFaces : outwards < 0;
                insideOut += !isOpen && least == 0 && outwards < 0 ? 1 : 0;
                for (int i = 0; flip && i < count; i++) {
                    turned[queue[i]] = !turned[queue[i]];
                }
            }
        }
    }
}
