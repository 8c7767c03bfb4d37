package pantry.catalogue;

import java.time.LocalDate;
import java.time.YearMonth;
import java.time.ZoneOffset;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Understands what people type into the search field. Nothing is refused: what makes no sense is said and left out, for
 * a text is also looked for while it is being typed. The language is described in {@code docs/shelves.md}.
 */
public final class SearchText {
    private static final String QUOTES = "\"“”„";
    private static final Pattern NUMBER =
            Pattern.compile("([0-9]+(?:[.,][0-9]+)?)\\s*([a-zµ]*)", Pattern.CASE_INSENSITIVE);
    private static final Map<String, Double> LENGTHS =
            Map.of("mm", 0.001, "cm", 0.01, "m", 1.0, "km", 1000.0, "in", 0.0254, "ft", 0.3048);
    private static final Map<String, Double> COUNTS = Map.of("", 1.0, "k", 1e3, "m", 1e6);

    private final String text;
    private final List<Search.Word> words = new ArrayList<>();
    private final List<Search.Phrase> phrases = new ArrayList<>();
    private final List<Search.Filter> filters = new ArrayList<>();
    private final List<String> complaints = new ArrayList<>();
    private int at;

    private SearchText(String text) {
        this.text = text;
    }

    /** A fact as it is asked for; a value of several words, or with commas, stands in quotes. */
    public static String term(String key, String value) {
        return key + ":" + (value.contains(" ") || value.contains(",") ? '"' + value + '"' : value);
    }

    /** What a text looks for. */
    public static Search parse(String text) {
        return new SearchText(text).whole();
    }

    private Search whole() {
        while (skipBlanks()) {
            boolean not = text.charAt(at) == '-' && at + 1 < text.length() && text.charAt(at + 1) > ' ';
            if (not) {
                at++;
            }
            term(not);
        }
        return new Search(words, phrases, filters, complaints);
    }

    private boolean skipBlanks() {
        while (at < text.length() && Character.isWhitespace(text.charAt(at))) {
            at++;
        }
        return at < text.length();
    }

    private void term(boolean not) {
        if (atQuote()) {
            List<String> phrase = SearchTokens.of(SearchTokens.folded(quoted()));
            if (phrase.size() == 1) {
                words.add(new Search.Word(phrase.getFirst(), not));
            } else if (!phrase.isEmpty()) {
                phrases.add(new Search.Phrase(phrase, not));
            }
            return;
        }
        String word = unquoted(true);
        if (at < text.length() && text.charAt(at) == ':') {
            at++;
            keyed(word, not);
            return;
        }
        SearchTokens.of(SearchTokens.folded(word)).forEach(each -> words.add(new Search.Word(each, not)));
    }

    private boolean atQuote() {
        return QUOTES.indexOf(text.charAt(at)) >= 0;
    }

    private String quoted() {
        int start = ++at;
        while (at < text.length() && !atQuote()) {
            at++;
        }
        String inside = text.substring(start, at);
        at++;
        return inside;
    }

    private String unquoted(boolean toColon) {
        int start = at;
        while (at < text.length() && !Character.isWhitespace(text.charAt(at)) && !(toColon && text.charAt(at) == ':')) {
            at++;
        }
        return text.substring(start, at);
    }

    private void keyed(String word, boolean not) {
        Optional<Key> key = Key.of(SearchTokens.folded(word));
        String value = at < text.length() && atQuote() ? quoted() : unquoted(false);
        if (key.isEmpty()) {
            complaints.add("there is no “" + word + ":”; ask for " + Key.all());
            return;
        }
        if (value.isBlank()) {
            // Still being typed.
            return;
        }
        if (key.get().measure() == Key.Measure.NONE) {
            List<String> values = Arrays.stream(value.split(","))
                    .map(SearchTokens::folded)
                    .map(String::strip)
                    .filter(each -> !each.isEmpty())
                    .toList();
            filters.add(new Search.Filter.Value(key.get(), values, not));
        } else {
            range(key.get(), value.strip(), not);
        }
    }

