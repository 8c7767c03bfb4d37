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
 * @param unit the unit's word, or what was mistaken for what
 * @param size width, height and depth that it would give, metres
 * @param likely whether it is the one to take unless somebody knows better; exactly one of the candidates is
 * @param reason why, in a few words
 */
public record ScaleCandidate(double factor, String unit, double[] size, boolean likely, String reason) {
    /** Without neighbours: what people put on shelves is most often between these lengths, metres. */
    private static final double USUAL_LOW = 0.05;

    private static final double USUAL_HIGH = 40;
    private static final double USUAL_MIDDLE = 2;

    /** Powers of ten out of the ordinary at which a size is said to be. */
    private static final double UNUSUAL = 0.7;

    /** By how much a file's figures are too large where its unit was mistaken (common practice). */
    private static final double[] MISTAKES = {10, 100, 1000, 1 / 2.54, 2.54, 1 / 12.0, 12, 0.1, 0.01, 0.001};

    /** How much a file's own word for its unit, and how much a mistake, weighs; in powers of ten. */
    private static final double OWN_WORD = 1.5;

    /** How much it weighs what files of a format most often mean. */
    private static final double USUAL = 0.3;

    /** How much the size of the same thing on a shelf weighs: more than all else. */
    private static final double TWIN = 20;

    private static final double MISTAKE = 0.9;
    private static final double FITTED = 0.2;
    private static final double UNSUPPORTED = 10;

    private record Scored(double factor, String unit, double penalty, String reason) {}

    /**
     * All candidates, the likely one first.
     *
     * @param extent width, height and depth in the file's units, Y up
     * @param stated metres per unit, where the file says so
     */
    public static List<ScaleCandidate> of(Vec3 extent, Optional<Double> stated, Neighbours neighbours) {
        return of(extent, ScaleEvidence.of(stated, neighbours));
    }

    /**
     * All candidates, the likely one first.
     *
     * @param extent width, height and depth in the file's units, Y up
     */
    public static List<ScaleCandidate> of(Vec3 extent, ScaleEvidence evidence) {
        Optional<Double> stated = evidence.stated();
        Neighbours neighbours = evidence.neighbours();
        double longest = Math.max(extent.x(), Math.max(extent.y(), extent.z()));
        List<Scored> scored = new ArrayList<>();
        for (LengthUnit unit : LengthUnit.values()) {
            boolean own = stated.filter(s -> LengthUnit.ofMetres(s).equals(Optional.of(unit)))
                    .isPresent();
            // A file that states its unit is believed unless the size is far out of the ordinary.
            scored.add(new Scored(
                    unit.metres(),
                    unit.word(),
                    implausibility(extent.y(), longest, unit.metres(), neighbours) - (own ? OWN_WORD : 0) + bias(unit),
                    reason(unit.metres(), extent.y(), longest, neighbours, own)));
        }
        stated.filter(s -> LengthUnit.ofMetres(s).isEmpty())
                .ifPresent(s -> scored.add(new Scored(
                        s,
                        "the file's own unit",
                        implausibility(extent.y(), longest, s, neighbours) - OWN_WORD,
                        reason(s, extent.y(), longest, neighbours, true))));
        stated.flatMap(s -> mistaken(s, extent.y(), longest, neighbours, scored))
                .ifPresent(scored::add);
        fitted(extent.y(), longest, neighbours, scored).ifPresent(scored::add);
        evidence.usual().ifPresent(unit -> scored.replaceAll(each -> usual(each, unit)));
        evidence.twin().ifPresent(twin -> likeTwin(extent.y(), twin, stated.isPresent(), scored));
        scored.sort(Comparator.comparingDouble(Scored::penalty));
        List<ScaleCandidate> candidates = new ArrayList<>();
        for (Scored s : scored) {
            Vec3 size = extent.times(s.factor);
            candidates.add(new ScaleCandidate(
                    s.factor, s.unit, new double[] {size.x(), size.y(), size.z()}, candidates.isEmpty(), s.reason));
        }
        return candidates;
    }

    private static Scored usual(Scored each, LengthUnit unit) {
        return same(each.factor, unit.metres())
                ? new Scored(
                        each.factor, each.unit, each.penalty - USUAL, "usual for files of its format; " + each.reason)
                : each;
    }

