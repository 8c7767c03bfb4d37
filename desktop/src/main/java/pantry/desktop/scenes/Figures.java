package pantry.desktop.scenes;

import java.util.Locale;
import java.util.Optional;

/** Figures as people type them. */
final class Figures {
    private Figures() {}

    /**
     * What a typed text comes to: a plain number, {@code +n} to add and {@code *n} to multiply what there is. A comma
     * stands for a point.
     *
     * @return empty where it is no finite number
     */
    static Optional<Double> typed(String text, double before) {
        String plain = text.strip().replace(',', '.').replace("\u202f", "");
        try {
            double figure;
            if (plain.startsWith("+")) {
                figure = before + Double.parseDouble(plain.substring(1).strip());
            } else if (plain.startsWith("*")) {
                figure = before * Double.parseDouble(plain.substring(1).strip());
            } else {
                figure = Double.parseDouble(plain);
            }
            return Double.isFinite(figure) ? Optional.of(figure) : Optional.empty();
        } catch (NumberFormatException e) {
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
