package pantry.intake;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import pantry.base.math.Vec3;

/**
 * One way to understand a file's numbers.
 *
 * @param factor metres per unit
 * @param unit the unit's word
 * @param size width, height and depth that it would give, metres
 * @param likely whether it is the one to take unless somebody knows better; exactly one of the candidates is
 * @param reason why, in a few words
 */
public record ScaleCandidate(double factor, String unit, double[] size, boolean likely, String reason) {
    /** Without neighbours: what people put on shelves is most often between these heights, metres. */
    private static final double USUAL_LOW = 0.05;

    private static final double USUAL_HIGH = 40;
    private static final double USUAL_MIDDLE = 2;

    /**
     * All candidates, the likely one first.
     *
     * @param extent width, height and depth in the file's units, Y up
     * @param stated metres per unit, where the file says so
     * @param neighbours heights of the assets on the shelf it is meant for, metres
     */
    public static List<ScaleCandidate> of(Vec3 extent, Optional<Double> stated, List<Double> neighbours) {
        record Scored(double factor, String unit, double penalty, String reason) {}
        double longest = Math.max(extent.x(), Math.max(extent.y(), extent.z()));
        List<Scored> scored = new ArrayList<>();
        for (LengthUnit unit : LengthUnit.values()) {
            boolean own = stated.filter(s -> LengthUnit.ofMetres(s).equals(Optional.of(unit)))
                    .isPresent();
            double penalty = implausibility(extent.y(), longest, unit.metres(), neighbours);
            String reason = reason(unit.metres(), extent.y(), longest, neighbours, own);
            // A file that states its unit is believed unless the size is far out of the ordinary.
            scored.add(new Scored(unit.metres(), unit.word(), penalty - (own ? 1.5 : 0) + bias(unit), reason));
        }
        if (stated.isPresent() && LengthUnit.ofMetres(stated.get()).isEmpty()) {
            double penalty = implausibility(extent.y(), longest, stated.get(), neighbours);
            scored.add(new Scored(stated.get(), "the file's own unit", penalty - 1.5, "the file says so"));
        }
        scored.sort(Comparator.comparingDouble(Scored::penalty));
        List<ScaleCandidate> candidates = new ArrayList<>();
        for (Scored s : scored) {
            Vec3 size = extent.times(s.factor);
            candidates.add(new ScaleCandidate(
                    s.factor, s.unit, new double[] {size.x(), size.y(), size.z()}, candidates.isEmpty(), s.reason));
        }
        return candidates;
    }

    /** Among sizes equally plausible, metres before the others and feet last. */
    private static double bias(LengthUnit unit) {
        return switch (unit) {
            case METRES -> 0;
            case CENTIMETRES -> 0.1;
            case MILLIMETRES -> 0.15;
            case INCHES -> 0.3;
            case FEET -> 0.4;
        };
    }

    /** Powers of ten that a size lies outside the ordinary. */
    private static double implausibility(double height, double longest, double factor, List<Double> neighbours) {
        if (neighbours.size() >= 2) {
            double low = neighbours.stream().min(Double::compare).orElseThrow();
            double high = neighbours.stream().max(Double::compare).orElseThrow();
            double middle = Math.sqrt(low * high);
            double size = height * factor;
            return outside(size, low / 1.5, high * 1.5) + 0.2 * Math.abs(Math.log10(Math.max(1e-9, size) / middle));
        }
        double size = longest * factor;
        return outside(size, USUAL_LOW, USUAL_HIGH) + 0.25 * Math.abs(Math.log10(Math.max(1e-9, size) / USUAL_MIDDLE));
    }

    private static double outside(double size, double low, double high) {
        if (!(size > 0)) {
            return 10;
        }
        return size < low ? Math.log10(low / size) : size > high ? Math.log10(size / high) : 0;
    }

    private static String reason(double factor, double height, double longest, List<Double> neighbours, boolean own) {
        String says = own ? "the file says so" : "";
        if (neighbours.size() >= 2) {
            double low = neighbours.stream().min(Double::compare).orElseThrow();
            double high = neighbours.stream().max(Double::compare).orElseThrow();
            String others = String.format(Locale.ROOT, "others on this shelf are %.2g to %.2g m tall", low, high);
            boolean fits = outside(height * factor, low / 1.5, high * 1.5) == 0;
            return join(says, fits ? others : "nearest to what stands there, though " + others);
        }
        return join(
                says, outside(longest * factor, USUAL_LOW, USUAL_HIGH) == 0 ? "an ordinary size" : "an unusual size");
    }

    private static String join(String first, String second) {
        return first.isEmpty() ? second : first + "; " + second;
    }

    /** Whether the size is out of the ordinary for its neighbours or at all, so that it should be said before shelving. */
    public boolean unusual(List<Double> neighbours) {
        double longest = Math.max(size[0], Math.max(size[1], size[2]));
        return implausibility(size[1], longest, 1, neighbours) > 0.7;
    }
}
