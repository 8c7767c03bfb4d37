package pantry.render;

/** Scratch of one row: the triangle at hand, so that neighbouring pixels share its set-up. */
final class RowScratch {
    int use = -1;
    int triangle = -1;
    final double[] a = new double[3];
    final double[] e1 = new double[3];
    final double[] e2 = new double[3];
    final double[] n = new double[3];
    double texelsPerMetre;

    /** How steeply the line of sight goes down, and what follows from that for the ground there. */
    double down = Double.NaN;

    double far;
    double footprint;
    double fade;
    final float[] colour = new float[3];
    final float[] light = new float[3];
    final float[] shine = new float[3];
}