    /** A unit that gives the twin's size is the one; where none does, the factor that does. */
    private static void likeTwin(double height, ScaleEvidence.Twin twin, boolean stated, List<Scored> scored) {
        if (!(height > 0) || !(twin.height() > 0)) {
            return;
        }
        String reason = "as tall as " + twin.name() + ", which has the same shape";
        boolean[] found = {false};
        scored.replaceAll(each -> {
            boolean like = ScaleEvidence.isAsTall(height * each.factor, twin.height());
            found[0] |= like;
            return like ? new Scored(each.factor, each.unit, each.penalty - TWIN, reason) : each;
        });
        if (!found[0]) {
            // A file that says its unit may well hold another size of the same thing.
            scored.add(new Scored(twin.height() / height, "large as " + twin.name(), stated ? MISTAKE : -TWIN, reason));
        }
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

    /** What the file says, but for one of the mistakes that people make with units; only where that explains the size. */
    private static Optional<Scored> mistaken(
            double stated, double height, double longest, Neighbours neighbours, List<Scored> known) {
        if (outside(height, longest, stated, neighbours) < UNUSUAL) {
            return Optional.empty();
        }
        Optional<Scored> best = Optional.empty();
        for (double mistake : MISTAKES) {
            double factor = stated / mistake;
            boolean there = known.stream().anyMatch(k -> same(k.factor, factor));
            if (there || outside(height, longest, factor, neighbours) > 0) {
                continue;
            }
            Scored one = new Scored(
                    factor,
                    mistake > 1
                            ? "a " + figure(mistake) + "th of what the file says"
                            : figure(1 / mistake) + " times what the file says",
                    implausibility(height, longest, factor, neighbours) - OWN_WORD + MISTAKE,
                    "a unit taken for another; " + standing(height, longest, factor, neighbours));
            if (best.isEmpty() || one.penalty < best.get().penalty) {
                best = Optional.of(one);
            }
        }
        return best;
    }

    /** Where no unit gives a size like the neighbours', the round factor that does. */
    private static Optional<Scored> fitted(double height, double longest, Neighbours neighbours, List<Scored> known) {
        double size = neighbours.tell() ? height : longest;
        boolean explained = known.stream().anyMatch(k -> outside(height, longest, k.factor, neighbours) == 0);
        if (explained || !(size > 0)) {
            return Optional.empty();
        }
        double wanted = (neighbours.tell() ? neighbours.middle() : USUAL_MIDDLE) / size;
        double decade = Math.pow(10, Math.floor(Math.log10(wanted)));
        double best = decade;
        for (double step : new double[] {2, 5, 10}) {
            if (Math.abs(Math.log(step * decade / wanted)) < Math.abs(Math.log(best / wanted))) {
                best = step * decade;
            }
        }
        double factor = Double.parseDouble(String.format(Locale.ROOT, "%.1e", best));
        if (!(factor > 0) || Double.isInfinite(factor)) {
            return Optional.empty();
        }
        return Optional.of(new Scored(
                factor,
                "a factor of " + figure(factor),
                // Without neighbours nothing speaks for such a factor but that things are seldom so large or small.
                implausibility(height, longest, factor, neighbours) + (neighbours.tell() ? FITTED : UNSUPPORTED),
                "no unit explains the size; " + standing(height, longest, factor, neighbours)));
    }

    private static boolean same(double a, double b) {
        return Math.abs(a - b) < 1e-6 * Math.abs(a);
    }

    private static String figure(double number) {
        String text = new java.math.BigDecimal(number)
                .round(new java.math.MathContext(4))
                .stripTrailingZeros()
                .toPlainString();
        return text.length() > 12 ? String.format(Locale.ROOT, "%.0e", number) : text;
    }

    /** Powers of ten that a size lies outside the ordinary, and a little for being far from its middle. */
    private static double implausibility(double height, double longest, double factor, Neighbours neighbours) {
        double size = (neighbours.tell() ? height : longest) * factor;
        double middle = neighbours.tell() ? neighbours.middle() : USUAL_MIDDLE;
        double weight = neighbours.tell() ? 0.2 : 0.25;
        return outside(height, longest, factor, neighbours)
                + weight * Math.abs(Math.log10(Math.max(1e-9, size) / middle));
    }

    private static double outside(double height, double longest, double factor, Neighbours neighbours) {
        return neighbours.tell()
                ? outside(height * factor, neighbours.low(), neighbours.high())
                : outside(longest * factor, USUAL_LOW, USUAL_HIGH);
    }

    private static double outside(double size, double low, double high) {
        if (!(size > 0)) {
            return 10;
        }
        return size < low ? Math.log10(low / size) : size > high ? Math.log10(size / high) : 0;
    }

    private static String reason(double factor, double height, double longest, Neighbours neighbours, boolean own) {
        String stands = standing(height, longest, factor, neighbours);
        return own ? "the file says so; " + stands : stands;
    }

    private static String standing(double height, double longest, double factor, Neighbours neighbours) {
        boolean fits = outside(height, longest, factor, neighbours) == 0;
        if (!neighbours.tell()) {
            String size = fits ? "an ordinary size" : "an unusual size";
            return neighbours.isCatchAll() ? size + "; " + neighbours.words() + ", which tells nothing" : size;
        }
        return fits ? neighbours.words() : "though " + neighbours.words();
    }

    /** Whether the size is out of the ordinary for its neighbours or at all, so that it should be said before shelving. */
    public boolean unusual(Neighbours neighbours) {
        double longest = Math.max(size[0], Math.max(size[1], size[2]));
        return outside(size[1], longest, 1, neighbours) > UNUSUAL;
    }
}
