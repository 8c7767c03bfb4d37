package pantry.render;

/** Scratch of one row: the triangles at hand, so that neighbouring pixels share their set-up. */
final class RowScratch {
    /** A power of two: where triangles meet, pixels of a few of them take turns. */
    private static final int SLOTS = 8;

    private final Facing[] facings = new Facing[SLOTS];

    /** How steeply the line of sight goes down, and what follows from that for the ground there. */
    double down = Double.NaN;

    double far;
    double footprint;
    double fade;

    /** The colours of a block of four pixels. */
    final int[] four = new int[4];

    final SurfacePoint point = new SurfacePoint();
    final double[] normal = new double[3];
    final float[] light = new float[3];
    final float[] shine = new float[3];

    RowScratch() {
        for (int i = 0; i < SLOTS; i++) {
            facings[i] = new Facing();
        }
    }

    /** Where the set-up of a triangle is kept, or another one's that it takes the place of. */
    Facing facing(int triangle) {
        return facings[triangle & SLOTS - 1];
    }

    /** What the pixels of one triangle have in common. */
    static final class Facing {
        int use = -1;
        int triangle = -1;
        final double[] normal = new double[3];

        /** Their products with a direction of sight, by that of the normal, are where it meets the triangle. */
        final double[] toBeta = new double[3];

        final double[] toGamma = new double[3];
        double texelsPerMetre;

        /** Of the first set of coordinates; only where the surface has images beside that of its colour. */
        double uvPerMetre;

        /** How far its image's coordinates go to the right, and upwards, for a unit of each; metres. */
        final double[] tangent = new double[3];

        final double[] bitangent = new double[3];
    }
}
