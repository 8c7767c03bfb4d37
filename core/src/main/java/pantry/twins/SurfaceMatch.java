package pantry.twins;

import java.util.Map;
import java.util.Optional;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;

/** Whether the faces of one shape are those of another, and look alike there. */
final class SurfaceMatch {
    /** Normals that differ by less shade alike. */
    private static final double COSINE = Math.cos(Math.toRadians(3));

    private static final double ALIKE = 1e-4;

    private final Shape one;
    private final Shape other;
    private final int[] like;
    private final Matrix4 place;
    private final boolean textured;

    /**
     * @param like for each point of the one, that of the other
     * @param textured whether texture coordinates matter
     */
    SurfaceMatch(Shape one, Shape other, int[] like, Matrix4 place, boolean textured) {
        this.one = one;
        this.other = other;
        this.like = like;
        this.place = place;
        this.textured = textured;
    }

    boolean holds() {
        boolean turned = place.determinant3() < 0 != (one.mesh.leftHanded() != other.mesh.leftHanded());
        int[] sizes = one.mesh.faceSizes();
        FaceTable faces = other.faces();
        boolean[] taken = new boolean[sizes.length];
        int[] faceOf = new int[sizes.length];
        int[] turnOf = new int[sizes.length];
        int[] ring = new int[8];
        int[] offset = new int[1];
        int start = 0;
        for (int face = 0; face < sizes.length; face++) {
            int size = sizes[face];
            ring = size > ring.length ? new int[size] : ring;
            for (int i = 0; i < size; i++) {
                ring[i] = like[one.corners[start + i]];
            }
            faceOf[face] = faces.find(ring, 0, size, turned, taken, offset);
            if (faceOf[face] < 0) {
                return false;
            }
            turnOf[face] = offset[0];
            start += size;
        }
        return alike(faceOf, turnOf, turned);
    }

    private boolean alike(int[] faceOf, int[] turnOf, boolean turned) {
        Walk walk = new Walk(faceOf, turnOf, turned);
        if (!walk.same(one.mesh.normals(), other.mesh.normals(), true)) {
            return false;
        }
        if (textured && !walk.same(one.mesh.uvs(), other.mesh.uvs(), false)) {
            return false;
        }
        Map<String, Channel> mine = one.mesh.primvars();
        Map<String, Channel> theirs = other.mesh.primvars();
        for (String name : mine.keySet()) {
            if ((textured || name.equals(Mesh.COLOUR))
                    && !walk.same(Optional.of(mine.get(name)), Optional.ofNullable(theirs.get(name)), false)) {
                return false;
            }
        }
        return mine.containsKey(Mesh.COLOUR) || !theirs.containsKey(Mesh.COLOUR);
    }

    /** Corner by corner over both meshes. */
    private final class Walk {
        private final int[] faceOf;
        private final int[] turnOf;
        private final boolean turned;

        Walk(int[] faceOf, int[] turnOf, boolean turned) {
            this.faceOf = faceOf;
            this.turnOf = turnOf;
            this.turned = turned;
        }

        boolean same(Optional<Channel> mine, Optional<Channel> theirs, boolean directions) {
            if (mine.isEmpty() || theirs.isEmpty()) {
                return mine.isPresent() == theirs.isPresent();
            }
            Channel a = mine.get();
            Channel b = theirs.get();
            if (a.width() != b.width()) {
                return false;
            }
            int[] sizes = one.mesh.faceSizes();
            int corner = 0;
            for (int face = 0; face < sizes.length; face++) {
                for (int i = 0; i < sizes[face]; i++, corner++) {
                    int with = other.faces().starts[faceOf[face]] + FaceTable.at(i, turnOf[face], sizes[face], turned);
                    int x = a.element(face, corner, one.mesh.corners()[corner]) * a.width();
                    int y = b.element(faceOf[face], with, other.mesh.corners()[with]) * b.width();
                    if (directions ? !sameDirection(a.data(), x, b.data(), y) : !sameNumbers(a, x, b, y)) {
                        return false;
                    }
                }
            }
            return true;
        }

        private boolean sameNumbers(Channel a, int x, Channel b, int y) {
            for (int i = 0; i < a.width(); i++) {
                if (Math.abs(a.data()[x + i] - b.data()[y + i]) > ALIKE) {
                    return false;
                }
            }
            return true;
        }

        private boolean sameDirection(float[] a, int x, float[] b, int y) {
            Vec3 n = place.direction(new Vec3(a[x], a[x + 1], a[x + 2]));
            Vec3 m = new Vec3(b[y], b[y + 1], b[y + 2]);
            double lengths = n.length() * m.length();
            return lengths == 0 || n.dot(m) >= COSINE * lengths;
        }
    }
}
