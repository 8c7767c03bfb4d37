package pantry.intake;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/** Units that files are made in. */
public enum LengthUnit {
    MILLIMETRES("mm", 0.001),
    CENTIMETRES("cm", 0.01),
    INCHES("in", 0.0254),
    FEET("ft", 0.3048),
    METRES("m", 1);

    private final String symbol;
    private final double metres;

    LengthUnit(String symbol, double metres) {
        this.symbol = symbol;
        this.metres = metres;
    }

    public String symbol() {
        return symbol;
    }

    /** Metres per unit. */
    public double metres() {
        return metres;
    }

    /** The word for a person: {@code millimetres}. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** By symbol or word. */
    public static Optional<LengthUnit> of(String written) {
        return Arrays.stream(values())
                .filter(unit -> unit.symbol.equalsIgnoreCase(written)
                        || unit.word().equalsIgnoreCase(written)
                        || unit.word().equalsIgnoreCase(written + "s"))
                .findFirst();
    }

    /** The unit with exactly this many metres. */
    public static Optional<LengthUnit> ofMetres(double metres) {
        return Arrays.stream(values())
                .filter(unit -> Math.abs(unit.metres - metres) < unit.metres * 1e-6)
                .findFirst();
    }
}
