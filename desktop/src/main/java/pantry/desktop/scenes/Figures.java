package pantry.desktop.scenes;

import com.ezylang.evalex.EvaluationException;
import com.ezylang.evalex.Expression;
import com.ezylang.evalex.parser.ParseException;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;

/** Figures as people type them. */
final class Figures {
    /** What a figure with one of these behind it is multiplied by: metres for each of the unit. */
    private static final Map<String, String> LENGTHS =
            Map.of("mm", "0.001", "cm", "0.01", "m", "1", "km", "1000", "in", "0.0254", "ft", "0.3048");

    private static final Pattern WITH_UNIT =
            Pattern.compile("(\\d+\\.?\\d*|\\.\\d+)\\s*(mm|cm|km|in|ft|m)(?![a-z])", Pattern.CASE_INSENSITIVE);

    /** What sums are made of; names and functions are none of it. */
    private static final Pattern SUM = Pattern.compile("(?:\\d[\\d.]*+(?:[eE][+-]?\\d++)?+|\\.\\d++|[+\\-*/() ])++");

    private Figures() {}

    /**
     * What a typed text comes to: a figure, a sum ({@code 0.31+2*0.5}), with units of length if need be ({@code 30cm});
     * with a {@code +} in front to add to what there is, with {@code *} or {@code /} to multiply or divide it. A comma stands
     * for a point.
     *
     * @return metres, degrees or a plain number; empty where it is no finite number
     */
    static Optional<Double> typed(String text, double before) {
        String plain = text.strip()
                .replace(',', '.')
                .replace("\u202f", "")
                .replace("\u00d7", "*")
                .replace("\u2212", "-")
                .replaceAll("[\u00b0]$", "");
        if (plain.startsWith("+")) {
            return sum(plain.substring(1)).map(figure -> before + figure).filter(Double::isFinite);
        }
        if (plain.startsWith("*")) {
            return sum(plain.substring(1)).map(figure -> before * figure).filter(Double::isFinite);
        }
        if (plain.startsWith("/")) {
            return sum(plain.substring(1)).map(figure -> before / figure).filter(Double::isFinite);
        }
        return sum(plain);
    }

    private static Optional<Double> sum(String text) {
        String metres = WITH_UNIT
                .matcher(text)
                .replaceAll(found ->
                        "(" + found.group(1) + "*" + LENGTHS.get(found.group(2).toLowerCase(Locale.ROOT)) + ")");
        if (metres.isBlank() || !SUM.matcher(metres).matches()) {
            return Optional.empty();
        }
        try {
            double figure = new Expression(metres).evaluate().getNumberValue().doubleValue();
            return Double.isFinite(figure) ? Optional.of(figure) : Optional.empty();
        } catch (EvaluationException | ParseException | ArithmeticException e) {
            return Optional.empty();
        }
    }

    /** To three places, without needless zeros. */
    static String show(double figure) {
        String text =
                String.format(Locale.ROOT, "%.3f", figure).replaceAll("0+$", "").replaceAll("\\.$", "");
        return text.equals("-0") ? "0" : text;
    }
}
