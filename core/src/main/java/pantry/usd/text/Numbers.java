package pantry.usd.text;

/** The shortest decimals that read back to the same bits (Java's own conversion since release 19). */
final class Numbers {
    private Numbers() {}

    static String of(double value, boolean single) {
        if (Double.isNaN(value)) {
            return "nan";
        }
        if (Double.isInfinite(value)) {
            return value > 0 ? "inf" : "-inf";
        }
        if (value == Math.rint(value) && Math.abs(value) < 1e7) {
            return value == 0 && 1 / value < 0 ? "-0" : Integer.toString((int) value);
        }
        String text = single ? Float.toString((float) value) : Double.toString(value);
        return text.replace(".0E", "e").replace("E", "e");
    }
}