    /** Of {@code <5000}, {@code >=2m}, {@code 1..3m}, {@code 2026-01..2026-03}, {@code 4}. */
    private void range(Key key, String value, boolean not) {
        double[] range;
        int dots = value.indexOf("..");
        if (dots >= 0) {
            String high = value.substring(dots + 2);
            double[] to = high.isEmpty() ? new double[] {0, Double.POSITIVE_INFINITY} : number(key, high, "", false);
            double[] from = dots == 0
                    ? new double[] {Double.NEGATIVE_INFINITY, 0}
                    : number(key, value.substring(0, dots), unit(high), false);
            range = from == null || to == null ? null : new double[] {from[0], to[1]};
        } else {
            Matcher comparison = Pattern.compile("(<=|>=|<|>|=)(.*)").matcher(value);
            boolean compares = comparison.matches();
            boolean equals = !compares || comparison.group(1).equals("=");
            double[] given = number(key, compares ? comparison.group(2) : value, "", equals);
            range = given == null ? null : compared(compares ? comparison.group(1) : "=", given);
        }
        if (range == null) {
            complaints.add("“" + key.word() + ":" + value + "” is not understood; write "
                    + switch (key.measure()) {
                        case LENGTH -> key.word() + ":<2m or " + key.word() + ":10..50cm";
                        case DAY -> "changed:2026-03 or changed:>2026-03-15";
                        default -> key.word() + ":<5000 or " + key.word() + ":1k..20k";
                    });
            return;
        }
        filters.add(new Search.Filter.Range(key, range[0], range[1], not));
    }

    /** @param given the least and the most that the figure stands for */
    private static double[] compared(String sign, double[] given) {
        return switch (sign) {
            case "<" -> new double[] {Double.NEGATIVE_INFINITY, Math.nextDown(given[0])};
            case "<=" -> new double[] {Double.NEGATIVE_INFINITY, given[1]};
            case ">" -> new double[] {Math.nextUp(given[1]), Double.POSITIVE_INFINITY};
            case ">=" -> new double[] {given[0], Double.POSITIVE_INFINITY};
            default -> given;
        };
    }

    private static String unit(String written) {
        Matcher matcher = NUMBER.matcher(written.strip());
        return matcher.matches() ? matcher.group(2) : "";
    }

    /**
     * What a figure stands for: a day or month from its beginning to its end.
     *
     * @param otherUnit of the other end of the range, for a figure without one
     * @param rounded whether a length stands for all that is rounded to it
     * @return null where it is none
     */
    private static double @org.jspecify.annotations.Nullable [] number(
            Key key, String written, String otherUnit, boolean rounded) {
        if (key.measure() == Key.Measure.DAY) {
            return days(written.strip());
        }
        Matcher matcher = NUMBER.matcher(written.strip());
        if (!matcher.matches()) {
            return null;
        }
        String figure = matcher.group(1).replace(',', '.');
        String unit = (matcher.group(2).isEmpty() ? otherUnit : matcher.group(2)).toLowerCase(Locale.ROOT);
        boolean length = key.measure() == Key.Measure.LENGTH;
        Double factor = length ? LENGTHS.get(unit.isEmpty() ? "m" : unit) : COUNTS.get(unit);
        if (factor == null) {
            return null;
        }
        double value = Double.parseDouble(figure);
        int decimals = figure.contains(".") ? figure.length() - figure.indexOf('.') - 1 : 0;
        double half = length && rounded ? 0.5 * Math.pow(10, -decimals) : 0;
        return new double[] {(value - half) * factor, (value + half) * factor};
    }

    private static double @org.jspecify.annotations.Nullable [] days(String written) {
        try {
            LocalDate from;
            LocalDate until;
            if (written.matches("\\d{4}")) {
                from = LocalDate.of(Integer.parseInt(written), 1, 1);
                until = from.plusYears(1);
            } else if (written.matches("\\d{4}-\\d{2}")) {
                from = YearMonth.parse(written).atDay(1);
                until = from.plusMonths(1);
            } else {
                from = LocalDate.parse(written);
                until = from.plusDays(1);
            }
            return new double[] {
                from.atStartOfDay(ZoneOffset.UTC).toInstant().toEpochMilli(),
                until.atStartOfDay(ZoneOffset.UTC).toInstant().toEpochMilli() - 1.0
            };
        } catch (DateTimeParseException e) {
            return null;
        }
    }
}
