package pantry.intake;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.Function;
import java.util.function.ToDoubleFunction;
import java.util.stream.Stream;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.model.Facts;

/**
 * The assets that an arrival would stand among.
 *
 * @param shelf the shelf's path
 * @param heights of each asset there and below, metres
 */
public record Neighbours(String shelf, List<Double> heights) {
    public static final Neighbours NONE = new Neighbours("", List.of());

    /** So many tell something. */
    private static final int ENOUGH = 2;

    /** Where the tallest is so many times as tall as the lowest, anything may stand there, and its size tells nothing. */
    private static final double CATCH_ALL = 20;

    /** A size may lie so far beyond the others' and still be one of them. */
    private static final double MARGIN = 1.5;

    public Neighbours {
        heights = heights.stream().filter(height -> height > 0).sorted().toList();
    }

    /** Those on a shelf and below it; none for the whole library. */
    public static Neighbours on(Library library, String shelf) {
        return shelf.isEmpty()
                ? NONE
                : on(
                        shelf,
                        library.assets().stream().filter(asset -> asset.shown().isPresent()),
                        Asset::shelf,
                        asset -> height(asset, asset.shown().orElseThrow()));
    }

    /**
     * Those on a shelf and below it, of assets that are known already; none for the whole library.
     *
     * @param shelfOf the path of the shelf that one stands on
     * @param height of one, metres; 0 of what has no size of its own
     */
    public static <T> Neighbours on(
            String shelf, Stream<T> assets, Function<T, String> shelfOf, ToDoubleFunction<T> height) {
        return shelf.isEmpty()
                ? NONE
                : new Neighbours(
                        shelf,
                        assets.filter(asset -> isOn(shelf, shelfOf.apply(asset)))
                                .map(height::applyAsDouble)
                                .filter(metres -> metres > 0)
                                .toList());
    }

    private static boolean isOn(String shelf, String place) {
        return place.equals(shelf) || place.startsWith(shelf + "/");
    }

    /** The others, without one of a height. */
    public Neighbours without(double height) {
        List<Double> others = new ArrayList<>(heights);
        others.stream()
                .filter(other -> Math.abs(other - height) <= 1e-4 * height)
                .findFirst()
                .ifPresent(others::remove);
        return new Neighbours(shelf, others);
    }

    private static double height(Asset asset, String version) {
        Facts facts = asset.facts(version);
        return facts.triangles() == 0 ? 0 : facts.bounds().size().y();
    }

    /** Whether there are enough of them to go by, and not of all sizes. */
    public boolean tell() {
        return heights.size() >= ENOUGH && !isCatchAll();
    }

    /** Whether things of all sizes stand there. */
    boolean isCatchAll() {
        return heights.size() >= ENOUGH && highest() > CATCH_ALL * lowest();
    }

    double lowest() {
        return heights.getFirst();
    }

    double highest() {
        return heights.getLast();
    }

    double middle() {
        return Math.sqrt(lowest() * highest());
    }

    double low() {
        return lowest() / MARGIN;
    }

    double high() {
        return highest() * MARGIN;
    }

    /** As a reason: {@code others on Masts are 2.1 to 9.4 m tall}. */
    public String words() {
        String name = shelf.substring(shelf.lastIndexOf('/') + 1);
        String low = figure(lowest());
        String high = figure(highest());
        return low.equals(high)
                ? "others on " + name + " are " + low + " m tall"
                : "others on " + name + " are " + low + " to " + high + " m tall";
    }

    private static String figure(double metres) {
        return String.format(Locale.ROOT, metres >= 10 ? "%.0f" : metres >= 1 ? "%.1f" : "%.2g", metres);
    }
}
