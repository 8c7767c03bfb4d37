package pantry.intake;

import java.nio.file.Path;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.base.math.Box3;
import pantry.exchange.format.FileKind;
import pantry.exchange.format.FileSeries;
import pantry.exchange.format.Imported;
import pantry.model.Axis;
import pantry.model.BuildingValues;

/**
 * What is needed of an arrival to choose its unit and its place: little, so that thousands can wait.
 *
 * @param structured whether its file has more than surfaces to keep: it is of USD and holds a model
 * @param upright for each axis that may point up, the box around the thing itself, turned upright, in the file's unit
 * @param series other files that are the same thing in other states, or at other levels of detail
 * @param kinds of parts of a building, the most frequent first; none of other things
 */
public record ArrivalSummary(
        Path file,
        Imported.Holds holds,
        boolean structured,
        Optional<Double> unit,
        Optional<Axis> up,
        Map<Axis, Box3> upright,
        Optional<Series> series,
        List<String> kinds) {
    /**
     * Files that are taken as one thing.
     *
     * @param set of variants that they become
     * @param title what all are called
     * @param names of the variants, the file's own first
     */
    public record Series(String set, String title, List<String> names) {
        /** For a person: {@code 2 states: shut, open}. */
        public String words() {
            return names.size()
                    + (set.equals(FileSeries.DETAIL) ? " levels of detail: " : " states: ")
                    + String.join(", ", names);
        }
    }

    /** So many kinds of parts of a building become tags. */
    private static final int MOST_KINDS = 12;

    /** So many times its length away from the origin, a thing was left there by mistake. */
    private static final double FAR_OFF = 3;

    public static ArrivalSummary of(Imported arrival) {
        Map<Axis, Box3> upright = new EnumMap<>(Axis.class);
        for (Axis axis : Axis.values()) {
            Box3 box = Carried.without(arrival.model(), axis, Set.of()).bounds();
            upright.put(axis, box.transformed(axis.toYUp()));
        }
        return new ArrivalSummary(
                arrival.file(),
                arrival.holds(),
                isStructured(arrival),
                arrival.unit(),
                arrival.up(),
                upright,
                arrival.series().map(series -> new Series(series.set(), series.title(), series.names())),
                BuildingValues.kinds(arrival.model().extras().custom()).stream()
                        .limit(MOST_KINDS)
                        .toList());
    }

    /** Whether a file holds a model in the form that versions have, with more to it than surfaces. */
    static boolean isStructured(Imported arrival) {
        return (arrival.holds() == Imported.Holds.MODEL || arrival.holds() == Imported.Holds.FIXTURES)
                && FileKind.of(arrival.file()) == FileKind.USD;
    }

    /** Whether its shape is only what shows it, as the ball of a material or a sky is: it has no size, parts or pivot of its own. */
    public boolean isShapeless() {
        return holds == Imported.Holds.MATERIALS
                || holds == Imported.Holds.PART
                || holds == Imported.Holds.FIXTURES && FileKind.of(file) == FileKind.IMAGE;
    }

    /** Whether it lies so far off the origin that its origin is of no use. */
    public boolean isFarOff() {
        Box3 box = upright.get(Axis.Y);
        // Where a light, a camera or a joint stands is what is told of it.
        return box != null
                && holds != Imported.Holds.FIXTURES
                && holds != Imported.Holds.MOTIONS
                && !box.isEmpty()
                && distance() > FAR_OFF * box.size().length();
    }

    /** How far the nearest point of its box is from the origin, in the file's unit. */
    public double distance() {
        Box3 box = upright.getOrDefault(Axis.Y, Box3.EMPTY);
        double x = Math.max(0, Math.max(box.min().x(), -box.max().x()));
        double y = Math.max(0, Math.max(box.min().y(), -box.max().y()));
        double z = Math.max(0, Math.max(box.min().z(), -box.max().z()));
        return Math.sqrt(x * x + y * y + z * z);
    }
}
